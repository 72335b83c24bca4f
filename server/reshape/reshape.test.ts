// Items taken out, put into families, joined and copied on a real database; each taken back afterwards.
import type { FamilyCounts, Product, RemovalCounts, ReversalCounts } from '@basileus/contract';
import { everyItem, type Which } from '@basileus/core/choose';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { refreshProducts } from '../listings';
import { insertProducts } from '../products';
import { type House, openHouse, takeBack, until } from '../tests/house';

/** Items that no market has or had. */
const unsent = `not exists (select 1 from listings l where l.product_id = p.id and (l.market_state <> 'none' or l.number is not null))`;
let house: House;
beforeAll(async () => {
  house = await openHouse('reshape_test', { size: 300 });
  const [bundle] = await insertProducts(house.db, [
    { sku: 'BD-TWO', kind: 'bundle', parentSku: null, axes: [], fields: { title: 'Two of ours', price: '20.00' } },
  ]);
  await house.db.raw(
    `insert into bundle_parts (bundle_id, part_id, count)
      select ?, p.id, row_number() over (order by p.sku) from products p where p.kind = 'variant' and ${unsent} order by p.sku limit 2`,
    [bundle!.id],
  );
  await refreshProducts(house.db, [bundle!.id]);
});
afterAll(() => house.close());

interface Item {
  id: number;
  sku: string;
  kind: string;
  parent: string | null;
  shelf: string;
  axes: string[];
}
const itemSql = `select p.id, p.sku, p.kind, f.sku as parent, p.shelf_order as shelf, p.axes
  from products p left join products f on f.id = p.parent_id`;
const items = (where: string, bindings: unknown[] = []) =>
  house.rows<Item>(`${itemSql} where ${where} order by p.sku`, bindings);
const item = async (sku: string): Promise<Item | undefined> => (await items('p.sku = ?', [sku]))[0];
const only = (...ids: number[]): Which => ({ ...everyItem, ids });
const product = async (id: number): Promise<Product> =>
  (await house.call<{ rows: Product[] }>('GET', '/products?open=all&limit=1000')).body.rows.find((r) => r.id === id)!;
const done = (set: number) =>
  until(
    async () => (await house.rows<{ is_done: boolean }>('select is_done from change_sets where id = ?', [set]))[0],
    (s) => s?.is_done !== false,
  );
const catalog = async (): Promise<string> =>
  JSON.stringify(
    await house.rows(
      `select p.sku, p.kind, f.sku as parent, p.title, p.brand, p.category, p.gtin, p.cost, p.price, p.highlights, p.pictures, p.facts, p.axes, p.shelf_order,
        (select jsonb_agg(jsonb_build_object('m', l.market_id, 'c', l.category, 'o', l.overrides, 's', l.market_state) order by l.market_id) from listings l where l.product_id = p.id) as listings,
        (select jsonb_agg(jsonb_build_object('p', q.sku, 'n', b.count) order by q.sku) from bundle_parts b join products q on q.id = b.part_id where b.bundle_id = p.id) as parts,
        (select jsonb_build_object('h', s.on_hand, 'r', s.reserved) from stock s where s.product_id = p.id) as stock
      from products p left join products f on f.id = p.parent_id order by p.sku`,
    ),
  );

