// The price that leaves a margin, by the worked example of the trade and against the exact arithmetic of `computeMargin`.
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { exact } from '../quantity';
import type { Values } from '../listing';
import { compileCategory, type CompiledCategory, type Rulebook } from '../rulebook';
import { pans, smallRulebook } from '../tests/builders';
import { fairRulebook } from '../tests/fair';
import { computeMargin, type Fees, findPriceLeaving, guessPrice, prepareListingPrice, solvePrice } from '.';

const fees = (more: Partial<Fees> = {}): Fees => ({
  tiers: [{ rate: '0.15' }],
  minimumCommission: '0',
  paymentRate: '0.029',
  fixed: '0.30',
  shipping: '3.20',
  taxRate: '0.20',
  pricesIncludeTax: true,
  ...more,
});
/** `computeMargin` divides: it may be off by the last of forty digits. */
const leavesAt = (price: string, margin: string, given: { cost: string } & Fees): boolean =>
  computeMargin({ ...given, price })
    .margin.plus('1e-30')
    .gte(margin);
const marginAt = (price: string, cost: string, f: Fees): string =>
  computeMargin({ price, cost, ...f }).margin.toFixed(6);

describe('the price that leaves a margin', () => {
  // Common practice; arithmetic: cost 8.40, shipping 3.20, 0.30 fixed, 15 % and 2.9 %, a tax of 20 %, 18 % left: 23.5955 …
  it('is rounded up, to the places of the currency or to an ending', () => {
    const given = { margin: '0.18', cost: '8.40', ...fees() };
    expect(findPriceLeaving(given, { currency: 'GBP' })).toBe('23.60');
    expect(findPriceLeaving(given, { currency: 'GBP', ending: '0.99' })).toBe('23.99');
    expect(findPriceLeaving(given, { currency: 'GBP', ending: '9.99' })).toBe('29.99');
    expect(findPriceLeaving(given, { currency: 'KWD' })).toBe('23.596');
    expect(findPriceLeaving(given, { currency: 'KWD', step: '0.005' })).toBe('23.600');
    expect(findPriceLeaving(given, { currency: 'JPY' })).toBe('24');
    expect(Number(marginAt('23.99', '8.40', fees()))).toBeCloseTo(0.18995, 4);
  });
  const cents = (n: number): string => (n / 100).toFixed(2);
  const money = fc.constantFrom('GBP', 'JPY', 'KWD');
  it('leaves it, and one step less does not, whatever the cost, the margin and the currency', () => {
    fc.assert(
      fc.property(
        money,
        fc.integer({ min: 1, max: 20_000 }),
        fc.integer({ min: -200, max: 500 }),
        (currency, cost, m) => {
          const margin = (m / 1000).toFixed(3),
            given = { margin, cost: cents(cost), ...fees({ shipping: '0' }) };
          const price = findPriceLeaving(given, { currency })!;
          const step = { GBP: '0.01', JPY: '1', KWD: '0.001' }[currency]!;
          const less = exact(price).minus(step);
          expect(leavesAt(price, margin, given)).toBe(true);
          if (less.gt(0)) expect(leavesAt(less.toFixed(), margin, given)).toBe(false);
        },
      ),
      { numRuns: 300 },
    );
  });
  it('is the least of all that do, with tiers and a least commission: none of the cheaper ones does', () => {
    const shapes = fc.constantFrom<Partial<Fees>>(
      { tiers: [{ upTo: '3', rate: '0.05' }, { rate: '0.30' }], shipping: '0' },
      { tiers: [{ upTo: '2', rate: '0.30' }, { upTo: '5', rate: '0.10' }, { rate: '0.20' }], shipping: '0' },
      { minimumCommission: '0.60', shipping: '0' },
      { tiers: [], pricesIncludeTax: false, shipping: '0.40' },
    );
    fc.assert(
      fc.property(shapes, fc.integer({ min: 0, max: 250 }), fc.integer({ min: -10, max: 45 }), (shape, cost, m) => {
        const given = { margin: cents(m), cost: cents(cost), ...fees(shape) };
        const leaves = (price: number): boolean => leavesAt(cents(price), given.margin, given);
        const price = findPriceLeaving(given, { currency: 'GBP' });
        const found = price === undefined ? 1200 : Math.round(Number(price) * 100);
        if (price !== undefined) expect(leaves(found)).toBe(true);
        for (let less = 1; less < Math.min(found, 1200); less++) expect([less, leaves(less)]).toEqual([less, false]);
      }),
      { numRuns: 40 },
    );
  });
  it('leaves it with an ending too, where dearer prices pay a higher commission', () => {
    const tiers = [{ upTo: '20', rate: '0.05' }, { rate: '0.30' }];
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 5000 }), fc.integer({ min: 0, max: 60 }), (cost, m) => {
        const given = { margin: cents(m), cost: cents(cost), ...fees({ tiers }) };
        const price = findPriceLeaving(given, { currency: 'GBP', ending: '0.99' });
        if (price === undefined) return;
        expect(price).toMatch(/\.99$/);
        expect(leavesAt(price, given.margin, given)).toBe(true);
      }),
      { numRuns: 200 },
    );
    // Just under the edge it is left; the next ending over it leaves less, and a dearer one enough again or none.
    const given = { cost: '10.00', ...fees({ tiers, shipping: '0', fixed: '0' }) };
    const at = exact(marginAt('19.99', '10.00', fees({ tiers, shipping: '0', fixed: '0' })))
      .minus('0.000001')
      .toFixed();
    expect(findPriceLeaving({ ...given, margin: at }, { currency: 'GBP', ending: '0.99' })).toBe('19.99');
  });
  it('is none where the fees take more of each price than would have to be left', () => {
    expect(findPriceLeaving({ margin: '0.9', cost: '8.40', ...fees() }, { currency: 'GBP' })).toBeUndefined();
    expect(
      findPriceLeaving({ margin: '0.1', cost: '8.40', ...fees({ tiers: [{ rate: '0.9' }] }) }, { currency: 'GBP' }),
    ).toBeUndefined();
  });
  it('is no gift where nothing was paid for it', () => {
    const free = { margin: '0.1', cost: '0', ...fees({ tiers: [], paymentRate: '0', fixed: '0', shipping: '0' }) };
    expect(findPriceLeaving(free, { currency: 'GBP' })).toBe('0.01');
    expect(findPriceLeaving(free, { currency: 'GBP', ending: '0.99' })).toBe('0.99');
    expect(findPriceLeaving(free, { currency: 'GBP', ending: '0' })).toBe('1.00');
    expect(findPriceLeaving({ ...free, taxRate: '0' }, { currency: 'JPY' })).toBe('1');
  });
});

