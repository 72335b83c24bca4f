// Fields that the house says of its items and its own categories: on a real database, through the server's own doors.
import type { OwnField } from '@basileus/core/product';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type House, openHouse, until } from '../tests/house';

let house: House;
beforeAll(async () => {
  house = await openHouse('own_test', { size: 120 });
});
afterAll(() => house.close());

interface Book {
  fields: OwnField[];
  languages: string[];
  currencies: string[];
}
interface Refusal {
  code: string;
  message: string;
  field: string;
  remedy: string;
}
const book = async () => (await house.call<Book>('GET', '/own-fields')).body;
const add = (field: object) => house.call<OwnField & Refusal>('POST', '/own-fields', field);
const put = (key: string, field: object) => house.call<OwnField & Refusal>('PUT', `/own-fields/${key}`, field);
interface Item {
  id: number;
  sku: string;
  category: string | null;
  facts: Record<string, unknown>;
}
const items = (where: string, ...bindings: unknown[]) =>
  house.rows<Item>(`select id, sku, category, facts from products where ${where} order by id`, bindings);
const patch = (cells: object[]) =>
  house.call<{ applied: number; changeSet: number; refused: { fault: object }[] }>('PATCH', '/products', { cells });

describe('a field of the house', () => {
  it('is there from the start, in its order, with the languages and currencies of the markets', async () => {
    const { fields, languages, currencies } = await book();
    expect(fields.slice(0, 3).map((f) => f.key)).toEqual(['list_price', 'colour', 'size']);
    expect(fields.at(-1)).toMatchObject({ key: 'reading', language: 'ja' });
    expect([languages, currencies]).toEqual([
      ['de', 'sv', 'ar', 'ja'],
      ['EUR', 'SEK', 'USD', 'KWD', 'JPY'],
    ]);
  });
  it('is added, typed into, sorted by, imported into, and told in the history', async () => {
    const made = await add({
      label: 'Spout shape',
      kind: 'text',
      values: ['Straight', 'Curved'],
      names: ['Tülle'],
      group: 'Make',
    });
    expect(made.body).toMatchObject({ key: 'spout_shape', axis: false });
    const [, a, b] = await items(`kind = 'family'`);
    const cells = (after: string) => [{ id: a!.id, field: 'fact.spout_shape', before: null, after }];
    expect((await patch(cells('Bent'))).body.refused).toMatchObject([{ fault: { kind: 'not-in-list', near: null } }]);
    expect((await patch(cells('curved'))).body.applied).toBe(1);
    expect((await items('id = ?', a!.id))[0]!.facts['spout_shape']).toBe('Curved');
    const sorted = await house.call<{ rows: { sku: string }[] }>('GET', '/products?sort=fact.spout_shape&limit=1');
    expect(sorted.body.rows[0]!.sku).toBe(a!.sku);
    const file = await house.upload<{ id: number; reading: { columns: { field: string }[] } }>(
      'spouts.csv',
      `SKU,Tülle\n${b!.sku},STRAIGHT\n`,
    );
    expect(file.body.reading.columns.map((c) => c.field)).toEqual(['sku', 'fact.spout_shape']);
    const [entry] = await house.rows<{ fact: object }>(`select fact from history where fact ->> 'is' = 'own-said'`);
    expect(entry!.fact).toEqual({ is: 'own-said', what: 'field', name: 'Spout shape', how: 'added', to: null });
  });
  it('is refused with the part that is wrong, and nothing changes', async () => {
    const before = await book();
    expect(await add({ label: 'colour', kind: 'text' })).toMatchObject({
      status: 409,
      body: { field: 'label', message: '“colour” is what the field Colour is called already.' },
    });
    expect(await add({ label: 'Glaze', kind: 'text', unit: 'cm' })).toMatchObject({
      status: 400,
      body: { field: 'unit' },
    });
    expect(await add({ label: 'Glaze', kind: 'text', categories: ['Nowhere'] })).toMatchObject({
      status: 400,
      body: { message: 'We have no category “Nowhere”.' },
    });
    expect(await add({ label: ' ', kind: 'text' })).toMatchObject({ status: 400 });
    expect(await add({ label: 'Glaze', kind: 'identifier' })).toMatchObject({ status: 400 });
    expect((await put('nothing_such', { label: 'Glaze', kind: 'text' })).status).toBe(404);
    expect(await book()).toEqual(before);
  });
  it('changes its name and its list, but its kind only where what items hold can stand', async () => {
    const said = { label: 'Hue', kind: 'text', names: ['Farbton'], group: 'Make', axis: true, shared: true };
    expect((await put('colour', said)).body).toMatchObject({ key: 'colour', label: 'Hue' });
    const refused = await put('colour', { ...said, kind: 'integer' });
    expect(refused).toMatchObject({ status: 409, body: { code: 'conflict', field: 'kind' } });
    expect(refused.body.message).toMatch(/^\d+ items hold something in Hue that cannot stand there then, such as “\w+/);
    const [{ n }] = (await house.rows<{ n: number }>(
      `select count(*)::int as n from products where facts ->> 'colour' is not null`,
    )) as [{ n: number }];
    expect(refused.body.message).toContain(`${n} items`);
    expect((await put('care', { label: 'Care', kind: 'long-text', group: 'Make' })).status).toBe(200);
    expect((await book()).fields.find((f) => f.key === 'care')!.kind).toBe('long-text');
  });
  it('stands where it is put', async () => {
    const keys = (await book()).fields.map((f) => f.key);
    await house.call('PUT', '/own-fields-order', { keys: ['reading', 'care'] });
    expect((await book()).fields.map((f) => f.key)).toEqual([
      'reading',
      'care',
      ...keys.filter((k) => k !== 'reading' && k !== 'care'),
    ]);
  });
  it('stays while a market takes it, and says which', async () => {
    expect(
      (await house.call('PUT', '/markets/quillhaven/fields/brand', { source: { is: 'field', field: 'fact.care' } }))
        .status,
    ).toBe(200);
    const market = (await house.call<{ markets: string[] }>('GET', '/own-fields/care/use')).body.markets;
    const refused = await house.call<Refusal>('DELETE', '/own-fields/care');
    expect(market).toEqual(['Quillhaven']);
    expect(refused).toMatchObject({
      status: 409,
      body: { message: 'Care is what Quillhaven takes for a field of theirs.' },
    });
  });
  it('is emptied before it goes, which can be taken back once it is there again', async () => {
    const held = await items(`facts ->> 'dishwasher' is not null`);
    const use = (await house.call<{ items: number }>('GET', '/own-fields/dishwasher/use')).body;
    expect([held.length > 3, use.items]).toEqual([true, held.length]);
    const gone = await house.call<{ job: string; items: number }>('DELETE', '/own-fields/dishwasher');
    expect(gone.body.items).toBe(held.length);
    await finish(gone.body.job);
    expect(await items(`facts ->> 'dishwasher' is not null`)).toEqual([]);
    expect((await book()).fields.some((f) => f.key === 'dishwasher')).toBe(false);
    const sets = await house.call<{ rows: { id: number; title: string; cells: number; isDone: boolean }[] }>(
      'GET',
      '/change-sets?limit=1',
    );
    expect(sets.body.rows[0]).toMatchObject({ title: 'Emptied: Dishwasher safe', cells: held.length, isDone: true });
    expect((await add({ label: 'Dishwasher', kind: 'yes-no' })).body.key).toBe('dishwasher');
    const back = await house.call<{ job: string }>('POST', `/change-sets/${sets.body.rows[0]!.id}/reverse`);
    await finish(back.body.job);
    expect((await items(`facts ->> 'dishwasher' is not null`)).map((i) => i.facts['dishwasher'])).toEqual(
      held.map((i) => i.facts['dishwasher']),
    );
  });
  it('goes at once where no item holds it', async () => {
    await add({ label: 'Never used', kind: 'yes-no' });
    expect((await house.call('DELETE', '/own-fields/never_used')).body).toEqual({ job: null, items: 0 });
    expect((await book()).fields.some((f) => f.key === 'never_used')).toBe(false);
  });
  it('does not show what an older field of its name left with items', async () => {
    const [a] = await items(`kind <> 'family'`);
    await house.rows(`update products set facts = facts || '{"mystery": "old"}' where id = ?`, [a!.id]);
    expect((await add({ label: 'Mystery', kind: 'text' })).body.key).toBe('mystery_2');
  });
});

