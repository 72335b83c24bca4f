// A file that went out and comes back: cell by cell, what went out, what comes back and what stands here now decide. What the
// file did not change is never written.
import { mergeValue } from '../change/merge';
import { toText, type Value, type Values } from '../listing/values';
import { type FieldBook, isSameField, type ProductField } from '../product';
import { unguard } from './guard';
import { findHarm } from './harm';
import { type PlannedRow, planRow, type RowContext } from './plan';
import type { Problem } from './problem';
import { type HeldProduct, type ImportColumn, type ImportReading, readRow } from './read-row';
import { findShift, type Shift } from './shift';

export const roundTripSeparator = '|';

/** A value as a cell of a file that goes out: what people call it, where codes are kept. */
export function toCell(value: Value | undefined, words?: ProductField['words']): string {
  const say = (v: string): string => words?.[v] ?? v;
  return typeof value === 'object' ? value.map(say).join(` ${roundTripSeparator} `) : say(toText(value));
}

/** What went out of one row: values by field, of the fields that the file had. */
export interface WentOut {
  fields: ReadonlySet<string>;
  values: Values;
}

interface Sorted {
  columns: ImportColumn[];
  cells: string[];
  problems: Problem[];
}

/** Columns of a row that somebody changed; what a spreadsheet did to a cell is told and left out. */
function sortColumns(cells: readonly string[], reading: ImportReading, went: WentOut, book: FieldBook): Sorted {
  const sorted: Sorted = { columns: [], cells: cells.map(unguard), problems: [] };
  for (const column of reading.columns) {
    const field = book.get(column.field);
    if (!field) continue;
    if (field.key === 'sku' || !went.fields.has(field.key)) {
      sorted.columns.push(column);
      continue;
    }
    const text = (sorted.cells[column.index] ?? '').trim(),
      was = toCell(went.values[field.key], field.words).trim();
    if (isSameCell(text, was, field, column, reading, book)) continue;
    const harm = findHarm(was, text);
    if (harm)
      sorted.problems.push({
        field: field.key,
        value: text,
        kind: 'damage',
        fact: { is: 'harmed', harm, was },
        level: 'caution',
        mended: was,
      });
    // Somebody emptied it: here a blank says so.
    else sorted.columns.push({ ...column, blankClears: true });
  }
  return sorted;
}

/** Whether two cells say the same of a field: 12.5 and 12.50, "yes" and TRUE. */
function isSameCell(
  text: string,
  was: string,
  { key }: ProductField,
  column: ImportColumn,
  reading: ImportReading,
  book: FieldBook,
): boolean {
  if (text === was) return true;
  if (text === '' || was === '') return false;
  const one = { ...reading, columns: [{ ...column, index: 0 }] };
  const read = (cell: string): Value | null | undefined => readRow([cell], one, undefined, book).values[key];
  const [a, b] = [read(text), read(was)];
  return a !== undefined && b !== undefined && isSameField(book, key, a, b);
}

/**
 * What becomes of a row that comes back. Each change says what went out as what it was, so that what somebody changed here
 * since is found when it is written; of stock the difference is taken to what is on hand now.
 */
export function planReturn(
  cells: readonly string[],
  reading: ImportReading,
  held: HeldProduct | undefined,
  went: WentOut,
  context: RowContext,
): PlannedRow {
  const { fields: book } = context;
  const shift = findShift(
    cells.map(unguard),
    reading.columns.filter((c) => c.field !== 'sku' && went.fields.has(c.field)),
    went.values,
  );
  if (shift && held !== undefined) return planShifted(cells, reading, shift);
  const sorted = sortColumns(cells, reading, went, book);
  const planned = planRow(sorted.cells, { ...reading, columns: sorted.columns }, held, context);
  const problems = [...planned.problems, ...sorted.problems];
  if (held === undefined)
    return {
      sku: planned.sku,
      action: 'refuse',
      changes: [],
      problems: [
        ...problems,
        { field: 'sku', value: planned.sku, kind: 'does-not-fit', fact: { is: 'removed-here' }, level: 'blocker' },
      ],
    };
  if (planned.action === 'refuse') return { ...planned, problems };
  const changes = planned.changes.map((change) => {
    const { field, before, after } = change;
    if (!went.fields.has(field)) return change;
    const base = went.values[field] ?? null;
    if (field === 'stock') return { field, before, after: moveStock(base, before, after) };
    const isSame = (a: Value | null, b: Value | null): boolean => isSameField(book, field, a, b);
    if (mergeValue(base, before, after, isSame) === 'conflict')
      problems.push({
        field,
        value: toText(after ?? '').slice(0, 200),
        kind: 'changed-too',
        fact: { is: 'changed-here', now: toText(before ?? '').slice(0, 200) },
        level: 'caution',
      });
    return { field, before: base, after };
  });
  const kept = changes.filter((c) => !isSameField(book, c.field, c.before, c.after));
  return { sku: planned.sku, action: kept.length > 0 ? 'update' : 'same', changes: kept, problems };
}

/** A row whose cells stand beside their headings says nothing of what it should be, but where nothing else was done to it. */
function planShifted(cells: readonly string[], reading: ImportReading, shift: Shift): PlannedRow {
  const at = (index: number): string => (cells[index] ?? '').trim();
  const sku = at(reading.columns.find((c) => c.field === 'sku')?.index ?? -1);
  const field = reading.columns.find((c) => c.index === shift.from)?.field ?? 'sku';
  return {
    sku,
    action: shift.isAll ? 'same' : 'refuse',
    changes: [],
    problems: [
      {
        field,
        value: at(shift.from).slice(0, 200),
        kind: shift.isAll ? 'damage' : 'pushed',
        fact: { is: 'shifted', by: shift.by, cells: shift.cells, isAll: shift.isAll },
        level: shift.isAll ? 'caution' : 'blocker',
      },
    ],
  };
}

/** Stock in a file is a photograph: what was sold or came in since is counted on, and it never goes under zero. */
function moveStock(base: Value | null, now: Value | null, file: Value | null): Value | null {
  if (file === null) return file;
  const [was, is, wanted] = [base, now, file].map((v) => Number(v ?? 0)) as [number, number, number];
  return String(Math.max(0, is + wanted - was));
}

/**
 * Finds columns that were sorted without their neighbours: many of their cells have changed, and all of them together are
 * still the same values. Fed row by row; nothing is kept but sums.
 */
export function createShuffleJudge() {
  const columns = new Map<string, { changed: number; sum: number }>();
  let rows = 0;
  return {
    note: (cells: readonly string[], reading: ImportReading, went: WentOut): void => {
      rows++;
      for (const { index, field } of reading.columns) {
        if (field === 'sku' || !went.fields.has(field)) continue;
        const text = unguard(cells[index] ?? '').trim(),
          was = toCell(went.values[field]).trim();
        if (text === was) continue;
        const column = columns.get(field) ?? { changed: 0, sum: 0 };
        columns.set(field, column);
        column.changed++;
        column.sum = (column.sum + hash(text) - hash(was)) % prime;
      }
    },
    list: (): string[] =>
      [...columns].flatMap(([field, { changed, sum }]) =>
        changed >= fewestShuffled && changed >= rows * leastShare && sum === 0 ? [field] : [],
      ),
  };
}
const fewestShuffled = 4,
  leastShare = 0.2,
  prime = 4_294_967_291;
/** FNV-1a (Fowler, Noll, Vo) over the units of a text. */
function hash(text: string): number {
  let h = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) h = Math.imul(h ^ text.charCodeAt(i), 0x01000193) >>> 0;
  return h;
}