describe('the guess', () => {
  const shapes = fc.constantFrom<Partial<Fees>>(
    {},
    { tiers: [], fixed: '0' },
    { tiers: [{ upTo: '20', rate: '0.05' }, { rate: '0.12' }] },
    { tiers: [{ upTo: '5', rate: '0.30' }, { upTo: '60', rate: '0.10' }, { rate: '0.04' }], pricesIncludeTax: false },
    { minimumCommission: '1.50', tiers: [{ rate: '0.08' }] },
  );
  it('is what solving gives, and none where that gives none', () => {
    fc.assert(
      fc.property(shapes, fc.integer({ min: 1, max: 9000 }), fc.integer({ min: -30, max: 80 }), (shape, cost, m) => {
        const given = { margin: (m / 100).toFixed(2), cost: (cost / 100).toFixed(2), ...fees(shape) };
        const solved = solvePrice(given),
          guess = guessPrice(given);
        expect(guess === undefined).toBe(solved === undefined);
        if (solved) expect(Math.abs(guess! / solved.toNumber() - 1)).toBeLessThan(1e-7);
      }),
      { numRuns: 400 },
    );
  });
});

describe('the price of a listing that leaves a margin', () => {
  const find = (
    category: CompiledCategory,
    field: string,
    listing: { values: Values; cost: string | undefined },
    rates?: Record<string, string>,
    margin = '0.18',
  ) => prepareListingPrice(category, field)!(listing, rates, { margin, ending: undefined });
  it('is by the fees and the tax of its leaf and site, in the field that is meant', () => {
    const found = find(pans, 'price', { values: {}, cost: '8.40' });
    const small = smallRulebook().fees[0]!;
    expect(found).toEqual({
      ok: true,
      price: findPriceLeaving(
        {
          margin: '0.18',
          cost: '8.40',
          ...fees({ shipping: '0', tiers: small.tiers, fixed: small.fixed!, paymentRate: small.paymentRate! }),
        },
        { currency: 'GBP' },
      ),
    });
    expect(find(pans, 'sale_price', { values: {}, cost: '8.40' })).toEqual(found);
  });
  it('takes the cost by the rate of its site, and what decides its tax from its values', () => {
    const book = fairRulebook();
    const leaf = book.tree.find((n) => !book.tree.some((m) => m.parent === n.key))!;
    const category = compileCategory(book, leaf.key)!;
    const [de, se] = book.offers;
    const at = (field: string, values = {}, rates: Record<string, string> = { EUR: '1', SEK: '11' }) => {
      const found = find(category, field, { values, cost: '10' }, rates);
      return found.ok ? found.price : found.fault;
    };
    expect(Number(at(se!.price))).toBeGreaterThan(Number(at(de!.price)) * 10);
    // Seven percent of tax in place of nineteen.
    expect(Number(at(de!.price, { washable: 'no' }))).toBeLessThan(Number(at(de!.price)));
    expect(at(se!.price, {}, { EUR: '1' })).toEqual({ kind: 'rate-unknown', currency: 'SEK' });
  });
  it('is of prices alone', () => {
    expect(prepareListingPrice(pans, 'title')).toBeUndefined();
  });
  it('says why there is none', () => {
    const why = (cost: string | undefined, margin: string, category = pans) => {
      const found = find(category, 'price', { values: {}, cost }, undefined, margin);
      return found.ok ? found.price : found.fault.kind;
    };
    expect(why(undefined, '0.18')).toBe('cost-unknown');
    expect(why('8.40', '0.95')).toBe('no-price-leaves');
    const dear = { ...smallRulebook(), fees: [{ tiers: [{ rate: '0.95' }] }] } as unknown as Rulebook;
    expect(why('8.40', '0.18', { ...pans, rulebook: dear })).toBe('no-price-leaves');
  });
});
