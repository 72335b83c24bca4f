// The price per unit. The amounts are arithmetic; the units are those of Directive 98/6/EC, article 2.
import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { computeUnitPrice, unitPriceUnits } from '.';

describe('a price per unit', () => {
  it.each([
    ['2.99', '125 g', 'kg', '23.92'],
    ['2.99', '0.125 kg', 'kg', '23.92'],
    ['12.50', '750 ml', 'l', '16.666666666666666667'],
    ['19.80', '330 cm', 'm', '6'],
    ['9.90', '6', 'piece', '1.65'],
    ['9.90', undefined, 'piece', '9.9'],
    ['5.00', '1 lb', 'kg', '11.023113109243879036'],
  ] as const)('of %s for %s is, per %s, %s', (price, content, per, unit) => {
    expect(computeUnitPrice(price, content, per)!.toSignificantDigits(20).toFixed()).toBe(unit);
  });
  it.each([
    ['125 g', 'l'],
    ['125', 'kg'],
    ['0 g', 'kg'],
    ['a bag', 'kg'],
    [undefined, 'kg'],
    ['six', 'piece'],
    ['0', 'piece'],
  ] as const)('is none of %s per %s', (content, per) => {
    expect(computeUnitPrice('2.99', content, per)).toBeUndefined();
  });
  it('is the same whatever unit the content is in, and times the content the price', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 999_999 }), fc.integer({ min: 1, max: 99_999 }), (cents, grams) => {
        const price = (cents / 100).toFixed(2);
        const perKg = computeUnitPrice(price, `${grams} g`, 'kg')!;
        expect(computeUnitPrice(price, `${grams / 1000} kg`, 'kg')!.toFixed(10)).toBe(perKg.toFixed(10));
        expect(perKg.times(grams).dividedBy(1000).toFixed(2)).toBe(price);
      }),
      { seed: 98 },
    );
    expect(unitPriceUnits).toEqual(['kg', 'l', 'm', 'piece']);
  });
});
