import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type House, openHouse, takeBack, until } from '../tests/house';

let house: House;
beforeAll(async () => {
  house = await openHouse('products_test');
});
afterAll(async () => {
  await house.close();
});

interface Page {
  total: number;
  rows: {
    id: number;
    sku: string;
    kind: string;
    parentId: number | null;
    variants: number;
    fields: Record<string, string | string[]>;
  }[];
}
const find = async (sku: string) => {
  const r = await house.call<Page>('GET', `/products?search=${sku}`);
  return r.body.rows.find((p) => p.sku === sku)!;
};
const patch = (cells: unknown[], title = 'A test') =>
  house.call<{
    changeSet: number | null;
    applied: number;
    conflicts: unknown[];
    refused: { sku: string; fault: { kind: string } }[];
  }>('PATCH', '/products', { title, cells });

describe('the catalog', () => {
  it('shows families closed, opens one, and keeps its variants under it whatever the sort', async () => {
    const closed = (await house.call<Page>('GET', '/products?sort=price&direction=down')).body;
    expect(closed.rows.every((r) => r.parentId === null)).toBe(true);
    const family = closed.rows.find((r) => r.kind === 'family')!;
    const open = (await house.call<Page>('GET', `/products?open=${family.id}&sort=title&direction=down`)).body;
    expect(open.total).toBe(closed.total + family.variants);
    const at = open.rows.findIndex((r) => r.id === family.id);
    expect(open.rows.slice(at + 1, at + 1 + family.variants).map((r) => r.parentId)).toEqual(
      Array.from({ length: family.variants }, () => family.id),
    );
  });
  it('finds by words in any order, across SKU, title and barcode', async () => {
    const { body } = await house.call<Page>('GET', '/products?search=24%20hearth%20pan');
    expect(body.rows.map((r) => r.sku)).toContain('FP-HEAR-24CM');
    expect((await house.call<Page>('GET', '/products?search=100%25')).body.total).toBe(0);
  });
  it('finds what lacks something', async () => {
    const { body } = await house.call<Page>('GET', '/products?lacks=pictures');
    expect(body.rows.length).toBeGreaterThan(0);
    expect(body.rows.filter((r) => r.fields['pictures'])).toEqual([]);
    expect(body.total).toBeLessThan((await house.call<Page>('GET', '/products?open=all')).body.total);
  });
  it('adds an item, once', async () => {
    expect((await house.call('POST', '/products', { sku: 'NEW-1', title: 'New' })).status).toBe(200);
    expect(await house.call('POST', '/products', { sku: 'NEW-1', title: 'New' })).toMatchObject({
      status: 409,
      body: { code: 'conflict', field: 'sku' },
    });
    expect(await house.call('POST', '/products', { sku: ' ', title: 'New' })).toMatchObject({
      status: 400,
      body: { code: 'bad-input', field: 'sku', message: 'Give a SKU.' },
    });
  });
});

