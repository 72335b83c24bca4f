// Stock that is shared out among markets: each is told its part, and all together no more than there is.
import { shareOut } from '@basileus/core/stock';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type House, openHouse, until } from '../tests/house';

let house: House;
beforeAll(async () => {
  house = await openHouse('sharing_test', { size: 60, with: ['torgvik', 'cedarpost'] });
});
afterAll(() => house.close());

const markets = ['quillhaven', 'torgvik', 'cedarpost'] as const;
const weigh = async (weights: (number | null)[], extra: object = {}) => {
  for (const [i, market] of markets.entries()) {
    const { settings } = (await house.call<{ settings: object }>('GET', `/markets/${market}`)).body;
    const r = await house.call('PATCH', `/markets/${market}`, {
      settings: { ...settings, buffer: 0, least: 0, ...extra, weight: weights[i] ?? null },
    });
    expect(r.status).toBe(200);
  }
};
/** What each market is told of an item, by our planned values. */
const told = async (product: number) =>
  (
    await house.rows<{ key: string; fresh: boolean; pieces: string }>(
      `select m.key, l.market_revision >= m.checks_from and l.market_revision > 0 as fresh,
          l."values" ->> (b.document -> 'roles' ->> 'quantity') as pieces
        from listings l join markets m on m.id = l.market_id join rulebooks b on b.id = m.rulebook_id
        where l.product_id = ? order by m.id`,
      [product],
    )
  ).map((r) => (r.fresh ? Number(r.pieces) : null));
const becomes = (product: number, parts: (number | null)[]) =>
  until(
    () => told(product),
    (now) => parts.every((p, i) => p === null || now[i] === p),
  );
const item = async () => {
  const [found] = await house.rows<{ id: number; stock: number }>(
    `select p.id, s.on_hand as stock from products p join stock s on s.product_id = p.id
      where p.kind = 'variant' and s.reserved = 0 and s.on_hand between 7 and 90
        and not exists (select 1 from listings l where l.product_id = p.id and (l.category is null or l.in_flight > 0 or l.market_state <> 'none'))
      order by p.id limit 1`,
  );
  expect(found).toBeDefined();
  return found!;
};

describe('stock that is shared out', () => {
  it('is all of it on each market before anybody says otherwise, at most what is said', async () => {
    const { id, stock } = await item();
    await weigh([]);
    await becomes(id, [stock, stock, stock]);
    await weigh([], { most: 5 });
    await becomes(id, [5, 5, 5]);
    await weigh([], { most: null });
    await becomes(id, [stock, stock, stock]);
  });
  it('is each market’s part by its weight, and the whole where a market has none', async () => {
    const { id, stock } = await item();
    await weigh([3, 1, null]);
    const [most, rest] = shareOut(stock, [3, 1]);
    await becomes(id, [most!, rest!, stock]);
    expect((await house.call('GET', '/markets/cedarpost')).body).toMatchObject({
      sharing: [
        { key: 'quillhaven', weight: 3 },
        { key: 'torgvik', weight: 1 },
      ],
    });
  });
  it('is shared anew where the item is left out of a market, wanted there again, or sold', async () => {
    const { id, stock } = await item();
    await weigh([1, 1, 1]);
    await becomes(id, shareOut(stock, [1, 1, 1]));
    const want = (wanted: boolean) =>
      house.call('POST', '/markets/torgvik/listings/wanted', { products: [id], wanted, ids: [], own: null, sites: [] });
    expect((await want(false)).status).toBe(200);
    const [first, last] = shareOut(stock, [1, 1]);
    await becomes(id, [first!, null, last!]);
    expect((await want(true)).status).toBe(200);
    await becomes(id, shareOut(stock, [1, 1, 1]));
    const changed = await house.call('PATCH', '/products', {
      cells: [{ id, field: 'stock', before: String(stock), after: '4' }],
    });
    expect(changed.status).toBe(200);
    await becomes(id, shareOut(4, [1, 1, 1]));
  });
  it('is shared among those that are left where a market is removed', async () => {
    const { id, stock } = await item();
    await weigh([1, 1, 2]);
    await becomes(id, shareOut(stock, [1, 1, 2]));
    expect((await house.call('DELETE', '/markets/cedarpost?name=Cedarpost')).status).toBe(200);
    await becomes(id, shareOut(stock, [1, 1]));
  });
});
