// The tables of correspondences over the server's own doors: what feeds which attribute, what our values become, everywhere
// or at a node of the market's tree, and the listings that follow.
import type { FieldRow, ValueRow } from '@basileus/contract';
import type { Source } from '@basileus/core/listing';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { migrate, migrateDownTo } from '../database';
import { type House, openHouse } from '../tests/house';

let house: House;
beforeAll(async () => {
  house = await openHouse('correspondences_test', { size: 200, with: ['torgvik'] });
});
afterAll(() => house.close());

interface Refusal {
  code: string;
  message: string;
  field: string | null;
  remedy: string | null;
}
interface Followed {
  refreshed: number;
  job: string | null;
}
const m = '/markets/quillhaven';
const say = (attribute: string, source: Source | null, node = '') =>
  house.call<Followed & Refusal>('PUT', `${m}/fields/${attribute}`, { node, source });
const code = (attribute: string, ours: string, theirs: string | null, node = '') =>
  house.call<Followed & Refusal>('PUT', `${m}/values`, { node, codes: [{ attribute, ours, theirs }] });
const table = async (node = '') =>
  (await house.call<{ rows: FieldRow[]; nodes: { key: string; said: number }[] }>('GET', `${m}/fields?node=${node}`))
    .body;
interface ValueTable {
  rows: ValueRow[];
  total: number;
  counts: Record<string, number>;
  attributes: { key: string; label: string; values: number; open: number }[];
  cut: string[];
}
const values = async (query = '') => (await house.call<ValueTable>('GET', `${m}/values?${query}`)).body;
/** What stands in a field of the listings of a category, each once. */
const held = async (field: string, category: string) =>
  (
    await house.rows<{ v: string | null }>(
      `select distinct l."values" ->> ? as v from listings l join markets k on k.id = l.market_id
        where k.key = 'quillhaven' and l.category = ? and exists (select 1 from products p where p.id = l.product_id and p.kind <> 'family') order by 1`,
      [field, category],
    )
  ).map((r) => r.v);
const pan = async (field: string) =>
  (
    await house.rows<{ v: unknown }>(
      `select l."values" -> ? as v from listings l
        join products p on p.id = l.product_id join markets k on k.id = l.market_id
        where p.sku = 'FP-HEAR-24CM' and k.key = 'quillhaven'`,
      [field],
    )
  )[0]!.v;