describe('changing cells', () => {
  it('takes a part back, the rest later, and each cell once', async () => {
    const rows = (await house.call<Page>('GET', '/products?open=all&limit=500')).body.rows
      .filter((r) => r.kind === 'variant' && r.fields['brand'] !== undefined)
      .slice(0, 3);
    const brand = async (sku: string) => (await find(sku)).fields['brand'];
    const before = rows.map((r) => r.fields['brand']);
    const set = (
      await patch(rows.map((r) => ({ id: r.id, field: 'brand', before: r.fields['brand'], after: 'Changed House' })))
    ).body.changeSet!;
    const [a, b, c] = rows.map((r) => r.sku);
    const look = (skus: string[]) => house.call<{ restored: number }>('POST', `/change-sets/${set}/reversal`, { skus });
    expect([(await look([a!])).body.restored, (await look([])).body.restored]).toEqual([1, 3]);
    const part = await house.call<{ changeSet: number }>('POST', `/change-sets/${set}/reverse`, { skus: [a!] });
    type Read = { set: { isDone: boolean; reversed: boolean; title: string; outcome: { restored: number } } };
    const read = async (id: number) => (await house.call<Read>('GET', `/change-sets/${id}`)).body.set;
    const done = await until(
      () => read(part.body.changeSet),
      (s) => s.isDone,
    );
    expect(done).toMatchObject({ outcome: { restored: 1 }, title: 'Taken back: A test (1 item of it)' });
    expect([await brand(a!), await brand(b!), await brand(c!)]).toEqual([before[0], 'Changed House', 'Changed House']);
    expect((await read(set)).reversed).toBe(false);
    const again = await house.call('POST', `/change-sets/${set}/reverse`, { skus: [a!, 'NO-SUCH'] });
    expect([again.status, again.body]).toMatchObject([400, { code: 'bad-input', field: 'skus' }]);
    // Somebody has given the first another brand since: the rest does not touch it.
    await patch([{ id: rows[0]!.id, field: 'brand', before: before[0], after: 'Another' }]);
    expect((await look([])).body.restored).toBe(2);
    await takeBack(house, set);
    expect([await brand(a!), await brand(b!), await brand(c!)]).toEqual(['Another', before[1], before[2]]);
    expect((await read(set)).reversed).toBe(true);
  });
  it('changes, records before and after, and takes it back', async () => {
    const pan = await find('FP-HEAR-24CM');
    const set = (
      await patch([
        { id: pan.id, field: 'price', label: 'Price', before: pan.fields['price'], after: '55.50' },
        { id: pan.id, field: 'fact.colour', label: 'Colour', before: null, after: 'Black' },
      ])
    ).body;
    expect(set).toMatchObject({ applied: 2, conflicts: [], refused: [] });
    expect((await find('FP-HEAR-24CM')).fields).toMatchObject({ price: '55.50', 'fact.colour': 'Black' });
    const kept = await house.call<{ cells: unknown[] }>('GET', `/change-sets/${set.changeSet}`);
    expect(kept.body.cells).toEqual([
      { sku: 'FP-HEAR-24CM', field: 'fact.colour', label: 'Colour', before: null, after: 'Black', leftAs: null },
      {
        sku: 'FP-HEAR-24CM',
        field: 'price',
        label: 'Price',
        before: pan.fields['price'],
        after: '55.50',
        leftAs: null,
      },
    ]);
    expect((await house.call('GET', `/change-sets/${set.changeSet}/reversal`)).body).toMatchObject({ restored: 2 });
    expect((await takeBack(house, set.changeSet!)).outcome).toMatchObject({ restored: 2, changed: 0 });
    expect((await find('FP-HEAR-24CM')).fields).toEqual(pan.fields);
    expect(await house.call('POST', `/change-sets/${set.changeSet}/reverse`)).toMatchObject({
      status: 409,
      body: { code: 'not-now' },
    });
  });
  it('leaves a cell that someone else changed meanwhile, and says so', async () => {
    const pan = await find('FP-HEAR-28CM');
    const [a, b] = await Promise.all([
      patch([{ id: pan.id, field: 'title', before: pan.fields['title'], after: 'First' }]),
      patch([{ id: pan.id, field: 'title', before: pan.fields['title'], after: 'Second' }]),
    ]);
    const winners = [a.body, b.body].filter((r) => r.applied === 1),
      losers = [a.body, b.body].filter((r) => r.applied === 0);
    expect(winners).toHaveLength(1);
    expect(losers[0]!.conflicts).toHaveLength(1);
  });
  it('keeps what was changed again since when an older change is taken back', async () => {
    const pan = await find('FP-HEAR-20CM');
    const first = (
      await patch([
        { id: pan.id, field: 'mpn', before: pan.fields['mpn'], after: 'A' },
        { id: pan.id, field: 'brand', before: pan.fields['brand'], after: 'B' },
      ])
    ).body;
    await patch([{ id: pan.id, field: 'mpn', before: 'A', after: 'C' }]);
    const counts = { restored: 1, changed: 1, stock: 0, gone: 0, refused: 0 };
    expect((await house.call('GET', `/change-sets/${first.changeSet}/reversal`)).body).toMatchObject(counts);
    expect((await takeBack(house, first.changeSet!)).outcome).toMatchObject(counts);
    const { cells } = (
      await house.call<{ cells: { field: string; leftAs: string | null }[] }>('GET', `/change-sets/${first.changeSet}`)
    ).body;
    expect(cells.map((c) => [c.field, c.leftAs])).toEqual([
      ['mpn', 'changed'],
      ['brand', null],
    ]);
    expect((await find('FP-HEAR-20CM')).fields).toMatchObject({ mpn: 'C', brand: pan.fields['brand'] });
  });
  it.each([
    ['price', '12,50', 'not-a-price'],
    ['price', '-1', 'not-a-price'],
    ['price', '12.999', 'too-many-places'],
    ['sale_start', 'soon', 'not-a-day'],
    ['stock', '1.5', 'not-whole'],
    ['title', '', 'title-stays'],
    ['sku', 'X', 'not-changed-here'],
    ['nonsense', 'X', 'not-changed-here'],
  ])('refuses %s = “%s” with the reason, and changes nothing', async (field, after, kind) => {
    const pan = await find('FP-HEAR-32CM');
    const r = (await patch([{ id: pan.id, field, before: pan.fields[field] ?? null, after }])).body;
    expect(r).toMatchObject({ applied: 0, refused: [{ sku: 'FP-HEAR-32CM', field, fault: { kind } }] });
    expect((await find('FP-HEAR-32CM')).fields).toEqual(pan.fields);
  });
  it('sets stock, and clears a field', async () => {
    const pan = await find('FP-HEAR-32CM');
    await patch([
      { id: pan.id, field: 'stock', before: pan.fields['stock'], after: '41' },
      { id: pan.id, field: 'description', before: pan.fields['description'], after: null },
    ]);
    const now = await find('FP-HEAR-32CM');
    expect(now.fields['stock']).toBe('41');
    expect(now.fields).not.toHaveProperty('description');
  });
});

