// The database itself: what it refuses whoever asks, its way back and forth, and COPY.
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { hasStale, refreshMarket } from '../listings';
import { loadMarket } from '../markets';
import { type House, openHouse } from '../tests/house';
import { copyInto, migrate, migrateDownTo, toCopyLine, toJson } from '.';

let house: House;
beforeAll(async () => {
  house = await openHouse('database_test', { size: 80, worker: false });
});
afterAll(async () => {
  await house.close();
});

describe('the database refuses', () => {
  it.each([
    ['a price below nothing', `update products set price = -0.01 where id = (select min(id) from products)`],
    ['a cost below nothing', `update products set cost = -1 where id = (select min(id) from products)`],
    ['a sale price below nothing', `update products set sale_price = -1 where id = (select min(id) from products)`],
    [
      'a parent that is no family',
      `update products set parent_id = (select min(id) from products where kind = 'variant')
        where id = (select max(id) from products where kind = 'variant')`,
    ],
    [
      'that a family with variants becomes something else',
      `update products set kind = 'single' where id = (select min(parent_id) from products)`,
    ],
    ['a day that the calendar does not have', `update products set sale_start = '2026-02-30' where id = 1`],
    [
      'a finding of a market on which its listing does not stand',
      `insert into findings (listing_id, market_id, "check", message, level, field, value, params, remedies)
        select min(id), 99, 'c', 'm', 'tip', '', '', '{}', '[]' from listings`,
    ],
    [
      'a change set of a market that is not there',
      `insert into change_sets (title, actor, target, market_id) values ('x', 'y', 'listings', 99)`,
    ],
    [
      'a take-back by nothing',
      `insert into change_sets (title, actor, target, reversed_by) values ('x', 'y', 'products', 99999)`,
    ],
    [
      'an operation that is none',
      `insert into dispatches (market_id, operation, state, key, file_name, by_whom) values (1, 'send', 'built', 'k', 'f', 'p')`,
    ],
    ['stock below nothing', 'update stock set on_hand = -1'],
  ])('%s', async (_, sql) => {
    await expect(house.db.raw(sql)).rejects.toThrow(/violates|out of range/);
  });
});

describe('migrations', () => {
  it('go back and forth over a house with a catalog in it', async () => {
    const look = async () => ({
      products: await house.rows(
        'select sku, kind, parent_id, price, sale_start::text as start, category, facts from products order by id',
      ),
      listings: await house.rows(
        'select category, "values", planned, blockers, market_state from listings order by id',
      ),
      findings: await house.rows('select listing_id, "check", field from findings order by id'),
      tallies: await house.rows(
        'select kind, key, sum(n)::int as n from tallies group by 1, 2 having sum(n) <> 0 order by 1, 2',
      ),
      changes: await house.rows(
        'select change_set_id, target_id, sku, changes, reversed, left_as from change_items order by change_set_id, target_id',
      ),
      catalog: await house.rows(
        'select kind, key, sum(n)::int as n from catalog_tallies group by 1, 2 having sum(n) <> 0 order by 1, 2',
      ),
    });
    await house.rows(
      `update products set sale_start = '2026-12-01' where id = (select min(id) from products) returning id`,
    );
    const [a, b] = await house.rows<{ id: number; brand: string | null; mpn: string | null }>(
      `select id, brand, mpn from products where kind = 'variant' order by id limit 2`,
    );
    await house.call('PATCH', '/products', {
      cells: [a!, b!].flatMap(({ id, brand, mpn }) => [
        { id, field: 'brand', before: brand, after: 'Another' },
        { id, field: 'mpn', before: mpn, after: `N-${id}` },
      ]),
    });
    await house.rows(`update change_items set left_as = '{"brand": "changed"}' where target_id = ? returning id`, [
      a!.id,
    ]);
    const before = await look();
    expect(before.changes).toHaveLength(2);
    expect(before.tallies.length).toBeGreaterThan(50);
    await migrateDownTo(house.db, '0007-tallies');
    await house.rows(`update products set sale_end = 'soon' where id = (select min(id) from products) returning id`);
    // The counts of the older form are kept while it is in force.
    await house.rows('update listings set blockers = blockers where id = (select min(id) from listings) returning id');
    await migrate(house.db);
    const isMargin = (t: unknown): boolean => (t as { kind: string }).kind === 'margin';
    expect(before.tallies.filter(isMargin).length).toBeGreaterThan(5);
    expect(await look()).toEqual({ ...before, tallies: before.tallies.filter((t) => !isMargin(t)) });
    // What prices leave is worked out when the market is checked anew, which is due.
    const market = await loadMarket(house.db, 'quillhaven');
    expect(await hasStale(house.db, market)).toBe(true);
    await refreshMarket(house.db, market, () => Promise.resolve());
    expect((await look()).tallies.filter(isMargin)).toEqual(before.tallies.filter(isMargin));
    expect(
      await house.rows(`select fact ->> 'detail' as detail from history where fact ->> 'detail' like '%no day%'`),
    ).toEqual([{ detail: 'sale end was “soon”, which is no day, and is empty now' }]);
  });
});

