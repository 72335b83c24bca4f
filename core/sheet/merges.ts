// Cells that are one over several rows of a sheet (ECMA-376 part 1, 18.3.1.55; OpenDocument part 3, 19.678): a family's name stands
// once beside all of its variants, and its other rows are blank to whoever reads cells alone.
import { sheetBounds } from './bounds';

/** A cell that goes down from one row to another, both counted from 1, in its first column, counted from 0. */
export interface Merge {
  column: number;
  from: number;
  to: number;
}

const mergeCell = /<(?:[A-Za-z_][\w.-]*:)?mergeCell [^>]*?ref="([A-Z]{1,3})(\d{1,7}):[A-Z]{1,3}(\d{1,7})"/g;
/** Letters of one such element at the most; as many are kept for the next piece. */
const longest = 200;

const toColumn = (letters: string): number => [...letters].reduce((n, c) => n * 26 + c.charCodeAt(0) - 64, 0) - 1;

/** Takes the text of a sheet piece by piece. They stand behind its rows, so that it is gone through before these are read. */
export function createMergeReader(): { take: (text: string) => void; list: () => Merge[] } {
  const merges = new Map<string, Merge>();
  let rest = '';
  return {
    take: (text) => {
      const all = rest + text;
      if (all.includes('mergeCell '))
        for (const [ref, letters, from, to] of all.matchAll(mergeCell)) {
          const merge = { column: toColumn(letters!), from: Number(from), to: Number(to) };
          // What stands on both sides of a cut is found once more.
          if (merge.to > merge.from && merges.size < sheetBounds.merges) merges.set(ref, merge);
        }
      rest = all.slice(-longest);
    },
    list: () => [...merges.values()],
  };
}

/**
 * Fills rows, told one after the other, with what such cells say; gives the columns that were filled. A row that holds nothing
 * stays blank. `noted` are the columns of the row that hold numbers, those that are filled with one come to them.
 */
export function createMergeFiller(): {
  open: (merge: Pick<Merge, 'column' | 'to'>, says: string, isNumber: boolean) => void;
  fill: (at: number, row: string[], noted: number[]) => number[];
} {
  const open = new Map<number, { to: number; says: string; isNumber: boolean }>();
  return {
    open: ({ column, to }, says, isNumber) => {
      if (says !== '') open.set(column, { to, says, isNumber });
    },
    fill: (at, row, noted) => {
      if (open.size === 0) return [];
      const filled: number[] = [],
        isBlank = row.every((c) => c === '');
      for (const [column, { to, says, isNumber }] of open) {
        if (at > to) open.delete(column);
        else if (!isBlank && (row[column] ?? '') === '') {
          while (row.length < column) row.push('');
          row[column] = says;
          filled.push(column);
          if (isNumber) noted.push(column);
        }
      }
      return filled;
    },
  };
}
