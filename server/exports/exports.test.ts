// Files of the catalog that go out and come back, through the server's own doors.
import type { ClockWork, ExportSet, ExportShape, ImportShape, ReversalLook } from '@basileus/contract';
import { type Which, whichSchema } from '@basileus/core/choose';
import { readRows, writeRows } from '@basileus/core/sheet';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type House, openHouse, takeBack, until, transact } from '../tests/house';

let house: House;
beforeAll(async () => {
  house = await openHouse('exports_test', { size: 120 });
});
afterAll(() => house.close());

const columns = ['sku', 'title', 'brand', 'gtin', 'price', 'stock', 'highlights', 'fact.width', 'fact.title@de'];
const list = async () => (await house.call<{ rows: ExportShape[] }>('GET', '/exports')).body.rows;
/** Takes items out and answers the bytes of the file. */
async function takeOut(more: { which?: Partial<Which>; columns?: string[]; format?: string; name?: string } = {}) {
  const { id } = (
    await house.call<{ id: number }>('POST', '/exports', {
      columns,
      format: 'csv',
      name: 'Autumn prices',
      ...more,
      which: whichSchema.parse(more.which ?? { rows: 'sold' }),
    })
  ).body;
  await until(
    async () => (await list()).find((e) => e.id === id),
    (e) => e?.state === 'ready',
  );
  const r = await fetch(`${house.base}/api/exports/${id}/file`);
  return { id, bytes: Buffer.from(await r.arrayBuffer()), headers: r.headers };
}
const read = (bytes: Buffer): string[][] => readRows(bytes.toString('utf8').replace(/^\ufeff/, ''), ',');
const write = (rows: string[][]): string => writeRows(rows, { delimiter: ',', newline: '\r\n', forPeople: false });
/** Brings a file in and answers how it is planned. */
async function bringIn(name: string, bytes: Uint8Array | string): Promise<ImportShape> {
  const { id } = (await house.upload<ImportShape>(name, bytes)).body;
  return until(
    async () => (await house.call<ImportShape>('GET', `/imports/${id}`)).body,
    (i) => i.state === 'planned' || i.state === 'failed',
  );
}
async function writeIn(id: number): Promise<ImportShape> {
  await house.call('POST', `/imports/${id}/apply`);
  return until(
    async () => (await house.call<ImportShape>('GET', `/imports/${id}`)).body,
    (i) => i.state === 'applied' || i.state === 'failed',
  );
}
interface Held {
  sku: string;
  brand: string | null;
  price: string;
  stock: number;
}
const held = (skus: string[]) =>
  house.rows<Held>(
    `select sku, brand, price::float::text as price, (select sum(on_hand)::int from stock s where s.product_id = p.id) as stock from products p where sku = any(?) order by sku`,
    [skus],
  );
const patch = (id: number, field: string, before: unknown, after: unknown) =>
  house.call('PATCH', '/products', { cells: [{ id, field, before, after }] });

