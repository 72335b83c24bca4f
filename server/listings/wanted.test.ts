// What is left out of a market is asked for nothing there; what stands there stays; families go together.
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { writeOn } from '../database';
import { applyShelf } from '../dispatches/standings';
import { loadStateCounts, loadUnplaced } from '../listings';
import { loadMarket } from '../markets';
import { insertProducts } from '../products';
import { type House, openHouse } from '../tests/house';

let house: House;
interface Row {
  id: number;
  product_id: number;
  sku: string;
  kind: string;
  market_state: string;
  blockers: number;
  planned: { operation: string }[];
}
const load = (where: string, ...bindings: unknown[]) =>
  house.rows<Row>(
    `select l.id, l.product_id, p.sku, p.kind, l.market_state, l.blockers, l.planned
      from listings l join products p on p.id = l.product_id join markets m on m.id = l.market_id
      where m.key = 'quillhaven' and ${where} order by p.parent_id is not null, p.id`,
    bindings,
  );
const want = async (wanted: boolean, meant: { ids?: number[]; products?: number[]; own?: string }) =>
  (
    await house.call<{ changed: number; there: number }>('POST', '/markets/quillhaven/listings/wanted', {
      ...meant,
      wanted,
    })
  ).body;
const familyOf = (root: number) => load('(p.id = ? or p.parent_id = ?)', root, root);
const findFamily = async (where: string): Promise<Row[]> => {
  const [root] = await house.rows<{ root: number }>(
    `select p.parent_id as root from listings l join products p on p.id = l.product_id join markets m on m.id = l.market_id
      where m.key = 'quillhaven' and p.parent_id is not null group by 1 having ${where} order by 1 limit 1`,
  );
  return familyOf(root!.root);
};
const stateOf = async (sku: string) =>
  (
    await house.call<{ rows: { sku: string; state: string; findings: unknown[] }[] }>(
      'GET',
      `/markets/quillhaven/listings?search=${sku}`,
    )
  ).body.rows.find((r) => r.sku === sku)!;
const countOf = async (state: string): Promise<number> => {
  const { id } = await loadMarket(house.db, 'quillhaven');
  return (await loadStateCounts(house.db, [id])).find((s) => s.state === state)?.n ?? 0;
};

beforeAll(async () => {
  house = await openHouse('wanted_test', { size: 150, worker: false });
});
afterAll(() => house.close());