describe('taking items out', () => {
  const look = async (which: Which) => (await house.call<RemovalCounts>('POST', '/items/removal/look', { which })).body;
  const remove = async (which: Which) => {
    const r = await house.call<{ changeSet: number; message: string }>('POST', '/items/removal', { which });
    if (r.status === 200) await done(r.body.changeSet);
    return r;
  };
  const parts = () => house.rows<{ part_id: number; bundle_id: number }>('select part_id, bundle_id from bundle_parts');

  it('takes a family with its variants, and brings all of it back as it was', async () => {
    const held = (await parts()).map((p) => p.part_id);
    const families = await items(`p.kind = 'family'`);
    let family: Item | undefined;
    for (const f of families) {
      const rows = await items(`coalesce(p.parent_id, p.id) = ? and ${unsent}`, [f.id]);
      const all = await items('coalesce(p.parent_id, p.id) = ?', [f.id]);
      if (rows.length === all.length && !all.some((r) => held.includes(r.id))) family ??= f;
    }
    expect(family).toBeDefined();
    const members = await items('p.parent_id = ?', [family!.id]);
    const counts = await look(only(family!.id));
    expect(counts).toMatchObject({ total: members.length + 1, families: 1, variants: members.length, stays: [] });
    expect(counts.withStock).toBeGreaterThan(0);
    await house.db.raw('update stock set reserved = 2 where product_id = any(?)', [members.map((m) => m.id)]);
    const before = await catalog();
    const { body } = await remove(only(family!.id));
    expect(await items('p.sku = any(?)', [[family!.sku, ...members.map((m) => m.sku)]])).toEqual([]);
    await takeBack(house, body.changeSet);
    expect(await catalog()).toBe(before);
  });
  it('leaves what stands on a market, what a bundle holds, and a family of which a variant stays, each with its reason', async () => {
    const before = await catalog();
    const [live] = await items(
      `p.kind = 'variant' and exists (select 1 from listings l where l.product_id = p.id and l.market_state = 'live')`,
    );
    const [part] = await parts();
    const [held] = await items('p.id = ?', [part!.part_id]);
    const family = (await item(live!.parent!))!;
    const counts = await look(only(family.id, held!.id));
    const why = Object.fromEntries(counts.stays.map((s) => [s.why, s.skus]));
    expect(why['sent']).toContain(live!.sku);
    expect([...(why['family'] ?? []), ...(why['sent'] ?? [])]).toContain(family.sku);
    expect([...(why['part'] ?? []), ...(why['sent'] ?? [])]).toContain(held!.sku);
    const { body } = await remove(only(live!.id, held!.id));
    // Nothing went: there is nothing to take back, and no change of it.
    expect(await house.rows('select id from change_sets where id = ?', [body.changeSet])).toEqual([]);
    expect(await catalog()).toBe(before);
  });
  it('tells afterwards what stayed, where others went', async () => {
    const [live] = await items(
      `p.kind = 'variant' and exists (select 1 from listings l where l.product_id = p.id and l.market_state = 'live')`,
    );
    const [free] = await items(`p.kind = 'single' and ${unsent}`);
    const { body } = await remove(only(live!.id, free!.id));
    const read = await house.call<{ items: object[]; kept: object[] }>('GET', `/change-sets/${body.changeSet}`);
    expect(read.body.items).toEqual([{ sku: free!.sku, action: 'removed' }]);
    expect(read.body.kept).toEqual([{ sku: live!.sku, leftAs: 'sent' }]);
    await takeBack(house, body.changeSet);
    expect(await item(free!.sku)).toBeDefined();
  });
  it('takes a bundle before what it holds, and puts its parts into it again', async () => {
    const bundle = (await items(`p.kind = 'bundle' and ${unsent}`))[0]!;
    const before = await catalog();
    const { body } = await remove(only(bundle.id));
    expect(await item(bundle.sku)).toBeUndefined();
    await takeBack(house, body.changeSet);
    expect(await catalog()).toBe(before);
    expect((await item(bundle.sku))?.kind).toBe('bundle');
  });
  it('does not count what a bundle holds as held where the bundle goes too', async () => {
    const bundle = (await items(`p.kind = 'bundle' and ${unsent}`))[0]!;
    const of = (await parts()).filter((p) => p.bundle_id === bundle.id).map((p) => p.part_id);
    const others = new Set((await parts()).filter((p) => p.bundle_id !== bundle.id).map((p) => p.part_id));
    const free = (await items(`p.id = any(?) and ${unsent}`, [of])).filter((p) => !others.has(p.id));
    const alone = await look(only(...free.map((p) => p.id)));
    const together = await look(only(bundle.id, ...free.map((p) => p.id)));
    expect(alone.total).toBe(0);
    expect(alone.stays.map((s) => [s.why, s.count])).toEqual(free.length > 0 ? [['part', free.length]] : []);
    expect(together.total).toBe(free.length + 1);
  });
  it('never takes the whole catalog, nor nothing', async () => {
    expect((await remove(everyItem)).body.message).toBe('The whole catalog is not taken out at once.');
    expect((await remove({ ...everyItem, skus: ['NO-SUCH'] })).body.message).toBe('No item is meant.');
  });
  it('keeps a taken SKU from coming back twice', async () => {
    const [one] = await items(`p.kind = 'single' and ${unsent}`);
    const { body } = await remove(only(one!.id));
    await house.call('POST', '/products', { sku: one!.sku, title: 'Another of this name' });
    const counts = (await house.call<ReversalCounts>('GET', `/change-sets/${body.changeSet}/reversal`)).body;
    expect(counts).toMatchObject({ keptTaken: 1, recreated: 0 });
    await takeBack(house, body.changeSet);
    expect(await product((await item(one!.sku))!.id)).toMatchObject({ fields: { title: 'Another of this name' } });
  });
});

