import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { endpoints } from '@basileus/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type House, openHouse, takeBack, until } from './tests/house';

let house: House;
beforeAll(async () => {
  house = await openHouse('app_test', { size: 200 });
});
afterAll(async () => {
  await house.close();
});
interface Refusal {
  code: string;
  message: string;
  field: string | null;
  remedy: string | null;
}
const m = '/markets/quillhaven';

describe('the interface as a whole', () => {
  it('describes every route in OpenAPI, and answers each of them with something other than “no such route”', async () => {
    const { body } = await house.call<{
      openapi: string;
      paths: Record<string, Record<string, { operationId: string; summary: string }>>;
    }>('GET', '/openapi.json');
    expect(body.openapi).toBe('3.1.0');
    const described = Object.values(body.paths).flatMap((p) => Object.values(p));
    expect(described).toHaveLength(endpoints.length);
    expect(new Set(described.map((d) => d.operationId)).size).toBe(endpoints.length);
    for (const e of endpoints.filter((x) => x.id !== 'streamEvents')) {
      const path = e.path.replace(':market', 'quillhaven').replace(/:id|:attribute|:operation/g, '0');
      const r = await house.call<Refusal>(
        e.method.toUpperCase(),
        path,
        e.method === 'get' || e.method === 'delete' ? undefined : {},
      );
      expect(
        typeof r.body === 'object' && 'message' in r.body ? r.body.message : '',
        `${e.method} ${e.path}`,
      ).not.toMatch(/^There is no (GET|POST|PUT|PATCH|DELETE) /);
      expect(r.status, `${e.method} ${e.path}`).not.toBe(500);
    }
  });
  it('says it is ready', async () => {
    expect((await house.call('GET', '/health')).body).toEqual({ ready: true, database: true, version: '0.1.0' });
  });
  it('refuses in one shape, naming field and remedy', async () => {
    expect(await house.call<Refusal>('GET', '/nowhere')).toMatchObject({
      status: 404,
      body: {
        code: 'not-found',
        message: 'There is no GET /nowhere.',
        remedy: expect.any(String) as string,
        field: null,
      },
    });
    expect(await house.call<Refusal>('GET', '/markets/nowhere/plan')).toMatchObject({
      status: 404,
      body: { field: 'market' },
    });
    expect(await house.call<Refusal>('GET', '/products?limit=100000')).toMatchObject({
      status: 400,
      body: { field: 'limit' },
    });
    const r = await fetch(`${house.base}/api/products`, {
      method: 'POST',
      body: '{"sku":',
      headers: { 'Content-Type': 'application/json' },
    });
    expect(r.status).toBe(400);
    expect(((await r.json()) as Refusal).code).toBe('bad-input');
  });
  it('sets safe headers and does not say what it runs on', async () => {
    const { headers } = await house.call('GET', '/health');
    expect(headers.get('content-security-policy')).toContain("default-src 'self'");
    expect(headers.get('x-content-type-options')).toBe('nosniff');
    expect(headers.get('x-powered-by')).toBeNull();
  });
});

describe('correspondences', () => {
  const blak = async () =>
    house.rows<{ v: string }>(
      `select l."values" ->> 'material' as v
        from listings l
        join products p on p.id = l.product_id
        where p.sku = 'FP-HEAR-24CM'`,
    );
  it('turn a value of ours into theirs for every item at once, and are forgotten again', async () => {
    expect(await blak()).toEqual([{ v: 'castiron' }]);
    expect(
      (
        await house.call<{ refreshed: number }>('PUT', `${m}/values`, {
          attribute: 'material',
          ours: 'Cast iron',
          theirs: 'other',
        })
      ).body.refreshed,
    ).toBeGreaterThan(100);
    expect(await blak()).toEqual([{ v: 'other' }]);
    expect(
      (await house.rows(`select 1 from findings where field = 'material_other' and message = 'mustBecause'`)).length,
    ).toBeGreaterThan(0);
    await house.call('PUT', `${m}/values`, { attribute: 'material', ours: 'Cast iron', theirs: null });
    expect(await blak()).toEqual([{ v: 'castiron' }]);
  });
  it('list our values with what each becomes, unmatched first with proposals', async () => {
    const { body } = await house.call<{
      rows: { attribute: string; ours: string; by: string; theirs: string | null }[];
    }>('GET', `${m}/values`);
    expect(body.rows.find((r) => r.ours === 'Cast iron' && r.attribute === 'material')).toMatchObject({
      by: 'label',
      theirs: 'castiron',
    });
    const kinds = body.rows.map((r) => r.by === 'nothing');
    expect(kinds.lastIndexOf(true)).toBeLessThan(kinds.indexOf(false) === -1 ? Infinity : kinds.length);
  });
  it('take a field of ours, the same text for all, or nothing as a source', async () => {
    const title = async () =>
      (
        await house.rows<{ v: string | null }>(
          `select l."values" ->> 'maker_reference' as v
            from listings l
            join products p on p.id = l.product_id
            where p.sku = 'FP-HEAR-24CM'`,
        )
      )[0]!.v;
    const was = await title();
    for (const [source, is] of [
      ['sku', 'FP-HEAR-24CM'],
      ['=same', 'same'],
      ['', null],
      [null, was],
    ] as const) {
      await house.call('PUT', `${m}/fields/maker_reference`, { source });
      expect(await title()).toBe(is);
    }
    expect(await house.call<Refusal>('PUT', `${m}/fields/maker_reference`, { source: 'ghost' })).toMatchObject({
      status: 400,
      body: { field: 'source' },
    });
  });
  it('refuse a code that is not on the list', async () => {
    expect(
      (await house.call<Refusal>('PUT', `${m}/values`, { attribute: 'material', ours: 'x', theirs: 'ghost' })).body,
    ).toMatchObject({ code: 'bad-input', field: 'theirs' });
  });
});