describe('what feeds an attribute', () => {
  it('is a field of ours, the same text for all, a formula or nothing, and again what is suggested', async () => {
    const was = await pan('maker_reference');
    const said: [Source | null, unknown][] = [
      [{ is: 'field', field: 'sku' }, 'FP-HEAR-24CM'],
      [{ is: 'text', text: 'same' }, 'same'],
      [{ is: 'formula', formula: 'lower([SKU]) & "/" & [Brand]' }, `fp-hear-24cm/${String(await pan('brand'))}`],
      [{ is: 'nothing' }, null],
      [null, was],
    ];
    for (const [source, is] of said) {
      expect((await say('maker_reference', source)).status).toBe(200);
      expect((await pan('maker_reference')) ?? null).toEqual(is);
    }
  });
  it('is refused where it cannot be, and nothing is changed', async () => {
    const before = await table();
    expect(await say('maker_reference', { is: 'field', field: 'ghost' })).toMatchObject({
      status: 400,
      body: { field: 'source', message: 'We have no field “ghost”.' },
    });
    expect(await say('ghost', { is: 'nothing' })).toMatchObject({ status: 400, body: { field: 'attribute' } });
    expect(await say('maker_reference', { is: 'nothing' }, 'ghost')).toMatchObject({
      status: 400,
      body: { field: 'node', message: '“ghost” is not a category of Quillhaven.' },
    });
    expect(await say('price', { is: 'formula', formula: '[Titel]' })).toMatchObject({
      status: 400,
      body: { field: 'source', message: 'The formula for Price: There is no field “Titel”; “Title” is nearest.' },
    });
    expect(await table()).toEqual(before);
  });
  it('is said for a node and all under it, and counts there alone', async () => {
    await say('maker_reference', { is: 'text', text: 'of all' });
    await say('maker_reference', { is: 'text', text: 'of cookware' }, 'cookware');
    await say('maker_reference', { is: 'text', text: 'of pans' }, 'frying_pans');
    expect(await held('maker_reference', 'frying_pans')).toEqual(['of pans']);
    expect(await held('maker_reference', 'saucepans')).toEqual(['of cookware']);
    expect(await held('maker_reference', 'electric_kettles')).toEqual(['of all']);
    const at = async (node: string) => (await table(node)).rows.find((r) => r.attribute === 'maker_reference')!;
    expect((await at('pots')).said).toEqual({ node: 'cookware', source: { is: 'text', text: 'of cookware' } });
    expect([(await at('')).under.sort(), (await at('cookware')).under]).toEqual([
      ['cookware', 'frying_pans'],
      ['frying_pans'],
    ]);
    expect((await table()).nodes).toContainEqual({ key: 'frying_pans', said: 1 });
    // What is taken back at a node is again what is said above it.
    await say('maker_reference', null, 'frying_pans');
    expect(await held('maker_reference', 'frying_pans')).toEqual(['of cookware']);
    await say('maker_reference', null, 'cookware');
    await say('maker_reference', null);
  });
  it('is shown for a node with what its categories ask for, and how many listings have it', async () => {
    const rows = (await table('electric_kettles')).rows;
    expect(rows.find((r) => r.attribute === 'power')).toMatchObject({ level: 'must' });
    expect(rows.some((r) => r.attribute === 'page_count')).toBe(false);
    expect((await table()).rows.some((r) => r.attribute === 'page_count')).toBe(true);
    const [counted] = await house.rows<{ listings: number; filled: number }>(
      `select count(*)::int as listings, (count(*) filter (where l."values" ? 'power'))::int as filled
        from listings l join markets k on k.id = l.market_id where k.key = 'quillhaven' and l.category = 'electric_kettles'`.replace(
        '? ',
        '\\? ',
      ),
    );
    expect(counted!.listings).toBeGreaterThan(0);
    expect(rows.find((r) => r.attribute === 'power')).toMatchObject({
      demanded: counted!.listings,
      filled: counted!.filled,
    });
  });
  it('is tried on items of the node before it is said: what it gives, or what is wrong with it', async () => {
    const attempt = (formula: string, attribute = 'maker_reference') =>
      house.call<{
        ok: boolean;
        samples: { sku: string; value: string; fault: { kind: string } | null }[];
        fault: object;
      }>('POST', `${m}/fields/${attribute}/try`, { node: 'frying_pans', formula });
    const good = (await attempt('[SKU] & "!"')).body;
    expect(good.samples.map((s) => s.value)).toEqual(good.samples.map((s) => `${s.sku}!`));
    expect(good.samples).toHaveLength(3);
    expect((await attempt('[Price] / 0', 'price')).body.samples.map((s) => s.fault?.kind)).toContain('divided-by-zero');
    expect((await attempt('today() & ""')).body).toMatchObject({ ok: false, fault: { problem: { is: 'of-the-day' } } });
    expect((await table()).rows.find((r) => r.attribute === 'maker_reference')!.said).toBeNull();
  });
  it('outlives that a field of its formula is called otherwise, and holds the field', async () => {
    await house.call('POST', '/own-fields', { label: 'Line name', kind: 'text', group: 'Make' });
    await say('maker_reference', { is: 'formula', formula: '[Line name] & "-" & [SKU]' });
    expect(await pan('maker_reference')).toBe('-FP-HEAR-24CM');
    expect(
      (await house.call('PUT', '/own-fields/line_name', { label: 'Range', kind: 'text', group: 'Make' })).status,
    ).toBe(200);
    expect((await table()).rows.find((r) => r.attribute === 'maker_reference')).toMatchObject({
      said: { source: { is: 'formula', formula: '[Range] & "-" & [SKU]' } },
      isBroken: false,
    });
    expect(await house.call<Refusal>('DELETE', '/own-fields/line_name')).toMatchObject({
      status: 409,
      body: { message: 'Range is what Quillhaven takes for a field of theirs.' },
    });
    await say('maker_reference', null);
    expect((await house.call('DELETE', '/own-fields/line_name')).status).toBe(200);
  });
  it('stands in the history with what it was, by the names of then', async () => {
    await say('blade_length', { is: 'field', field: 'fact.length' }, 'knives');
    await say('blade_length', { is: 'formula', formula: '[fact.width] & ""' }, 'knives');
    const [last] = await house.rows<{ fact: object }>(
      `select fact from history where fact ->> 'is' = 'source-said' order by id desc limit 1`,
    );
    expect(last!.fact).toEqual({
      is: 'source-said',
      market: 'Quillhaven',
      attribute: 'Blade length',
      category: 'Kitchen › Knives and boards',
      before: { is: 'field', field: 'Length' },
      after: { is: 'formula', formula: '[Width] & ""' },
    });
    await say('blade_length', null, 'knives');
  });
});