describe('families', () => {
  const look = (ids: number[], family: object) =>
    house.call<FamilyCounts & { message: string }>('POST', '/items/family/look', { ids, family });
  const put = (ids: number[], family: object) =>
    house.call<{ changeSet: number; moved: number; message: string }>('POST', '/items/family', { ids, family });

  it('are divided: some variants go into a new one, which begins with what they share', async () => {
    const before = await catalog();
    const family = (
      await items(`p.kind = 'family' and (select count(*) from products v where v.parent_id = p.id) >= 3`)
    )[0]!;
    const members = await items('p.parent_id = ?', [family.id]);
    const two = members.slice(0, 2).map((m) => m.id);
    const wanted = { is: 'new', sku: 'NEW-FAM', title: 'A family of two', axes: family.axes };
    const looked = (await look(two, wanted)).body;
    expect(looked).toMatchObject({ moved: 2, from: [{ sku: family.sku, left: members.length - 2 }], alike: [] });
    const { body } = await put(two, wanted);
    expect(body.moved).toBe(2);
    const made = (await item('NEW-FAM'))!;
    expect(made).toMatchObject({ kind: 'family', axes: family.axes });
    expect((await items('p.parent_id = ?', [made.id])).map((m) => m.sku)).toEqual(
      members.slice(0, 2).map((m) => m.sku),
    );
    // Variants stand with their family, wherever their own names would put them.
    expect((await items('p.parent_id = ?', [made.id])).map((m) => m.shelf)).toEqual([made.shelf, made.shelf]);
    const [mine, old] = [(await product(made.id)).fields, (await product(two[0]!)).fields];
    expect(mine['brand']).toBe(old['brand']);
    expect(mine['price']).toBeUndefined();
    const reversal = (await house.call<ReversalCounts>('GET', `/change-sets/${body.changeSet}/reversal`)).body;
    expect(reversal).toMatchObject({ restored: 2, removed: 1, keptFamily: 0 });
    await takeBack(house, body.changeSet);
    expect(await catalog()).toBe(before);
  });
  it('are followed up on the markets: a variant that left names its family no more', async () => {
    const [one] = await items(
      `p.kind = 'variant' and exists (select 1 from listings l where l.product_id = p.id and l.category is not null)`,
    );
    const listing = async () =>
      (
        await house.call<{ rows: { sku: string; parentSku: string | null; role: string }[] }>(
          'GET',
          `/markets/quillhaven/listings?search=${one!.sku}`,
        )
      ).body.rows.find((r) => r.sku === one!.sku)!;
    expect(await listing()).toMatchObject({ parentSku: one!.parent, role: 'variant' });
    const { body } = await put([one!.id], { is: 'none' });
    expect(await item(one!.sku)).toMatchObject({ kind: 'single', parent: null, axes: [] });
    expect(await listing()).toMatchObject({ parentSku: null, role: 'single' });
    await takeBack(house, body.changeSet);
    expect(await listing()).toMatchObject({ parentSku: one!.parent, role: 'variant' });
  });
  it('take items that there are, and say who would be the same as another', async () => {
    const family = (await items(`p.kind = 'family'`))[0]!;
    const [first] = await items('p.parent_id = ?', [family.id]);
    const copy = await house.call<{ ids: number[]; changeSet: number }>('POST', '/items/copy', {
      from: first!.id,
      items: [{ sku: 'COPY-1', title: 'The same again' }],
    });
    await put(copy.body.ids, { is: 'none' });
    const looked = (await look(copy.body.ids, { is: 'there', sku: family.sku })).body;
    expect(looked).toMatchObject({ moved: 1, alike: ['COPY-1'], axes: family.axes });
    await put(copy.body.ids, { is: 'there', sku: family.sku });
    expect(await item('COPY-1')).toMatchObject({ kind: 'variant', parent: family.sku, axes: family.axes });
  });
  it('take no family and no bundle, and are not made of a SKU that is taken', async () => {
    const [family, other] = await items(`p.kind = 'family'`);
    const [bundle] = await items(`p.kind = 'bundle'`);
    expect((await look([other!.id, bundle!.id], { is: 'there', sku: family!.sku })).body).toMatchObject({
      moved: 0,
      families: 1,
      bundles: 1,
    });
    const [single] = await items(`p.kind = 'single'`);
    expect((await put([single!.id], { is: 'there', sku: 'NO-SUCH' })).body.message).toBe('There is no family NO-SUCH.');
    expect((await put([single!.id], { is: 'there', sku: single!.sku })).status).toBe(400);
    const taken = await put([single!.id], { is: 'new', sku: family!.sku, title: 'x', axes: [] });
    expect([taken.status, taken.body.message]).toEqual([409, `SKU ${family!.sku} is already in the catalog.`]);
    const odd = await put([single!.id], { is: 'new', sku: 'ODD', title: 'x', axes: ['title'] });
    expect(odd.body.message).toBe('Variants do not differ by Title here.');
    expect(await item('ODD')).toBeUndefined();
  });
  it('are typed as a cell too: one that there is, or none', async () => {
    const [family] = await items(`p.kind = 'family'`);
    const [single] = await items(`p.kind = 'single'`);
    const patch = (id: number, before: string | null, after: string | null) =>
      house.call<{ refused: { fault: object }[]; applied: number }>('PATCH', '/products', {
        cells: [{ id, field: 'parent_sku', before, after }],
      });
    expect((await patch(single!.id, null, 'NO-SUCH')).body.refused[0]!.fault).toEqual({
      kind: 'no-such-family',
      sku: 'NO-SUCH',
    });
    expect((await patch(family!.id, null, family!.sku)).body.refused[0]!.fault).toEqual({
      kind: 'in-no-family',
      is: 'family',
    });
    expect((await patch(single!.id, null, family!.sku)).body.applied).toBe(1);
    expect(await item(single!.sku)).toMatchObject({ parent: family!.sku, kind: 'variant' });
    expect((await patch(single!.id, family!.sku, null)).body.applied).toBe(1);
    expect(await item(single!.sku)).toMatchObject({ parent: null, kind: 'single' });
  });
  it('differ by other fields when that is said, their variants with them', async () => {
    const family = (await items(`p.kind = 'family' and p.axes = '["fact.colour"]'`))[0]!;
    const set = await house.call<{ changeSet: number }>('PUT', `/items/${family.id}/axes`, {
      axes: ['fact.colour', 'fact.size'],
    });
    const axes = async () =>
      new Set((await items('coalesce(p.parent_id, p.id) = ?', [family.id])).map((m) => m.axes.join()));
    expect(await axes()).toEqual(new Set(['fact.colour,fact.size']));
    await takeBack(house, set.body.changeSet);
    expect(await axes()).toEqual(new Set(['fact.colour']));
    const [single] = await items(`p.kind = 'single'`);
    expect((await house.call('PUT', `/items/${single!.id}/axes`, { axes: [] })).status).toBe(400);
    expect((await house.call('PUT', `/items/${family.id}/axes`, { axes: ['fact.nothing'] })).status).toBe(400);
  });
});