describe('listings', () => {
  const one = async (sku: string) =>
    (
      await house.call<{
        rows: {
          id: number;
          version: number;
          values: Record<string, string>;
          origins: Record<string, { from: string }>;
          levels: Record<string, string>;
          findings: { field: string; check: string }[];
        }[];
      }>('GET', `${m}/listings?search=${sku}`)
    ).body.rows[0]!;
  it('say where each value comes from, and give the product’s back when asked', async () => {
    const l = await one('FP-HEAR-24CM');
    expect(l.origins['title']).toEqual({ from: 'product', field: 'title' });
    await house.call('PATCH', `${m}/listings`, {
      cells: [{ id: l.id, field: 'title', before: l.values['title'], after: 'Brindlewick typed here' }],
    });
    expect((await one('FP-HEAR-24CM')).origins['title']).toEqual({ from: 'typed' });
    await house.call('PATCH', `${m}/listings`, {
      cells: [{ id: l.id, field: 'title', before: null, after: null, reset: true }],
    });
    expect(await one('FP-HEAR-24CM')).toMatchObject({
      origins: { title: { from: 'product' } },
      values: { title: l.values['title'] },
    });
  });
  it('mend an identifier at its source, the product', async () => {
    const l = await one('FP-HEAR-24CM');
    await house.call('PATCH', `${m}/listings`, {
      cells: [{ id: l.id, field: 'item_number', before: l.values['item_number'], after: '9529999999993' }],
    });
    expect(await house.rows(`select gtin, gtin14 from products where sku = 'FP-HEAR-24CM'`)).toEqual([
      { gtin: '9529999999993', gtin14: '09529999999993' },
    ]);
    await house.call('PATCH', '/products', {
      cells: [
        {
          id: (await house.rows<{ id: number }>(`select id from products where sku = 'FP-HEAR-24CM'`))[0]!.id,
          field: 'gtin',
          before: '9529999999993',
          after: l.values['item_number'],
        },
      ],
    });
  });
  it('know the level of demand cell by cell', async () => {
    const l = await one('FP-HEAR-24CM');
    expect(l.levels).toMatchObject({ title: 'must', diameter: 'must', material_other: 'unused' });
    expect(l.levels).not.toHaveProperty('page_count');
  });
  it('refuse a category that is no leaf, and a field the market does not have', async () => {
    const l = await one('FP-HEAR-24CM');
    expect(
      (await house.call<Refusal>('POST', `${m}/assign-category`, { category: 'kitchen', ids: [l.id] })).body,
    ).toMatchObject({ code: 'bad-input', field: 'category' });
    expect(
      (
        await house.call<Refusal>('PATCH', `${m}/listings`, {
          cells: [{ id: l.id, field: 'ghost', before: null, after: 'x' }],
        })
      ).body,
    ).toMatchObject({ code: 'bad-input', field: 'ghost' });
  });
  it('place the items of an own category, remember it, and move families whole', async () => {
    const groups = (
      await house.call<{
        rows: { ownCategory: string; items: number; placed: number; proposals: { key: string; reason: string }[] }[];
      }>('GET', `${m}/category-groups`)
    ).body.rows;
    const waiting = groups.find((g) => g.placed < g.items && g.proposals.length > 0)!;
    expect(waiting.proposals[0]!.reason).toMatch(/in its name or group/);
    const r = await house.call<{ changed: number; changeSet: number }>('POST', `${m}/assign-category`, {
      category: waiting.proposals[0]!.key,
      ownCategory: waiting.ownCategory,
    });
    expect(r.body.changed).toBe(waiting.items - waiting.placed);
    expect(
      await house.rows(`select theirs from correspondences where kind = 'category' and ours = ?`, [
        waiting.ownCategory,
      ]),
    ).toEqual([{ theirs: waiting.proposals[0]!.key }]);
    await takeBack(house, r.body.changeSet);
    expect(
      await house.rows<{ n: number }>(
        `select count(l.category)::int as n
          from listings l
          join products p on p.id = l.product_id
          where p.category = ?`,
        [waiting.ownCategory],
      ),
    ).toEqual([{ n: waiting.placed }]);
  });
});

describe('a rulebook', () => {
  const document = () =>
    JSON.parse(readFileSync(resolve(import.meta.dirname, '../rulebooks/quillhaven/rulebook.json'), 'utf8')) as {
      version: string;
      attributes: { key: string; maxCharacters?: number; codes?: string }[];
      market: { key: string };
    };
  it('that is wrong is refused with the path in the document, and the old one stays in force', async () => {
    const d = document();
    d.attributes.find((a) => a.key === 'colour')!.codes = 'ghost';
    const r = await house.call<Refusal>('PUT', `${m}/rulebook`, d);
    expect(r).toMatchObject({
      status: 400,
      body: { field: expect.stringMatching(/^attributes\[\d+\]\.codes$/) as string },
    });
    expect((await house.call<{ version: string }>('GET', `${m}/rulebook`)).body.version).toBe('2026.10');
  });
  it('in a new version has everything checked anew', async () => {
    const d = document();
    d.version = '2026.11';
    d.attributes.find((a) => a.key === 'title')!.maxCharacters = 20;
    expect((await house.call('PUT', `${m}/rulebook`, d)).status).toBe(200);
    await until(
      () => house.rows(`select 1 from findings where message = 'tooLong' and field = 'title'`),
      (r) => r.length > 50,
    );
  });
  it('of another market is refused', async () => {
    const d = document();
    d.market.key = 'other';
    expect((await house.call<Refusal>('PUT', `${m}/rulebook`, d)).body.field).toBe('market.key');
  });
});
