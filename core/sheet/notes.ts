// What a sheet says of its rows beside the text of their cells.
import type { FieldBook } from '../product';
import { isReadEitherWay, writeNumber } from '../quantity';
import type { ImportReading } from './read-row';

export interface SheetNotes {
  /** Rows that are not shown, filtered away or hidden by hand (ECMA-376 part 1, 18.3.1.73; OpenDocument part 3, 19.769). */
  hidden: WeakSet<readonly string[]>;
  /** Columns of a row whose cells hold numbers, which no decimal sign of any file is a part of. */
  numbers: WeakMap<readonly string[], ReadonlySet<number>>;
}
export const createSheetNotes = (): SheetNotes => ({ hidden: new WeakSet(), numbers: new WeakMap() });

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