describe('a file that goes out', () => {
  it('has the chosen columns in their order and the chosen rows in that of the catalog, and says who made it', async () => {
    const { id, bytes, headers } = await takeOut({ columns: ['price', 'title', 'price'], which: { rows: 'variant' } });
    const rows = read(bytes);
    expect(rows[0]).toEqual(['SKU', 'Price', 'Title']);
    const variants = await house.rows<{ sku: string; title: string; price: string }>(
      `select sku, title, price::numeric(12,2)::text as price from products where kind = 'variant' order by shelf_order, id`,
    );
    expect(rows.slice(1).sort()).toEqual(variants.map((v) => [v.sku, v.price ?? '', v.title]).sort());
    expect(headers.get('content-disposition')).toContain(`Autumn prices ${id}.csv`);
    expect((await list())[0]).toMatchObject({
      id,
      name: 'Autumn prices',
      rows: variants.length,
      size: bytes.length,
      state: 'ready',
      cameBack: [],
    });
  });
  it('is refused with a column that is not known, and with a question that cannot be asked', async () => {
    const bad = await house.call<{ message: string }>('POST', '/exports', {
      columns: ['fact.none'],
      format: 'csv',
      which: {},
    });
    expect([bad.status, bad.body.message]).toEqual([400, 'There is no field “fact.none”.']);
    expect((await house.call('POST', '/exports', { columns: ['price'], format: 'pdf', which: {} })).status).toBe(400);
    expect((await house.call('GET', '/exports/999/file')).status).toBe(404);
  });
  it('may be kept as a set under a name, replaced by one of the same name, and let go', async () => {
    const keep = (more: object) =>
      house.call<ExportSet>('POST', '/export-sets', {
        name: 'Weekly',
        columns: ['price'],
        format: 'xlsx',
        which: {},
        ...more,
      });
    const first = (await keep({})).body,
      again = (await keep({ columns: ['price', 'stock'] })).body;
    expect(again.id).toBe(first.id);
    const sets = async () => (await house.call<{ rows: ExportSet[] }>('GET', '/export-sets')).body.rows;
    expect((await sets()).map((s) => [s.name, s.columns])).toEqual([['Weekly', ['price', 'stock']]]);
    await house.call('DELETE', `/export-sets/${first.id}`);
    expect(await sets()).toEqual([]);
  });
  it('is made by the clock where a set says so, and the last of them are kept', async () => {
    const set = (
      await house.call<ExportSet>('POST', '/export-sets', {
        name: 'Every morning',
        columns: ['price'],
        format: 'csv',
        which: {},
        schedule: { every: 'day', at: '05:00' },
      })
    ).body;
    expect(set.nextAt).not.toBeNull();
    // Many mornings have been; one of their files came back.
    await house.db.raw(
      `insert into exports (name, which, columns, format, mark, actor, state, set_id)
        select 'Every morning', '{}', '["sku"]', 'csv', 'm' || n, 'Catalog desk', 'ready', ? from generate_series(1, 20) n`,
      [set.id],
    );
    const [oldest] = await house.rows<{ id: number }>('select min(id) as id from exports where set_id = ?', [set.id]);
    const returned = (await house.upload<{ id: number }>('back.csv', 'SKU,Price\nX-1,9.99\n')).body;
    await house.db.raw('update imports set baseline_id = ? where id = ?', [oldest!.id, returned.id]);
    await house.db.raw(`update export_sets set next_at = now() - interval '1 minute' where id = ?`, [set.id]);
    const { wakeExportClock, mostKept } = await import('./clock');
    await transact(house, wakeExportClock);
    const made = await until(
      async () => (await list()).find((e) => e.name === 'Every morning' && e.rows > 0),
      (e) => e?.state === 'ready',
    );
    expect(made!.rows).toBeGreaterThan(10);
    const left = await house.rows<{ id: number }>('select id from exports where set_id = ? order by id', [set.id]);
    expect(left).toHaveLength(mostKept + 1);
    expect(left[0]!.id).toBe(oldest!.id);
    await house.db.raw(`update exports set at = now() - interval '25 hours' where id = ?`, [oldest!.id]);
    expect((await house.call<{ rows: ClockWork[] }>('GET', '/clock-work')).body.rows).toMatchObject([
      { kind: 'file', name: 'Every morning', times: mostKept },
    ]);
    const [next] = await house.rows<{ is: boolean }>('select next_at > now() as is from export_sets where id = ?', [
      set.id,
    ]);
    expect(next!.is).toBe(true);
    await house.call('DELETE', `/export-sets/${set.id}`);
    await house.call('DELETE', `/imports/${returned.id}`);
  });
});

