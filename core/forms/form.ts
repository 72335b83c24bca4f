// Writing and reading the files of a market as its forms say. Reading is the inverse of writing, which properties prove.
import type { Form, Rulebook } from '../rulebook/schema';
import type { Operation } from '../rulebook/terms';
import { listColumns } from './columns';
import { type Cell, createRecordWriter, type Make, makeRecords, type RecordsReading } from './containers';
import { type FeedRecord, type FeedRow, toRecords } from './record';
import { prepareSlot, type ReadRecord } from './slot';

/** A prepared writer: header once, records in batches, footer once. Text only; the caller encodes. */
export function createFormWriter(
  book: Rulebook,
  form: Form,
): { header: () => string; records: (records: readonly FeedRecord[]) => string; footer: () => string } {
  const columns = prepareColumns(book, form);
  const writer = createRecordWriter(form);
  return {
    header: writer.header,
    footer: writer.footer,
    records: (records) => {
      let text = '';
      for (const record of records) text += writer.record((i) => columns[i]!.write(record));
      return text;
    },
  };
}

/** Whole text of a file; for looks and tests. Long files are written in batches with `createFormWriter`. */
export function writeForm(book: Rulebook, form: Form, rows: readonly FeedRow[]): string {
  const writer = createFormWriter(book, form);
  return writer.header() + writer.records(toRecords(book, form, rows)) + writer.footer();
}

export type FormReading = { ok: true; rows: FeedRow[] } | { ok: false; reason: string };

/** Reads a file in this form back into rows: records at several sites are one row again. */
export function readForm(book: Rulebook, form: Form, text: string, operation: Operation): FormReading {
  // Where the record's site stands, it is read first: other slots hold what belongs to it.
  const columns = prepareColumns(book, form)
    .map((c, at) => ({ ...c, at }))
    .sort((a, b) => Number(b.isSite) - Number(a.isSite));
  const readCells = (cells: readonly Cell[]): { record: ReadRecord; members: ReadRecord[] } => {
    const record = startRecord(operation);
    const members: ReadRecord[] = [];
    for (const { at, member, read } of columns) {
      const cell = cells[at]!;
      if (cell === '') continue;
      read(cell, member === undefined ? record : (members[member - 1] ??= startRecord(operation)));
    }
    return { record, members: members.filter((m) => m.sku !== '') };
  };
  const readAs = <T>(make: Make<T>): RecordsReading<T> =>
    makeRecords(
      form.container,
      listColumns(form).map((c) => c.key),
      text,
      make,
    );
  switch (form.record) {
    case 'listing':
      return toReading(
        readAs((cells) => toRow(readCells(cells).record)),
        (rows) => rows,
      );
    case 'listing-at-site':
      return toReading(
        readAs((cells) => readCells(cells).record),
        joinSites,
      );
    case 'family':
      return toReading(
        readAs((cells) => {
          const { record, members } = readCells(cells);
          return divideFamily(record, members);
        }),
        (families) => families.flat(),
      );
  }
}

const toReading = <T>(reading: RecordsReading<T>, toRows: (records: T[]) => FeedRow[]): FormReading =>
  reading.ok ? { ok: true, rows: toRows(reading.records) } : reading;

/** Columns made ready for many records. */
function prepareColumns(book: Rulebook, form: Form) {
  return listColumns(form).map((column) => {
    const { member, holds } = column;
    const { write, read } = prepareSlot(book, form, column);
    return {
      member,
      isSite: holds.what === 'site',
      read,
      write:
        member === undefined
          ? write
          : ({ members }: FeedRecord): Cell => {
              const own = members?.[member - 1];
              return own === undefined ? '' : write(own);
            },
    };
  });
}

/** The rows of a record of a family: the family's, where something is said of it, and its variants'; or that of one item. */
function divideFamily(head: ReadRecord, members: readonly ReadRecord[]): FeedRow[] {
  const { operation, category, axes } = head;
  const [only] = members;
  if (members.length === 1 && only!.sku === head.sku)
    return [
      toRow({
        ...head,
        role: 'single',
        values: { ...head.values, ...only!.values },
        cleared: [...new Set([...head.cleared, ...only!.cleared])],
      }),
    ];
  const isSaid = members.length === 0 || Object.keys(head.values).length + head.cleared.length > 0;
  return [
    ...(isSaid ? [toRow({ ...head, role: 'parent' })] : []),
    ...members.map((m) => toRow({ ...m, operation, category, axes, role: 'variant', parentSku: head.sku })),
  ];
}

const startRecord = (operation: Operation): ReadRecord => ({
  operation,
  sku: '',
  role: 'single',
  parentSku: undefined,
  axes: [],
  category: '',
  values: {},
  cleared: [],
  site: undefined,
});

const toRow = ({ site: _, ...row }: ReadRecord): FeedRow => row;

/** Records of one listing at its sites, which follow one another, as one row. */
function joinSites(records: readonly ReadRecord[]): FeedRow[] {
  const rows: { row: ReadRecord; sites: string[] }[] = [];
  for (const r of records) {
    const last = rows.at(-1);
    const site = r.site === undefined ? [] : [r.site.key];
    if (last?.row.sku === r.sku && r.site !== undefined && !last.sites.includes(r.site.key)) {
      Object.assign(last.row.values, r.values);
      last.row.cleared.push(...r.cleared);
      last.sites.push(...site);
    } else rows.push({ row: r, sites: site });
  }
  return rows.map(({ row, sites }) => ({ ...toRow(row), sites }));
}
