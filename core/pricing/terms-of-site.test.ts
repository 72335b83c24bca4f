// Fees, taxes and costs by market, category and site, as a rulebook has them; the arithmetic is checked beside.
import { describe, expect, it } from 'vitest';
import { houseCurrency } from '../product';
import type { Rulebook } from '../rulebook';
import { smallRulebook } from '../tests/builders';
import { fairRulebook } from '../tests/fair';
import { convertCost, findFees, findLeastPrice, prepareTaxRate } from '.';

describe('the fees of a category', () => {
  const rated = (rate: string, more: object = {}) => ({
    tiers: [{ rate }],
    paymentRate: '0.01',
    fixed: '0.2',
    ...more,
  });
  const bookWith = (...fees: object[]): Rulebook => ({ ...smallRulebook(), fees }) as unknown as Rulebook;
  const rateOf = (book: Rulebook, category: string) => findFees(book, category).tiers.map((t) => t.rate);
  const three = [rated('0.15'), rated('0.10', { category: 'home' }), rated('0.05', { category: 'pans' })];
  it('are those of the nearest category over it, else those of all', () => {
    expect(rateOf(bookWith(...three), 'pans')).toEqual(['0.05']);
    expect(rateOf(bookWith(...three), 'lamps')).toEqual(['0.10']);
    expect(rateOf(bookWith(three[0]!, three[2]!), 'lamps')).toEqual(['0.15']);
  });
  it('are none where the rulebook has none for it', () => {
    expect(findFees(bookWith(three[2]!), 'lamps', '3.20')).toEqual({
      ...{ tiers: [], minimumCommission: '0', paymentRate: '0', fixed: '0', shipping: '3.20' },
      ...{ taxRate: '0.20', pricesIncludeTax: true },
    });
    expect(findFees(bookWith(rated('0.15', { minimum: '1.50' })), 'pans')).toMatchObject({
      ...{ minimumCommission: '1.50', paymentRate: '0.01', fixed: '0.2', shipping: '0' },
    });
  });
  it('of a site are its own', () => {
    const book = bookWith(rated('0.12', { sites: ['other'] }), rated('0.08', { sites: ['main'] }));
    expect(rateOf(book, 'pans')).toEqual(['0.08']);
    const net = { ...book.sites[0]!, key: 'other', pricesInclude: 'no-tax' } as unknown as Rulebook['sites'][number];
    expect(findFees(book, 'pans', '0', net)).toMatchObject({ tiers: [{ rate: '0.12' }], pricesIncludeTax: false });
  });
});

describe('the tax of a row', () => {
  it('is the last that holds for it, else the one without a condition', () => {
    const [site] = fairRulebook().sites;
    const rateOf = prepareTaxRate(site!);
    const plain = site!.taxes.find((t) => t.when === undefined)!.rate;
    expect(rateOf({})).toBe(plain);
    expect(rateOf({ washable: 'no' })).toBe('0.07');
    expect(rateOf({ washable: 'yes' })).toBe(plain);
    const twice = {
      ...site!,
      taxes: [...site!.taxes, { rate: '0.01', when: { attribute: 'washable', filled: true } }],
    };
    expect(prepareTaxRate(twice)({ washable: 'no' })).toBe('0.01');
    // The plain one counts wherever it stands; where all have a condition it is the first.
    const turned = { ...site!, taxes: site!.taxes.toReversed() };
    expect(prepareTaxRate(turned)({})).toBe(plain);
    const special = { ...site!, taxes: site!.taxes.filter((t) => t.when !== undefined) };
    expect(prepareTaxRate(special)({})).toBe('0.07');
  });
});

describe('a cost in another currency', () => {
  it('is exact, and unknown without a rate', () => {
    expect(convertCost('8.40', houseCurrency, undefined)).toBe('8.40');
    expect(convertCost('8.40', 'JPY', { JPY: '188.05' })).toBe('1579.62');
    expect(convertCost('8.40', 'JPY', { EUR: '1.17' })).toBeUndefined();
    expect(convertCost('8.40', 'JPY', undefined)).toBeUndefined();
  });
});

describe('the least price', () => {
  const fees = {
    ...{ tiers: [], minimumCommission: '0', paymentRate: '0', fixed: '0', shipping: '0' },
    ...{ taxRate: '0.2', pricesIncludeTax: true },
  };
  it('of what costs nothing is the least that is a price, and of what no price pays for there is none', () => {
    expect(findLeastPrice({ ...fees, cost: '0' }, 'GBP')).toBe('0.01');
    expect(findLeastPrice({ ...fees, cost: '10' }, 'GBP')).toBe('12.00');
    expect(findLeastPrice({ ...fees, cost: '10', paymentRate: '0.9' }, 'GBP')).toBeUndefined();
  });
});
