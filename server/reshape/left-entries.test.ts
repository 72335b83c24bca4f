// Items that were on a market and leave the catalog: what is known of them stays, and is theirs when they come again.
import type { RemovalCounts } from '@basileus/contract';
import { everyItem } from '@basileus/core/choose';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { refreshProducts } from '../listings';
import { insertProducts, loadProductRows, noteLeftEntries, toFields } from '../products';
import { type House, openHouse, takeBack, until } from '../tests/house';
import { type Item, openSending } from '../tests/sending';

let house: House;
let cedarpost: ReturnType<typeof openSending>;
beforeAll(async () => {
  house = await openHouse('left_entries_test', { size: 160, with: ['cedarpost', 'torgvik'] });
  cedarpost = openSending(house, 'cedarpost');
});
afterAll(() => house.close());

const of = (item: Item) => ({ which: { ...everyItem, ids: [item.product_id] } });
const look = async (item: Item) => (await house.call<RemovalCounts>('POST', '/items/removal/look', of(item))).body;
/** Takes an item out and waits until that is done; answers the change. */
const remove = async (item: Item): Promise<number> => {
  const { body } = await house.call<{ changeSet: number }>('POST', '/items/removal', of(item));
  await until(
    () => house.rows('select id from change_sets where id = ? and not is_done', [body.changeSet]),
    (rows) => rows.length === 0,
  );
  return body.changeSet;
};
const become = (item: Item, state: string) =>
  until(
    () => cedarpost.loadItems('p.sku = ?', item.sku),
    ([row]) => row?.market_state === state,
  );
/** An item that stands nowhere but on Cedarpost, live there. */
async function takeLive(): Promise<Item> {
  const [item] = await cedarpost.loadItems(
    `l.market_state = 'live' and l.in_flight = 0 and l.category is not null and p.kind in ('single', 'variant')
      and not exists (select 1 from bundle_parts b where b.part_id = p.id)`,
  );
  await house.db.raw(
    `update listings set market_state = 'none', number = null where product_id = ? and id <> ? and in_flight = 0`,
    [item!.product_id, item!.id],
  );
  await house.db.raw(
    'delete from standings where listing_id in (select id from listings where product_id = ? and id <> ?)',
    [item!.product_id, item!.id],
  );
  return item!;
}
async function withdraw(item: Item): Promise<number> {
  await house.call('POST', '/markets/cedarpost/listings/wish', { ids: [item.id], wish: 'withdraw' });
  const { id } = await cedarpost.send('withdraw', [item.id]);
  await become(item, 'withdrawn');
  return id;
}
const knownOf = (sku: string) =>
  house.rows<Record<string, unknown>>(
    `select m.key, l.market_state, l.number, l.accepted_details, l.accepted_price, l.accepted_stock, l.planned,
        (select jsonb_agg(to_jsonb(s) - 'listing_id' order by s.site) from standings s where s.listing_id = l.id) as standings
      from listings l join products p on p.id = l.product_id join markets m on m.id = l.market_id where p.sku = ? order by m.key`,
    [sku],
  );

