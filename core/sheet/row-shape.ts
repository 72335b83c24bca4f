// What a row of delimited text shows of its neighbours: rows that a quotation mark swallowed, cells that a delimiter
// pushed along, letters that the encoding could not read. Nothing of it vanishes without a word.
import { sheetBounds } from './bounds';
import type { Delimiter } from './delimited';
import { delimiterNames } from './delimited';
import type { Problem } from './read-row';

export interface RowShape {
  /** Undefined for workbooks, whose cells keep their places. */
  delimiter: Delimiter | undefined;
  /** Columns of the table. */
  width: number;
  skuAt: number;
  /** Columns that fill a field; what stands in the others does no harm. */
  used: ReadonlySet<number>;
}

const count = (n: number, one: string, many: string): string => `${n.toLocaleString('en-GB')} ${n === 1 ? one : many}`;
const code = /^[^\s]{1,60}$/;

/** Cells of a row up to the last that holds something. */
const countFilled = (cells: readonly string[]): number => cells.findLastIndex((c) => c.trim() !== '') + 1;

/**
 * Columns of a table: those that its header names, or more where most of its rows have more. One row that is wider than
 * both has had its cells pushed along.
 */
export function measureWidth(header: readonly string[], rows: readonly (readonly string[])[]): number {
  const widths = rows.map(countFilled).sort((a, b) => a - b);
  return Math.max(countFilled(header), widths[Math.floor((widths.length - 1) / 2)] ?? 0);
}

/**
 * Lines inside a cell that look like rows of this table: about as many delimiters as a row has, a code where the SKU
 * stands.
 */
export function countSwallowed(cells: readonly string[], shape: RowShape): { cell: number; rows: number } | undefined {
  const { delimiter, width, skuAt } = shape;
  if (delimiter === undefined || width < 2) return undefined;
  for (let cell = 0; cell < cells.length; cell++) {
    if (!cells[cell]!.includes('\n')) continue;
    const lines = cells[cell]!.split('\n').slice(1),
      isCoded = (parts: readonly string[]): boolean => code.test((parts[skuAt] ?? '').replaceAll('"', ''));
    let rows = 0,
      isTorn = false;
    for (const [i, line] of lines.entries()) {
      const parts = line.split(delimiter);
      if (parts.length >= width && parts.length <= width + 2 && isCoded(parts)) rows++;
      // The mark that closes the cell stands within the last of them, which is torn in two.
      else if (i === lines.length - 1) isTorn = parts.length > 1 && isCoded(parts);
    }
    if (rows > 0) return { cell, rows: rows + (isTorn ? 1 : 0) };
  }
  return undefined;
}

/** Faults of the row as a whole; each refuses it, since none of its cells can be trusted. */
export function findRowFaults(
  cells: readonly string[],
  shape: RowShape,
  nameOf: (index: number) => string,
): { problems: Problem[]; swallowed: number } {
  const problems: Problem[] = [];
  const refuse = (index: number, kind: Problem['kind'], says: string): void => {
    problems.push({ field: '', value: (cells[index] ?? '').slice(0, 200), kind, says, level: 'blocker' });
  };
  const swallowed = countSwallowed(cells, shape);
  if (swallowed)
    refuse(
      swallowed.cell,
      'swallowed',
      `${nameOf(swallowed.cell)}: a quotation mark opens this cell and is closed only after ${count(swallowed.rows, 'more row', 'more rows')}, which stand inside the cell instead of under it. Close the mark, or write it twice where it is part of the text.`,
    );
  const extra = cells.findIndex((c, i) => i >= shape.width && c.trim() !== '');
  if (extra >= 0 && shape.delimiter !== undefined && !swallowed)
    refuse(
      extra,
      'pushed',
      `The row has ${cells.length} cells where the table has ${shape.width}; a ${delimiterNames[shape.delimiter]} in a text without quotation marks has probably pushed the others along. Put that text between quotation marks.`,
    );
  for (const i of shape.used) {
    const cell = cells[i];
    if (cell === undefined) continue;
    if (cell.length > sheetBounds.cellCharacters && swallowed?.cell !== i)
      refuse(
        i,
        'too-long',
        `${nameOf(i)} has ${count(cell.length, 'character', 'characters')}; a cell holds ${sheetBounds.cellCharacters.toLocaleString('en-GB')} at most. Shorten it.`,
      );
    else if (cell.includes('\ufffd'))
      refuse(
        i,
        'unreadable',
        `${nameOf(i)} “${around(cell, '\ufffd')}” holds bytes that are no letters in the encoding that this file is read in. Choose another encoding, or save the file as UTF-8.`,
      );
    else if (cell.includes('\0'))
      refuse(
        i,
        'unreadable',
        `${nameOf(i)} “${around(cell, '\0').replaceAll('\0', '□')}” holds a zero character, which no text may have. Take it out.`,
      );
  }
  return { problems, swallowed: swallowed?.rows ?? 0 };
}

/** A text that is too long to be shown, around what is wrong in it. */
function around(text: string, what: string): string {
  const at = text.indexOf(what),
    from = Math.max(0, at - 20),
    to = at + 20;
  return `${from > 0 ? '…' : ''}${text.slice(from, to)}${to < text.length ? '…' : ''}`;
}
