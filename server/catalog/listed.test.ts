// Fields of listings in the catalog's table: read beside those of items, typed over, put in order, added up.
import type { ListedProduct, SumOfField } from '@basileus/contract';
import { everyItem } from '@basileus/core/choose';
import type { Value } from '@basileus/core/listing';
import { exact } from '@basileus/core/quantity';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type House, openHouse, takeBack } from '../tests/house';

let house: House;
beforeAll(async () => {
  house = await openHouse('listed_test', { size: 300, with: ['torgvik'] });
});
afterAll(() => house.close());

const ask = 'quillhaven/price',
  colour = 'quillhaven/colour',
  leaf = 'quillhaven/category',
  margin = 'quillhaven/~margin';
interface Held {
  id: number;
  product: number;
  sku: string;
  kind: string;
  state: string;
  category: string | null;
  values: Record<string, Value>;
}
const listings = () =>
  house.rows<Held>(
    `select l.id::int as id, p.id::int as product, p.sku, p.kind, l.market_state as state, l.category, l."values"
      from listings l join products p on p.id = l.product_id join markets m on m.id = l.market_id
      where m.key = 'quillhaven' order by p.id`,
  );
const page = async (query: string): Promise<ListedProduct[]> =>
  (await house.call<{ rows: ListedProduct[] }>('GET', `/products?limit=1000&open=all&${query}`)).body.rows;
interface Outcome {
  changeSet: number | null;
  applied: number;
  conflicts: { id: number; field: string; now: Value | null }[];
  refused: { id: number; field: string; fault: { kind: string } }[];
}
const patch = (cells: { id: number; field: string; before: Value | null; after: Value | null }[]) =>
  house.call<Outcome>('PATCH', '/products', { cells });
const priceAt = async (id: number): Promise<Value | undefined> =>
  (await listings()).find((l) => l.product === id)?.values['price'];