describe('functions of triggers', () => {
  it('that join what was changed with what was there before never plan a loop within a loop', async () => {
    // A plan is made once for a connection: one that suits a statement of one row takes minutes over twenty thousand.
    const joining = await house.rows<{ name: string; config: string[] | null }>(
      `select proname as name, proconfig as config from pg_proc
        where prorettype = 'trigger'::regtype and pronamespace = 'public'::regnamespace and prosrc ~ 'join gone'
        order by 1`,
    );
    expect(joining.map((f) => f.name)).toEqual(['mark_unchecked', 'tally_listings_update', 'tally_products_update']);
    for (const { name, config } of joining) expect(config, name).toContain('enable_nestloop=off');
  });
  it('count twenty thousand rows in one statement as quickly after one of a single row', async () => {
    // On one connection, as requests come: the plan of the small statement serves the large one too.
    await house.db
      .transaction(async (tx) => {
        const marks = () =>
          tx.raw('update products set version = version + 1 where id = (select min(id) from products)');
        for (let i = 0; i < 7; i++) await marks();
        await tx.raw(
          `insert into products (sku, sku_fold, shelf_order, kind, title, facts)
          select 'N-' || n, 'n' || n, 'n' || n, 'single', 'A thing', '{}' from generate_series(1, 20000) n`,
        );
        await tx.raw(`set local statement_timeout = '20s'`);
        await tx.raw(`update products set brand = 'Another' where sku like 'N-%'`);
        const { rows } = (await tx.raw(
          `select sum(n)::int as n from catalog_tallies where kind = 'brand' and key = 'Another'`,
        )) as { rows: { n: number }[] };
        expect(rows[0]!.n).toBeGreaterThanOrEqual(20_000);
        await tx.rollback();
      })
      .catch((error: unknown) => {
        if (!(error instanceof Error) || !error.message.includes('rolled back')) throw error;
      });
  });
});

describe('history as facts', () => {
  it('keeps what was worded before as it was said, and goes back without losing a line', async () => {
    await migrateDownTo(house.db, '0011-problem-facts');
    await house.db.raw(
      `insert into history (actor, action, subject, detail) values ('Ada', 'let go', '2 refused lines', 'Q17')`,
    );
    const worded = await house.rows<{ n: number }>('select count(*)::int as n from history');
    await migrate(house.db);
    expect(await house.rows(`select count(*)::int as n from history`)).toEqual(worded);
    expect(await house.rows(`select actor, fact from history order by id desc limit 1`)).toEqual([
      { actor: 'Ada', fact: { is: 'said', action: 'let go', subject: '2 refused lines', detail: 'Q17' } },
    ]);
    const page = await house.call('GET', '/history?limit=1');
    expect(page.body.rows).toMatchObject([{ fact: { detail: 'Q17' } }]);
  });
});

describe('COPY', () => {
  it('takes every text as it is, but for the NUL that no text of the database can hold', async () => {
    const texts = [
      'plain',
      '',
      'a\tb',
      'a\nb',
      'a\r\nb',
      'back\\slash',
      '\\N',
      '\\.',
      'ガラス “x” 😀',
      'nul\0l',
      '{"a": "b\\n"}',
    ];
    await house.db.transaction(async (tx) => {
      await tx.raw('create temporary table copied (n int, t text, b boolean, gone text) on commit drop');
      await copyInto(
        tx,
        'copied (n, t, b, gone)',
        texts.map((t, i) => [i, t, i % 2 === 0, null]),
      );
      const rows = ((await tx.raw('select t, b, gone from copied order by n')) as { rows: unknown[] }).rows;
      expect(rows).toEqual(texts.map((t, i) => ({ t: t.replace('\0', ''), b: i % 2 === 0, gone: null })));
    });
  });
  it('takes many rows, and none where one of them is refused', async () => {
    await house.db.transaction(async (tx) => {
      await tx.raw('create temporary table copied (n int) on commit drop');
      await copyInto(
        tx,
        'copied (n)',
        Array.from({ length: 50_000 }, (_, i) => [i]),
      );
      expect(
        ((await tx.raw('select count(*) as n, sum(n)::int as s from copied')) as { rows: unknown[] }).rows,
      ).toEqual([{ n: 50_000, s: (49_999 * 50_000) / 2 }]);
    });
    await house.rows('create table copied (n int)');
    await expect(house.db.transaction((tx) => copyInto(tx, 'copied (n)', [[1], [2], ['no number']]))).rejects.toThrow(
      /invalid input syntax/,
    );
    expect(await house.rows('select n from copied')).toEqual([]);
    expect(await house.rows('select 1 as still')).toEqual([{ still: 1 }]);
  });
  it.each([
    ['a\0b', 'ab'],
    ['\0\0', ''],
    ['\\u0000', '\\u0000'],
    ['\\\0', '\\'],
    ['\\\\u0000\0x', '\\\\u0000x'],
  ])('of JSON leaves out the NUL of %j, and nothing that only looks like one', (text, kept) => {
    expect(JSON.parse(toJson({ [text]: [text] }))).toEqual({ [kept]: [kept] });
  });
  it('writes a line a row', () => {
    expect(toCopyLine([1, 'a\tb', null, false])).toBe('1\ta\\tb\t\\N\tfalse\n');
  });
});
