// Cells of a row that stand some columns to the side of where they went out: somebody put a cell in, or took one away, and
// the rest of the row moved along.
import { toText, type Value } from '../listing/values';

export interface Shift {
  /** The first cell that stands elsewhere, by its column in the file. */
  from: number;
  /** To the right by so many columns; to the left where it is under zero. */
  by: number;
  /** Cells that were found again there. */
  cells: number;
  /** Every cell behind the first is where the shift puts it: nothing else was done to the row. */
  isAll: boolean;
}

const furthest = 3;
/** So many cells that are found again beside their places are no chance. */
const fewest = 3;
const toCellText = (value: Value | undefined): string =>
  (typeof value === 'object' ? value.join(' | ') : toText(value)).trim();

/**
 * The shift of a row, proven by what went out of it; undefined where there is none. `columns` are those of the file that went
 * out, in the order in which they stand; `cells` is the row as it came back.
 */
export function findShift(
  cells: readonly string[],
  columns: readonly { index: number; field: string }[],
  values: Readonly<Record<string, Value | undefined>>,
): Shift | undefined {
  const places = [...columns].sort((a, b) => a.index - b.index);
  const was = places.map((c) => toCellText(values[c.field])),
    is = places.map((c) => (cells[c.index] ?? '').trim());
  // What was changed at its place is not found again elsewhere by chance: only cells that differ from their own count.
  const first = was.findIndex((w, i) => w !== is[i]);
  if (first < 0) return undefined;
  let best: Shift | undefined;
  for (let by = -furthest; by <= furthest; by++) {
    if (by === 0) continue;
    const found = is.flatMap((text, i) =>
      i >= first && text !== '' && text !== was[i] && text === was[i - by] ? [i] : [],
    );
    // A value that stands everywhere, such as “yes”, proves nothing.
    if (new Set(found.map((i) => is[i])).size < fewest || found.length <= (best?.cells ?? 0)) continue;
    const isAll = is.every((text, i) => {
      if (i < first) return true;
      const from = i - by;
      // What was put in, and what stands where nothing was before, is empty.
      return from < first || from >= was.length ? text === '' : text === was[from];
    });
    best = { from: places[found[0]!]!.index, by, cells: found.length, isAll };
  }
  return best;
}
