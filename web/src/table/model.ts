// The table's model: where the selection is, how keys move it, what paste and fill change. Pure; the component is thin.
import type { Patch } from '@basileus/core/change';
import type { Value } from '@basileus/core/listing';
import Papa from 'papaparse';

export interface Cell {
  row: number;
  column: number;
}
export interface Selection {
  anchor: Cell;
  focus: Cell;
}
export interface Bounds {
  rows: number;
  columns: number;
  page: number;
}
export interface Range {
  top: number;
  bottom: number;
  left: number;
  right: number;
}

export const toRange = (s: Selection): Range => ({
  top: Math.min(s.anchor.row, s.focus.row),
  bottom: Math.max(s.anchor.row, s.focus.row),
  left: Math.min(s.anchor.column, s.focus.column),
  right: Math.max(s.anchor.column, s.focus.column),
});
export const isInRange = (r: Range, row: number, column: number): boolean =>
  row >= r.top && row <= r.bottom && column >= r.left && column <= r.right;
export const sizeOfRange = (r: Range): number => (r.bottom - r.top + 1) * (r.right - r.left + 1);
export const startAt = (row: number, column: number): Selection => ({
  anchor: { row, column },
  focus: { row, column },
});

const clamp = (n: number, most: number) => Math.max(0, Math.min(n, most));
type Step = (c: Cell, b: Bounds, isFar: boolean) => Cell;
const steps: Readonly<Record<string, Step>> = {
  ArrowUp: (c, _, far) => ({ ...c, row: far ? 0 : c.row - 1 }),
  ArrowDown: (c, b, far) => ({ ...c, row: far ? b.rows - 1 : c.row + 1 }),
  ArrowLeft: (c, _, far) => ({ ...c, column: far ? 0 : c.column - 1 }),
  ArrowRight: (c, b, far) => ({ ...c, column: far ? b.columns - 1 : c.column + 1 }),
  Home: (c, _, far) => ({ row: far ? 0 : c.row, column: 0 }),
  End: (c, b, far) => ({ row: far ? b.rows - 1 : c.row, column: b.columns - 1 }),
  PageUp: (c, b) => ({ ...c, row: c.row - b.page }),
  PageDown: (c, b) => ({ ...c, row: c.row + b.page }),
};

/** A selection brought inside a table that has become smaller. */
export function clampSelection(s: Selection, b: Bounds): Selection {
  const inside = (c: Cell): Cell => ({ row: clamp(c.row, b.rows - 1), column: clamp(c.column, b.columns - 1) });
  return { anchor: inside(s.anchor), focus: inside(s.focus) };
}

/**
 * Selection after a movement key; undefined where the key moves nothing. The anchor is the active cell: Shift leaves it and
 * moves the other end, and without Shift the way goes on from it.
 */
export function move(
  s: Selection,
  key: string,
  isExtending: boolean,
  isFar: boolean,
  b: Bounds,
): Selection | undefined {
  const step = steps[key];
  if (!step) return undefined;
  const to = step(isExtending ? s.focus : s.anchor, b, isFar);
  const focus = { row: clamp(to.row, b.rows - 1), column: clamp(to.column, b.columns - 1) };
  return { anchor: isExtending ? s.anchor : focus, focus };
}

/** Text of a block of cells as spreadsheets take it: tabs, CRLF, quotes where a cell holds either. */
export const toClipboard = (cells: readonly (readonly string[])[]): string =>
  Papa.unparse(cells as string[][], { delimiter: '\t', newline: '\r\n' });

/** A pasted text as a block of cells; one empty line at the end is what spreadsheets add. */
export function fromClipboard(text: string): string[][] {
  const trimmed = text.replace(/\r?\n$/, '');
  if (!trimmed.includes('"')) return trimmed.split(/\r\n|\n|\r/).map((l) => l.split('\t'));
  return Papa.parse<string[]>(trimmed, { delimiter: '\t' }).data;
}

/** What the table knows of a cell for changing it. */
export interface Grid {
  idOf: (row: number) => string | undefined;
  keyOf: (column: number) => string;
  valueOf: (row: number, column: number) => Value | null;
  canEdit: (row: number, column: number) => boolean;
  read: (column: number, text: string) => Value | null;
}
export interface PatchPlan {
  patch: Patch;
  skipped: number;
  missing: number;
  /** Rows and columns of a pasted block for which the table has no place. */
  overflow?: { rows: number; columns: number };
}

/** The patch that puts a block into a range: a single cell fills it, a block is repeated where it fits whole times. */
export function planPaste(grid: Grid, range: Range, block: readonly (readonly string[])[], bounds: Bounds): PatchPlan {
  const height = block.length,
    width = Math.max(...block.map((r) => r.length), 1);
  const rows = range.bottom - range.top + 1,
    columns = range.right - range.left + 1;
  const tall = rows % height === 0 ? rows : height,
    wide = columns % width === 0 ? columns : width;
  const down = Math.min(tall, bounds.rows - range.top),
    across = Math.min(wide, bounds.columns - range.left);
  return {
    ...collect(grid, range.top, range.left, down, across, (r, c) => block[r % height]?.[c % width] ?? ''),
    overflow: { rows: tall - down, columns: wide - across },
  };
}

/** The patch that fills the top row of a range down over it. */
export function planFillDown(grid: Grid, range: Range): PatchPlan {
  const cells = { patch: [] as Patch[number][], skipped: 0, missing: 0 };
  for (let row = range.top + 1; row <= range.bottom; row++)
    for (let column = range.left; column <= range.right; column++)
      put(grid, row, column, grid.valueOf(range.top, column), cells);
  return cells;
}

/** The patch that empties a range. */
export const planClear = (grid: Grid, range: Range): PatchPlan =>
  collect(grid, range.top, range.left, range.bottom - range.top + 1, range.right - range.left + 1, () => '');

function collect(
  grid: Grid,
  top: number,
  left: number,
  rows: number,
  columns: number,
  textAt: (r: number, c: number) => string,
): PatchPlan {
  const cells = { patch: [] as Patch[number][], skipped: 0, missing: 0 };
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++) put(grid, top + r, left + c, grid.read(left + c, textAt(r, c)), cells);
  return cells;
}

function put(
  grid: Grid,
  row: number,
  column: number,
  after: Value | null,
  into: { patch: Patch[number][]; skipped: number; missing: number },
): void {
  const id = grid.idOf(row);
  // A row that is not loaded must never read as blank: it is counted, and the caller fetches it first.
  if (id === undefined) {
    into.missing++;
    return;
  }
  if (!grid.canEdit(row, column)) {
    into.skipped++;
    return;
  }
  const before = grid.valueOf(row, column);
  if (JSON.stringify(before) !== JSON.stringify(after))
    into.patch.push({ row: id, field: grid.keyOf(column), before, after, at: row + 1 });
}