describe('several items', () => {
  const join = (keep: number, others: number[], values: object = {}) =>
    house.call<{ changeSet: number; message: string }>('POST', '/items/join', { keep, others, values });
  it('are made one, with the values that are given, and several again', async () => {
    const before = await catalog();
    const held = (await house.rows<{ part_id: number }>('select part_id from bundle_parts')).map((p) => p.part_id);
    const [a, b] = (await items(`p.kind in ('single', 'variant') and ${unsent}`)).filter((i) => !held.includes(i.id));
    const wanted = (await product(b!.id)).fields['title']!;
    const { body } = await join(a!.id, [b!.id], { title: wanted, 'fact.colour': 'Puce' });
    expect(await item(b!.sku)).toBeUndefined();
    expect((await product(a!.id)).fields).toMatchObject({ title: wanted, 'fact.colour': 'Puce' });
    await takeBack(house, body.changeSet);
    expect(await catalog()).toBe(before);
  });
  it('are left as they are where one of them cannot go, or a value cannot stand there', async () => {
    const before = await catalog();
    const held = (await house.rows<{ part_id: number }>('select part_id from bundle_parts')).map((p) => p.part_id);
    const [a, b] = (await items(`p.kind in ('single', 'variant') and ${unsent}`)).filter((i) => !held.includes(i.id));
    const [live] = await items(
      `p.kind = 'variant' and exists (select 1 from listings l where l.product_id = p.id and l.market_state = 'live')`,
    );
    const [family] = await items(`p.kind = 'family'`);
    expect((await join(a!.id, [live!.id])).body.message).toBe(
      `${live!.sku} cannot be joined: it stands on a market or is on its way there; withdraw it there first.`,
    );
    expect((await join(a!.id, [family!.id])).body.message).toMatch(/is a family; singles and variants are joined/);
    expect((await join(a!.id, [a!.id])).status).toBe(400);
    const odd = await join(a!.id, [b!.id], { price: 'soon' });
    expect([odd.status, odd.body.message]).toEqual([400, expect.stringMatching(/soon/)]);
    expect(await catalog()).toBe(before);
  });
  it('are copied off one, in its family, without its numbers and its stock', async () => {
    const [one] = await items(`p.kind = 'variant' and p.gtin is not null`);
    const made = await house.call<{ changeSet: number; ids: number[] }>('POST', '/items/copy', {
      from: one!.id,
      items: [
        { sku: 'CP-1', title: 'First' },
        { sku: 'CP-2', title: 'Second' },
      ],
    });
    const [origin, copy] = [(await product(one!.id)).fields, (await product(made.body.ids[1]!)).fields];
    expect(copy).toMatchObject({ sku: 'CP-2', title: 'Second', parent_sku: one!.parent, price: origin['price'] });
    expect([copy['gtin'], copy['mpn'], copy['stock']]).toEqual([undefined, undefined, undefined]);
    const taken = await house.call('POST', '/items/copy', {
      from: one!.id,
      items: [
        { sku: 'CP-3', title: 'x' },
        { sku: 'CP-1', title: 'x' },
      ],
    });
    expect(taken.status).toBe(409);
    expect(await item('CP-3')).toBeUndefined();
    await takeBack(house, made.body.changeSet);
    expect(await items(`p.sku like 'CP-%'`)).toEqual([]);
  });
});