describe('an item that is not wanted on a market', () => {
  it('takes its variants along where it is a family, and is asked for nothing', async () => {
    const family = await findFamily(`bool_and(l.market_state = 'none' and l.category is not null)`);
    expect(family.some((r) => r.planned.length > 0)).toBe(true);
    expect(await want(false, { ids: [family[0]!.id] })).toEqual({ changed: family.length, there: 0 });
    const now = await familyOf(family[0]!.product_id);
    expect(new Set(now.map((r) => `${r.market_state} ${r.blockers} ${r.planned.length}`))).toEqual(
      new Set(['left out 0 0']),
    );
    expect(await stateOf(family[1]!.sku)).toMatchObject({ state: 'left out', findings: [] });
    expect(await countOf('left out')).toBe(family.length);
  });
  it('is named by its product too, and is as it was when it is wanted again', async () => {
    const [bad] = await load(`l.market_state = 'none' and l.blockers > 0 and p.kind = 'variant'`);
    const before = await stateOf(bad!.sku);
    expect(await want(false, { products: [bad!.product_id] })).toEqual({ changed: 1, there: 0 });
    expect((await load('l.id = ?', bad!.id))[0]).toMatchObject({ market_state: 'left out', blockers: 0 });
    expect(await want(false, { products: [bad!.product_id] })).toEqual({ changed: 0, there: 0 });
    expect(await want(true, { products: [bad!.product_id] })).toEqual({ changed: 1, there: 0 });
    expect(await stateOf(bad!.sku)).toEqual(before);
  });
  it('brings its family back where one variant of it is wanted', async () => {
    const family = (await load(`l.market_state = 'left out'`)).filter((r) => r.kind !== 'single');
    const [head, one, ...others] = family;
    expect(await want(true, { ids: [one!.id] })).toEqual({ changed: 2, there: 0 });
    const states = new Map((await familyOf(head!.product_id)).map((r) => [r.sku, r.market_state]));
    expect([states.get(head!.sku), states.get(one!.sku)]).toEqual(['none', 'none']);
    expect(others.length).toBeGreaterThan(0);
    expect(new Set(others.map((r) => states.get(r.sku)))).toEqual(new Set(['left out']));
  });
  it('stays where it stands on the market, and is said so', async () => {
    const [live] = await load(`l.market_state = 'live' and p.kind <> 'family'`);
    expect(await want(false, { ids: [live!.id] })).toEqual({ changed: 0, there: 1 });
    expect((await load('l.id = ?', live!.id))[0]!.market_state).toBe('live');
  });
  it('waits for no category', async () => {
    const { id } = await loadMarket(house.db, 'quillhaven');
    const unplaced = async () => (await loadUnplaced(house.db, [id]))[0]?.n ?? 0;
    for (const n of [1, 2]) await house.call('POST', '/products', { sku: `BARE-${n}`, title: 'A pan of no category' });
    const before = await unplaced();
    const bare = await load(`l.category is null and l.market_state = 'none' and p.sku like 'BARE%'`);
    expect(bare).toHaveLength(2);
    await want(false, { ids: bare.map((r) => r.id) });
    expect(await unplaced()).toBe(before - bare.length);
    expect(
      (await house.call<{ stops: { prepare: number } }>('GET', '/overview?market=quillhaven')).body.stops.prepare,
    ).toBe(before - bare.length);
  });
  it('may be all of an own category, which then waits for none, and comes back as one', async () => {
    const groupOf = async (own: string) =>
      (
        await house.call<{
          rows: { ownCategory: string; items: number; placed: number; waiting: number; leftOut: number }[];
        }>('GET', '/markets/quillhaven/category-groups')
      ).body.rows.find((r) => r.ownCategory === own)!;
    const [{ own }] = (await house.rows<{ own: string }>(
      `select p.category as own from listings l join products p on p.id = l.product_id join markets m on m.id = l.market_id
        where m.key = 'quillhaven' and p.category is not null group by 1
        having bool_and(l.market_state = 'none' and l.category is null) order by 1 limit 1`,
    )) as [{ own: string }];
    const before = await groupOf(own);
    expect(before).toMatchObject({ placed: 0, waiting: before.items, leftOut: 0 });
    expect(await want(false, { own })).toEqual({ changed: before.items, there: 0 });
    expect(await groupOf(own)).toMatchObject({ items: before.items, waiting: 0, leftOut: before.items });
    // What is added to it later is left out too; of other markets, and of other categories, nothing is.
    const add = (sku: string, category: string) =>
      insertProducts(house.db, [
        { sku, kind: 'single', parentSku: null, axes: [], fields: { title: `A thing ${sku}`, category } },
      ]);
    await add('LATER-1', own);
    await add('LATER-2', 'Something else');
    const later = async (...skus: string[]) =>
      (await load('p.sku = any(?)', skus)).map((r) => `${r.sku} ${r.market_state}`);
    expect(await later('LATER-1', 'LATER-2')).toEqual(['LATER-1 left out', 'LATER-2 none']);
    expect(await want(true, { own })).toEqual({ changed: before.items + 1, there: 0 });
    expect(await groupOf(own)).toMatchObject({ waiting: before.items + 1, leftOut: 0 });
    await add('LATER-3', own);
    expect(await later('LATER-3')).toEqual(['LATER-3 none']);
  });
  it('does not follow a new product: what comes later is wanted', async () => {
    await house.call('POST', '/products', { sku: 'NEW-WANTED-1', title: 'A new pan' });
    expect((await load('p.sku = ?', 'NEW-WANTED-1')).map((r) => r.market_state)).toEqual(['none']);
  });
  it('is no twin of its family any more', async () => {
    const family = await findFamily(
      `count(*) filter (where l.market_state = 'none' and l.blockers = 0 and l.category = 'frying_pans') >= 2`,
    );
    const [one, two] = family.filter((r) => r.kind === 'variant' && r.market_state === 'none' && r.blockers === 0);
    const diameterOf = async (id: number) =>
      (await house.rows<{ d: string }>(`select "values" ->> 'diameter' as d from listings where id = ?`, [id]))[0]!.d;
    const twin = await diameterOf(two!.id);
    await house.call('PATCH', '/markets/quillhaven/listings', {
      cells: [{ id: one!.id, field: 'diameter', before: await diameterOf(one!.id), after: twin }],
    });
    const twins = async () =>
      house.rows(`select 1 from findings where listing_id = ? and "check" = 'family-rules' and message = 'duplicate'`, [
        one!.id,
      ]);
    expect(await twins()).toHaveLength(1);
    await want(false, { ids: [two!.id] });
    expect(await twins()).toHaveLength(0);
  });
  it('stays left out, whatever the market’s shelf says of its SKU', async () => {
    const market = await loadMarket(house.db, 'quillhaven');
    const [live] = Object.entries(market.rulebook.states).find(([, s]) => s.is === 'live')!;
    const [out] = await load(`l.market_state = 'left out'`);
    const line = { sku: out!.sku, site: undefined, number: 'Q1', state: live, reason: '', shows: {} };
    expect(await applyShelf(writeOn(house.db), market, [line], 'wanted-1')).toBe(0);
    expect((await load('l.id = ?', out!.id))[0]!.market_state).toBe('left out');
  });
  it('is told in the history', async () => {
    const { rows } = (
      await house.call<{ rows: { fact: { is: string; rows?: number; wanted?: boolean } }[] }>('GET', '/history')
    ).body;
    expect(rows.map((r) => r.fact).filter((f) => f.is === 'wanted').length).toBeGreaterThan(3);
  });
});