describe('a row of the catalog', () => {
  it('has what its listing holds, and says which fields it cannot hold there', async () => {
    const rows = await page(`listed=${ask},${leaf},torgvik/pris@de`);
    const held = new Map((await listings()).map((l) => [l.product, l]));
    const priced = rows.filter((r) => r.fields[ask] !== undefined);
    expect(priced.length).toBeGreaterThan(100);
    for (const r of rows) {
      const listing = held.get(r.id);
      const isThere = listing !== undefined && listing.state !== 'left out';
      expect(r.fields[ask]).toBe(isThere ? listing.values['price'] : undefined);
      expect(r.fields[leaf]).toBe(isThere ? (listing.category ?? undefined) : undefined);
      expect(r.closed![ask]?.kind === 'not-on-market').toBe(!isThere);
      if (isThere && listing.category === null) expect(r.closed![ask]).toEqual({ kind: 'no-category' });
    }
    expect(rows.some((r) => r.closed![ask]?.kind === 'no-category')).toBe(true);
    // What is sold has a price; the row of its family has none.
    const families = rows.filter((r) => r.kind === 'family' && r.fields[leaf] !== undefined);
    expect(families.length).toBeGreaterThan(5);
    for (const f of families) expect(f.closed![ask]).toEqual({ kind: 'not-in-rows', of: 'variants' });
    // Of what is not asked for nothing is said.
    expect((await page('search=FP'))[0]).not.toHaveProperty('closed');
    expect((await page(`listed=${colour}`))[0]!.fields).not.toHaveProperty([ask]);
  });
  it('has every field of a market where a star asks for them', async () => {
    const one = (await page(`listed=quillhaven/*`)).find((r) => r.fields[colour] !== undefined)!;
    const held = (await listings()).find((l) => l.product === one.id)!;
    const values = Object.entries(one.fields).filter(
      ([key]) => key.startsWith('quillhaven/') && key !== leaf && key !== margin,
    );
    expect(Object.fromEntries(values.map(([key, v]) => [key.slice('quillhaven/'.length), v]))).toEqual(held.values);
    expect(one.fields[leaf]).toBe(held.category);
    const [kept] = await house.rows<{ margin: number }>(
      `select margin from listings where id = ${held.id} and margin is not null`,
    );
    expect(one.fields[margin]).toBe((kept!.margin / 10).toFixed(1));
  });
  it('says the worst of what is found of such a field, and nothing of the others', async () => {
    const rows = await page(`listed=${ask},${colour}`);
    const all = await house.rows<{ product: number; field: string; level: string }>(
      `select l.product_id::int as product, f.field, f.level from findings f join listings l on l.id = f.listing_id
        join markets m on m.id = l.market_id where m.key = 'quillhaven' and f.field in ('price', 'colour')`,
    );
    expect(all.length).toBeGreaterThan(5);
    const order = ['blocker', 'caution', 'tip'];
    const worst = new Map<string, string>();
    for (const f of all) {
      const key = `${f.product} quillhaven/${f.field}`,
        held = worst.get(key);
      if (held === undefined || order.indexOf(f.level) < order.indexOf(held)) worst.set(key, f.level);
    }
    const told = rows.flatMap((r) => Object.entries(r.found!).map(([key, f]) => [`${r.id} ${key}`, f.level] as const));
    expect(new Map(told)).toEqual(worst);
    expect(new Set(worst.values()).size).toBeGreaterThan(1);
  });
  it('is put in order by it, by size and in the words that people read', async () => {
    // As texts 9.50 would come before 100.00.
    const some = (await page(`kind=single&listed=${ask}`)).filter((r) => r.fields[ask] && !r.closed![ask]);
    const { changeSet } = (
      await patch(
        ['9.50', '100.00'].map((after, i) => ({
          id: some[i]!.id,
          field: ask,
          before: some[i]!.fields[ask] as string,
          after,
        })),
      )
    ).body;
    const rows = await page(`kind=single&listed=${ask}&sort=${ask}&direction=down`);
    const prices = rows.map((r) => (r.fields[ask] === undefined ? -1 : exact(r.fields[ask] as string).toNumber()));
    expect(prices.filter((p) => p > 0).length).toBeGreaterThan(3);
    expect(prices).toEqual([...prices].sort((a, b) => b - a));
    expect(prices.indexOf(100)).toBeLessThan(prices.indexOf(9.5));
    await takeBack(house, changeSet!);
    const shelves = (await page(`listed=${leaf}&sort=${leaf}`))
      .filter((r) => r.parentId === null)
      .map((r) => r.fields[leaf] as string);
    const book = (
      await house.call<{ tree: { key: string; label: string; parent?: string }[] }>(
        'GET',
        '/markets/quillhaven/rulebook',
      )
    ).body;
    const byKey = new Map(book.tree.map((n) => [n.key, n]));
    const wordOf = (key: string): string => {
      const node = byKey.get(key)!;
      return node.parent === undefined ? node.label : `${wordOf(node.parent)} › ${node.label}`;
    };
    const words = shelves.filter(Boolean).map(wordOf);
    expect(new Set(words).size).toBeGreaterThan(5);
    const natural = new Intl.Collator('en', { numeric: true });
    expect(words).toEqual([...words].sort(natural.compare));
    expect((await house.call('GET', '/products?sort=nowhere/price')).status).toBe(400);
    expect((await house.call('GET', "/products?sort=quillhaven/x'y")).status).toBe(400);
  });
});