describe('languages and currencies beside the house’s', () => {
  it('come with a market that speaks or sells in them, and one by one', async () => {
    const facet = (kind: string, code: string) => house.call<Refusal>('POST', '/own-facets', { kind, code });
    expect((await facet('language', 'fr')).body).toEqual({ added: true });
    expect((await facet('language', 'fr')).body).toEqual({ added: false });
    expect((await facet('language', 'klingon')).status).toBe(400);
    expect((await facet('currency', 'chf')).status).toBe(400);
    expect((await book()).languages).toEqual(['de', 'sv', 'ar', 'ja', 'fr']);
    const [a] = await items(`kind <> 'family'`);
    expect((await patch([{ id: a!.id, field: 'fact.title@fr', before: null, after: 'Poêle' }])).body.applied).toBe(1);
    expect(await house.call<Refusal>('DELETE', '/own-facets/language/fr')).toMatchObject({
      status: 409,
      body: { message: '1 item holds a Title (French).' },
    });
    await patch([{ id: a!.id, field: 'fact.title@fr', before: 'Poêle', after: null }]);
    expect((await house.call('DELETE', '/own-facets/language/fr')).status).toBe(200);
    expect((await house.call('DELETE', '/own-facets/language/fr')).status).toBe(404);
    expect((await book()).languages).not.toContain('fr');
  });
});