describe('a market', () => {
  it('is left by whatever matches, and takes it in again', async () => {
    const which: Which = {
      ...everyItem,
      clauses: [
        { is: 'empty', field: 'pictures' },
        { is: 'at-most', field: 'stock', value: '0' },
      ],
    };
    const want = (wanted: boolean) =>
      house.call<{ changed: number }>('POST', '/items/wanted', { which, market: 'quillhaven', wanted });
    const out = () =>
      house.rows<{ n: number }>(`select count(*)::int as n from listings where market_state = 'left out'`);
    const { changed } = (await want(false)).body;
    expect((await out())[0]!.n).toBe(changed);
    await want(true);
    expect((await out())[0]!.n).toBe(0);
    const sold: Which = {
      ...everyItem,
      clauses: [
        { is: 'filled', field: 'pictures' },
        { is: 'over', field: 'stock', value: '0' },
      ],
    };
    await house.call('POST', '/items/wanted', { which: everyItem, market: 'quillhaven', wanted: false });
    const there = await house.rows<{ n: number }>(
      `select count(*)::int as n from listings where market_state not in ('none', 'left out')`,
    );
    await house.call('POST', '/items/wanted', { which: sold, market: 'quillhaven', wanted: true });
    const back = await house.rows<{ id: number }>(
      `select l.product_id as id from listings l join products p on p.id = l.product_id where l.market_state = 'none' and p.kind <> 'family'`,
    );
    const meant = new Set(
      (
        await house.rows<{ id: number }>(
          `select p.id from products p where jsonb_array_length(coalesce(p.pictures, '[]')) > 0 and p.kind in ('single', 'variant')
            and (select sum(on_hand) from stock s where s.product_id = p.id) > 0`,
        )
      ).map((m) => m.id),
    );
    const bundles = new Set((await items(`p.kind = 'bundle'`)).map((b) => b.id));
    expect(back.length).toBeGreaterThan(0);
    expect(there[0]!.n).toBeGreaterThan(0);
    expect(back.filter((b) => !meant.has(b.id) && !bundles.has(b.id))).toEqual([]);
  });
});

