// Prices made of the house price: worked examples by hand, and properties over amounts, rates, shares and endings.
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { exact, getMinorUnits } from '../quantity';
import { smallRulebook } from '../tests/builders';
import { listEndings, makePrice, preparePrices, type PriceRule } from './made';

const rule = (percent: string, step?: string, ending = '0'): PriceRule => ({
  percent,
  round: step === undefined ? null : { step, ending },
});

describe('a price that is made', () => {
  it.each<[string, string, PriceRule, string, string | undefined, string]>([
    // 24.50 x 1.17 = 28.665
    ['24.50', '1.17', rule('0'), 'EUR', undefined, '28.67'],
    ['24.50', '1.17', rule('0', '1', '0.99'), 'EUR', undefined, '28.99'],
    // 28.665 + 10 % = 31.5315
    ['24.50', '1.17', rule('10', '1', '0.50'), 'EUR', undefined, '32.50'],
    ['24.50', '1.17', rule('10', '1', '0'), 'EUR', undefined, '32.00'],
    // 24.50 x 191.4 = 4689.3
    ['24.50', '191.4', rule('0'), 'JPY', undefined, '4690'],
    ['24.50', '191.4', rule('0', '100', '80'), 'JPY', undefined, '4780'],
    ['24.50', '191.4', rule('0', '10', '9'), 'JPY', undefined, '4699'],
    // 24.50 x 0.391 = 9.5795, in coins of five fils
    ['24.50', '0.391', rule('0'), 'KWD', '0.005', '9.580'],
    ['24.51', '0.391', rule('0'), 'KWD', '0.005', '9.585'],
    // A tax of a sixth comes off: 24.00 x 1.2 x 0.8333 = 23.99904
    ['24.00', '1.2', rule('-16.67'), 'USD', undefined, '24.00'],
  ])('of %s at %s', (house, rate, how, currency, coin, price) => {
    expect(makePrice(house, rate, how, currency, coin)).toBe(price);
  });
  it('is never under what the rate makes of it, less than a step over it, and ends as it should', () => {
    const currencies = ['EUR', 'JPY', 'KWD'] as const;
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 500_000 }),
        fc.integer({ min: 1, max: 300_000 }),
        fc.integer({ min: -90, max: 200 }),
        fc.constantFrom(...currencies).chain((c) => fc.tuple(fc.constant(c), fc.constantFrom(null, ...listEndings(c)))),
        (pence, thousandths, percent, [currency, round]) => {
          const house = exact(pence).dividedBy(100).toFixed(2),
            rate = exact(thousandths).dividedBy(1000).toFixed(3);
          const price = exact(makePrice(house, rate, { percent: String(percent), round }, currency));
          const bare = exact(house).times(rate).times(exact(percent).dividedBy(100).plus(1));
          const step = exact(round?.step ?? exact(10).pow(-getMinorUnits(currency)));
          const unit = exact(10).pow(-getMinorUnits(currency));
          expect(price.gte(bare)).toBe(true);
          expect(price.minus(bare).lt(step.plus(unit))).toBe(true);
          expect(
            price
              .minus(round?.ending ?? 0)
              .modulo(step)
              .toFixed(),
          ).toBe('0');
        },
      ),
    );
  });
});

describe('prices of an item', () => {
  const book = smallRulebook((d) => {
    const document = d as unknown as { sites: Record<string, unknown>[]; attributes: Record<string, unknown>[] };
    document.sites[0]!['currency'] = 'KWD';
    Object.assign(
      document.attributes.find((a) => a['key'] === 'price')!,
      { from: 'fact.price@kwd', step: '0.005' },
    );
  });
  const fill = preparePrices(book, { KWD: rule('0'), EUR: rule('0') }, { KWD: '0.391', EUR: '1.17' });
  it('are made where there is none of its own, in the coins that the market takes', () => {
    const fields = { price: '24.51', sale_price: '20' } as Record<string, string | string[]>;
    expect(fill(fields)).toEqual({ 'fact.price@kwd': 'price', 'fact.sale_price@kwd': 'sale_price' });
    expect(fields).toEqual({
      price: '24.51',
      sale_price: '20',
      'fact.price@kwd': '9.585',
      'fact.sale_price@kwd': '7.820',
    });
  });
  it('are left as they stand where there is one, and not made of nothing', () => {
    const fields = { price: '24.50', 'fact.price@kwd': '11' } as Record<string, string | string[]>;
    expect(fill(fields)).toEqual({});
    expect(fields['fact.price@kwd']).toBe('11');
    expect(fill({ title: 'Wok' })).toEqual({});
    expect(fill({ price: 'soon' })).toEqual({});
  });
  it('are not made without a rule or a rate', () => {
    for (const f of [preparePrices(book, {}, { KWD: '0.391' }), preparePrices(book, { KWD: rule('0') }, {})]) {
      const fields = { price: '24.50' };
      expect(f(fields)).toEqual({});
      expect(fields).toEqual({ price: '24.50' });
    }
  });
});
