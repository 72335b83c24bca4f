// Reductions announced in the European Union: from the lowest price of the thirty days before (Directive 98/6/EC, article 6a).
import { describe, expect, it } from 'vitest';
import type { PricesFrom } from '../../pricing';
import { compileCategory, parseRulebook } from '../../rulebook';
import { listing, smallDocument } from '../../tests/builders';
import { getCheck, mend, prepareChecks } from '..';

const judgeIn = (country: string) => {
  const document = smallDocument() as { sites: { country: string }[] };
  document.sites[0]!.country = country;
  const reading = parseRulebook(document);
  if (!reading.ok) throw new Error(JSON.stringify(reading.faults));
  return prepareChecks(compileCategory(reading.rulebook, 'pans')!, (id) => id === 'prior-price');
};
const judge = judgeIn('DE');
const sale = { price: '40', sale_price: '30', sale_start: '2026-11-27' };
const at = (day: string, price: string, more: object = {}): PricesFrom => ({
  from: `2026-${day}T10:00:00Z`,
  prices: { price, ...more },
});
const said = (history: PricesFrom[], values: Record<string, string> = sale, look = judge) =>
  look(listing(values), { pricesFrom: history }).map((f) => [f.message, f.field, f.value, f.params]);

describe('a sale in the European Union', () => {
  it('is reduced from a price that was asked for thirty days', () => {
    expect(said([at('09-01', '40')])).toEqual([]);
    expect(said([at('09-01', '45')])).toEqual([]);
    expect(said([])).toEqual([]);
    expect(judge(listing(sale), {})).toEqual([]);
  });
  it('is not reduced from a price that was raised shortly before', () => {
    const raised = ['raised', 'price', '40', { start: '2026-11-27', lowest: '35' }];
    expect(said([at('09-01', '35'), at('11-20', '40')])).toEqual([raised]);
    // Thirty days before, to the hour: the 28th of October.
    expect(said([at('09-01', '35'), at('10-28', '40')])).toEqual([raised]);
    expect(said([at('09-01', '35'), at('10-27', '40')])).toEqual([]);
    expect(said([at('10-01', '40'), at('11-10', '35'), at('11-12', '40')])).toEqual([raised]);
  });
  it('is none where the item was sold for as little', () => {
    expect(said([at('09-01', '30'), at('11-20', '40')])).toEqual([
      ['noReduction', 'sale_price', '30', { start: '2026-11-27', lowest: '30' }],
    ]);
  });
  it('is compared with earlier sales, but not with itself', () => {
    const earlier = { sale_price: '32', sale_start: '2026-11-01', sale_end: '2026-11-05' };
    expect(said([at('09-01', '40'), at('10-30', '40', earlier)])).toEqual([
      ['raised', 'price', '40', { start: '2026-11-27', lowest: '32' }],
    ]);
    const long = { ...earlier, sale_start: '2026-10-01', sale_end: '2026-10-27' };
    expect(said([at('09-01', '40', long)])).toEqual([]);
    expect(said([at('09-01', '40'), at('11-20', '40', { sale_price: '30', sale_start: '2026-11-27' })])).toEqual([]);
  });
  it('counts no price of a time in which it was not sold', () => {
    expect(said([at('09-01', '20'), { from: '2026-10-01T00:00:00Z', prices: null }, at('11-01', '40')])).toEqual([]);
  });
  it('is judged there alone', () => {
    for (const country of ['GB', 'US', 'JP', 'KW', 'NO'])
      expect(said([at('09-01', '35'), at('11-20', '40')], sale, judgeIn(country))).toEqual([]);
    expect(said([at('09-01', '35'), at('11-20', '40')], sale, judgeIn('SE'))).toHaveLength(1);
  });
  it('says nothing of what another check says: no start, no lower price, no price', () => {
    const history = [at('09-01', '20')];
    expect(said(history, { price: '40', sale_price: '30' })).toEqual([]);
    expect(said(history, { ...sale, sale_price: '40' })).toEqual([]);
    expect(said(history, { ...sale, price: 'dear' })).toEqual([]);
    expect(said(history, { ...sale, sale_start: 'soon' })).toEqual([]);
  });
  it('is settled by what it proposes', () => {
    const mended = (history: PricesFrom[]) => {
      const { values, findings } = mend(judge, listing(sale), { pricesFrom: history }, () => true);
      expect(findings).toEqual([]);
      return [values['price'], values['sale_price']];
    };
    expect(mended([at('09-01', '35'), at('11-20', '40')])).toEqual(['35', '30']);
    expect(mended([at('09-01', '30'), at('11-20', '40')])).toEqual(['40', undefined]);
  });
  it('names its source', () => {
    expect(getCheck('prior-price')!.docs.source).toContain('98/6/EC');
  });
});
