// How items of a leaf are called as a rule: what nearly all have in their names that somebody placed there.

/** Placed items from which on there is a rule, and the share of them that makes it. */
const leastPlaced = 5,
  nearlyAll = 0.9;

export interface Habits {
  /** Takes the words that an item of a leaf is called by, once, or back with -1. */
  count: (leaf: number, words: ReadonlySet<string>, times: number) => void;
  /** Words that nearly all items of a leaf are called by; none while few are placed. */
  of: (leaf: number) => readonly string[];
}

export function createHabits(): Habits {
  const sizes = new Map<number, number>(),
    counts = new Map<number, Map<string, number>>(),
    known = new Map<number, readonly string[]>();
  return {
    count: (leaf, words, times) => {
      sizes.set(leaf, (sizes.get(leaf) ?? 0) + times);
      const ofLeaf = counts.get(leaf) ?? new Map<string, number>();
      counts.set(leaf, ofLeaf);
      for (const w of words) ofLeaf.set(w, (ofLeaf.get(w) ?? 0) + times);
      known.delete(leaf);
    },
    of: (leaf) => {
      const there = known.get(leaf);
      if (there) return there;
      const size = sizes.get(leaf) ?? 0;
      const words =
        size < leastPlaced ? [] : [...(counts.get(leaf) ?? [])].flatMap(([w, n]) => (n >= size * nearlyAll ? [w] : []));
      known.set(leaf, words);
      return words;
    },
  };
}
