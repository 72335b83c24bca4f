// How the rows of a file are written: step by step, in lanes side by side, each row held against what stands there then.
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { updateProducts } from '../products';
import { type House, openHouse, until } from '../tests/house';

let house: House;
beforeAll(async () => {
  house = await openHouse('apply_test', { size: 20 });
});
afterAll(async () => {
  await house.close();
});

interface Import {
  id: number;
  state: string;
  counts: Record<string, number>;
}
const reach = (id: number, ...states: string[]) =>
  until(
    async () => (await house.call<Import>('GET', `/imports/${id}`)).body,
    (i) => states.includes(i.state),
  );
const make = async (name: string, text: string): Promise<number> => {
  const { body } = await house.upload<Import>(name, text);
  await reach(body.id, 'planned');
  return body.id;
};
const apply = (id: number) => house.call('POST', `/imports/${id}/apply`);
const write = async (id: number): Promise<Import> => {
  await apply(id);
  return reach(id, 'applied', 'failed');
};
const field = async (sku: string, sql: string): Promise<unknown> =>
  (await house.rows<{ v: unknown }>(`select ${sql} as v from products p where sku = ?`, [sku]))[0]?.v;

describe('a file of some thousand rows', () => {
  const many = 2300;
  const file = (title: string): string =>
    `SKU,Title,Brand,Price\n${Array.from({ length: many }, (_, i) => `LANE-${i},${title} ${i},Fathom,${i % 90}.50`).join('\n')}\n`;
  beforeAll(async () => {
    expect((await write(await make('first.csv', file('First')))).counts).toMatchObject({ applied: many, conflicts: 0 });
  });

  it('is written whole, each row once, and kept as one change with what stood there before', async () => {
    const id = await make('second.csv', file('Second'));
    expect((await write(id)).counts).toMatchObject({ update: many, applied: many, conflicts: 0 });
    expect(
      await house.rows(
        `select count(*) as n, count(distinct id) as ids, min(version) as least, max(version) as most from products
          where sku like 'LANE-%' and title like 'Second %'`,
      ),
    ).toEqual([{ n: many, ids: many, least: 2, most: 2 }]);
    const [set] = await house.rows<{ id: number; cells: number }>(
      `select s.id, s.cells from change_sets s join imports i on i.change_set_id = s.id where i.id = ?`,
      [id],
    );
    expect(set!.cells).toBe(many);
    expect(
      await house.rows(
        `select c.sku, c.target_id = p.id as is_its, c.changes from change_items c join products p on p.sku = c.sku
          where c.change_set_id = ? and c.sku in ('LANE-0', 'LANE-2299') order by 1`,
        [set!.id],
      ),
    ).toEqual([
      { sku: 'LANE-0', is_its: true, changes: [{ field: 'title', before: 'First 0', after: 'Second 0' }] },
      { sku: 'LANE-2299', is_its: true, changes: [{ field: 'title', before: 'First 2299', after: 'Second 2299' }] },
    ]);
    expect(await house.rows('select count(*) as n from change_items where change_set_id = ?', [set!.id])).toEqual([
      { n: many },
    ]);
  });
  it('waits for a row that somebody still holds, and leaves none behind', async () => {
    const id = await make('third.csv', file('Third'));
    const holder = await house.db.transaction();
    await holder.raw('select 1 from import_rows where import_id = ? and "row" = 7 for update', [id]);
    await apply(id);
    await until(
      () =>
        house.rows(
          `select 1 from pg_stat_activity where wait_event_type = 'Lock' and query like '%from import_rows r%'`,
        ),
      (rows) => rows.length > 0,
    );
    // All others are written by then.
    expect(await house.rows(`select sku from import_rows where import_id = ? and not applied`, [id])).toEqual([
      { sku: 'LANE-5' },
    ]);
    expect((await house.call<Import>('GET', `/imports/${id}`)).body.state).toBe('applying');
    await holder.rollback();
    expect((await reach(id, 'applied', 'failed')).counts['applied']).toBe(many);
    expect(await field('LANE-5', 'title')).toBe('Third 5');
  });
});

describe('what stands there when a row is written', () => {
  it('is asked of stock too, which moves without its item', async () => {
    await write(await make('stock.csv', 'SKU,Title,Stock\nMOVE-1,One,10\nMOVE-2,Two,10\n'));
    const id = await make('count.csv', 'SKU,Stock\nMOVE-1,25\nMOVE-2,25\n');
    await house.rows(
      `update stock s set on_hand = 9 from products p where p.id = s.product_id and p.sku = 'MOVE-1' returning 1`,
    );
    expect((await write(id)).counts).toMatchObject({ applied: 2, conflicts: 1 });
    const stock = '(select on_hand from stock where product_id = p.id)';
    expect(await field('MOVE-1', stock)).toBe(9);
    expect(await field('MOVE-2', stock)).toBe(25);
  });
});

describe('changed fields of many items at once', () => {
  it('fill, empty and leave alone, each item its own', async () => {
    await write(
      await make(
        'some.csv',
        'SKU,Title,Brand,Price,Colour,Material,Highlights\n' +
          ['A', 'B', 'C'].map((x) => `FILL-${x},${x},Old,5.00,Red,Oak,Light|Strong`).join('\n'),
      ),
    );
    const ids = new Map(
      (await house.rows<{ id: number; sku: string }>(`select id, sku from products where sku like 'FILL-%'`)).map(
        (p) => [p.sku, p.id],
      ),
    );
    await updateProducts(house.db, [
      { id: ids.get('FILL-A')!, fields: { brand: null, price: '7.25', 'fact.colour': null, 'fact.material': 'Ash' } },
      { id: ids.get('FILL-B')!, fields: { price: null, highlights: null, title: null } },
      { id: ids.get('FILL-C')!, fields: { brand: 'New', 'fact.colour': 'Blue', 'fact.care': 'Wipe' } },
    ]);
    expect(
      await house.rows(
        `select sku, title, brand, price, highlights, facts, version from products where sku like 'FILL-%' order by sku`,
      ),
    ).toEqual([
      {
        sku: 'FILL-A',
        title: 'A',
        brand: null,
        price: '7.2500',
        highlights: ['Light', 'Strong'],
        facts: { material: 'Ash' },
        version: 2,
      },
      {
        sku: 'FILL-B',
        title: '',
        brand: 'Old',
        price: null,
        highlights: [],
        facts: { colour: 'Red', material: 'Oak' },
        version: 2,
      },
      {
        sku: 'FILL-C',
        title: 'C',
        brand: 'New',
        price: '5.0000',
        highlights: ['Light', 'Strong'],
        facts: { colour: 'Blue', material: 'Oak', care: 'Wipe' },
        version: 2,
      },
    ]);
    // Only facts taken away, and none filled.
    await updateProducts(house.db, [{ id: ids.get('FILL-C')!, fields: { 'fact.care': null } }]);
    expect(await field('FILL-C', 'facts')).toEqual({ colour: 'Blue', material: 'Oak' });
  });
});
