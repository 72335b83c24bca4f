// Keeping listings true: what a change touches is made anew, and only that; families, bundles and stock follow.
import type { ListingRow } from '@basileus/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { rowsOf } from '../database';
import { loadMarket } from '../markets/load';
import { allJobs } from '../all-jobs';
import { startWorker } from '../jobs';
import { type House, openHouse, takeBack } from '../tests/house';
import { refreshMarket } from './refresh';

let house: House;
beforeAll(async () => {
  house = await openHouse('listings_test', { size: 700, worker: false });
});
afterAll(async () => {
  await house.close();
});

interface Row {
  id: number;
  product_id: number;
  sku: string;
  values: Record<string, string | string[]>;
  planned: { operation: string; held: string | null }[];
  blockers: number;
  version: number;
  category: string | null;
}
const row = async (sku: string) =>
  (
    await house.rows<Row>(
      `select l.id, l.product_id, p.sku, l."values", l.planned, l.blockers, l.version, l.category
        from listings l
        join products p on p.id = l.product_id
        where p.sku = ?`,
      [sku],
    )
  )[0]!;
const says = (sku: string) =>
  house.rows<{ check: string; message: string; field: string }>(
    `select f."check", f.message, f.field
      from findings f
      join listings l on l.id = f.listing_id
      join products p on p.id = l.product_id
      where p.sku = ?
      order by f.id`,
    [sku],
  );
const product = async (sku: string, field: string, after: string | string[] | null) => {
  const found = (
    await house.call<{ rows: { id: number; sku: string; fields: Record<string, string | string[]> }[] }>(
      'GET',
      `/products?search=${sku}`,
    )
  ).body.rows.find((p) => p.sku === sku)!;
  return house.call<{ applied: number; conflicts: unknown[] }>('PATCH', '/products', {
    cells: [{ id: found.id, field, before: found.fields[field] ?? null, after }],
  });
};
const listing = (id: number, field: string, before: unknown, after: unknown, extra: object = {}) =>
  house.call<{ applied: number; conflicts: unknown[]; changeSet: number }>('PATCH', '/markets/quillhaven/listings', {
    cells: [{ id, field, before, after, ...extra }],
  });

describe('a change', () => {
  it('of one product leaves other families as they were', async () => {
    const before = await house.rows<{ at: string }>(
      `select l.xmin::text as at from listings l join products p on p.id = l.product_id where p.sku = 'WK-GALE-28CM'`,
    );
    await product('WK-DRIF-28CM', 'title', 'Brindlewick Drift Wok, deep, 28 cm');
    expect((await row('WK-DRIF-28CM')).values['title']).toBe('Brindlewick Drift Wok, deep, 28 cm');
    expect(
      await house.rows(
        `select l.xmin::text as at from listings l join products p on p.id = l.product_id where p.sku = 'WK-GALE-28CM'`,
      ),
    ).toEqual(before);
  });
  it('that changes nothing in the values does not raise the version', async () => {
    const { version } = await row('WK-DRIF-32CM');
    await product('WK-DRIF-32CM', 'cost', '11.11');
    expect((await row('WK-DRIF-32CM')).version).toBe(version);
  });
  it('made by the whole market’s refresh is the same as made one by one', async () => {
    const snapshot = () =>
      house.rows(`select l.id, l."values", l.planned, l.blockers, l.cautions, l.tips from listings l order by l.id`);
    const before = await snapshot();
    await refreshMarket(house.db, await loadMarket(house.db, 'quillhaven'), () => Promise.resolve());
    expect(await snapshot()).toEqual(before);
  });
});

