import { foldLoosely } from './fold';

/** Edit distance with neighbouring swaps (optimal string alignment), given up past `most`. */
export function computeDistance(a: string, b: string, most = Infinity): number {
  if (Math.abs(a.length - b.length) > most) return most + 1;
  let before: number[] = [],
    last = Array.from({ length: b.length + 1 }, (_, i) => i);
  for (let i = 1; i <= a.length; i++) {
    const row = [i];
    for (let j = 1; j <= b.length; j++) {
      const cost = a[i - 1] === b[j - 1] ? 0 : 1;
      let best = Math.min(last[j]! + 1, row[j - 1]! + 1, last[j - 1]! + cost);
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1]) best = Math.min(best, before[j - 2]! + 1);
      row.push(best);
    }
    before = last;
    last = row;
  }
  return last[b.length]!;
}

/** Names and values that are compared are short; what is longer is like nothing but itself. */
const longestCompared = 200;

/** Likeness of two texts from 0 to 1: whole words shared, or letters nearly the same. */
export function computeLikeness(a: string, b: string): number {
  if (a === b) return 1;
  // Folding makes a text at most some times longer or shorter; a book is not folded to be compared with a word.
  if (a.length > 20 * longestCompared || b.length > 20 * longestCompared) return 0;
  const x = foldLoosely(a),
    y = foldLoosely(b);
  if (x === y) return 1;
  if (x === '' || y === '' || x.length > longestCompared || y.length > longestCompared) return 0;
  const letters = 1 - computeDistance(x, y) / Math.max(x.length, y.length);
  const wx = new Set(x.split(' ').map(stem)),
    wy = new Set(y.split(' ').map(stem));
  let shared = 0;
  for (const w of wx) if (wy.has(w)) shared++;
  return Math.max(
    letters,
    (shared / Math.max(wx.size, wy.size)) * 0.95,
    shared > 0 && (shared === wx.size || shared === wy.size) ? 0.7 : 0,
  );
}

/** English plural and spelling endings taken off, so that "pans" finds "pan". */
export const stem = (word: string): string =>
  word.replace(/(?<=\p{L}{3})(ies)$/u, 'y').replace(/(?<=\p{L}{3})(?<!s)s$/u, '');

/** The `count` candidates most like a text, best first, none under `least`. */
export function findNearest<T>(
  text: string,
  candidates: readonly T[],
  words: (c: T) => readonly string[],
  count = 3,
  least = 0.45,
): { candidate: T; likeness: number }[] {
  return candidates
    .map((candidate) => ({
      candidate,
      likeness: Math.max(0, ...words(candidate).map((w) => computeLikeness(text, w))),
    }))
    .filter((r) => r.likeness >= least)
    .sort((a, b) => b.likeness - a.likeness)
    .slice(0, count);
}