describe('the cells of a change set', () => {
  it('come in pages that divide items where they must, item by item and field by field', async () => {
    const items = await house.rows<{ id: number; sku: string; brand: string | null; mpn: string | null }>(
      `select id, sku, brand, mpn from products where kind = 'variant' order by sku limit 5`,
    );
    const made = await house.call<{ changeSet: number }>('PATCH', '/products', {
      cells: items.flatMap(({ id, brand, mpn }, i) => [
        { id, field: 'mpn', before: mpn, after: `P-${id}` },
        { id, field: 'brand', before: brand, after: 'Of pages' },
        ...(i % 2 ? [{ id, field: 'fact.care', before: null, after: 'Dry at once' }] : []),
      ]),
    });
    const read = async (offset: number, limit: number) =>
      (
        await house.call<{ cells: { sku: string; field: string; before: unknown; after: unknown; leftAs: unknown }[] }>(
          'GET',
          `/change-sets/${made.body.changeSet}?offset=${offset}&limit=${limit}`,
        )
      ).body.cells;
    const all = await read(0, 100);
    expect(all.map((c) => `${c.sku} ${c.field}`)).toEqual(
      items.flatMap(({ sku }, i) =>
        ['brand', ...(i % 2 ? ['fact.care'] : []), 'mpn'].map((field) => `${sku} ${field}`),
      ),
    );
    expect(all[1]).toMatchObject({ before: items[0]!.mpn, after: `P-${items[0]!.id}`, leftAs: null });
    for (const limit of [1, 2, 3, 5]) {
      const pages = [];
      for (let offset = 0; offset < all.length + limit; offset += limit) pages.push(...(await read(offset, limit)));
      expect(pages).toEqual(all);
    }
  });
});

describe('what follows from a change', () => {
  const findingsOf = (sku: string) =>
    house.rows<{ check: string; message: string }>(
      `select f."check", f.message
        from findings f
        join listings l on l.id = f.listing_id
        join products p on p.id = l.product_id
        where p.sku = ?`,
      [sku],
    );
  it('finds the same barcode on two SKUs on both of them, and lets go of both when one is mended', async () => {
    const [a, b] = [await find('FP-EMBE-20CM'), await find('FP-EMBE-28CM')];
    await patch([{ id: b.id, field: 'gtin', before: b.fields['gtin'], after: a.fields['gtin'] }]);
    for (const sku of ['FP-EMBE-20CM', 'FP-EMBE-28CM'])
      expect((await findingsOf(sku)).map((f) => f.check)).toContain('identifier-twice');
    await patch([{ id: b.id, field: 'gtin', before: a.fields['gtin'], after: b.fields['gtin'] }]);
    const after = (await find('FP-EMBE-28CM')).fields['gtin'];
    expect(after).toBe(b.fields['gtin']);
    expect((await findingsOf('FP-EMBE-28CM')).map((f) => f.check)).not.toContain('identifier-twice');
    expect((await findingsOf('FP-EMBE-20CM')).map((f) => f.check)).not.toContain('identifier-twice');
  });
  it('tells browsers, without being asked', async () => {
    const seen: string[] = [];
    const control = new AbortController();
    const stream = await fetch(`${house.base}/api/events`, { signal: control.signal });
    expect(stream.headers.get('content-type')).toContain('text/event-stream');
    const reading = (async () => {
      for await (const chunk of stream.body as unknown as AsyncIterable<Uint8Array>)
        seen.push(Buffer.from(chunk).toString());
    })().catch(() => undefined);
    const pan = await find('FP-EMBE-24CM');
    await patch([{ id: pan.id, field: 'brand', before: pan.fields['brand'] ?? null, after: 'Told' }]);
    await until(
      () => Promise.resolve(seen.join('')),
      (t) => t.includes('"topic":"products"') && t.includes('"topic":"listings"'),
    );
    control.abort();
    await reading;
  });
});
