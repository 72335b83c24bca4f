import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { countFrozen, getRowSize, listShownColumns, numberWidth, placeColumns, rowHeight } from './geometry';

const columns = ['sku', 'title', 'price'].map((key, i) => ({ key, width: 100 * (i + 1) }));

describe('columns', () => {
  it('stand side by side behind the row numbers', () => {
    const place = placeColumns(columns, {}, 2);
    expect([0, 1, 2, 3].map(place.leftOf)).toEqual([0, 100, 300, 600].map((x) => numberWidth + x));
    expect(place.frozenWidth).toBe(numberWidth + 300);
  });
  it('keep the width a person gave them, and push the others', () => {
    const place = placeColumns(columns, { title: 50 }, 2);
    expect(place.widthOf(1)).toBe(50);
    expect(place.leftOf(2)).toBe(numberWidth + 150);
  });
  it('never overlap and leave no gap (property)', () => {
    const some = fc.array(fc.integer({ min: 50, max: 400 }), { maxLength: 40 });
    fc.assert(
      fc.property(some, fc.integer({ min: 0, max: 5 }), (widths, frozen) => {
        const place = placeColumns(
          widths.map((width, i) => ({ key: `c${i}`, width })),
          {},
          frozen,
        );
        for (const i of widths.keys()) expect(place.leftOf(i + 1)).toBe(place.leftOf(i) + place.widthOf(i));
        expect(place.frozenWidth).toBe(place.leftOf(Math.min(frozen, widths.length)));
      }),
    );
  });
  it('that are frozen are drawn always and once', () => {
    expect(listShownColumns([4, 5, 6], 2, 10)).toEqual([0, 1, 4, 5, 6]);
    expect(listShownColumns([0, 1, 2, 3], 2, 10)).toEqual([0, 1, 2, 3]);
    expect(listShownColumns([], 2, 1)).toEqual([0]);
  });
});

describe('rows', () => {
  it('have their height until a browser could not hold them all', () => {
    expect(getRowSize(100_000)).toBe(rowHeight);
    expect(getRowSize(1_000_000) * 1_000_000).toBeLessThanOrEqual(15_000_000);
  });
});

it('keeps fewer columns in sight where the window is narrow, and one always', () => {
  const columns = [200, 400, 300, 100].map((width, i) => ({ key: String(i), width }));
  const place = placeColumns(columns, {}, 3);
  expect(countFrozen(place, 3, 4, 2000)).toBe(3);
  expect(countFrozen(place, 3, 4, 1100)).toBe(2);
  expect(countFrozen(place, 3, 4, 300)).toBe(1);
  expect(countFrozen(place, 9, 4, Infinity)).toBe(4);
  expect(countFrozen(place, 0, 4, 300)).toBe(0);
});