describe('families among items', () => {
  interface Found {
    families: {
      sku: string;
      title: string;
      axes: string[];
      ids: number[];
      variants: { sku: string; says: string[] }[];
    }[];
    left: number;
  }
  const find = async (ids: number[]) => (await house.call<Found>('POST', '/items/families/find', { ids })).body;
  const make = (families: object[]) =>
    house.call<{ changeSet: number; moved: number; message: string }>('POST', '/items/families', { families });

  it('are found, made at once with what their variants share, and taken back at once', async () => {
    const cloth = (sku: string, title: string, size: string) => ({
      ...{ sku, kind: 'single' as const, parentSku: null, axes: [] },
      fields: {
        title,
        brand: 'Pellow',
        category: 'Aprons',
        'fact.size': size,
        price: '9.00',
        'fact.material': 'Linen',
      },
    });
    const added = await insertProducts(house.db, [
      ...['S', 'M', 'L'].map((s) => cloth(`FAM-A${s}`, 'Cloth', s)),
      ...['S', 'M'].map((s) => cloth(`FAM-B-${s}`, `Runner ${s}`, s)),
      cloth('FAM-C', 'Lonely', 'S'),
      cloth('FAM-B', 'In the way', 'S'),
    ]);
    const ids = added.map((a) => a.id),
      before = await catalog();
    const found = await find(ids.slice(0, 6));
    expect(found.families.map(({ ids: _, ...f }) => f)).toEqual([
      {
        ...{ sku: 'FAM-A', title: 'Cloth', axes: ['fact.size'] },
        variants: ['S', 'M', 'L'].map((s) => ({ sku: `FAM-A${s}`, says: [s] })),
      },
      {
        // That SKU is an item's.
        ...{ sku: 'FAM-B-FAM', title: 'Runner', axes: ['fact.size'] },
        variants: ['S', 'M'].map((s) => ({ sku: `FAM-B-${s}`, says: [s] })),
      },
    ]);
    expect(found.left).toBe(1);
    const made = (await make(found.families)).body;
    expect(made.moved).toBe(5);
    expect((await items(`p.sku like 'FAM-%'`)).map((i) => [i.sku, i.kind, i.parent])).toEqual([
      ['FAM-A', 'family', null],
      ...['L', 'M', 'S'].map((s) => [`FAM-A${s}`, 'variant', 'FAM-A']),
      ['FAM-B', 'single', null],
      ['FAM-B-FAM', 'family', null],
      ...['M', 'S'].map((s) => [`FAM-B-${s}`, 'variant', 'FAM-B-FAM']),
      ['FAM-C', 'single', null],
    ]);
    expect((await product((await item('FAM-A'))!.id)).fields).toEqual({
      ...{ sku: 'FAM-A', title: 'Cloth', brand: 'Pellow', category: 'Aprons', 'fact.material': 'Linen' },
    });
    // What is in a family is found no more.
    expect(await find(ids.slice(0, 6))).toEqual({ families: [], left: 1 });
    await takeBack(house, made.changeSet);
    expect(await catalog()).toBe(before);
  });
  it('are made all of them or none', async () => {
    const [a, b, c] = (await items(`p.sku like 'FAM-A%'`)).map((i) => i.id),
      lonely = (await item('FAM-C'))!.id;
    const family = { sku: 'FAM-X', title: 'Cloth', axes: ['fact.size'], ids: [a, b] },
      before = await catalog();
    for (const [families, message] of [
      [[family, { ...family, sku: 'FAM-C', ids: [c, lonely] }], 'SKU FAM-C is already in the catalog.'],
      [[family, { ...family, ids: [c, lonely] }], 'SKU FAM-X is already in the catalog.'],
      [
        [family, { ...family, sku: 'FAM-Y', ids: [b, c] }],
        'An item cannot be put into a family, or is in two of these.',
      ],
      [[{ ...family, axes: ['fact.care'] }], 'Variants do not differ by Care here.'],
    ] as const) {
      const answer = await make([...families]);
      expect([answer.status >= 400 && answer.status < 500, answer.body.message]).toEqual([true, message]);
    }
    expect(await catalog()).toBe(before);
  });
});
