// How items stand on all markets: what the board of items shows, and what it is narrowed by.
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type House, openHouse } from '../tests/house';

let house: House;
interface Standing {
  product: number;
  market: string;
  listing: number;
  state: string;
  price: string | null;
  margin: number | null;
  finding: { check: string; level: string; field: string } | null;
}
beforeAll(async () => {
  house = await openHouse('standings_test', { size: 120, with: ['torgvik', 'wadiline'], worker: false });
});
afterAll(() => house.close());
const standingsOf = async (ids: readonly number[]) =>
  (await house.call<{ rows: Standing[] }>('GET', `/products/standings?ids=${ids.join(',')}`)).body.rows;
const list = async (query: string) =>
  (await house.call<{ total: number; rows: { id: number; sku: string }[] }>('GET', `/products?${query}`)).body;

describe('how items stand', () => {
  it('is told of each market where they have a listing, with its price and what is worst', async () => {
    const { rows: products } = await list('open=all&limit=200');
    const standings = await standingsOf(products.map((p) => p.id));
    expect(new Set(standings.map((s) => s.market))).toEqual(new Set(['quillhaven', 'torgvik', 'wadiline']));
    for (const { market, product, listing, state, price, margin, finding } of standings.filter(
      (_, i) => i % 17 === 0,
    )) {
      const { body } = await house.call<{
        productId: number;
        state: string;
        margin: number | null;
        values: Record<string, string>;
        findings: { check: string; level: string; field: string }[];
      }>('GET', `/markets/${market}/listings/${listing}`);
      const field = { quillhaven: 'price', torgvik: 'pris@de', wadiline: 'price' }[market]!;
      expect([body.productId, body.state, body.values[field] ?? null, body.margin]).toEqual([
        product,
        state,
        price,
        margin,
      ]);
      const worst =
        body.findings.find((f) => f.level === 'blocker') ?? body.findings.find((f) => f.level === 'caution');
      expect(finding).toEqual(worst ?? null);
    }
    expect(standings.filter((s) => s.finding?.level === 'blocker').length).toBeGreaterThan(5);
    expect(standings.filter((s) => s.price !== null).length).toBeGreaterThan(20);
    expect(standings.filter((s) => s.margin !== null).length).toBeGreaterThan(20);
  });
  it('names nobody who is not asked for', async () => {
    const { rows } = await list('limit=1');
    expect(new Set((await standingsOf([rows[0]!.id])).map((s) => s.product))).toEqual(new Set([rows[0]!.id]));
    expect(await standingsOf([])).toEqual([]);
  });
  it('narrows the catalog to a state on one market, or on any', async () => {
    const countOf = async (market: string | undefined) =>
      (
        await house.rows<{ n: number }>(
          `select count(distinct l.product_id) as n from listings l join markets m on m.id = l.market_id
            where l.market_state = 'live' and l.in_flight = 0 and coalesce(m.key = ?, true)`,
          [market ?? null],
        )
      )[0]!.n;
    const there = await list('state=live&on=torgvik');
    expect(there.total).toBe(await countOf('torgvik'));
    expect(there.total).toBeGreaterThan(3);
    const anywhere = await list('state=live');
    expect(anywhere.total).toBe(await countOf(undefined));
    expect(anywhere.total).toBeGreaterThan(there.total);
    expect((await list('state=live&on=nowhere')).total).toBe(0);
    expect((await list('on=torgvik')).total).toBe((await list('')).total);
    expect((await house.call('GET', '/products?state=asleep')).status).toBe(400);
  });
});