describe('a file that comes back', () => {
  it('is known, whatever its name and order, and changes nothing where nothing was changed in it', async () => {
    const { id, bytes } = await takeOut();
    const [head, ...rows] = read(bytes);
    const back = await bringIn('from my desk.csv', write([head!, ...rows.reverse()]));
    expect(back.baseline).toMatchObject({ id, name: 'Autumn prices' });
    expect(back.counts).toMatchObject({ rows: rows.length, update: 0, create: 0, refuse: 0, same: rows.length });
    expect((await list())[0]!.cameBack.map((c) => c.id)).toEqual([back.id]);
  });
  it('writes what was changed in it, keeps what was changed here, asks about both, and moves stock by the difference', async () => {
    const { bytes } = await takeOut();
    const [head, ...rows] = read(bytes);
    const at = (label: string) => head!.indexOf(label);
    const singles = rows.filter((r) => r[at('Price')] !== '' && r[at('Stock')] !== '' && Number(r[at('Stock')]) > 5);
    const [a, b, c, d] = singles.map((r) => r[0]!) as [string, string, string, string];
    const ids = new Map(
      (await house.rows<{ id: number; sku: string }>('select id, sku from products')).map((p) => [p.sku, p.id]),
    );
    const was = new Map((await held([a, b, c, d])).map((h) => [h.sku, h]));
    // Meanwhile, here: b has another brand, c another price, and two pieces of d are sold.
    await patch(ids.get(b)!, 'brand', was.get(b)!.brand, 'Brindle & Sons');
    await patch(ids.get(c)!, 'price', was.get(c)!.price, '77.70');
    await patch(ids.get(d)!, 'stock', String(was.get(d)!.stock), String(was.get(d)!.stock - 2));
    // In the file: prices of a, b and c, stock of d; one row is taken out, and one column.
    const edited = rows.map((r) => [...r]);
    const edit = (sku: string, label: string, text: string) => {
      edited.find((r) => r[0] === sku)![at(label)] = text;
    };
    edit(a, 'Price', '11.10');
    edit(b, 'Price', '22.20');
    edit(c, 'Price', '33.30');
    edit(d, 'Stock', String(was.get(d)!.stock + 10));
    const without = at('Title');
    const file = write(
      [head!, ...edited.filter((r) => r[0] !== singles[5]![0])].map((r) => r.filter((_, i) => i !== without)),
    );
    const back = await bringIn('Autumn prices edited.csv', file);
    expect(back.counts).toMatchObject({ update: 4, create: 0, refuse: 0 });
    const planned = (
      await house.call<{ rows: { sku: string; problems: { says: string }[] }[] }>(
        'GET',
        `/imports/${back.id}/rows?action=damaged`,
      )
    ).body.rows;
    expect(planned.map((r) => [r.sku, r.problems.map((p) => p.says)])).toEqual([
      [
        c,
        [
          'Price “33.30”: somebody made it “77.70” here since the file went out. You decide which counts when the rest is written.',
        ],
      ],
    ]);
    const done = await writeIn(back.id);
    expect(done.counts.conflicts).toBe(1);
    const now = new Map((await held([a, b, c, d])).map((h) => [h.sku, h]));
    expect(now.get(a)).toEqual({ ...was.get(a), price: '11.1' });
    expect(now.get(b)).toEqual({ ...was.get(b), price: '22.2', brand: 'Brindle & Sons' });
    expect(now.get(c)!.price).toBe('77.7');
    expect(now.get(d)!.stock).toBe(was.get(d)!.stock + 8);
    await house.call('POST', `/imports/${back.id}/decisions`, { take: 'file' });
    await until(
      () => held([c]),
      (h) => h[0]!.price === '33.3',
    );
    expect(await house.rows('select 1 from products where sku = ?', [singles[5]![0]])).toHaveLength(1);
  });
  it('as a workbook is known by its mark, with two columns left and rows of others', async () => {
    const { id, bytes } = await takeOut({ format: 'xlsx' });
    const back = await bringIn('renamed.xlsx', bytes);
    expect(back.baseline?.id).toBe(id);
    expect(back.counts.update).toBe(0);
    // One that never went out is nobody's return.
    const other = await bringIn('supplier.csv', 'SKU,Price\r\nNEW-1,3.00\r\nNEW-2,4.00\r\n');
    expect(other.baseline).toBeNull();
  });
  it('may be taken as any other file instead', async () => {
    const { bytes } = await takeOut();
    const [head, ...rows] = read(bytes);
    const sku = rows.find((r) => r[head!.indexOf('Brand')] !== '')![0]!;
    const [{ id, brand } = { id: 0, brand: '' }] = await house.rows<{ id: number; brand: string }>(
      'select id, brand from products where sku = ?',
      [sku],
    );
    await patch(id, 'brand', brand, 'Newer here');
    const back = await bringIn('again.csv', write([head!, ...rows]));
    expect(back.counts.update).toBe(0);
    await house.call('POST', `/imports/${back.id}/as-new`);
    const anew = await until(
      async () => (await house.call<ImportShape>('GET', `/imports/${back.id}`)).body,
      (i) => i.state === 'planned',
    );
    expect(anew.baseline).toBeNull();
    expect(anew.counts.update).toBeGreaterThan(0);
    await house.call('DELETE', `/imports/${back.id}`);
    await patch(id, 'brand', 'Newer here', brand);
  });
  it('with a column that was sorted on its own says so', async () => {
    const { bytes } = await takeOut();
    const [head, ...rows] = read(bytes);
    const at = head!.indexOf('Price');
    const sorted = rows.map((r) => r[at]!).sort((x, y) => Number(y) - Number(x));
    const back = await bringIn(
      'sorted.csv',
      write([head!, ...rows.map((r, i) => r.map((c, n) => (n === at ? sorted[i]! : c)))]),
    );
    expect(back.shuffled).toEqual(['price']);
    await house.call('DELETE', `/imports/${back.id}`);
  });
  it('of a file that was forgotten is read as any other', async () => {
    for (const e of await list()) await house.call('DELETE', `/exports/${e.id}`);
    const { id, bytes } = await takeOut();
    await house.call('DELETE', `/exports/${id}`);
    expect((await bringIn('late.csv', bytes)).baseline).toBeNull();
    expect(await house.rows('select 1 from export_rows')).toEqual([]);
  });
});

