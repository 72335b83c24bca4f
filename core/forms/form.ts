// Writing and reading the files of a market as its forms say. Reading is the inverse of writing, which properties prove.
import type { Form, Rulebook } from '../rulebook/schema';
import type { Operation } from '../rulebook/terms';
import { createRecordWriter, readRecords } from './containers';
import { type FeedRecord, type FeedRow, toRecords } from './record';
import { prepareSlot, type ReadRecord } from './slot';

/** A prepared writer: header once, records in batches, footer once. Text only; the caller encodes. */
export function createFormWriter(
  book: Rulebook,
  form: Form,
): { header: () => string; records: (records: readonly FeedRecord[]) => string; footer: () => string } {
  const slots = form.slots.map((s) => prepareSlot(book, form, s));
  const writer = createRecordWriter(form);
  return {
    header: writer.header,
    footer: writer.footer,
    records: (records) => {
      let text = '';
      for (const record of records) text += writer.record((i) => slots[i]!.write(record));
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
  const reading = readRecords(
    form.container,
    form.slots.map((s) => s.key),
    text,
  );
  if (!reading.ok) return reading;
  // Where the record's site stands, it is read first: other slots hold what belongs to it.
  const slots = form.slots
    .map((s) => ({ key: s.key, isSite: s.holds.what === 'site', ...prepareSlot(book, form, s) }))
    .sort((a, b) => Number(b.isSite) - Number(a.isSite));
  const records = reading.records.map((cells) => {
    const record = startRecord(operation);
    for (const { key, read } of slots) {
      const cell = cells[key];
      if (cell !== undefined && cell !== '') read(cell, record);
    }
    return record;
  });
  return { ok: true, rows: form.record === 'listing' ? records.map(toRow) : joinSites(records) };
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