describe('what a value of ours becomes', () => {
  it('is said once for every item, for a node of the tree alone, and forgotten again', async () => {
    expect(await pan('material')).toBe('castiron');
    expect((await code('material', 'Cast iron', 'other')).body.refreshed).toBeGreaterThan(100);
    expect(await pan('material')).toBe('other');
    expect(
      (await house.rows(`select 1 from findings where field = 'material_other' and message = 'mustBecause'`)).length,
    ).toBeGreaterThan(0);
    await code('material', 'CAST IRON', 'carbon', 'frying_pans');
    expect(await pan('material')).toBe('carbon');
    expect((await values('node=frying_pans&search=cast')).rows.find((r) => r.attribute === 'material')).toMatchObject({
      by: 'chosen',
      theirs: 'carbon',
      node: 'frying_pans',
    });
    expect((await values('node=saucepans&search=cast')).rows.find((r) => r.attribute === 'material')).toMatchObject({
      by: 'chosen',
      theirs: 'other',
      node: '',
    });
    await code('material', 'Cast iron', null, 'frying_pans');
    await code('material', 'cast iron', null);
    expect(await pan('material')).toBe('castiron');
  });
  it('is listed page by page, unmatched first with proposals, narrowed by attribute, word and how it is matched', async () => {
    await house.rows(
      `update products set facts = facts || '{"colour": "Blak"}' where id in (select id from products where kind = 'single' order by id limit 2) returning id`,
    );
    const all = await values();
    expect(all.rows.find((r) => r.ours === 'Cast iron' && r.attribute === 'material')).toMatchObject({
      by: 'label',
      theirs: 'castiron',
      node: null,
      proposals: [],
    });
    const kinds = all.rows.map((r) => r.by === 'nothing');
    expect(kinds[0]).toBe(true);
    expect(kinds.lastIndexOf(true)).toBeLessThan(kinds.indexOf(false));
    expect(all.rows[0]!.proposals.length).toBeGreaterThan(0);
    expect(Object.values(all.counts).reduce((a, b) => a + b, 0)).toBe(all.total);
    const open = await values('by=nothing');
    expect(open.total).toBe(all.counts['nothing']);
    expect(new Set(open.rows.map((r) => r.by))).toEqual(new Set(['nothing']));
    const colours = await values('attribute=colour');
    expect(new Set(colours.rows.map((r) => r.attribute))).toEqual(new Set(['colour']));
    expect(colours.total).toBe(all.attributes.find((a) => a.key === 'colour')!.values);
    const second = await values('from=5&limit=5');
    expect(second.rows).toEqual(all.rows.slice(5, 10));
    expect((await values('search=ZZZ')).total).toBe(0);
  });
  it('that is not on the list is proposed what was said of it on another market, with where that is', async () => {
    await house.rows(
      `update products set facts = facts || '{"colour": "Quorn"}' where id in (select id from products where kind = 'single' order by id limit 1) returning id`,
    );
    const quorn = async () => (await values('search=Quorn')).rows.find((r) => r.attribute === 'colour')!;
    expect(await quorn()).toMatchObject({ by: 'nothing', proposals: [] });
    const there = { node: '', codes: [{ attribute: 'farg', ours: 'quorn', theirs: 'F03' }] };
    expect((await house.call('PUT', '/markets/torgvik/values', there)).status).toBe(200);
    expect((await quorn()).proposals[0]).toEqual({
      code: 'blu',
      label: 'Blue',
      there: { market: 'Torgvik', label: 'Blue' },
    });
    // What feeds another field there says nothing of this one.
    await house.call('PUT', '/markets/torgvik/fields/farg', {
      node: '',
      source: { is: 'field', field: 'fact.material' },
    });
    expect(await quorn()).toMatchObject({ proposals: [] });
  });
  it('is also listed for what is fed by our brands, at the node where that is said', async () => {
    expect((await values('attribute=handle_kind')).rows).toEqual([]);
    await say('handle_kind', { is: 'field', field: 'brand' }, 'pans');
    const rows = (await values('node=frying_pans&attribute=handle_kind')).rows;
    const brands = await house.rows<{ brand: string; n: number }>(
      `select brand, count(*)::int as n from products where brand is not null group by 1 order by 2 desc, 1`,
    );
    expect(rows.map((r) => [r.ours, r.items]).sort()).toEqual(brands.map((b) => [b.brand, b.n]).sort());
    expect((await values('node=pots&attribute=handle_kind')).rows).toEqual([]);
    await say('handle_kind', null, 'pans');
  });
  it('is said for many at once, all or none, as one change', async () => {
    const revision = async () =>
      (await house.rows<{ r: number }>(`select revision as r from markets where key = 'quillhaven'`))[0]!.r;
    const before = await revision();
    const put = (codes: object[]) => house.call<Refusal>('PUT', `${m}/values`, { node: '', codes });
    expect(
      await put([
        { attribute: 'colour', ours: 'Plum', theirs: 'blk' },
        { attribute: 'colour', ours: 'Sand', theirs: 'ghost' },
      ]),
    ).toMatchObject({ status: 400, body: { field: 'theirs', message: '“ghost” is not a code of Colour.' } });
    expect(await put([{ attribute: 'title', ours: 'x', theirs: null }])).toMatchObject({
      status: 400,
      body: { field: 'attribute' },
    });
    expect(await revision()).toBe(before);
    expect(
      (
        await put([
          { attribute: 'colour', ours: 'Plum', theirs: 'blk' },
          { attribute: 'colour', ours: 'plum', theirs: 'wht' },
          { attribute: 'material', ours: 'Willow', theirs: 'other' },
        ])
      ).status,
    ).toBe(200);
    expect(await revision()).toBe(before + 1);
    expect(
      await house.rows(
        `select attribute, ours, theirs from correspondences where ours in ('Plum', 'plum', 'Willow') order by 1`,
      ),
    ).toEqual([
      { attribute: 'colour', ours: 'plum', theirs: 'wht' },
      { attribute: 'material', ours: 'Willow', theirs: 'other' },
    ]);
    const [last] = await house.rows<{ fact: object }>(`select fact from history order by id desc limit 1`);
    expect(last!.fact).toEqual({
      is: 'codes-said',
      market: 'Quillhaven',
      category: null,
      attribute: 'Colour',
      ours: 'plum',
      theirs: 'wht',
      values: 2,
    });
  });
  it('is read from a table made elsewhere: what it would change, what is so already, what it means nothing by', async () => {
    const read = (rows: [string, string, string][]) =>
      house.call<{ changes: object[]; same: number; faults: object[] }>('POST', `${m}/values/read`, {
        node: '',
        rows: rows.map(([attribute, ours, theirs]) => ({ attribute, ours, theirs })),
      });
    expect(
      (
        await read([
          ['Material', 'Cast iron', 'Cast iron'],
          ['material', 'Willow', ''],
          ['Colour', 'Rust', 'Black'],
          ['Colour', 'Moss', ''],
          ['Colour', 'Plum', 'Blakc'],
        ])
      ).body,
    ).toEqual({
      changes: [
        { attribute: 'material', ours: 'Willow', theirs: null, before: 'other' },
        { attribute: 'colour', ours: 'Rust', theirs: 'blk', before: null },
      ],
      same: 2,
      faults: [{ row: 4, is: 'theirs', near: 'Black' }],
    });
  });
});

describe('the tables in the database', () => {
  it('go back to the older form and forth again with what was said everywhere', async () => {
    await say('maker_reference', { is: 'nothing' });
    await say('size', { is: 'field', field: 'fact.size' });
    await say('shape', { is: 'text', text: 'round' });
    const look = async () => ({
      sources: await house.rows(
        `select market_id, attribute, source from attribute_sources where node = '' order by 1, 2`,
      ),
      codes: await house.rows(`select market_id, attribute, ours, theirs from correspondences order by 1, 2, 3, kind`),
    });
    const before = await look();
    expect(before.sources.length).toBeGreaterThan(5);
    await migrateDownTo(house.db, '0032-pictures');
    expect(
      await house.rows(
        `select attribute, ours from correspondences where kind = 'field' and attribute in ('maker_reference', 'size', 'shape') order by 1`,
      ),
    ).toEqual([
      { attribute: 'maker_reference', ours: '' },
      { attribute: 'shape', ours: '=round' },
      { attribute: 'size', ours: 'fact.size' },
    ]);
    await migrate(house.db);
    expect(await look()).toEqual(before);
  });
});
