// Items without a category are told from each other by what they are called, what was placed and where they stand elsewhere.
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { enqueue } from '../jobs';
import { loadMarket } from '../markets';
import { openChangeSet } from '../products';
import { type House, openHouse, takeBack, transact, until } from '../tests/house';

let house: House;
const m = '/markets/quillhaven';
interface Placing {
  lookedAt: string | null;
  job: string | null;
  tried: number;
  same: number;
  unseen: number;
  leaves: {
    key: string;
    path: string[];
    sure: number;
    likely: number;
    unsure: number;
    examples: string[];
    reason: { words: string[]; family: boolean; elsewhere: { market: string; leaf: string }[]; chosen: number };
  }[];
}
interface Items {
  total: number;
  rows: {
    id: number;
    listing: number;
    sku: string;
    items: number;
    sureness: string | null;
    own: string;
    reason: Placing['leaves'][number]['reason'];
    others: { key: string }[];
  }[];
}
const read = async (own?: string) =>
  (await house.call<Placing>('GET', `${m}/placing${own === undefined ? '' : `?own=${encodeURIComponent(own)}`}`)).body;
const list = async (leaf: string, rest = '') =>
  (await house.call<Items>('GET', `${m}/placing/items?leaf=${leaf}${rest}`)).body;
const take = (body: Record<string, unknown>) =>
  house.call<{ items: number; leaves: number; changeSet: number; job: string | null }>(
    'POST',
    `${m}/placing/take`,
    body,
  );
async function look(): Promise<Placing> {
  await house.call('POST', `${m}/placing/look`, {});
  return until(read, (p) => p.job === null && p.lookedAt !== null);
}
interface Placed {
  id: number;
  sku: string;
  category: string | null;
  root: number;
  kind: string;
}
const load = (where: string, ...bindings: unknown[]) =>
  house.rows<Placed>(
    `select l.id, p.sku, l.category, coalesce(p.parent_id, p.id) as root, p.kind
      from listings l join products p on p.id = l.product_id join markets k on k.id = l.market_id
      where k.key = 'quillhaven' and ${where} order by p.id`,
    bindings,
  );
/** Takes the category away from everything of one of ours that the market knows nothing of, ours with it where asked. */
async function unplace(own: string, { isOwnKept }: { isOwnKept: boolean }): Promise<Placed[]> {
  const rows = await load('p.category = ? and l.accepted_details is null and l.category is not null', own);
  expect(rows.length).toBeGreaterThan(2);
  await house.db.raw('update listings set category = null where id = any(?)', [rows.map((r) => r.id)]);
  if (!isOwnKept) {
    const roots = rows.map((r) => r.root);
    await house.db.raw('update products set category = null where id = any(?) or parent_id = any(?)', [roots, roots]);
  }
  return rows;
}
const sizeOf = (p: Placing): number => p.leaves.reduce((n, l) => n + l.sure + l.likely + l.unsure, 0);

let pans: Placed[];
beforeAll(async () => {
  house = await openHouse('placing_test', { size: 300, with: ['torgvik'] });
  pans = await unplace('Frying pans', { isOwnKept: false });
});
afterAll(() => house.close());

