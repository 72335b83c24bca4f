import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { computeBundleStock, computePublishable } from './index';

const free = { buffer: 0, cap: 999, least: 0 };

describe('what may be published', () => {
  it.each([
    ['all that is there', 40, 0, free, 40],
    ['less what is reserved and the buffer', 40, 7, { ...free, buffer: 3 }, 30],
    ['no more than the market takes', 4000, 0, { ...free, cap: 500 }, 500],
    ['nothing under the least', 4, 0, { ...free, least: 5 }, 0],
    ['the least itself', 5, 0, { ...free, least: 5 }, 5],
    ['never less than nothing', 2, 7, free, 0],
    ['all of these together', 10, 2, { buffer: 3, cap: 4, least: 1 }, 4],
    ['nothing where the buffer takes all', 3, 2, { buffer: 3, cap: 99, least: 1 }, 0],
  ])('%s', (_, onHand, reserved, rule, is) => {
    expect(computePublishable({ onHand, reserved }, rule)).toBe(is);
  });
  it('is never more than is there, and never falls as stock rises (property)', () => {
    const n = fc.integer({ min: 0, max: 50 });
    fc.assert(
      fc.property(n, n, n, n, n, (onHand, reserved, buffer, cap, least) => {
        const now = computePublishable({ onHand, reserved }, { buffer, cap, least });
        expect(now).toBeGreaterThanOrEqual(0);
        expect(now).toBeLessThanOrEqual(Math.max(0, onHand - reserved));
        expect(computePublishable({ onHand: onHand + 1, reserved }, { buffer, cap, least })).toBeGreaterThanOrEqual(
          now,
        );
      }),
    );
  });
});

describe('a bundle', () => {
  it('can be made as often as its scarcest part allows', () => {
    const parts = [
      { stock: 10, count: 3 },
      { stock: 7, count: 2 },
      { stock: 99, count: 1 },
    ];
    expect(computeBundleStock(parts)).toBe(3);
  });
  it('of which a part is missing, or which has no parts, cannot be made', () => {
    expect(computeBundleStock([{ stock: 1, count: 2 }])).toBe(0);
    expect(computeBundleStock([{ stock: -4, count: 1 }])).toBe(0);
    expect(computeBundleStock([])).toBe(0);
  });
});
