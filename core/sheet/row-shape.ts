// What a row of delimited text shows of its neighbours: rows that a quotation mark swallowed, cells that a delimiter
// pushed along, letters that the encoding could not read. Nothing of it vanishes without a word.
import { sheetBounds } from './bounds';
import type { Delimiter } from './delimited';
import type { Problem, ProblemFact } from './problem';

export interface RowShape {
  /** Undefined for workbooks, whose cells keep their places. */
  delimiter: Delimiter | undefined;
  /** Columns of the table. */
  width: number;
  skuAt: number;
  /** Columns that fill a field; what stands in the others does no harm. */
  used: ReadonlySet<number>;
}

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
  const refuse = (index: number, kind: Problem['kind'], fact: ProblemFact): void => {
    problems.push({ field: '', value: (cells[index] ?? '').slice(0, 200), kind, fact, level: 'blocker' });
  };
  const swallowed = countSwallowed(cells, shape);
  if (swallowed)
    refuse(swallowed.cell, 'swallowed', { is: 'swallowed', column: nameOf(swallowed.cell), rows: swallowed.rows });
  const extra = cells.findIndex((c, i) => i >= shape.width && c.trim() !== '');
  if (extra >= 0 && shape.delimiter !== undefined && !swallowed)
    refuse(extra, 'pushed', { is: 'pushed', cells: cells.length, width: shape.width, delimiter: shape.delimiter });
  for (const i of shape.used) {
    const cell = cells[i];
    if (cell === undefined) continue;
    const column = nameOf(i);
    if (cell.length > sheetBounds.cellCharacters && swallowed?.cell !== i)
      refuse(i, 'too-long', { is: 'cell-too-long', column, length: cell.length });
    else if (cell.includes('\ufffd'))
      refuse(i, 'unreadable', { is: 'no-letters', column, around: around(cell, '\ufffd') });
    else if (cell.includes('\0')) refuse(i, 'unreadable', { is: 'zero-character', column, around: around(cell, '\0') });
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
