// A change costs by the markets that it is of: who reads nothing of what was changed is not asked again.
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { loadCorrespondences, loadMarket } from '../markets';
import { type House, openHouse } from '../tests/house';
import { passOver, refreshStale } from './stale';

let house: House;
beforeAll(async () => {
  house = await openHouse('pass_over_test', { size: 120, with: ['torgvik'], worker: false });
});
afterAll(async () => {
  await house.close();
});

/** Three items of three families that are on both markets, their listings marked as nobody who judges them would leave them. */
let ids: number[] = [];
beforeEach(async () => {
  for (const key of ['quillhaven', 'torgvik']) await refreshStale(house.db, key, () => Promise.resolve());
  ids = (
    await house.rows<{ id: number }>(
      `select distinct on (coalesce(parent_id, id)) id from products p where kind in ('single', 'variant') and price is not null
          and (select count(*) from listings l where l.product_id = p.id and l.category is not null) = 2
        order by coalesce(parent_id, id), id limit 3`,
    )
  ).map((r) => r.id);
  expect(ids).toHaveLength(3);
  await house.db.raw(`update listings set findings_digest = 'old' where product_id = any(?)`, [ids]);
});
const change = (set: string, which = ids) =>
  house.db.raw(`update products set ${set}, version = version + 1 where id = any(?)`, [which]);
const german = (text: string): string =>
  `facts = facts || jsonb_build_object('title@de', coalesce(facts ->> 'title@de', '') || ' ${text}')`;
const check = (key: string) => refreshStale(house.db, key, () => Promise.resolve());
/** Listings of the three that were not judged since, and those that are stale, on a market. */
const look = async (key: string): Promise<{ unjudged: number; stale: number }> =>
  (
    await house.rows<{ unjudged: number; stale: number }>(
      `select count(*) filter (where l.findings_digest = 'old')::int as unjudged,
          count(*) filter (where l.product_version <> p.version)::int as stale
        from listings l join products p on p.id = l.product_id join markets m on m.id = l.market_id
        where m.key = ? and p.id = any(?)`,
      [key, ids],
    )
  )[0]!;

describe('what is marked of a change', () => {
  const marked = async () =>
    (await house.rows<{ fields: string[] | null }>('select fields from unchecked order by id desc limit 1'))[0]!.fields;
  it.each<[string, string[]]>([
    ...['title', 'brand', 'category', 'mpn', 'description'].map((c): [string, string[]] => [
      `${c} = ${c} || ' x'`,
      [c],
    ]),
    ...['cost', 'price', 'sale_price'].map((c): [string, string[]] => [`${c} = coalesce(${c}, 1) + 1`, [c]]),
    [`sale_start = '2026-11-28', sale_end = '2026-12-24'`, ['sale_start', 'sale_end']],
    [`highlights = '["x"]'`, ['highlights']],
    [`pictures = '["https://p.example/x.jpg"]'`, ['pictures']],
    [`axes = '["fact.colour"]'`, ['axes']],
    [`sku = sku || 'x'`, ['sku']],
    [`gtin = '9521234567899', gtin14 = '09521234567899'`, ['gtin']],
    [`facts = facts || '{"spout": "wide"}'`, ['fact.spout']],
    [`facts = facts || '{"spout": "narrow"}', title = 'Jug'`, ['title', 'fact.spout']],
    [`facts = facts - 'spout'`, ['fact.spout']],
  ])('%s', async (set, fields) => {
    const [id] = ids;
    if (fields.includes('fact.spout') && set.includes(' - ')) await change(`facts = facts || '{"spout": "x"}'`, [id!]);
    await house.db.raw(
      `update products set brand = coalesce(brand, 'B'), mpn = coalesce(mpn, 'M'),
      description = coalesce(description, 'D'), category = coalesce(category, 'C') where id = ?`,
      [id!],
    );
    await change(set, [id!]);
    expect(await marked()).toEqual(fields);
  });
  it('is nothing known where an item has another version alone, as when its stock was changed', async () => {
    await change('price = price');
    expect(await marked()).toBeNull();
    // One such among others makes it unknown for all of them.
    await house.db.raw(
      `update products set title = case when id = ? then title else title || ' x' end, version = version + 1 where id = any(?)`,
      [ids[0]!, ids],
    );
    expect(await marked()).toBeNull();
  });
});

