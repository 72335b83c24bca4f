// Where rows and columns stand. Pure; left edges are sums made once, since every cell asks for its own on every frame.

export const rowHeight = 30;
export const headHeight = 30;
/** Width of the column of row numbers, before all others: six figures. */
export const numberWidth = 56;
/** Browsers cap the height of an element; beyond this the rows are drawn closer and the scroll is mapped. */
const tallest = 15_000_000;

export interface ColumnGeometry {
  widthOf: (column: number) => number;
  /** Left edge in pixels, the column of row numbers included; for one past the last, the whole width. */
  leftOf: (column: number) => number;
  /** Width of what stays in sight when scrolling sideways. */
  frozenWidth: number;
}

/** Left edges of columns whose widths a person may have changed. */
export function placeColumns(
  columns: readonly { key: string; width: number }[],
  changed: Readonly<Record<string, number>>,
  frozen: number,
): ColumnGeometry {
  const widths = columns.map((c) => changed[c.key] ?? c.width);
  const lefts = [numberWidth];
  for (const [i, width] of widths.entries()) lefts.push(lefts[i]! + width);
  return {
    widthOf: (i) => widths[i] ?? 100,
    leftOf: (i) => lefts[Math.min(i, widths.length)]!,
    frozenWidth: lefts[Math.min(frozen, widths.length)]!,
  };
}

/** How many of the columns that are to stay in sight do: so many that at least a quarter of the window is left to scroll in. */
export function countFrozen(place: ColumnGeometry, wanted: number, columns: number, windowWidth: number): number {
  let frozen = Math.min(wanted, columns);
  while (frozen > 1 && place.leftOf(frozen) > windowWidth * mostFrozen) frozen--;
  return frozen;
}
const mostFrozen = 0.75;

/** Height of a row among so many, in pixels. */
export const getRowSize = (rowCount: number): number =>
  rowCount * rowHeight > tallest ? tallest / rowCount : rowHeight;

/** Columns drawn: the frozen ones always, then those in sight. */
export const listShownColumns = (inSight: readonly number[], frozen: number, count: number): number[] => [
  ...Array.from({ length: Math.min(frozen, count) }, (_, i) => i),
  ...inSight.filter((i) => i >= frozen),
];
