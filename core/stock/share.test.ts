import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { computePublishable, shareOut } from './index';

describe('stock that is shared out', () => {
  // Parts by the method of Sainte-Laguë: the worked example that textbooks of apportionment give (votes 53000, 24000, 23000;
  // seven seats go 3, 2, 2), from memory; the others worked by hand.
  it.each([
    [7, [53_000, 24_000, 23_000], [3, 2, 2]],
    [10, [3, 1], [8, 2]],
    [4, [3, 1], [3, 1]],
    [1, [1, 1, 1], [1, 0, 0]],
    [1, [1, 5], [0, 1]],
    [2, [1, 1, 1], [1, 1, 0]],
    [0, [1, 2], [0, 0]],
    [-3, [1, 2], [0, 0]],
    [9, [4], [9]],
    [100_000, [1, 1], [50_000, 50_000]],
  ])('%i pieces by %j', (pieces, weights, parts) => {
    expect(shareOut(pieces, weights)).toEqual(parts);
  });
  const weights = fc.array(fc.integer({ min: 1, max: 1000 }), { minLength: 1, maxLength: 8 });
  it('is all of it, near what is due to each, and no part falls as the whole rises (property)', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 3000 }), weights, (pieces, w) => {
        const parts = shareOut(pieces, w),
          more = shareOut(pieces + 1, w),
          sum = w.reduce((n, x) => n + x, 0);
        expect(parts.reduce((n, p) => n + p, 0)).toBe(pieces);
        for (const [i, part] of parts.entries()) {
          expect(more[i]).toBeGreaterThanOrEqual(part);
          expect(Math.abs(part - (pieces * w[i]!) / sum)).toBeLessThanOrEqual(w.length / 2 + 0.5);
        }
      }),
    );
  });
  it('is what giving piece by piece from the first comes to (property)', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 200 }), weights, (pieces, w) => {
        const parts = w.map(() => 0);
        for (let n = 0; n < pieces; n++) {
          const best = w
            .map((x, i) => ({ i, x, due: x / (2 * parts[i]! + 1) }))
            .sort((a, b) => b.due - a.due || b.x - a.x || a.i - b.i)[0]!.i;
          parts[best]!++;
        }
        expect(shareOut(pieces, w)).toEqual(parts);
      }),
    );
  });
  it('is never more in all than is free, whatever each market keeps back (property)', () => {
    const n = fc.integer({ min: 0, max: 30 });
    fc.assert(
      fc.property(
        n,
        n,
        fc.array(fc.tuple(fc.integer({ min: 1, max: 9 }), n), { minLength: 1, maxLength: 5 }),
        (onHand, reserved, markets) => {
          const all = markets.map(([weight]) => weight);
          const told = markets.map(([, buffer], mine) =>
            computePublishable({ onHand, reserved }, { buffer, cap: 999, least: 0, share: { weights: all, mine } }),
          );
          expect(told.reduce((x, y) => x + y, 0)).toBeLessThanOrEqual(Math.max(0, onHand - reserved));
        },
      ),
    );
  });
});
