// How much a sheet may hold. Columns, rows and characters a cell are those of the spreadsheet programs and of ECMA-376
// part 1 (18.3.1.4: cell references end at XFD1048576); the others keep one file from filling the memory.
import { ownLimits } from '../product/own-value';

export const sheetBounds = {
  columns: 16_384,
  rows: 1_048_576,
  cells: 50_000_000,
  /** Cells that are one over several rows. */
  merges: 200_000,
  /** Characters (UTF-16 units) of one cell. */
  cellCharacters: ownLimits.textCharacters,
  /** Bytes that a workbook may unpack to, and characters that its shared texts may have together. */
  inflatedBytes: 1_500_000_000,
  sharedCharacters: 120_000_000,
} as const;

/** Why a file cannot be read as a sheet, in a sentence that names the place where there is one. */
export class SheetError extends Error {
  constructor(
    readonly reason:
      | 'not-a-workbook'
      | 'no-sheet'
      | 'damaged'
      | 'too-large-inside'
      | 'too-many-columns'
      | 'too-many-rows'
      | 'too-many-cells'
      | 'open-quote',
    message: string,
    readonly remedy = 'Save the file anew and drop that.',
  ) {
    super(message);
  }
}

const number = (n: number): string => n.toLocaleString('en-GB');
const splitRemedy = 'Split the file into several, or leave out what is not needed.';

/** Name of a column as spreadsheets write it: 0 is A, 26 is AA, 16,383 is XFD. */
export function nameColumn(index: number): string {
  let name = '';
  for (let n = index + 1; n > 0; n = Math.floor((n - 1) / 26)) name = String.fromCharCode(65 + ((n - 1) % 26)) + name;
  return name;
}

/** The place of a column from 0, by its letters: AA is 26. */
export const readColumn = (letters: string): number =>
  [...letters].reduce((n, c) => n * 26 + c.charCodeAt(0) - 64, 0) - 1;

/** Counts rows and cells as they are read. Throws `SheetError` past a bound, with row and column. */
export function createBounds(): (cells: number) => void {
  let rows = 0,
    all = 0;
  return (cells) => {
    rows++;
    all += cells;
    if (cells > sheetBounds.columns) throw tooManyColumns(rows, nameColumn(cells - 1));
    if (rows > sheetBounds.rows)
      throw new SheetError(
        'too-many-rows',
        `The file goes on after row ${number(sheetBounds.rows)}, which is the last that a sheet can have.`,
        splitRemedy,
      );
    if (all > sheetBounds.cells)
      throw new SheetError(
        'too-many-cells',
        `The file holds more than ${number(sheetBounds.cells)} cells; that many are reached in row ${number(rows)}.`,
        splitRemedy,
      );
  };
}

/** The refusal of a cell beyond the last column. */
export const tooManyColumns = (row: number, column: string): SheetError =>
  new SheetError(
    'too-many-columns',
    `Row ${number(row)} reaches column ${column.slice(0, 20)}; the last column of a sheet is XFD, the ${number(sheetBounds.columns)}th.`,
    'Delete what stands far to the right of the table, and drop the file again.',
  );
