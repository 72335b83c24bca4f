/** A small seeded generator (mulberry32), so that the demo is the same on every machine. */
export function createRandom(seed: number): {
  next: () => number;
  pick: <T>(list: readonly T[]) => T;
  between: (low: number, high: number) => number;
} {
  let state = seed >>> 0;
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  return {
    next,
    pick: (list) => list[Math.floor(next() * list.length)]!,
    between: (low, high) => low + Math.floor(next() * (high - low + 1)),
  };
}
