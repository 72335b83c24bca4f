// What each market shows otherwise than it took, read from a shelf list in its own layout: bars of text by country, JSON, XML in a
// folder, text in Shift_JIS with an item a line.
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type House, openHouse, until } from '../tests/house';
import { openSending } from '../tests/sending';

const markets = ['torgvik', 'cedarpost', 'wadiline', 'lumbara'] as const;
let house: House;
const sendings = new Map<string, ReturnType<typeof openSending>>();
beforeAll(async () => {
  house = await openHouse('drift_there_test', { size: 200, with: markets });
  for (const m of markets) sendings.set(m, openSending(house, m));
});
afterAll(() => house.close());

interface Field {
  field: string;
  shows: string;
  took: string;
}
const drift = async (market: string) =>
  (
    await house.call<{ total: number; rows: { listingId: number; sku: string; fields: Field[] }[] }>(
      'GET',
      `/markets/${market}/drift`,
    )
  ).body;
/** Somebody changes it on the pages of the market. */
const change = async (market: string, what: object) => {
  const r = await fetch(`${house.standIns[market]!}/_control/reprice`, { method: 'POST', body: JSON.stringify(what) });
  expect([r.status, await r.text()]).toEqual([200, '{}']);
};

/** Fields of price and stock, and the places of a price. */
const cases = {
  torgvik: { price: 'pris@se', stock: 'antal', places: 2 },
  cedarpost: { price: 'ask', stock: 'on_hand', places: 2 },
  wadiline: { price: 'price', stock: 'pieces', places: 3 },
  lumbara: { price: 'ne', stock: 'nokori', places: 0 },
} as const;

describe.each(markets)('on %s', (market) => {
  const { price, stock, places } = cases[market];
  const { look, loadItems, send } = {
    look: () => sendings.get(market)!.look(),
    loadItems: (where: string, ...bindings: unknown[]) => sendings.get(market)!.loadItems(where, ...bindings),
    send: (operation: string, ids: readonly number[]) => sendings.get(market)!.send(operation, ids),
  };
  const pick = async () => {
    const items = await loadItems(
      `l.market_state = 'live' and l.in_flight = 0 and l.planned = '[]' and p.kind = 'variant'
        and (l.accepted_price ->> '${price}')::numeric > 1 and (l.accepted_stock ->> '${stock}')::int > 3`,
    );
    expect(items.length).toBeGreaterThan(2);
    return items[1]!;
  };
  it('nothing drifts that the market shows as it took it, whatever its layout', async () => {
    const item = await pick();
    // All that is there is told anew.
    const { price: was, stock: had } = { price: item.values[price]!, stock: item.values[stock]! };
    await change(market, { sku: item.sku, site: 'se', price: was, pieces: had });
    await look();
    expect(await drift(market)).toMatchObject({ total: 0 });
    const [seen] = await house.rows<{ n: number }>(
      `select count(*)::int as n from listings l join markets m on m.id = l.market_id where m.key = ? and l.market_state = 'live'`,
      [market],
    );
    expect(seen!.n).toBeGreaterThan(10);
  });
  it('a price that is another and stock that is more do, and go again as they are here', async () => {
    const item = await pick();
    // Near enough that the way back waits for nobody.
    const other = (Number(item.values[price]) * 0.95).toFixed(places);
    await change(market, { sku: item.sku, site: 'se', price: other, pieces: '444' });
    await look();
    const found = await until(
      () => drift(market),
      (d) => d.total > 0,
    );
    expect(found.rows.map((r) => r.sku)).toEqual([item.sku]);
    expect(found.rows[0]!.fields.toSorted((a) => (a.field === price ? -1 : 1))).toMatchObject([
      { field: price, shows: expect.toSatisfy((p) => Number(p) === Number(other)), took: item.values[price] },
      { field: stock, shows: '444', took: item.values[stock] },
    ]);
    const { listingId } = found.rows[0]!;
    await house.call('POST', `/markets/${market}/drift`, { ids: [listingId], how: 'ours' });
    expect((await drift(market)).total).toBe(0);
    for (const operation of ['price', 'stock']) {
      const due = await loadItems(`l.id = ? and l.planned @> '[{"operation": "${operation}"}]'`, listingId);
      if (due.length > 0) expect(await send(operation, [listingId])).toMatchObject({ state: 'answered', refused: 0 });
    }
    await look();
    expect((await drift(market)).total).toBe(0);
    expect((await loadItems('l.id = ?', listingId))[0]!.values).toMatchObject({
      [price]: item.values[price],
      [stock]: item.values[stock],
    });
    expect(await loadItems(`l.id = ? and l.planned <> '[]'`, listingId)).toEqual([]);
  });
});
