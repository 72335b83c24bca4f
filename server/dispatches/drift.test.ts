// What the market shows otherwise than it took: found by its shelf list, sent again or taken over.
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type House, openHouse, takeBack, until } from '../tests/house';
import { openSending } from '../tests/sending';

let house: House, sending: ReturnType<typeof openSending>;
beforeAll(async () => {
  house = await openHouse('drift_test', { size: 120 });
  sending = openSending(house, 'quillhaven');
});
afterAll(() => house.close());

interface Drifted {
  total: number;
  rows: {
    listingId: number;
    sku: string;
    fields: { field: string; label: string; shows: string; took: string; ours: string }[];
  }[];
}
const m = '/markets/quillhaven';
const drift = async () => (await house.call<Drifted>('GET', `${m}/drift`)).body;
const settle = (ids: readonly number[], how: 'ours' | 'theirs') =>
  house.call<{ settled: number; changeSet: number | null; code?: string }>('POST', `${m}/drift`, { ids, how });
/** Somebody changes an entry on the market’s own pages. */
const reprice = async (sku: string, cells: { price?: string; pieces?: string }) => {
  const { url } = (await house.call<{ url: string }>('GET', m)).body;
  const r = await fetch(`${url}/_control/reprice`, {
    method: 'POST',
    headers: { 'content-type': 'text/plain' },
    body: JSON.stringify({ sku, ...cells }),
  });
  expect(r.status).toBe(200);
};
const open = () => sending;
const becomes = async (total: number) => {
  await open().look();
  return until(drift, (d) => d.total === total);
};
const pick = async (n: number) => {
  const items = await open().loadItems(
    `l.market_state = 'live' and l.in_flight = 0 and l.planned = '[]' and l.drift is null and p.kind = 'variant'
      and (l.accepted_stock ->> 'quantity')::int > 3 and (l.accepted_price ->> 'price')::numeric > 5`,
  );
  expect(items.length).toBeGreaterThanOrEqual(n);
  return items.slice(0, n);
};
const today = async () =>
  (await house.call<{ today: { kind: string; count: number }[] }>('GET', '/overview')).body.today.find(
    (t) => t.kind === 'drift',
  );

describe('what a market shows otherwise than it took', () => {
  it('is a price that somebody changed there and stock that is more; less stock was sold', async () => {
    const [dear, more, less] = await pick(3);
    await reprice(dear!.sku, { price: '3.33' });
    await reprice(more!.sku, { pieces: '444' });
    await reprice(less!.sku, { pieces: '1' });
    const found = await becomes(2);
    const of = (sku: string) => found.rows.find((r) => r.sku === sku)?.fields;
    expect(of(dear!.sku)).toEqual([
      { field: 'price', label: 'Price', shows: '3.33', took: dear!.values['price'], ours: dear!.values['price'] },
    ]);
    expect(of(more!.sku)).toMatchObject([{ field: 'quantity', shows: '444' }]);
    expect(await today()).toMatchObject({ count: 2 });
    // It is put right there by itself: nothing is shown otherwise any more.
    await reprice(more!.sku, { pieces: more!.values['quantity']! });
    expect((await becomes(1)).rows[0]!.sku).toBe(dear!.sku);
  });
  it('goes again as we hold it, and is settled once the market has taken it', async () => {
    const [{ listingId: id, sku } = { listingId: 0, sku: '' }] = (await drift()).rows;
    expect((await settle([id], 'ours')).body).toEqual({ settled: 1, changeSet: null });
    expect((await drift()).total).toBe(0);
    const rows = (
      await house.call<{ rows: { listingId: number; differences: { before: string; after: string }[] }[] }>(
        'GET',
        `${m}/plan/price?ids=${id}`,
      )
    ).body.rows;
    const [item] = await open().loadItems('l.id = ?', id);
    expect(rows[0]!.differences).toMatchObject([{ before: '3.33', after: item!.values['price'] }]);
    // Seen again before it is sent: it shows what we know that it shows.
    await reprice(sku, {});
    await open().look();
    expect((await drift()).total).toBe(0);
    expect(await open().send('price', [id])).toMatchObject({ state: 'answered', accepted: 1 });
    expect(await house.rows('select planned, drift from listings where id = ?', [id])).toEqual([
      { planned: [], drift: null },
    ]);
    expect((await settle([id], 'ours')).body.code).toBe('not-now');
  });
  it('is taken over as a change that can be taken back, prices alone', async () => {
    const [one] = await pick(1);
    const price = one!.values['price']!;
    const theirs = (Number(price) + 1).toFixed(2);
    await reprice(one!.sku, { price: theirs, pieces: '444' });
    expect((await becomes(1)).rows[0]!.fields).toHaveLength(2);
    const { body } = await settle([one!.id], 'theirs');
    expect(body).toMatchObject({ settled: 1 });
    const values = async () => (await open().loadItems('l.id = ?', one!.id))[0]!.values;
    expect(await values()).toMatchObject({ price: theirs, quantity: one!.values['quantity'] });
    const planned = async () =>
      (
        await house.rows<{ planned: { operation: string }[] }>('select planned from listings where id = ?', [one!.id])
      )[0]!.planned;
    // The price stands there already; the stock is ours to say.
    expect((await planned()).map((p) => p.operation)).toEqual(['stock']);
    await takeBack(house, body.changeSet!);
    expect((await values())['price']).toBe(price);
    expect((await planned()).map((p) => p.operation).sort()).toEqual(['price', 'stock']);
  });
  it('is nothing of an entry that is there no more', async () => {
    const [one] = await pick(1);
    await reprice(one!.sku, { price: '4.44' });
    await becomes(1);
    await house.call('POST', `${m}/listings/wish`, { ids: [one!.id], wish: 'withdraw' });
    expect(await open().send('withdraw', [one!.id])).toMatchObject({ state: 'answered', accepted: 1 });
    await becomes(0);
  });
});
