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
  it('works an overview out for all who ask at once, and none of them is left out', async () => {
    let runs = 0;
    const note = ({ sql }: { sql: string }): void => {
      if (sql.includes(`where state = 'planned'`)) runs++;
    };
    house.db.on('query', note);
    const all = await Promise.all(
      Array.from({ length: 24 }, () => house.call<{ products: number }>('GET', '/overview')),
    );
    house.db.removeListener('query', note);
    expect(new Set(all.map((a) => a.status))).toEqual(new Set([200]));
    expect(all.every((a) => a.body.products > 100)).toBe(true);
    // Requests come one by one: the first is answered alone, some may come after the second run has begun.
    expect(runs).toBeGreaterThan(0);
    expect(runs).toBeLessThan(8);
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
        rows: {
          ownCategory: string;
          items: number;
          placed: number;
          proposals: { key: string; reason: { words: string[] } }[];
        }[];
      }>('GET', `${m}/category-groups`)
    ).body.rows;
    const waiting = groups.find((g) => g.placed < g.items && g.proposals.length > 0)!;
    expect(waiting.proposals[0]!.reason.words.length).toBeGreaterThan(0);
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
