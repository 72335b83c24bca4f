// What a sheet says of its rows beside the text of their cells.
import type { FieldBook } from '../product';
import { isReadEitherWay, writeNumber } from '../quantity';
import type { SheetStart } from './also-sheets';
import type { ImportReading } from './read-row';

export interface SheetNotes {
  /** Rows that are not shown, filtered away or hidden by hand (ECMA-376 part 1, 18.3.1.73; OpenDocument part 3, 19.769). */
  hidden: WeakSet<readonly string[]>;
  /** Columns of a row whose cells hold numbers, which no decimal sign of any file is a part of. */
  numbers: WeakMap<readonly string[], ReadonlySet<number>>;
  /** Columns of a row that say what a cell says which goes down from a row before. */
  merged: WeakMap<readonly string[], ReadonlySet<number>>;
  /** Rows over the items of a sheet that is read after another: its headings, and what stands over them. */
  over: WeakSet<readonly string[]>;
  /** Where each sheet begins, where several are read. */
  starts: SheetStart[];
}
export const createSheetNotes = (): SheetNotes => ({
  hidden: new WeakSet(),
  numbers: new WeakMap(),
  merged: new WeakMap(),
  over: new WeakSet(),
  starts: [],
});

/** What each item has of its own: a number that stands beside several of them, and a stock that they share, is that of none. */
const single: ReadonlySet<string> = new Set(['sku', 'gtin', 'stock']);
/** Blanks cells that go down over several rows where no two items can have the same; true where any others are left. */
export function keepMerged(cells: string[], { merged }: SheetNotes, columns: ImportReading['columns']): boolean {
  const filled = merged.get(cells);
  if (!filled) return false;
  const used = columns.filter((c) => filled.has(c.index));
  for (const { index, field } of used) if (single.has(field)) cells[index] = '';
  return used.some((c) => !single.has(c.field));
}

const counted: ReadonlySet<string> = new Set(['money', 'number', 'integer', 'measure']);

/** Whether a row has a number that both decimal signs can read, as different ones. */
export const holdsEitherWay = (
  cells: readonly string[],
  { columns }: Pick<ImportReading, 'columns'>,
  fields: Pick<FieldBook, 'get'>,
): boolean =>
  columns.some(
    ({ index, field }) =>
      /[.,]\d{3}(?!\d)/.test(cells[index] ?? '') &&
      counted.has(fields.get(field)?.kind ?? '') &&
      isReadEitherWay(figuresOf(cells[index]!)),
  );
/** The figures that a cell begins with, without a unit or a sign of money. */
export const figuresOf = (cell: string): string => /^[\p{Sc}\s]*([\d.,]+)/u.exec(cell)?.[1] ?? '';

/**
 * The cells with those that hold a number written by the decimal sign that the texts of the file are read with: 1.125 of a
 * sheet whose texts say “4,20” is no thousand and more. Cells of fields that are not counted stay.
 */
export function writeNumbersAsTexts(
  cells: string[],
  { numbers }: SheetNotes,
  { columns, decimalSign }: Pick<ImportReading, 'columns' | 'decimalSign'>,
  fields: Pick<FieldBook, 'get'>,
): string[] {
  const held = decimalSign === '.' ? undefined : numbers.get(cells);
  if (!held) return cells;
  const written = [...cells];
  for (const { index, field } of columns)
    if (held.has(index) && counted.has(fields.get(field)?.kind ?? ''))
      written[index] = writeNumber(cells[index]!, decimalSign);
  return written;
}
