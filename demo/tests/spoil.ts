// Rows spoiled at random, given to two judges: for tests that hold our checks against a market's own.
import type { Listing, Value } from '@basileus/core/listing';
import { expect, it } from 'vitest';
import { createRandom } from '../catalog';

export type Spoil = (v: Record<string, Value>, pick: (n: number) => number) => void;

/** Where two judges differ: one stops a row that the other would have taken. Empty where they agree. */
export function describeDifference(l: Listing, ours: readonly string[], theirs: readonly string[]): string[] {
  if (ours.length > 0 === theirs.length > 0) return [];
  return [`${l.sku} in ${l.category}: ours ${ours.join(', ') || 'nothing'}; theirs ${theirs.join(', ') || 'nothing'}`];
}

/** Six thousand rows, each with one to three faults, judged by both. */
export function judgeSpoiled(
  listings: readonly Listing[],
  spoilers: readonly Spoil[],
  seed: number,
  ours: (l: Listing) => string[],
  theirs: (l: Listing) => string[],
): { stopped: number; taken: number; differences: string[] } {
  const random = createRandom(seed);
  const result = { stopped: 0, taken: 0, differences: [] as string[] };
  for (let i = 0; i < 6000; i++) {
    const base = listings[Math.floor(random.next() * listings.length)]!;
    const values: Record<string, Value> = { ...base.values };
    for (let k = random.between(1, 3); k > 0; k--) random.pick(spoilers)(values, (n) => Math.floor(random.next() * n));
    const l = { ...base, values };
    const here = ours(l);
    if (here.length > 0) result.stopped++;
    else result.taken++;
    result.differences.push(...describeDifference(l, here, theirs(l)));
  }
  return result;
}

/** The statements of agreement between our checks and a market that names fields of ours. */
export function agreeWith(
  { listings, judgeOurs }: { listings: readonly Listing[]; judgeOurs: (l: Listing) => string[] },
  askMarket: (l: Listing) => string[],
  spoilers: readonly Spoil[],
  seed: number,
  leastTaken = 150,
): void {
  it('on every item of the demo: nothing we let go is turned back, nothing we stop would have been taken', () => {
    expect(listings.length).toBeGreaterThan(700);
    expect(listings.filter((l) => judgeOurs(l).length === 0).length).toBeGreaterThan(500);
    expect(listings.flatMap((l) => describeDifference(l, judgeOurs(l), askMarket(l)))).toEqual([]);
  });
  it('on six thousand rows, each with one to three random faults', () => {
    const { stopped, taken, differences } = judgeSpoiled(listings, spoilers, seed, judgeOurs, askMarket);
    expect(stopped).toBeGreaterThan(2000);
    expect(taken).toBeGreaterThan(leastTaken);
    expect(differences.slice(0, 12)).toEqual([]);
  });
  it('on which fields are at fault: all that the market names are among ours', () => {
    const misses = listings.flatMap((l) => {
      const here = new Set(judgeOurs(l));
      return askMarket(l)
        .filter((field) => !here.has(field))
        .map((field) => `${l.sku}: ${field} against ${[...here].join(', ')}`);
    });
    expect(misses).toEqual([]);
  });
}
