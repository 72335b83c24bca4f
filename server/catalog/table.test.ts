// The catalog's table on a real database: what a column holds, what rows add up to, how its views are kept.
import type { Product, SumOfField, TableLayout, ViewShape } from '@basileus/contract';
import { type Clause, everyItem } from '@basileus/core/choose';
import { exact } from '@basileus/core/quantity';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type House, openHouse } from '../tests/house';

let house: House;
let items: Product[];
beforeAll(async () => {
  house = await openHouse('table_test', { size: 300, worker: false });
  items = (await house.call<{ rows: Product[] }>('GET', '/products?open=all&limit=1000')).body.rows;
});
afterAll(() => house.close());

interface Held {
  values: { value: string; count: number }[];
  empty: number;
  isMore: boolean;
}
const held = async (field: string, clauses: Clause[] = [], search = ''): Promise<Held> =>
  (await house.call<Held>('POST', '/products/values', { which: { ...everyItem, clauses }, field, search })).body;
/** The same counted in plain code, most frequent first. */
function countPlainly(rows: readonly Product[], field: string): [string, number][] {
  const counts = new Map<string, number>();
  for (const r of rows) for (const v of [r.fields[field] ?? []].flat()) counts.set(v, (counts.get(v) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1));
}

describe('what a column holds', () => {
  it.each(['brand', 'fact.colour', 'fact.material', 'highlights'])('is counted by value: %s', async (field) => {
    const { values, empty } = await held(field);
    const plain = countPlainly(items, field);
    expect(plain.length).toBeGreaterThan(1);
    expect(new Map(values.map((v) => [v.value, v.count]))).toEqual(new Map(plain.slice(0, 200)));
    expect(empty).toBe(items.filter((i) => i.fields[field] === undefined).length);
  });
  it('is counted among the items that are meant', async () => {
    const [brand] = countPlainly(items, 'brand')[0]!;
    const { values } = await held('fact.colour', [{ is: 'equals', field: 'brand', value: brand }]);
    const plain = countPlainly(
      items.filter((i) => i.fields['brand'] === brand),
      'fact.colour',
    );
    expect(new Map(values.map((v) => [v.value, v.count]))).toEqual(new Map(plain));
  });
  it('does not count the rows of families as lacking a price', async () => {
    const { empty } = await held('price');
    expect(empty).toBe(items.filter((i) => i.kind !== 'family' && i.fields['price'] === undefined).length);
    expect(items.some((i) => i.kind === 'family')).toBe(true);
  });
  it('is found by its words, and says where there is more', async () => {
    const all = await held('sku');
    expect(all.isMore).toBe(true);
    expect(all.values).toHaveLength(200);
    const one = items[7]!.fields['sku'] as string;
    expect((await held('sku', [], one.toLowerCase())).values.map((v) => v.value)).toContain(one);
    expect((await held('brand', [], '%')).values).toEqual([]);
  });
  it('is refused of a field that there is not', async () => {
    const r = await house.call<{ message: string }>('POST', '/products/values', {
      which: everyItem,
      field: "fact.x' or 1=1",
    });
    expect([r.status, r.body.message]).toEqual([400, "The catalog has no field “fact.x' or 1=1”."]);
  });
  it('narrows by several of its values, entries of lists among them', async () => {
    const two = countPlainly(items, 'highlights').slice(0, 2);
    const values = two.map(([v]) => v);
    const kept = (
      await house.call<{ id: number }>('POST', '/choices', {
        which: { ...everyItem, clauses: [{ is: 'one-of', field: 'highlights', values }] },
      })
    ).body;
    const rows = (await house.call<{ rows: Product[] }>('GET', `/products?choice=${kept.id}&limit=1000`)).body.rows;
    const meant = items.filter((i) => [i.fields['highlights'] ?? []].flat().some((v) => values.includes(v)));
    expect(meant.length).toBeGreaterThan(0);
    expect(rows.map((r) => r.sku).sort()).toEqual(meant.map((i) => i.sku).sort());
  });
});

