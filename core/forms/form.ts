// Writing and reading the files of a market as its forms say. Reading is the inverse of writing, which properties prove.
import type { Value } from '../listing/values';
import type { Form, Rulebook } from '../rulebook/schema';
import type { Operation } from '../rulebook/terms';
import { listColumns } from './columns';
import { type Cell, createRecordWriter, type Make, makeRecords, type RecordsReading } from './containers';
import { type FeedRecord, type FeedRow, toRecords } from './record';
import { type PreparedSlot, prepareSlot, type ReadAt, type ReadRecord } from './slot';

/** A prepared writer: header once, records in batches, footer once. Text only; the caller encodes. */
export function createFormWriter(
  book: Rulebook,
  form: Form,
): { header: () => string; records: (records: readonly FeedRecord[]) => string; footer: () => string } {
  const columns = prepareColumns(book, form);
  const writer = createRecordWriter(form);
  const listCells = prepareCells(columns);
  return {
    header: writer.header,
    footer: writer.footer,
    records: (records) => {
      let text = '';
      for (const record of records) {
        const cells = listCells(record);
        text += writer.record((i) => cells[i]!);
      }
      return text;
    },
  };
}

/**
 * The cells of a record; the list is that of the next record too. A record has values for few of the columns, so that columns are
 * found by the values, and only the rest is asked one by one.
 */
function prepareCells(columns: readonly PreparedColumn[]): (record: FeedRecord) => readonly Cell[] {
  const byKey = new Map<string, { at: number; write: (value: Value, record: FeedRecord) => Cell }[]>();
  const rest: { at: number; write: (record: FeedRecord) => Cell }[] = [];
  for (const [at, { of, write }] of columns.entries()) {
    if (of === undefined) rest.push({ at, write });
    else byKey.set(of.key, [...(byKey.get(of.key) ?? []), { at, write: of.write }]);
  }
  const cells = columns.map((): Cell => '');
  // Records that follow one another mostly have values for the same keys, in the same order.
  const steps: { key: string; here: NonNullable<ReturnType<typeof byKey.get>> }[] = [];
  return (record) => {
    const { values, cleared } = record.row;
    if (cleared.length > 0) {
      for (const [at, { write }] of columns.entries()) cells[at] = write(record);
      return cells;
    }
    cells.fill('');
    for (const { at, write } of rest) cells[at] = write(record);
    let i = 0;
    for (const key in values) {
      let step = steps[i];
      if (step?.key !== key) steps[i] = step = { key, here: byKey.get(key) ?? [] };
      i++;
      for (const { at, write } of step.here) cells[at] = write(values[key]!, record);
    }
    return cells;
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
  const readCells = (cells: readonly Cell[]): { record: ReadRecord; members: ReadRecord[] } & ReadAt => {
    const record = startRecord(operation),
      place: ReadAt = { site: undefined };
    const members: ReadRecord[] = [];
    for (const { at, member, read } of columns) {
      const cell = cells[at]!;
      if (cell === '') continue;
      read(cell, member === undefined ? record : (members[member - 1] ??= startRecord(operation)), place);
    }
    return { record, members: members.filter((m) => m.sku !== ''), site: place.site };
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
        readAs((cells): FeedRow => readCells(cells).record),
        (rows) => rows,
      );
    case 'listing-at-site':
      return toReading(readAs(readCells), joinSites);
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
function prepareColumns(book: Rulebook, form: Form): PreparedColumn[] {
  return listColumns(form).map((column): PreparedColumn => {
    const { member, holds } = column;
    const slot = prepareSlot(book, form, column);
    const isSite = holds.what === 'site';
    if (member === undefined) return { ...slot, member, isSite };
    return {
      member,
      isSite,
      read: slot.read,
      write: ({ members }) => {
        const own = members?.[member - 1];
        return own === undefined ? '' : slot.write(own);
      },
    };
  });
}
interface PreparedColumn extends PreparedSlot {
  member: number | undefined;
  isSite: boolean;
}

/** The rows of a record of a family: the family's, where something is said of it, and its variants'; or that of one item. */
function divideFamily(head: ReadRecord, members: readonly ReadRecord[]): FeedRow[] {
  const { operation, category, axes } = head;
  const [only] = members;
  if (members.length === 1 && only!.sku === head.sku)
    return [
      {
        ...head,
        role: 'single',
        values: { ...head.values, ...only!.values },
        cleared: [...new Set([...head.cleared, ...only!.cleared])],
      },
    ];
  const isSaid = members.length === 0 || Object.keys(head.values).length + head.cleared.length > 0;
  return [
    ...(isSaid ? [{ ...head, role: 'parent' as const }] : []),
    ...members.map((m) => ({ ...m, operation, category, axes, role: 'variant' as const, parentSku: head.sku })),
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
});

/** Records of one listing at its sites, which follow one another, as one row. */
function joinSites(records: readonly ({ record: ReadRecord } & ReadAt)[]): FeedRow[] {
  const rows: { row: ReadRecord; sites: string[] }[] = [];
  for (const { record, site } of records) {
    const last = rows.at(-1);
    if (last?.row.sku === record.sku && site !== undefined && !last.sites.includes(site.key)) {
      Object.assign(last.row.values, record.values);
      last.row.cleared.push(...record.cleared);
      last.sites.push(site.key);
    } else rows.push({ row: record, sites: site === undefined ? [] : [site.key] });
  }
  return rows.map(({ row, sites }) => ({ ...row, sites }));
}