describe('families', () => {
  it('hold their variants back while the family row cannot go, and let them go with it', async () => {
    const head = await row('RT-SUND'),
      variant = await row('RT-SUND-32CM');
    const isLive =
      (await house.rows<{ s: string }>('select market_state as s from listings where id = ?', [head.id]))[0]!.s ===
      'live';
    if (isLive)
      await house.rows(
        `update listings
          set market_state = 'none', accepted_details = null, accepted_price = null, accepted_stock = null
          where product_id in (select id from products where sku like 'RT-SUND%')
          returning id`,
      );
    await product('RT-SUND', 'description', 'Short.');
    expect((await row('RT-SUND')).planned).toEqual([{ operation: 'create', held: 'blocked' }]);
    expect((await row('RT-SUND-32CM')).planned).toEqual([{ operation: 'create', held: 'family' }]);
    await product('RT-SUND', 'description', '<p>Upright handles and a base that does not buckle in the heat.</p>');
    expect((await row('RT-SUND-32CM')).planned).toEqual([{ operation: 'create', held: null }]);
    expect(variant.sku).toBe('RT-SUND-32CM');
  });
  it('say when two variants cannot be told apart, on both, and stop saying it', async () => {
    await product('RT-SUND-38CM', 'fact.length', '32 cm');
    for (const sku of ['RT-SUND-32CM', 'RT-SUND-38CM'])
      expect((await says(sku)).map((f) => `${f.check}/${f.message}`)).toContain('family-rules/duplicate');
    await product('RT-SUND-38CM', 'fact.length', '38 cm');
    for (const sku of ['RT-SUND-32CM', 'RT-SUND-38CM'])
      expect((await says(sku)).map((f) => `${f.check}/${f.message}`)).not.toContain('family-rules/duplicate');
  });
  it('move between categories whole', async () => {
    const variant = await row('WK-SQUA-32CM');
    const members = await house.rows<{ category: string }>(
      `select l.category
        from listings l
        join products p on p.id = l.product_id
        where p.sku like 'WK-SQUA%' and l.accepted_details is null`,
    );
    const r = await house.call<{ changed: number }>('POST', '/markets/quillhaven/assign-category', {
      category: 'crepe_pans',
      ids: [variant.id],
      onlyEmpty: false,
    });
    expect(r.body.changed).toBe(members.length);
  });
});

describe('stock', () => {
  it('is what may be published: on hand, less reserved, less the buffer', async () => {
    const [s] = await house.rows<{ on_hand: number; reserved: number }>(
      `select s.on_hand, s.reserved from stock s join products p on p.id = s.product_id where p.sku = 'WK-GALE-32CM'`,
    );
    const free = s!.on_hand - s!.reserved - 2;
    expect((await row('WK-GALE-32CM')).values['quantity']).toBe(String(Math.max(0, free)));
    await product('WK-GALE-32CM', 'stock', '2');
    expect((await row('WK-GALE-32CM')).values['quantity']).toBe('0');
    await product('WK-GALE-32CM', 'stock', '5000');
    expect((await row('WK-GALE-32CM')).values['quantity']).toBe('999');
  });
  it('of a bundle follows its parts', async () => {
    await house.call('POST', '/markets/quillhaven/assign-category', {
      category: 'cutlery_sets',
      ids: [(await row('BD-FIRST-KITCHEN')).id],
    });
    for (const sku of ['FP-HEAR-24CM', 'SP-MALL-18L', 'KN-RAVE-20CM']) await product(sku, 'stock', '90');
    await house.rows(
      `update stock set reserved = 0 where product_id in (select part_id from bundle_parts) returning product_id`,
    );
    await product('KN-RAVE-20CM', 'stock', '7');
    expect((await row('BD-FIRST-KITCHEN')).values['quantity']).toBe('5');
  });
});

describe('what was typed', () => {
  it('is kept apart from the product, and a colleague’s newer value is not overwritten', async () => {
    const l = await row('GP-HEAR-26CM');
    expect((await listing(l.id, 'title', l.values['title'], 'Brindlewick Hearth Griddle, typed')).body.applied).toBe(1);
    expect(
      (await rowsOf<{ t: string }>(house.db, `select title as t from products where sku = 'GP-HEAR-26CM'`))[0]!.t,
    ).not.toContain('typed');
    expect((await listing(l.id, 'title', l.values['title'], 'Another')).body).toMatchObject({
      applied: 0,
      conflicts: [{ field: 'title', now: 'Brindlewick Hearth Griddle, typed' }],
    });
  });
  it('equal to what the product gives is not kept as typed', async () => {
    const l = await row('GP-HEAR-26CM');
    const [p] = await house.rows<{ t: string }>(`select title as t from products where sku = 'GP-HEAR-26CM'`);
    await listing(l.id, 'title', l.values['title'], p!.t);
    expect(await house.rows(`select overrides -> 'title' as o from listings where id = ?`, [l.id])).toEqual([
      { o: null },
    ]);
  });
  it('is taken back with its change set', async () => {
    const l = await row('GP-HEAR-26CM');
    const set = (await listing(l.id, 'coating', l.values['coating'] ?? null, 'season')).body.changeSet;
    expect((await row('GP-HEAR-26CM')).values['coating']).toBe('season');
    const worker = await startWorker({ db: house.db, listener: house.listener, kinds: allJobs, log: house.log });
    expect((await takeBack(house, set)).outcome).toMatchObject({ restored: 1 });
    await worker.stop();
    expect((await row('GP-HEAR-26CM')).values).not.toHaveProperty('coating');
  });
  it('needs a category first', async () => {
    const [l] = await house.rows<{ id: number; sku: string }>(
      `select l.id, p.sku from listings l join products p on p.id = l.product_id where l.category is null limit 1`,
    );
    expect((await listing(l!.id, 'title', null, 'x')).body).toMatchObject({
      code: 'bad-input',
      field: 'category',
      message: `${l!.sku} has no category on Quillhaven yet, so its fields are not known.`,
    });
  });
});