describe('own categories', () => {
  const tree = async () =>
    (await house.call<{ rows: { name: string; parent: string | null; items: number }[] }>('GET', '/own-categories'))
      .body.rows;
  const find = async (name: string) => (await tree()).find((c) => c.name === name);
  const change = (body: object) =>
    house.call<{ job: string | null; items: number } & Refusal>('POST', '/own-categories/change', body);

  it('are those that items have, under those of the house', async () => {
    const pans = await find('Frying pans');
    const [{ n }] = (await house.rows<{ n: number }>(
      `select count(*)::int as n from products where category = 'Frying pans'`,
    )) as [{ n: number }];
    expect(pans).toEqual({ name: 'Frying pans', parent: 'Cookware', items: n });
    const [a] = await items(`kind <> 'family'`);
    await patch([{ id: a!.id, field: 'category', before: a!.category, after: 'Odd things' }]);
    expect(await find('Odd things')).toEqual({ name: 'Odd things', parent: null, items: 1 });
    await patch([{ id: a!.id, field: 'category', before: 'Odd things', after: a!.category }]);
    expect(await find('Odd things')).toEqual({ name: 'Odd things', parent: null, items: 0 });
  });
  it('show in the catalog with all that stand under them', async () => {
    const branch = (await tree()).filter((c) => c.parent === 'Cookware');
    const all = await house.call<{ total: number }>('GET', '/products?category=Cookware&open=all');
    expect(branch.length).toBeGreaterThan(2);
    expect(all.body.total).toBe(branch.reduce((n, c) => n + c.items, 0));
  });
  it('never stand under themselves', async () => {
    expect((await change({ name: 'Frying pans', parent: 'Cookware' })).status).toBe(200);
    expect(await change({ name: 'Cookware', parent: 'Frying pans' })).toMatchObject({
      status: 400,
      body: { message: '“Cookware” cannot stand under “Frying pans”, which is itself under it.' },
    });
    expect((await change({ name: 'Cookware', parent: 'Nowhere' })).body.message).toBe('We have no category “Nowhere”.');
    expect((await change({ name: 'Cookware' })).status).toBe(400);
    expect((await change({ name: 'Woks', parent: null })).status).toBe(200);
    expect(await find('Woks')).toMatchObject({ parent: null });
    await change({ name: 'Woks', parent: 'Cookware' });
  });
  it('take their items, what was remembered of them and their fields along to another name', async () => {
    await put('care', { label: 'Care', kind: 'long-text', categories: ['Frying pans', 'Woks'] });
    const before = await items(`category = 'Frying pans'`);
    const rule = async (ours: string) =>
      (
        await house.rows<{ theirs: string }>(
          `select theirs from correspondences where kind = 'category' and ours = ?`,
          [ours],
        )
      ).map((r) => r.theirs);
    const [theirs] = await rule('Frying pans');
    const renamed = await change({ name: 'Frying pans', rename: 'Skillets' });
    expect(renamed.body.items).toBe(before.length);
    await finish(renamed.body.job!);
    expect((await items(`category = 'Skillets'`)).map((i) => i.sku)).toEqual(before.map((i) => i.sku));
    expect([await find('Frying pans'), await find('Skillets')]).toEqual([
      undefined,
      { name: 'Skillets', parent: 'Cookware', items: before.length },
    ]);
    expect([theirs, await rule('Frying pans'), await rule('Skillets')]).toEqual([expect.any(String), [], [theirs]]);
    expect([...(await book()).fields.find((f) => f.key === 'care')!.categories].sort()).toEqual(['Skillets', 'Woks']);
    const sets = await house.call<{ rows: { title: string; cells: number }[] }>('GET', '/change-sets?limit=1');
    expect(sets.body.rows[0]).toMatchObject({
      title: 'Own category, Frying pans becomes Skillets',
      cells: before.length,
    });
  });
  it('are put together where the other name is there, which keeps what it has', async () => {
    const [was] = await house.rows<{ theirs: string }>(
      `select theirs from correspondences where kind = 'category' and ours = 'Skillets'`,
    );
    const n = (await items(`category in ('Woks', 'Skillets')`)).length;
    const done = await change({ name: 'Woks', rename: 'Skillets' });
    await finish(done.body.job!);
    expect(await find('Skillets')).toMatchObject({ items: n });
    expect(
      await house.rows(`select theirs from correspondences where kind = 'category' and ours = 'Skillets'`),
    ).toEqual([was]);
  });
  it('are added once, and go when they have no items; those under them go up', async () => {
    const create = (name: string, parent: string | null) => house.call('POST', '/own-categories', { name, parent });
    expect((await create('Outdoor', null)).status).toBe(200);
    expect((await create('Grills', 'Outdoor')).status).toBe(200);
    expect((await create('Grills', null)).status).toBe(409);
    expect((await create('Smokers', 'Nowhere')).status).toBe(400);
    const remove = (name: string) => house.call<Refusal>('POST', '/own-categories/remove', { name });
    expect((await remove('Skillets')).status).toBe(409);
    expect((await remove('Outdoor')).status).toBe(200);
    expect(await find('Grills')).toMatchObject({ parent: null });
  });
  it('are placed by the nearest over them for which a market’s category was chosen', async () => {
    const [leaf] = await house.rows<{ theirs: string }>(
      `select theirs from correspondences where kind = 'category' and ours = 'Skillets'`,
    );
    await house.call('POST', '/own-categories', { name: 'Copper skillets', parent: 'Skillets' });
    await house.call('POST', '/own-categories', { name: 'Tiny skillets', parent: 'Copper skillets' });
    const file = await house.upload<{ id: number }>(
      'new.csv',
      'SKU,Title,Own category\nZZ-1,A tiny copper pan,Tiny skillets\nZZ-2,A lamp,Lamps\n',
    );
    await expectPlanned(file.body.id);
    const job = await house.call<{ job: string }>('POST', `/imports/${file.body.id}/apply`);
    await finish(job.body.job);
    const placed = await house.rows<{ sku: string; category: string | null }>(
      `select p.sku, l.category from listings l join products p on p.id = l.product_id where p.sku like 'ZZ-%' order by 1`,
    );
    expect(placed).toEqual([
      { sku: 'ZZ-1', category: leaf!.theirs },
      { sku: 'ZZ-2', category: null },
    ]);
    const groups = await house.call<{ rows: { ownCategory: string; rule: string; ruleOf: string; above: string[] }[] }>(
      'GET',
      '/markets/quillhaven/category-groups',
    );
    expect(groups.body.rows.find((g) => g.ownCategory === 'Tiny skillets')).toMatchObject({
      rule: leaf!.theirs,
      ruleOf: 'Skillets',
      above: ['Cookware', 'Skillets', 'Copper skillets'],
    });
  });
  it('under one that is placed now are placed with it, unless they were placed themselves', async () => {
    const leaves = await house.rows<{ theirs: string }>(
      `select distinct theirs from correspondences where kind = 'category' and ours <> 'Skillets' order by 1 limit 2`,
    );
    for (const [parent, name] of [
      [null, 'Lighting'],
      ['Lighting', 'Desk lamps'],
    ])
      await house.call('POST', '/own-categories', { name, parent });
    await change({ name: 'Lamps', parent: 'Lighting' });
    const [lamp] = await items(`sku = 'ZZ-2'`);
    const assign = (ownCategory: string, category: string) =>
      house.call<{ changed: number }>('POST', '/markets/quillhaven/assign-category', { ownCategory, category });
    expect((await assign('Lamps', leaves[0]!.theirs)).body.changed).toBe(1);
    await house.rows(`update listings set category = null where product_id = ?`, [lamp!.id]);
    expect((await assign('Lighting', leaves[1]!.theirs)).body.changed).toBe(0);
    await house.rows(`delete from correspondences where ours = 'Lamps'`);
    expect((await assign('Lighting', leaves[1]!.theirs)).body.changed).toBe(1);
  });
});

const expectPlanned = (id: number) =>
  until(
    async () => (await house.call<{ state: string }>('GET', `/imports/${id}`)).body.state,
    (state) => state === 'planned',
  );
async function finish(job: string): Promise<void> {
  const state = await until(
    async () => (await house.rows<{ state: string }>('select state from jobs where id = ?', [job]))[0]?.state,
    (now) => now !== 'queued' && now !== 'running',
  );
  expect(state).toBe('done');
}