describe('items without a category', () => {
  it('wait to be looked at, and are then told by the words of the tree and by what is placed', async () => {
    const before = await read();
    expect(before).toMatchObject({ lookedAt: null, job: null, tried: 0, leaves: [] });
    expect(before.unseen).toBeGreaterThanOrEqual(pans.length);
    const after = await look();
    expect(after.unseen).toBe(0);
    expect(sizeOf(after)).toBe(before.unseen);
    const found = after.leaves.find((l) => l.key === 'frying_pans')!;
    expect(found.sure + found.likely).toBe(pans.length);
    expect(found.sure).toBeGreaterThan(pans.length / 2);
    expect(found.path.at(-1)).toBe('Frying pans');
    expect(found.reason.words).toContain('pan');
    expect(found.examples.length).toBeGreaterThan(0);
    // Judged as if they were not placed, by all the others.
    expect(after.tried).toBeGreaterThan(40);
    expect(after.same / after.tried).toBeGreaterThan(0.95);
    expect(after.same).toBeLessThanOrEqual(after.tried);
  });
  it('are looked at by themselves once a file has brought them, on every market where they wait', async () => {
    const add = async (name: string, text: string) => {
      const { id } = (await house.upload<{ id: number }>(name, text)).body;
      const state = async () => (await house.call<{ state: string }>('GET', `/imports/${id}`)).body.state;
      await until(state, (s) => s === 'planned');
      await house.call('POST', `/imports/${id}/apply`, {});
      await until(state, (s) => s === 'applied');
    };
    const jobs = async () =>
      (
        await house.rows<{ once: string }>(
          `select once from jobs where kind = 'look-for-leaves' and title <> '' order by created_at, once`,
        )
      ).map((j) => j.once);
    const before = await jobs();
    await add('new.csv', 'SKU,Title\nNW-1,Griddle frying pan 26 cm\n');
    expect((await jobs()).slice(before.length).sort()).toEqual(['leaves-quillhaven', 'leaves-torgvik']);
    const seen = await until(read, (p) => p.job === null && p.unseen === 0);
    expect(seen.leaves.find((l) => l.key === 'frying_pans')!.sure).toBeGreaterThan(0);
    const after = await jobs();
    await add('known.csv', 'SKU,Stock\nNW-1,4\n');
    expect(await jobs()).toEqual(after);
    await house.db.raw(`delete from products where sku = 'NW-1'`);
  });
  it('are listed with families as one, the surest first, page by page', async () => {
    const roots = new Set(pans.map((p) => p.root));
    const all = await list('frying_pans');
    expect(all.total).toBe(roots.size);
    expect(new Set(all.rows.map((r) => r.id))).toEqual(roots);
    expect(all.rows.reduce((n, r) => n + r.items, 0)).toBe(pans.length);
    expect(all.rows.every((r) => r.own === '')).toBe(true);
    const second = await list('frying_pans', '&limit=1&offset=1');
    expect(second).toMatchObject({ total: roots.size, rows: [{ id: all.rows[1]!.id }] });
  });
  it('say where they stand on other markets, where that goes with it', async () => {
    const [one, ...others] = [...new Set(pans.map((p) => p.root))];
    expect(others.length).toBeGreaterThan(2);
    // Nothing but the other market is left to tell what they are.
    await house.db.raw(`update products set title = 'Ember ' || id where id = any(?) or parent_id = any(?)`, [
      [one!, ...others],
      [one!, ...others],
    ]);
    await look();
    expect((await list('frying_pans')).total).toBe(0);
    const place = (roots: number[], leaf: string | null) =>
      house.db.raw(
        `update listings set category = ? where product_id = any(?) and market_id = (select id from markets where key = 'quillhaven')`,
        [leaf, roots],
      );
    await place(others, 'frying_pans');
    await house.db.raw(
      `insert into listings (product_id, market_id, category)
        select unnest(?::bigint[]), (select id from markets where key = 'torgvik'), 'stekpannor'`,
      [[one!, ...others]],
    );
    await look();
    const told = (await list('frying_pans')).rows.find((r) => r.id === one)!;
    expect(told.reason.elsewhere).toEqual([{ market: 'Torgvik', leaf: 'Frying pans' }]);
    await place(others, null);
  });
});

describe('what is thought of items', () => {
  it('is taken as one change that is taken back as one, without what is left out of it', async () => {
    const knives = await unplace('Kitchen knives', { isOwnKept: true });
    await look();
    const items = await list('kitchen_knives');
    expect(items.rows.length).toBeGreaterThan(1);
    const kept = items.rows[0]!;
    const { status, body } = await take({ leaves: ['kitchen_knives'], least: 'sure', except: [kept.id] });
    expect(status).toBe(200);
    expect(body).toMatchObject({ items: knives.length - kept.items, leaves: 1 });
    const now = await load(
      'l.id = any(?)',
      knives.map((k) => k.id),
    );
    expect(now.filter((k) => k.category === null).map((k) => k.root)).toEqual(
      Array.from({ length: kept.items }, () => kept.id),
    );
    expect((await list('kitchen_knives')).rows.map((r) => r.id)).toEqual([kept.id]);
    await takeBack(house, body.changeSet);
    expect(
      (
        await load(
          'l.id = any(?)',
          knives.map((k) => k.id),
        )
      ).every((k) => k.category === null),
    ).toBe(true);
  });
  it('is narrowed to one of our categories, or to what has none', async () => {
    const [all, knives, none] = [await read(), await read('Kitchen knives'), await read('')];
    expect(knives.leaves.map((l) => l.key)).toEqual(['kitchen_knives']);
    expect(sizeOf(none)).toBeGreaterThan(0);
    expect(sizeOf(none) + sizeOf(knives)).toBeLessThanOrEqual(sizeOf(all));
    expect((await list('kitchen_knives', '&own=')).total).toBe(0);
    expect((await take({ own: '', leaves: ['kitchen_knives'], least: 'unsure' })).body.items).toBe(0);
  });
  it('is taken only as far as it is sure enough', async () => {
    const ids = (await list('kitchen_knives')).rows.map((r) => r.id);
    expect(ids.length).toBeGreaterThan(2);
    await house.db.raw('update leaf_proposals set sureness = 1 where product_id = ?', [ids[0]!]);
    await house.db.raw('update leaf_proposals set sureness = 2 where product_id = ?', [ids[1]!]);
    expect((await list('kitchen_knives')).rows.slice(-2).map((r) => r.sureness)).toEqual(['likely', 'unsure']);
    expect((await list('kitchen_knives', '&least=likely')).total).toBe(ids.length - 1);
    await take({ leaves: ['kitchen_knives'], least: 'likely' });
    expect((await list('kitchen_knives')).rows.map((r) => r.id)).toEqual([ids[0]]);
    await take({ leaves: ['kitchen_knives'], least: 'unsure' });
    expect((await list('kitchen_knives')).total).toBe(0);
  });
  it('is refused whole where a leaf is none of the market’s', async () => {
    const before = await load('l.category is null');
    const { status, body } = await take({ leaves: ['frying_pans', 'moon_boots'], least: 'unsure' });
    expect(status).toBe(400);
    expect(body).toMatchObject({ field: 'leaves' });
    expect(await load('l.category is null')).toEqual(before);
  });
  it('leaves alone what somebody placed meanwhile, and what is left out of the market', async () => {
    const pots = await unplace('Scales', { isOwnKept: true });
    await look();
    const [placed, out, ...rest] = (await list('kitchen_scales')).rows;
    expect(rest.length).toBeGreaterThan(0);
    await house.call('POST', `${m}/assign-category`, { category: 'woks', ids: [placed!.listing] });
    await house.call('POST', `${m}/listings/wanted`, { ids: [out!.listing], products: [], wanted: false });
    expect((await list('kitchen_scales')).rows.map((r) => r.id)).toEqual(rest.map((r) => r.id));
    await take({ leaves: ['kitchen_scales'], least: 'unsure' });
    const now = await load(
      'l.id = any(?)',
      pots.map((b) => b.id),
    );
    const leafOf = (root: number) => [...new Set(now.filter((b) => b.root === root).map((b) => b.category))];
    expect(leafOf(placed!.id)).toEqual(['woks']);
    expect(leafOf(out!.id)).toEqual([null]);
    expect(leafOf(rest[0]!.id)).toEqual(['kitchen_scales']);
  });
});