describe('an item that was withdrawn', () => {
  it('stays while it is live, goes afterwards, and its lines can still be read', async () => {
    const item = await takeLive();
    expect((await look(item)).stays).toEqual([{ why: 'sent', count: 1, skus: [item.sku] }]);
    const dispatch = await withdraw(item);
    expect(await look(item)).toMatchObject({ total: 1, withPast: 1, stays: [] });
    const known = await knownOf(item.sku);
    expect(known.find((k) => k['key'] === 'cedarpost')).toMatchObject({
      market_state: 'withdrawn',
      number: expect.stringMatching(/^G\d/) as string,
    });
    const set = await remove(item);
    expect(await cedarpost.loadItems('p.sku = ?', item.sku)).toEqual([]);
    expect(await cedarpost.linesOf(dispatch)).toMatchObject([{ sku: item.sku, listingId: null, state: 'accepted' }]);
    // Taken back, it is as it was: the market's number, what it took last, and the lines.
    await takeBack(house, set);
    expect(await knownOf(item.sku)).toEqual(known);
    const [back] = await cedarpost.loadItems('p.sku = ?', item.sku);
    expect(await cedarpost.linesOf(dispatch)).toMatchObject([{ sku: item.sku, listingId: back!.id }]);
  });
  it('is known there when its SKU is added anew, and is put back instead of made twice', async () => {
    const item = await takeLive();
    await withdraw(item);
    const [row] = await loadProductRows(house.db, 'p.id = ?', [item.product_id]);
    const { sku, parent_sku: _, ...fields } = toFields(row!);
    const listed = await house.rows<{ category: string }>('select category from listings where id = ?', [item.id]);
    await remove(item);
    const [added] = await insertProducts(house.db, [
      { sku: item.sku, kind: 'single', parentSku: null, axes: [], fields: { ...fields, title: 'Come again' } },
    ]);
    await house.db.raw('update listings set category = ? where product_id = ?', [listed[0]!.category, added!.id]);
    await refreshProducts(house.db, [added!.id]);
    const [again] = await become(item, 'withdrawn');
    expect(again).toMatchObject({ sku, product_id: added!.id });
    const planned = await house.rows<{ planned: object[] }>('select planned from listings where id = ?', [again!.id]);
    expect(planned).toEqual([{ planned: [] }]);
    await house.call('POST', '/markets/cedarpost/listings/wish', { ids: [again!.id], wish: 'restore' });
    expect(await cedarpost.send('restore', [again!.id])).toMatchObject({ accepted: 1, refused: 0 });
    await become(item, 'live');
    expect(await house.rows('select sku from left_entries where sku = ?', [item.sku])).toEqual([]);
  });
  it('comes again as the market has shown it meanwhile', async () => {
    const item = await takeLive();
    await withdraw(item);
    await remove(item);
    const [market] = await house.rows<{ id: number }>(`select id from markets where key = 'cedarpost'`);
    await noteLeftEntries(house.db, market!.id, [
      { sku: item.sku, state: 'live', number: '', reason: '' },
      { sku: 'SOMEBODY-ELSE', state: 'live', number: '', reason: '' },
    ]);
    await house.call('POST', '/products', { sku: item.sku, title: 'Come again' });
    await become(item, 'live');
  });
});

it('stands at one site still: an item stays for it', async () => {
  const item = await takeLive();
  await withdraw(item);
  const [other] = await house.rows<{ id: number }>(
    `select l.id from listings l join markets m on m.id = l.market_id where m.key = 'torgvik' and l.product_id = ?`,
    [item.product_id],
  );
  await house.db.raw(`update listings set market_state = 'withdrawn' where id = ?`, [other!.id]);
  await house.db.raw(
    `insert into standings (listing_id, site, market_state) values (?, 'no', 'live'), (?, 'fi', 'withdrawn')`,
    [other!.id, other!.id],
  );
  expect((await look(item)).total).toBe(0);
  await house.db.raw(`update standings set market_state = 'withdrawn' where listing_id = ?`, [other!.id]);
  const known = await knownOf(item.sku);
  const set = await remove(item);
  await takeBack(house, set);
  expect(await knownOf(item.sku)).toEqual(known);
});

it('was refused and never mended: nothing of it is left to mend', async () => {
  const item = await takeLive();
  await withdraw(item);
  const [line] = await house.rows<{ dispatch_id: number }>(
    `update dispatch_lines set state = 'refused' where listing_id = ? returning dispatch_id`,
    [item.id],
  );
  await remove(item);
  const { rows } = (
    await house.call<{ rows: { id: number; mended: number }[] }>('GET', '/dispatches?market=cedarpost&limit=100')
  ).body;
  expect(rows.find((d) => d.id === line!.dispatch_id)).toMatchObject({ mended: 0 });
  expect(
    await house.rows(
      `select 1 as x from dispatch_lines where dispatch_id = ? and sku = ? and state = 'refused' and not resent`,
      [line!.dispatch_id, item.sku],
    ),
  ).toEqual([]);
});

it('is put into a file while it is about to be taken out: it stays', async () => {
  const item = await takeLive();
  await withdraw(item);
  // Somebody who makes a file has put it in, and is not done yet.
  const maker = await house.db.transaction();
  await maker.raw('update listings set in_flight = in_flight + 1 where id = ?', [item.id]);
  const { body } = await house.call<{ changeSet: number }>('POST', '/items/removal', of(item));
  await until(
    () =>
      house.rows(
        `select 1 as x from pg_stat_activity where wait_event_type = 'Lock' and query like 'select id from listings%'`,
      ),
    (rows) => rows.length > 0,
  );
  await maker.commit();
  await until(
    () => house.rows('select 1 as x from change_sets where id = ? and not is_done', [body.changeSet]),
    (rows) => rows.length === 0,
  );
  expect((await cedarpost.loadItems('p.sku = ?', item.sku)).map((r) => r.id)).toEqual([item.id]);
  expect(
    await house.rows('select 1 as x from dispatch_lines where listing_id is null and sku = ?', [item.sku]),
  ).toEqual([]);
});