describe('a change that a market reads nothing of', () => {
  it('is passed over there, and judged where it is read', async () => {
    await change(german('neu'));
    expect(await look('quillhaven')).toEqual({ unjudged: 3, stale: 3 });
    await check('quillhaven');
    await check('torgvik');
    expect(await look('quillhaven')).toEqual({ unjudged: 3, stale: 0 });
    expect(await look('torgvik')).toEqual({ unjudged: 0, stale: 0 });
    expect(await house.rows('select 1 from unchecked')).toEqual([]);
  });
  it('is judged all the same where another mark of the item is of something that is read, or of nobody knows what', async () => {
    for (const set of [`title = title || ' x'`, 'price = price', `cost = coalesce(cost, 1) + 1`]) {
      await house.db.raw(`update listings set findings_digest = 'old' where product_id = any(?)`, [ids]);
      await change(german('auch'));
      await change(set, ids.slice(0, 1));
      await check('quillhaven');
      expect(await look('quillhaven')).toEqual({ unjudged: 2, stale: 0 });
    }
  });
  it('is judged where the listing was never checked', async () => {
    await change(german('nie'));
    await house.db.raw('update listings set market_revision = 0 where product_id = ?', [ids[0]!]);
    await check('quillhaven');
    expect(await look('quillhaven')).toEqual({ unjudged: 2, stale: 0 });
  });
  it('leaves what was checked against something newer as it is', async () => {
    await change(german('alt'));
    await house.db.raw('update listings set product_version = product_version + 7 where product_id = ?', [ids[0]!]);
    const market = await loadMarket(house.db, 'quillhaven');
    const passed = await passOver(house.db, market, await loadCorrespondences(house.db, market.id));
    expect(passed.sort()).toEqual(ids.slice(1).sort());
    expect(await look('quillhaven')).toMatchObject({ stale: 1 });
    await house.db.raw('update listings set product_version = 0 where product_id = ?', [ids[0]!]);
  });
  it('is passed over whatever waits on another market', async () => {
    await house.db.raw(`insert into unchecked (market_id, products) select id, ? from markets where key = 'torgvik'`, [
      ids,
    ]);
    await change(german('hier'));
    await check('quillhaven');
    expect(await look('quillhaven')).toEqual({ unjudged: 3, stale: 0 });
  });
  it('is of other items no more than they are asked for', async () => {
    // One mark of all of them, and another of the second, which is read.
    await change(german('alle'));
    await change(`title = title || ' x'`, ids.slice(1, 2));
    const market = await loadMarket(house.db, 'quillhaven');
    const c = await loadCorrespondences(house.db, market.id);
    expect(await passOver(house.db, market, c, ids.slice(0, 1))).toEqual(ids.slice(0, 1));
    expect(await passOver(house.db, market, c)).toEqual(ids.slice(2));
  });
  it('is passed over in a request too, which is true on both markets when it is answered', async () => {
    const [before] = await house.rows<{ held: string | null }>(
      `select facts ->> 'title@de' as held from products where id = ?`,
      [ids[0]!],
    );
    const answer = await house.call('PATCH', '/products', {
      cells: [{ id: ids[0]!, field: 'fact.title@de', before: before!.held, after: 'Krug' }],
    });
    expect(answer.status).toBe(200);
    expect(await look('quillhaven')).toEqual({ unjudged: 3, stale: 0 });
    expect(await look('torgvik')).toEqual({ unjudged: 2, stale: 0 });
    expect(
      await house.rows(
        `select l."values" ->> 'titel@de' as a, l."values" from listings l join markets m on m.id = l.market_id
          where m.key = 'torgvik' and l.product_id = ? and l."values"::text like '%Krug%'`,
        [ids[0]!],
      ),
    ).toHaveLength(1);
    expect(await house.rows('select 1 from unchecked')).toEqual([]);
  });
});

describe('a house price', () => {
  it('is read by a market whose prices are made of it, and by no other that has its own', async () => {
    const market = await loadMarket(house.db, 'torgvik');
    const c = await loadCorrespondences(house.db, market.id);
    const passes = async (m: typeof market): Promise<number> => {
      await change('price = price + 1');
      return (await passOver(house.db, m, c)).length;
    };
    const made = { ...market, fillPrices: () => ({ 'fact.price@eur': 'price' }) };
    expect(await passes({ ...market, fillPrices: () => ({}) })).toBe(3);
    await check('torgvik');
    expect(await passes(made)).toBe(0);
  });
});