describe('much that is taken at once', () => {
  it('is placed by a job, told once in the history, and taken back as one', async () => {
    const pots = await unplace('Saucepans', { isOwnKept: true });
    await look();
    const taken = { leaves: ['saucepans'], least: 'unsure' as const, except: [] };
    const actor = 'Ines Okafor';
    const changeSet = await transact(house, async (tx) => {
      const { id: marketId } = await loadMarket(tx, 'quillhaven');
      const set = await openChangeSet(tx, { title: 'Categories', actor, target: 'listings', marketId });
      await enqueue(tx, {
        kind: 'place-items',
        title: 'Categories',
        payload: { market: 'quillhaven', taken, changeSet: set, actor },
      });
      return set;
    });
    const [set] = await until(
      () => house.rows<{ cells: number }>('select cells from change_sets where id = ? and is_done', [changeSet]),
      (rows) => rows.length > 0,
    );
    expect(set!.cells).toBe(pots.length);
    const leaves = await load(
      'l.id = any(?)',
      pots.map((p) => p.id),
    );
    expect(new Set(leaves.map((p) => p.category))).toEqual(new Set(['saucepans']));
    const { body } = await house.call<{ rows: { fact: unknown }[] }>('GET', `/history?by=${encodeURIComponent(actor)}`);
    expect(body.rows).toMatchObject([{ fact: { is: 'changed', title: 'Categories', cells: pots.length } }]);
    await takeBack(house, changeSet);
    expect(
      (
        await load(
          'l.id = any(?) and l.category is null',
          pots.map((p) => p.id),
        )
      ).length,
    ).toBe(pots.length);
  });
});

describe('a variant that came later', () => {
  it('goes where the rest of its family is, whatever it is called', async () => {
    const [variant] = await load(`p.kind = 'variant' and l.category = 'woks' and l.accepted_details is null`);
    await house.db.raw('update listings set category = null where id = ?', [variant!.id]);
    await house.db.raw(`update products set title = 'Loose tea' where id = ?`, [variant!.root]);
    await look();
    const row = (await list('woks')).rows.find((r) => r.id === variant!.root)!;
    expect(row).toMatchObject({ items: 1, sureness: 'sure', reason: { family: true } });
  });
});

describe('one of our categories', () => {
  it('that is none proposes nothing for all of it', async () => {
    const [wok] = await house.rows<{ id: number }>(
      `select id from products where category = 'Woks' and parent_id is null limit 1`,
    );
    const cell = { id: wok!.id, field: 'category', before: 'Woks', after: null };
    expect((await house.call('PATCH', '/products', { cells: [cell] })).status).toBe(200);
    const { body } = await house.call<{ rows: { ownCategory: string; proposals: { key: string }[] }[] }>(
      'GET',
      `${m}/category-groups`,
    );
    expect(body.rows.find((r) => r.ownCategory === '')).toMatchObject({ proposals: [] });
    expect(body.rows.find((r) => r.ownCategory === 'Woks')!.proposals[0]).toMatchObject({
      key: 'woks',
      sureness: 'sure',
    });
  });
});
