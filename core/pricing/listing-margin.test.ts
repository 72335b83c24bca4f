// What is left of a listing's prices, against the arithmetic beside (`computeMargin`, whose worked example is common practice of
// the trade), which divides and may be off by the last of forty digits.
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compileCategory, type Rulebook } from '../rulebook';
import { pans, smallRulebook } from '../tests/builders';
import { fairRulebook } from '../tests/fair';
import { computeMargin, countMarginBands, findFees, marginEdges, prepareListingMargin } from '.';

const marginOf = prepareListingMargin(pans);
const row = (values: Record<string, string>, more: object = {}) => ({
  role: 'single' as const,
  cost: '10',
  values,
  ...more,
});

describe('the margin of a listing', () => {
  const cents = (n: number): string => (n / 100).toFixed(2);
  const tiers = fc.constantFrom(
    [{ rate: '0.15' }],
    [{ upTo: '10', rate: '0.08' }, { upTo: '40', rate: '0.15' }, { rate: '0.05' }],
    [],
  );
  const terms = fc.record({
    tiers,
    minimum: fc.constantFrom(undefined, '0.30', '2'),
    fixed: fc.constantFrom('0', '0.35'),
    payment: fc.constantFrom('0', '0.029'),
    includes: fc.constantFrom('tax', 'no-tax'),
  });
  it('is the exact one rounded down to a thousandth, whatever the fees, the price and the cost', () => {
    fc.assert(
      fc.property(
        terms,
        fc.integer({ min: 1, max: 30_000 }),
        fc.integer({ min: 0, max: 12_000 }),
        ({ tiers, minimum, fixed, payment, includes }, price, cost) => {
          const small = smallRulebook();
          const book = {
            ...small,
            fees: [{ tiers, minimum, fixed, paymentRate: payment }],
            sites: small.sites.map((s) => ({ ...s, pricesInclude: includes })),
            offers: small.offers.map((o) => ({ ...o, site: { ...o.site, pricesInclude: includes } })),
          } as unknown as Rulebook;
          const category = { ...pans, rulebook: book };
          const exactly = computeMargin({
            price: cents(price),
            cost: cents(cost),
            ...findFees(book, 'pans', '0', book.offers[0]!.site),
          })
            .margin.times(1000)
            .plus('1e-25')
            .floor()
            .toNumber();
          expect(prepareListingMargin(category)(row({ price: cents(price) }, { cost: cents(cost) }), undefined)).toBe(
            Math.max(-9999, exactly),
          );
        },
      ),
      { numRuns: 400 },
    );
  });
  it('is nothing where nothing is left, and under it with a penny less', () => {
    // No fees and a tax of a fifth: 12.00 leaves 10.00 without it.
    const book = { ...smallRulebook(), fees: [] } as Rulebook;
    const free = prepareListingMargin({ ...pans, rulebook: book });
    expect(free(row({ price: '12.00' }), undefined)).toBe(0);
    expect(free(row({ price: '11.99' }), undefined)).toBe(-1);
    // A third of what is taken is 333.3 thousandths; a tenth of it exactly a hundred.
    expect(free(row({ price: '18.00' }), undefined)).toBe(333);
    expect(free(row({ price: '12.00' }, { cost: '9.00' }), undefined)).toBe(100);
    expect(free(row({ price: '0.01' }), undefined)).toBe(-9999);
    // Hardly under a thousandth, and hardly over it: a million is taken.
    expect(free(row({ price: '1200000' }, { cost: '855000.0001' }), undefined)).toBe(144);
    expect(free(row({ price: '1200000' }, { cost: '855000' }), undefined)).toBe(145);
    expect(free(row({ price: '1200000' }, { cost: '854999.9999' }), undefined)).toBe(145);
    expect(free(row({ price: '12' }, { cost: '109.99' }), undefined)).toBe(-9999);
    expect(free(row({ price: '12' }, { cost: '109.98' }), undefined)).toBe(-9998);
  });
  it('that is a whole thousandth is that, though dividing comes out under it', () => {
    // 160.00 with a fifth of tax, 17.9 % and 0.30: 133.3333 … less 28.94 less 85.06 is 19.3333 …, of which 0.145 is exactly the share.
    const given = { price: '160.00', cost: '85.06', ...findFees(pans.rulebook, 'pans') };
    expect(computeMargin(given).margin.lt('0.145')).toBe(true);
    expect(marginOf(row({ price: '160.00' }, { cost: '85.06' }), undefined)).toBe(145);
    expect(marginOf(row({ price: '159.99' }, { cost: '85.06' }), undefined)).toBe(144);
  });
  it('is that of the sale price where there is one', () => {
    const whole = marginOf(row({ price: '30' }), undefined)!,
      sale = marginOf(row({ price: '30', sale_price: '20' }), undefined)!;
    expect(sale).toBeLessThan(whole);
    expect(sale).toBe(marginOf(row({ price: '20' }), undefined));
    // What is no price, or nothing, is none.
    expect(marginOf(row({ price: '30', sale_price: 'soon' }), undefined)).toBe(whole);
    expect(marginOf(row({ price: '30', sale_price: '0' }), undefined)).toBe(whole);
  });
  it('is the least of all sites at which the item is sold, each with its rate and fees', () => {
    const category = compileCategory(
      fairRulebook(),
      fairRulebook().tree.find((n) => !fairRulebook().tree.some((m) => m.parent === n.key))!.key,
    )!;
    const fair = prepareListingMargin(category);
    const [de, se] = category.rulebook.offers;
    const rates = { EUR: '1.15', SEK: '13' };
    const at = (euro: string | undefined, krona: string | undefined) =>
      fair(row({ ...(euro ? { [de!.price]: euro } : {}), ...(krona ? { [se!.price]: krona } : {}) }), rates);
    const dear = at('40', undefined)!,
      cheap = at(undefined, '200')!;
    expect(cheap).toBeLessThan(dear);
    expect(at('40', '200')).toBe(cheap);
    expect(at('40', '2000')).toBe(dear);
    // A site whose currency has no rate is passed over.
    expect(fair(row({ [de!.price]: '40', [se!.price]: '200' }), { EUR: '1.15' })).toBe(dear);
    expect(fair(row({ [de!.price]: '40', [se!.price]: '200' }), undefined)).toBeUndefined();
  });
  it('is not known of a family, without a cost, and without a price', () => {
    expect(marginOf(row({ price: '30' }), undefined)).toBeTypeOf('number');
    expect(marginOf(row({ price: '30' }, { role: 'parent' }), undefined)).toBeUndefined();
    expect(marginOf(row({ price: '30' }, { cost: undefined }), undefined)).toBeUndefined();
    expect(marginOf(row({}), undefined)).toBeUndefined();
    expect(marginOf(row({ price: '0' }), undefined)).toBeUndefined();
  });
});

describe('bands of margins', () => {
  it('begin at their edge and end before the next', () => {
    expect(marginEdges.toSorted((a, b) => a - b)).toEqual([...marginEdges]);
    expect(
      countMarginBands([
        [-9999, 1],
        [-1, 2],
        [0, 4],
        [99, 8],
        [100, 16],
        [299, 32],
        [300, 64],
        [399, 1000],
        [400, 128],
        [950, 256],
      ]),
    ).toEqual([3, 12, 16, 32, 1064, 384]);
    expect(countMarginBands([])).toEqual([0, 0, 0, 0, 0, 0]);
  });
});