describe('lists of listings', () => {
  interface List {
    total: number;
    rows: (Pick<ListingRow, 'id' | 'sku' | 'values' | 'margin'> & {
      state: string;
      findings: { check: string; message: string; field: string }[];
    })[];
  }
  const list = async (q: string) => (await house.call<List>('GET', `/markets/quillhaven/listings?${q}`)).body;
  it('are narrowed by state, category, cause and words', async () => {
    const all = (await list('limit=1')).total;
    const distinct = async <T>(q: string, of: (r: List['rows'][number]) => T): Promise<T[]> => {
      const found = await list(q);
      expect(found.total).toBeLessThan(all);
      return [...new Set(found.rows.map(of))];
    };
    expect(await distinct('state=blocked', (r) => r.state)).toEqual(['blocked']);
    expect(await distinct('without=category', (r) => r.findings[0]?.check)).toEqual(['category-missing']);
    expect(
      await distinct('check=demanded-missing&message=must&field=hob_kinds', (r) =>
        r.findings.some((f) => f.check === 'demanded-missing' && f.message === 'must' && f.field === 'hob_kinds'),
      ),
    ).toEqual([true]);
    expect(await distinct('search=wok%20gale', (r) => r.sku.startsWith('WK-GALE'))).toEqual([true]);
  });
  it('come in pages that do not overlap, families before their variants', async () => {
    const [a, b] = [await list('limit=40'), await list('limit=40&offset=40')];
    expect(new Set([...a.rows, ...b.rows].map((r) => r.sku)).size).toBe(80);
    const skus = a.rows.map((r) => r.sku);
    expect(skus.indexOf('AP-BAKE')).toBeLessThan(skus.indexOf('AP-BAKE-CHA'));
  });
  it.each([
    '',
    'state=blocked',
    'state=live',
    'without=category',
    'category=woks',
    'state=live&category=woks',
    'search=pan',
  ])('say how many there are of “%s”, and have as many', async (q) => {
    const { total } = await list(`${q}&limit=1`);
    const skus: string[] = [];
    for (let offset = 0; offset <= total; offset += 50)
      skus.push(...(await list(`${q}&limit=50&offset=${offset}`)).rows.map((r) => r.sku));
    expect(total).toBeGreaterThan(0);
    expect([skus.length, new Set(skus).size]).toEqual([total, total]);
  });
  it.each(['sku', 'title', 'price', 'state'])('by %s, down, are not by it, up', async (sort) => {
    const [up, down] = [await list(`sort=${sort}&limit=200`), await list(`sort=${sort}&direction=down&limit=200`)];
    expect(up.total).toBe(down.total);
    expect(up.rows.map((r) => r.sku)).not.toEqual(down.rows.map((r) => r.sku));
    const skus = down.rows.map((r) => r.sku);
    if (sort === 'sku') {
      expect(skus).toContain('WK-GALE');
      expect(skus.indexOf('WK-GALE')).toBeLessThan(skus.indexOf('WK-GALE-28CM'));
    }
  });
  it.each(['up', 'down'])('%s by margin are by what each price leaves, those without one last', async (direction) => {
    const rows: List['rows'] = [];
    for (let offset = 0, total = 1; offset < total; offset += 200) {
      const page = await list(`sort=~margin&direction=${direction}&limit=200&offset=${offset}`);
      rows.push(...page.rows);
      total = page.total;
    }
    const margins = rows.map((r) => r.margin);
    const known = margins.filter((m) => m !== null);
    expect(known.length).toBeGreaterThan(100);
    const sign = direction === 'up' ? 1 : -1;
    expect(margins).toEqual([...known.toSorted((a, b) => sign * (a - b)), ...margins.filter((m) => m === null)]);
    expect(margins.at(-1)).toBeNull();
  });
  it('by a number have what is under nothing before it', async () => {
    const [least] = (await list('sort=price&limit=1')).rows;
    const set = (price: unknown) =>
      house.rows(
        `update listings set "values" = "values" || jsonb_build_object('price', ?::text) where id = ? returning id`,
        [price, last!.id],
      );
    const [last] = (await list('sort=price&direction=down&limit=1')).rows;
    await set('-2.5');
    expect((await list('sort=price&limit=2')).rows.map((r) => r.sku)).toEqual([last!.sku, least!.sku]);
    await set(last!.values['price']);
  });
});