describe('rows of the table', () => {
  const sums = async (query: object, fields: string[]): Promise<SumOfField[]> =>
    (await house.call<{ fields: SumOfField[] }>('POST', '/products/sums', { ...query, fields })).body.fields;
  it('add up to what they hold, exactly, in the order that is shown', async () => {
    const query = { sort: 'price', direction: 'down', open: 'all' };
    const shown = (
      await house.call<{ rows: Product[] }>('GET', '/products?sort=price&direction=down&open=all&offset=10&limit=50')
    ).body.rows;
    const [price, stock, colour] = await sums({ ...query, offset: 10, limit: 50 }, ['price', 'stock', 'fact.colour']);
    const prices = shown.flatMap((r) => (r.fields['price'] === undefined ? [] : [exact(r.fields['price'] as string)]));
    expect(prices.length).toBeGreaterThan(10);
    expect(price).toEqual({
      field: 'price',
      filled: prices.length,
      numbers: prices.length,
      sum: prices.reduce((a, b) => a.plus(b)).toFixed(2),
      least: prices.reduce((a, b) => (a.lessThan(b) ? a : b)).toFixed(2),
      most: prices.reduce((a, b) => (a.greaterThan(b) ? a : b)).toFixed(2),
    });
    const stocks = shown.flatMap((r) => (r.fields['stock'] === undefined ? [] : [Number(r.fields['stock'])]));
    expect(stock).toMatchObject({ filled: stocks.length, sum: String(stocks.reduce((a, b) => a + b, 0)) });
    expect(colour).toMatchObject({
      filled: shown.filter((r) => r.fields['fact.colour'] !== undefined).length,
      sum: null,
    });
  });
  it('of closed families are left out, as the table leaves them out', async () => {
    const [all] = await sums({ open: 'all', offset: 0, limit: 100_000 }, ['sku']);
    const [closed] = await sums({ offset: 0, limit: 100_000 }, ['sku']);
    expect(all!.filled).toBe(items.length);
    expect(closed!.filled).toBe(items.filter((i) => i.parentId === null).length);
  });
});

describe('the order of the rows', () => {
  const list = async (query: string): Promise<Product[]> =>
    (await house.call<{ rows: Product[] }>('GET', `/products?limit=1000&${query}`)).body.rows;
  const priceOf = (p: Product): number | undefined =>
    p.fields['price'] === undefined ? undefined : Number(p.fields['price']);
  const compare = (a: number | undefined, b: number | undefined, way: 1 | -1): number =>
    a === b ? 0 : a === undefined ? 1 : b === undefined ? -1 : way * (a - b);
  it.each([
    ['up', 1],
    ['down', -1],
  ] as const)('is that of each row by its own price where no families are shown, going %s', async (direction, way) => {
    const shown = (await list(`kind=variant&sort=price&direction=${direction}`)).map(priceOf);
    expect(new Set(shown).size).toBeGreaterThan(10);
    expect(shown).toEqual([...shown].sort((a, b) => compare(a, b, way)));
  });
  it.each([
    ['up', 1],
    ['down', -1],
  ] as const)('takes a family by that of its variants which comes first, going %s', async (direction, way) => {
    const best = new Map<number, number | undefined>();
    for (const p of items) {
      const root = p.parentId ?? p.id;
      const one = priceOf(p),
        held = best.get(root);
      best.set(root, compare(one, held, way) < 0 ? one : held);
    }
    expect(items.some((p) => p.kind === 'family' && best.get(p.id) !== undefined)).toBe(true);
    const closed = (await list(`sort=price&direction=${direction}`)).map((p) => best.get(p.id));
    expect(closed).toEqual([...closed].sort((a, b) => compare(a, b, way)));
    // Opened, the family stands over its variants, and these in their own order.
    const open = await list(`sort=price&direction=${direction}&open=all`);
    const family = open.find((p) => p.kind === 'family' && p.variants > 2)!;
    const at = open.indexOf(family);
    const own = open.slice(at + 1, at + 1 + family.variants);
    expect(own.every((p) => p.parentId === family.id)).toBe(true);
    const prices = own.map(priceOf);
    expect(prices).toEqual([...prices].sort((a, b) => compare(a, b, way)));
  });
});

describe('a view', () => {
  const layout: TableLayout = { columns: ['sku', 'price'], widths: { sku: 120 }, frozen: 1 };
  const list = async () => (await house.call<{ rows: ViewShape[] }>('GET', '/views')).body.rows;
  it('is kept under its name, kept anew under the same, and let go', async () => {
    const first = await house.call<ViewShape>('PUT', '/views', { name: ' Prices ', layout, address: 'brand=Pellow' });
    expect(first.body).toMatchObject({ name: 'Prices', layout, address: 'brand=Pellow' });
    const again = await house.call<ViewShape>('PUT', '/views', {
      name: 'Prices',
      layout: { ...layout, frozen: 2 },
      address: '',
    });
    expect(again.body.id).toBe(first.body.id);
    await house.call('PUT', '/views', { name: 'And all', layout: { columns: null, widths: {}, frozen: 2 } });
    expect((await list()).map((v) => [v.name, v.layout.frozen])).toEqual([
      ['And all', 2],
      ['Prices', 2],
    ]);
    await house.call('DELETE', `/views/${first.body.id}`);
    expect((await list()).map((v) => v.name)).toEqual(['And all']);
  });
  it('is refused without a name, or with columns wider than a table can be', async () => {
    const before = await list();
    expect((await house.call('PUT', '/views', { name: ' ', layout })).status).toBe(400);
    expect((await house.call('PUT', '/views', { name: 'x', layout: { ...layout, widths: { sku: 9e9 } } })).status).toBe(
      400,
    );
    expect(await list()).toEqual(before);
  });
});