describe('a file with fields of a market', () => {
  const onMarket = ['sku', 'price', 'quillhaven/price', 'quillhaven/colour', 'quillhaven/category'];
  const listed = () =>
    house.rows<{ id: number; sku: string; price: string; colour: string; leaf: string; ours: string; typed: string }>(
      `select l.id, p.sku, l."values" ->> 'price' as price, l."values" ->> 'colour' as colour, l.category as leaf, p.price::float::text as ours,
          l.overrides ->> 'price' as typed
        from listings l join products p on p.id = l.product_id where p.kind <> 'family' order by p.sku`,
    );
  it('goes out as people read it, comes back, and is written into the listings alone where it was changed', async () => {
    const { bytes } = await takeOut({ columns: onMarket });
    const [head, ...rows] = read(bytes);
    expect(head).toEqual(['SKU', 'Price', 'Price on Quillhaven', 'Colour on Quillhaven', 'Category on Quillhaven']);
    const before = await listed();
    const told = new Map(before.map((l) => [l.sku, l]));
    const coloured = rows.filter((r) => r[3] !== '');
    expect(coloured.length).toBeGreaterThan(1);
    // Words, not codes; leaves with the way to them.
    expect(coloured.every((r) => r[3] !== told.get(r[0]!)!.colour)).toBe(true);
    const [first, second] = coloured as [string[], string[]];
    expect(first[4]).toContain(' › ');
    const other = coloured.find((r) => r[3] !== first[3])![3]!;
    const edited = rows.map((r) =>
      r[0] === first[0]
        ? [r[0]!, r[1]!, '77.01', other, r[4]!]
        : r[0] === second[0]
          ? [r[0]!, '78.02', r[2]!, r[3]!, r[4]!]
          : r,
    );
    const back = await bringIn('on the market.csv', write([head!, ...edited]));
    expect(back.baseline).not.toBeNull();
    expect(back.counts).toMatchObject({ update: 2, same: rows.length - 2, create: 0, refuse: 0 });
    expect((await writeIn(back.id)).state).toBe('applied');
    const after = new Map((await listed()).map((l) => [l.sku, l]));
    expect(after.get(first[0]!)).toMatchObject({ typed: '77.01', price: '77.01', ours: told.get(first[0]!)!.ours });
    expect(after.get(first[0]!)!.colour).toBe(told.get(coloured.find((r) => r[3] === other)![0]!)!.colour);
    expect(after.get(second[0]!)).toMatchObject({ typed: null, ours: '78.02', price: '78.02' });
    expect([...after.values()].filter((l) => l.sku !== first[0] && l.typed !== told.get(l.sku)!.typed)).toEqual([]);
    // It is a change of the market's listings, and is taken back as one.
    const sets = await house.rows<{ id: number; title: string }>(
      `select s.id, s.title from import_sets i join change_sets s on s.id = i.change_set_id where i.import_id = ?`,
      [back.id],
    );
    expect(sets.map((s) => s.title)).toEqual(['Import on the market.csv on Quillhaven']);
    await takeBack(house, sets[0]!.id);
    const restored = (await listed()).find((l) => l.sku === first[0])!;
    expect([restored.price, restored.colour, restored.typed]).toEqual([
      told.get(first[0]!)!.price,
      told.get(first[0]!)!.colour,
      told.get(first[0]!)!.typed,
    ]);
  });
  it('waits for a decision where both sides changed a cell, and leaves out with a word what the market does not ask for', async () => {
    const free = (await listed()).filter((l) => l.leaf !== null).at(-1)!;
    await house.call('PATCH', '/markets/quillhaven/listings', {
      cells: [{ id: free.id, field: 'category', before: free.leaf, after: null }],
    });
    const { bytes } = await takeOut({ columns: onMarket });
    const [head, ...rows] = read(bytes);
    const stands = await listed();
    const priced = stands.filter((l) => l.price !== null && l.leaf !== null);
    const one = priced[0]!;
    const { id: without } = (
      await house.call<{ id: number }>('POST', '/choices', {
        which: whichSchema.parse({ clauses: [{ is: 'empty', field: 'quillhaven/colour' }] }),
      })
    ).body;
    const asked = (
      await house.call<{ rows: { sku: string }[] }>('GET', `/products?choice=${without}&open=all&limit=500`)
    ).body.rows.map((r) => r.sku);
    const odd = stands.find(
      (l) => l.colour === null && l.leaf !== null && !asked.includes(l.sku) && l.sku !== one.sku,
    )!;
    const lost = stands.find((l) => l.leaf === null)!;
    await house.call('PATCH', '/markets/quillhaven/listings', {
      cells: [{ id: one.id, field: 'price', before: one.price, after: '55.55' }],
    });
    const put = (r: string[], at: number, text: string): string[] => r.map((c, n) => (n === at ? text : c));
    const edited = rows.map((r) =>
      r[0] === one.sku ? put(r, 2, '66.66') : r[0] === odd.sku || r[0] === lost.sku ? put(r, 3, 'Blue') : r,
    );
    const back = await bringIn('both sides.csv', write([head!, ...edited]));
    const told = (
      await house.call<{ rows: { sku: string; problems: { says: string }[] }[] }>(
        'GET',
        `/imports/${back.id}/rows?action=damaged&limit=50`,
      )
    ).body.rows;
    const saysOf = (sku: string) => told.find((r) => r.sku === sku)?.problems.map((p) => p.says) ?? [];
    expect(saysOf(one.sku).join()).toContain('55.55');
    expect(saysOf(odd.sku).join()).toMatch(/it is not asked of/);
    expect(saysOf(lost.sku).join()).toMatch(/has no category on this market yet/);
    const done = await writeIn(back.id);
    expect(done.counts.conflicts).toBe(1);
    const setOf = () =>
      house.rows<{ set: number | null }>('select change_set_id as set from imports where id = ?', [back.id]);
    const now = async () => (await listed()).find((l) => l.sku === one.sku)!.price;
    expect(await now()).toBe('55.55');
    await house.call('POST', `/imports/${back.id}/decisions`, { take: 'file' });
    await until(now, (p) => p === '66.66');
    // Nothing of items was changed: there is a change of the market's listings alone.
    await until(setOf, ([i]) => i!.set === null);
    expect(await house.rows(`select 1 from change_sets where title = 'Import both sides.csv'`)).toEqual([]);
    expect((await listed()).find((l) => l.sku === odd.sku)!.colour).toBeNull();
  });
  it('need not have gone out with them: what is called so, or was chosen to be once, is read so in any file', async () => {
    const [one, two] = (await listed()).filter((l) => l.price !== null && l.leaf !== null) as [
      Awaited<ReturnType<typeof listed>>[number],
      Awaited<ReturnType<typeof listed>>[number],
    ];
    const sheet = (heading: string, price: string): string =>
      write([
        ['SKU', heading],
        [one.sku, price],
        [two.sku, two.price],
      ]);
    const priceOf = async (sku: string): Promise<string> => (await listed()).find((l) => l.sku === sku)!.price;
    const fieldOf = (i: ImportShape): string | null => i.reading.columns[1]!.field;
    const called = await bringIn('own.csv', sheet('price on QUILLHAVEN', '81.01'));
    expect([called.baseline, fieldOf(called)]).toEqual([null, 'quillhaven/price']);
    expect(called.counts).toMatchObject({ update: 1, same: 1 });
    await writeIn(called.id);
    expect([await priceOf(one.sku), await priceOf(two.sku)]).toEqual(['81.01', two.price]);
    expect((await listed()).find((l) => l.sku === one.sku)!.ours).toBe(one.ours);
    // A heading that says nothing is given its field by a person, and that is remembered.
    const odd = await bringIn('odd.csv', sheet('What they ask over there', '82.02'));
    expect(fieldOf(odd)).toBeNull();
    const chosen = odd.reading.columns.map((c, i) =>
      i === 1 ? { ...c, field: 'quillhaven/price', why: 'chosen' } : c,
    );
    expect((await house.call('PUT', `/imports/${odd.id}/reading`, { ...odd.reading, columns: chosen })).status).toBe(
      200,
    );
    const again = await bringIn('odd again.csv', sheet('What they ask over there', '83.03'));
    expect(again.reading.columns[1]).toMatchObject({ field: 'quillhaven/price', why: 'remembered' });
    await writeIn(again.id);
    expect(await priceOf(one.sku)).toBe('83.03');
    const nowhere = odd.reading.columns.map((c, i) => (i === 1 ? { ...c, field: 'nowhere/price', why: 'chosen' } : c));
    expect((await house.call('PUT', `/imports/${odd.id}/reading`, { ...odd.reading, columns: nowhere })).status).toBe(
      400,
    );
  });
  it('fills the listings of items that it adds: by the leaf that their own category has there, or that it names', async () => {
    const [known] = await house.rows<{ own: string; leaf: string }>(
      `select c.ours as own, c.theirs as leaf from correspondences c join listings l on l.market_id = c.market_id and l.category = c.theirs
        where c.market_id = 1 and c.kind = 'category' and l."values" ->> 'colour' is not null limit 1`,
    );
    const { bytes } = await takeOut({ columns: onMarket });
    const [, ...rows] = read(bytes);
    const like = (await listed()).find((l) => l.leaf === known!.leaf && l.colour !== null)!;
    const [, , , colour, path] = rows.find((r) => r[0] === like.sku)!;
    const head = ['SKU', 'Title', 'Category', 'Price', 'Price on Quillhaven', 'Colour on Quillhaven'];
    const sheet = write([
      [...head, 'Category on Quillhaven'],
      ['NEW-1', 'By its own category', known!.own, '10.00', '12.01', colour!, ''],
      ['NEW-2', 'Unknown there', 'Oddments', '10.00', '12.02', '', ''],
      ['NEW-3', 'Placed by the file', 'Oddments', '10.00', '12.03', colour!, path!],
      ['NEW-4', 'As ours', known!.own, '10.00', '10.00', '', ''],
    ]);
    const back = await bringIn('season.csv', sheet);
    expect(back.counts).toMatchObject({ create: 4, refuse: 0 });
    const told = (
      await house.call<{ rows: { sku: string; problems: { says: string }[] }[] }>(
        'GET',
        `/imports/${back.id}/rows?action=damaged&limit=50`,
      )
    ).body.rows;
    expect(told.map((r) => r.sku)).toEqual(['NEW-2']);
    expect(told[0]!.problems.map((p) => p.says).join()).toMatch(/has no category on this market yet/);
    expect((await writeIn(back.id)).counts).toMatchObject({ applied: 4, conflicts: 0 });
    const now = (await listed()).filter((l) => l.sku.startsWith('NEW-'));
    expect(now.map((l) => [l.sku, l.leaf, l.price, l.colour !== null, l.typed])).toEqual([
      ['NEW-1', known!.leaf, '12.01', true, '12.01'],
      ['NEW-2', null, null, false, null],
      ['NEW-3', known!.leaf, '12.03', true, '12.03'],
      ['NEW-4', known!.leaf, '10.00', false, null],
    ]);
    const [set] = await house.rows<{ id: number; cells: number }>(
      `select s.id, s.cells from import_sets i join change_sets s on s.id = i.change_set_id where i.import_id = ?`,
      [back.id],
    );
    // NEW-1 and NEW-3 with price, colour and the leaf of the latter; the colour of NEW-1 may be as the leaf has it already.
    expect(set!.cells).toBe(5);
    // All of it is one deed, taken back in one and brought back in one.
    const items = (
      await house.rows<{ id: number }>('select change_set_id as id from imports where id = ?', [back.id])
    )[0]!.id;
    const look = async (id: number) => (await house.call<ReversalLook>('GET', `/change-sets/${id}/reversal`)).body;
    const looked = await look(items);
    expect(looked).toMatchObject({ removed: 4, keptChanged: 0 });
    expect(looked.others).toMatchObject([
      { id: set!.id, title: 'Import season.csv on Quillhaven', counts: { restored: 5, gone: 0 } },
    ]);
    const odd = await house.call<{ field: string }>('POST', `/change-sets/${items}/reverse`, { others: [items + 999] });
    expect([odd.status, odd.body.field]).toEqual([400, 'others']);
    const gone = await takeBack(house, items, [set!.id]);
    expect((await listed()).filter((l) => l.sku.startsWith('NEW-'))).toEqual([]);
    const again = await look(gone.id);
    expect(again.recreated).toBe(4);
    expect(again.others).toHaveLength(1);
    await takeBack(
      house,
      gone.id,
      again.others.map((o) => o.id),
    );
    expect((await listed()).filter((l) => l.sku.startsWith('NEW-')).map((l) => [l.sku, l.leaf, l.typed])).toEqual(
      now.map((l) => [l.sku, l.leaf, l.typed]),
    );
    // Nothing of a market was put among the facts of the items.
    expect(
      await house.rows(`select 1 from products where sku like 'NEW-%' and facts::text like '%quillhaven%'`),
    ).toEqual([]);
    // What is no longer wanted there by the time it is written is left out with a word, and the item added all the same.
    const placed = await bringIn(
      'moved.csv',
      write([[...head], ['NEW-6', 'Moved meanwhile', known!.own, '10.00', '12.06', '']]),
    );
    expect(placed.counts.damaged).toBe(0);
    await house.db.raw(
      `insert into correspondences (market_id, kind, ours, theirs) values (1, 'unwanted', ?, '') on conflict do nothing`,
      [known!.own],
    );
    await writeIn(placed.id);
    const after = (
      await house.call<{ rows: { sku: string; applied: boolean; problems: { says: string }[] }[] }>(
        'GET',
        `/imports/${placed.id}/rows?action=damaged&limit=50`,
      )
    ).body.rows;
    expect(after).toMatchObject([{ sku: 'NEW-6', applied: true }]);
    expect(after[0]!.problems.map((p) => p.says).join()).toMatch(/is not wanted|left out/);
  });
});
