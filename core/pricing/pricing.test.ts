import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { exact, getMinorUnits, lowerToCurrency, raiseToCurrency, raiseToEnding } from '../quantity';
import { computeCommission, computeMargin, type Fees, findFees, findLeastPrice, solvePrice } from '.';
import { smallRulebook } from '../tests/builders';

const fees: Fees = {
  tiers: [{ rate: '0.15' }],
  minimumCommission: '0',
  paymentRate: '0.029',
  fixed: '0.30',
  shipping: '3.20',
  taxRate: '0.20',
  pricesIncludeTax: true,
};

describe('what is left of a price', () => {
  // The handbook's worked example: cost 8.40, shipping 3.20, fixed 0.30, commission 15 %, payment 2.9 %, VAT 20 %, margin 18 %.
  it('needs 23.5955… for a margin of 18 %, and 23.99 then leaves 18.995 %', () => {
    const price = solvePrice({ ...fees, cost: '8.40', margin: '0.18' })!;
    expect(price.toFixed(4)).toBe('23.5955');
    const raised = raiseToEnding(price, '.99');
    expect(raised.toFixed(2)).toBe('23.99');
    expect(
      computeMargin({ ...fees, cost: '8.40', price: raised.toFixed(2) })
        .margin.times(100)
        .toFixed(3),
    ).toBe('18.995');
  });
  // Arithmetic: 40 % on cost is a margin of 28.57 %.
  it('does not mix margin up with markup', () => {
    const none: Fees = { ...fees, tiers: [], paymentRate: '0', fixed: '0', shipping: '0', pricesIncludeTax: false };
    expect(
      computeMargin({ ...none, cost: '10', price: '14' })
        .margin.times(100)
        .toFixed(2),
    ).toBe('28.57');
  });
  it('is no share of nothing: at a price of nought the margin is nought', () => {
    expect(computeMargin({ ...fees, cost: '1', price: '0' }).margin.toFixed()).toBe('0');
  });
  it('has no price where the market’s cut and the margin eat everything', () => {
    expect(solvePrice({ ...fees, cost: '1', margin: '0.9' })).toBeUndefined();
  });
  it('takes each tier’s rate on its slice, and at least the minimum', () => {
    const tiers = [{ upTo: '100', rate: '0.15' }, { rate: '0.09' }];
    expect(computeCommission('250', tiers, '0').toFixed(2)).toBe('28.50');
    expect(computeCommission('1', tiers, '0.30').toFixed(2)).toBe('0.30');
  });
  it('solves what it computes, over tiers and minimum (property)', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 10, max: 50_000 }),
        fc.integer({ min: 0, max: 40 }),
        fc.boolean(),
        (cents, percent, gross) => {
          const given = {
            ...fees,
            tiers: [{ upTo: '100', rate: '0.15' }, { rate: '0.09' }],
            minimumCommission: '0.30',
            pricesIncludeTax: gross,
            cost: exact(cents).dividedBy(100).toFixed(2),
            margin: exact(percent).dividedBy(100).toFixed(2),
          };
          const price = solvePrice(given);
          return (
            price === undefined ||
            computeMargin({ ...given, price: price.toFixed() })
              .margin.minus(given.margin)
              .abs()
              .lt('0.0000000001')
          );
        },
      ),
      { seed: 11 },
    );
  });
  it('takes the fees of the category itself before those further up', () => {
    const book = smallRulebook((d) => {
      (d as unknown as { fees: object[] }).fees.push(
        { category: 'home', tiers: [{ rate: '0.07' }] },
        { category: 'pans', tiers: [{ rate: '0.05' }] },
      );
    });
    expect(findFees(book, 'pans').tiers).toEqual([{ rate: '0.05' }]);
    expect(findFees(book, 'lamps').tiers).toEqual([{ rate: '0.07' }]);
  });
  it('finds the nearest fees up the tree', () => {
    const book = smallRulebook((d) => {
      (d as unknown as { fees: object[] }).fees.push({
        category: 'home',
        tiers: [{ rate: '0.07' }],
        minimum: '0.10',
      });
    });
    expect(findFees(book, 'pans')).toMatchObject({
      tiers: [{ rate: '0.07' }],
      minimumCommission: '0.10',
      pricesIncludeTax: true,
    });
  });
  it.each(['JPY', 'GBP', 'KWD'])(
    'finds the least price in %s that loses nothing: one step less does (property)',
    (currency) => {
      const places = getMinorUnits(currency);
      fc.assert(
        fc.property(
          fc.integer({ min: 1, max: 3_000_000 }),
          fc.constantFrom('0', '0.10', '0.20'),
          fc.constantFrom('0', '0.30'),
          fc.boolean(),
          (minor, taxRate, minimum, gross) => {
            const given = {
              ...fees,
              tiers: [{ upTo: '100', rate: '0.15' }, { rate: '0.09' }],
              minimumCommission: minimum,
              taxRate,
              pricesIncludeTax: gross,
              cost: exact(minor).dividedBy(exact(10).pow(places)).toFixed(places),
            };
            const least = findLeastPrice(given, currency)!;
            const less = exact(least).minus(exact(10).pow(-places));
            const profit = (price: string) => computeMargin({ ...given, price }).profit;
            expect(least.split('.')[1]?.length ?? 0).toBe(places);
            expect(profit(least).gte(0)).toBe(true);
            expect(profit(less.toFixed()).lt(0)).toBe(true);
          },
        ),
        { seed: 17, numRuns: 200 },
      );
    },
  );
  it('finds none where each higher price loses more', () => {
    expect(findLeastPrice({ ...fees, tiers: [{ rate: '0.95' }], cost: '1' }, 'GBP')).toBeUndefined();
  });
  it.each([
    ['1299.5', 'JPY', '1300', '1299'],
    ['12.3451', 'KWD', '12.346', '12.345'],
    ['12.30', 'GBP', '12.30', '12.30'],
  ])('puts the bound %s %s up to %s and down to %s', (amount, currency, up, down) => {
    expect(raiseToCurrency(amount, currency)).toBe(up);
    expect(lowerToCurrency(amount, currency)).toBe(down);
  });
});