describe('a cell of a listing in the catalog', () => {
  it('is changed beside one of the item, each in a change set that takes it back', async () => {
    const row = (await page(`kind=single&listed=${ask}`)).find((r) => r.fields[ask] && !r.closed![ask])!;
    const before = row.fields[ask] as string,
      title = row.fields['title'] as string;
    const made = await patch([
      { id: row.id, field: ask, before, after: '77.77' },
      { id: row.id, field: 'title', before: title, after: `${title} of ours` },
    ]);
    expect(made.body).toMatchObject({ applied: 2, conflicts: [], refused: [] });
    expect(await priceAt(row.id)).toBe('77.77');
    const sets = await house.rows<{ id: number; target: string; title: string }>(
      'select id::int, target, title from change_sets order by id desc limit 2',
    );
    expect(sets.map((s) => s.target)).toEqual(['listings', 'products']);
    expect(made.body.changeSet).toBe(sets[1]!.id);
    // The item itself costs what it did; it is the listing that has another price.
    expect((await page(`search=${row.sku}`))[0]!.fields['price']).toBe(row.fields['price']);
    for (const s of sets) await takeBack(house, s.id);
    expect(await priceAt(row.id)).toBe(before);
    expect((await page(`search=${row.sku}`))[0]!.fields['title']).toBe(title);
  });
  it('stays where somebody else has changed it, and where there is nothing to put it into', async () => {
    const rows = await page(`listed=${ask}`);
    const open = rows.filter((r) => r.fields[ask] && !r.closed![ask]),
      closed = rows.find((r) => r.closed![ask]?.kind === 'no-category' && r.kind !== 'family')!;
    const { body } = await patch([
      { id: open[0]!.id, field: ask, before: '0.01', after: '5.00' },
      { id: closed.id, field: ask, before: null, after: '5.00' },
      { id: open[1]!.id, field: ask, before: open[1]!.fields[ask] as string, after: '6.00' },
    ]);
    expect(body.applied).toBe(1);
    expect(body.conflicts).toEqual([{ id: open[0]!.id, field: ask, now: open[0]!.fields[ask] }]);
    expect(body.refused).toEqual([{ id: closed.id, sku: closed.sku, field: ask, fault: { kind: 'no-category' } }]);
    expect(await priceAt(open[1]!.id)).toBe('6.00');
    await takeBack(house, body.changeSet!);
  });
  it('is refused with all others of a market that there is not, and nothing is written', async () => {
    const row = (await page('kind=single'))[0]!;
    const made = await patch([
      { id: row.id, field: 'title', before: row.fields['title'] as string, after: 'Not kept' },
      { id: row.id, field: 'nowhere/price', before: null, after: '5.00' },
    ]);
    expect(made.status).toBe(400);
    expect((await page(`search=${row.sku}`))[0]!.fields['title']).toBe(row.fields['title']);
  });
});

describe('what stands in a column of a market', () => {
  it('is counted in the words that people read', async () => {
    const counted = (
      await house.call<{ values: { value: string; count: number }[]; empty: number }>('POST', '/products/values', {
        which: everyItem,
        field: colour,
        search: '',
      })
    ).body.values;
    const rows = (await page(`listed=${colour}`)).flatMap((r) => r.fields[colour] ?? []);
    expect(counted.length).toBeGreaterThan(2);
    expect(counted.reduce((n, v) => n + v.count, 0)).toBe(rows.length);
    const book = (
      await house.call<{
        attributes: { key: string; codes?: string }[];
        codeLists: Record<string, { entries: { code: string; label: string }[] }>;
      }>('GET', '/markets/quillhaven/rulebook')
    ).body;
    const { entries } = book.codeLists[book.attributes.find((a) => a.key === 'colour')!.codes!]!;
    // What is no word of the list stands there as it was given.
    const words = rows.map((held) => entries.find((e) => e.code === held)?.label ?? held);
    const plain = new Map([...new Set(words)].map((w) => [w, words.filter((x) => x === w).length]));
    expect(new Map(counted.map((v) => [v.value, v.count]))).toEqual(plain);
    expect(entries.some((e) => plain.has(e.label) && e.code !== e.label)).toBe(true);
    const one = counted[1]!.value;
    const found = (
      await house.call<{ values: { value: string }[] }>('POST', '/products/values', {
        which: everyItem,
        field: colour,
        search: one.toLowerCase(),
      })
    ).body.values;
    expect(found.map((v) => v.value)).toContain(one);
    expect(found.length).toBeLessThan(counted.length);
  });
  it('adds up, beside what items hold', async () => {
    const rows = await page(`listed=${ask}`);
    const [price, listed] = (
      await house.call<{ fields: SumOfField[] }>('POST', '/products/sums', {
        open: 'all',
        offset: 0,
        limit: 1000,
        fields: ['price', ask],
      })
    ).body.fields;
    const sum = (key: string): string =>
      rows.reduce((n, r) => n.plus((r.fields[key] as string | undefined) ?? 0), exact('0')).toFixed(2);
    expect(price).toMatchObject({ field: 'price', sum: sum('price') });
    expect(listed).toMatchObject({ field: ask, sum: sum(ask) });
    expect(sum(ask)).not.toBe(sum('price'));
  });
});
