// What is kept against what is there: after whatever changes listings and findings, each kept count is the full count.
import { getListingState, type StateFacts } from '@basileus/core/listing';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createRandom } from '../../core/tests/random';
import { compactTallies } from '../database';
import { loadMarket } from '../markets/load';
import { loadCatalogCounts } from '../products/tallies';
import { type House, openHouse } from '../tests/house';
import { stateSql } from './queries';
import { refreshMarket } from './refresh';
import {
  loadCauseCounts,
  loadFilledCounts,
  loadLevelCounts,
  loadOwnCounts,
  loadPlanCounts,
  loadStateCounts,
  loadMarginCounts,
  loadUnplaced,
} from './tallies';

let house: House, market: number;
beforeAll(async () => {
  house = await openHouse('tallies_test', { size: 300, worker: false });
  market = (await loadMarket(house.db, 'quillhaven')).id;
});
afterAll(async () => {
  await house.close();
});

const sortBy = <T>(rows: readonly T[], key: (row: T) => string): T[] =>
  [...rows].sort((a, b) => (key(a) < key(b) ? -1 : 1));

async function loadKept() {
  const causes = await loadCauseCounts(house.db, [market]);
  return {
    causes: sortBy(
      causes.map(({ market: _, ...c }) => c),
      (c) => `${c.check} ${c.message} ${c.field}`,
    ),
    states: sortBy(
      (await loadStateCounts(house.db, [market])).map(({ state, n }) => ({ state, n })),
      (s) => s.state,
    ),
    plan: sortBy(await loadPlanCounts(house.db, market), (p) => `${p.operation} ${p.held ?? ''}`),
    levels: await loadLevelCounts(house.db, market),
    unplaced: (await loadUnplaced(house.db, [market]))[0]?.n ?? 0,
    own: sortBy(
      (await loadOwnCounts(house.db, market)).map(({ own, chosen, n }) => ({ own, chosen, n })),
      (o) => `${o.own} ${o.chosen ?? ''}`,
    ),
    filled: Object.fromEntries(await loadFilledCounts(house.db, market)),
    margins: Object.fromEntries((await loadMarginCounts(house.db, [market])).map(({ margin, n }) => [margin, n])),
    brands: sortBy(await loadCatalogCounts(house.db, 'brand'), (b) => b.name),
    categories: sortBy(await loadCatalogCounts(house.db, 'category'), (b) => b.name),
    kinds: sortBy(await loadCatalogCounts(house.db, 'kind'), (b) => b.name),
    colours: sortBy(await loadCatalogCounts(house.db, 'fact', 'colour'), (b) => b.name),
    contents: sortBy(await loadCatalogCounts(house.db, 'fact', 'box_contents'), (b) => b.name),
  };
}
const countProducts = (name: string) =>
  house.rows<{ name: string; count: number }>(
    `select ${name} as name, count(*) as count from products where ${name} is not null group by 1`,
  );
const countFact = (fact: string) =>
  house.rows<{ name: string; count: number }>(
    `select w as name, count(*) as count from products cross join jsonb_array_elements_text(
        case when jsonb_typeof(facts -> ?) = 'array' then facts -> ? else jsonb_build_array(facts ->> ?) end) w
      where facts ->> ? is not null and length(w) <= 60 group by 1`,
    [fact, fact, fact, fact],
  );
async function countAll() {
  const [levels] = await house.rows<{ blocker: number; caution: number; tip: number; unplaced: number }>(
    `select sum(blockers)::int as blocker, sum(cautions)::int as caution, sum(tips)::int as tip,
        count(*) filter (where category is null and market_state <> 'left out')::int as unplaced from listings`,
  );
  const { unplaced, ...rest } = levels!;
  return {
    causes: sortBy(
      await house.rows<{ check: string; message: string; field: string; level: string; count: number }>(
        `select "check", message, field, level, count(distinct listing_id) as count,
            count(distinct listing_id) filter (where remedies -> 0 ->> 'safe' = 'true') as safe,
            count(distinct listing_id) filter (where remedies -> 0 ->> 'safe' = 'false') as likely
          from findings group by 1, 2, 3, 4`,
      ),
      (c) => `${c.check} ${c.message} ${c.field}`,
    ),
    states: sortBy(
      await house.rows<{ state: string; n: number }>(
        `select ${stateSql} as state, count(*) as n from listings l group by 1`,
      ),
      (s) => s.state,
    ),
    plan: sortBy(
      await house.rows<{ operation: string; held: string | null; n: number }>(
        `select e ->> 'operation' as operation, e ->> 'held' as held, count(*) as n
          from listings l cross join jsonb_array_elements(l.planned) e where l.in_flight = 0 group by 1, 2`,
      ),
      (p) => `${p.operation} ${p.held ?? ''}`,
    ),
    levels: rest,
    unplaced,
    own: sortBy(
      await house.rows<{ own: string; chosen: string | null; n: number }>(
        `select own_category as own, category as chosen, count(*) as n from listings group by 1, 2`,
      ),
      (o) => `${o.own} ${o.chosen ?? ''}`,
    ),
    margins: Object.fromEntries(
      (
        await house.rows<{ margin: number; n: number }>(
          'select floor(margin / 10.0)::int * 10 as margin, count(*) as n from listings where margin is not null group by 1',
        )
      ).map(({ margin, n }) => [margin, n]),
    ),
    filled: Object.fromEntries(
      (
        await house.rows<{ key: string; n: number }>(
          'select k as key, count(*) as n from listings cross join jsonb_object_keys("values") k group by 1',
        )
      ).map((f) => [f.key, f.n]),
    ),
    brands: sortBy(await countProducts('brand'), (b) => b.name),
    categories: sortBy(await countProducts('category'), (b) => b.name),
    kinds: sortBy(await countProducts('kind'), (b) => b.name),
    colours: sortBy(await countFact('colour'), (b) => b.name),
    contents: sortBy(await countFact('box_contents'), (b) => b.name),
  };
}

describe('kept counts', () => {
  it('are the full counts from the start, and there is something to count', async () => {
    const kept = await loadKept();
    expect(kept).toEqual(await countAll());
    expect(kept.causes.length).toBeGreaterThan(15);
    expect(kept.states.length).toBeGreaterThan(3);
    expect(kept.plan.length).toBeGreaterThan(3);
    expect(kept.own.length).toBeGreaterThan(10);
    expect(Object.keys(kept.filled).length).toBeGreaterThan(15);
    expect(kept.colours.length).toBeGreaterThan(3);
    expect(kept.brands.length).toBeGreaterThan(1);
    expect(kept.contents.length).toBeGreaterThan(1);
  });
  it('of our categories are those of the products that were checked', async () => {
    expect(
      await house.rows(
        `select l.id from listings l join products p on p.id = l.product_id where l.own_category <> coalesce(p.category, '')`,
      ),
    ).toEqual([]);
  });
  it('stay so through forty changes of every kind at random', async () => {
    const random = createRandom(99);
    const pick = async (sql: string) => {
      const rows = await house.rows<{ id: number; v: string | null }>(sql);
      return rows[Math.floor(random() * rows.length)]!;
    };
    const changes: (() => Promise<unknown>)[] = [
      async () => {
        const p = await pick(`select id, brand as v from products where kind <> 'family'`);
        return house.call('PATCH', '/products', {
          cells: [{ id: p.id, field: 'brand', before: p.v, after: random() < 0.3 ? null : 'Some Brand' }],
        });
      },
      async () => {
        const p = await pick(`select id, gtin as v from products where kind <> 'family' and gtin is not null`);
        return house.call('PATCH', '/products', {
          cells: [{ id: p.id, field: 'gtin', before: p.v, after: '9520000000004' }],
        });
      },
      async () => {
        const p = await pick(
          `select id, facts ->> 'colour' as v from products where kind <> 'family' and jsonb_typeof(facts -> 'colour') = 'string'`,
        );
        return house.call('PATCH', '/products', {
          cells: [{ id: p.id, field: 'fact.colour', before: p.v, after: random() < 0.3 ? null : 'Sea green' }],
        });
      },
      // Lists, of which each entry is a word, and texts that are too long for one.
      () =>
        house.rows(
          `update products set version = version + 1, facts = facts || jsonb_strip_nulls(jsonb_build_object('box_contents',
              jsonb_build_array('1 x ' || left(title, 8), case when id % 3 = 0 then '1 x lid' else '2 x lid' end),
              'colour', case when id % 2 = 0 then repeat('very ', 12) || 'blue' else facts ->> 'colour' end))
            where id % 5 = ? returning id`,
          [Math.floor(random() * 5)],
        ),
      async () => {
        const p = await pick('select id, category as v from products where category is not null');
        return house.call('PATCH', '/products', {
          cells: [{ id: p.id, field: 'category', before: p.v, after: random() < 0.3 ? null : 'Odds and ends' }],
        });
      },
      async () => {
        const l = await pick(`select id, "values" ->> 'title' as v from listings where category is not null`);
        return house.call('PATCH', '/markets/quillhaven/listings', {
          cells: [{ id: l.id, field: 'title', before: l.v, after: random() < 0.5 ? 'BEST PRICE EVER ★' : null }],
        });
      },
      async () => {
        const l = await pick('select id, category as v from listings');
        return house.call('PATCH', '/markets/quillhaven/listings', {
          cells: [{ id: l.id, field: 'category', before: l.v, after: random() < 0.5 ? null : 'frying_pans' }],
        });
      },
      () =>
        house.rows('update listings set in_flight = 1 - in_flight where id % 7 = ? returning id', [
          Math.floor(random() * 7),
        ]),
      async () =>
        house.rows('update listings set market_state = ? where id = ? returning id', [
          random() < 0.5 ? 'live' : 'withdrawn',
          (await pick('select id, null as v from listings')).id,
        ]),
      async () => {
        const l = await pick(`select id, null as v from listings where market_state in ('none', 'left out')`);
        return house.call('POST', '/markets/quillhaven/listings/wanted', { ids: [l.id], wanted: random() < 0.4 });
      },
      async () => {
        const l = await pick(
          `select id, null as v from listings where market_state = 'none' order by category is null desc, id limit 5`,
        );
        return house.call('POST', '/markets/quillhaven/listings/wanted', { ids: [l.id], wanted: false });
      },
      async () =>
        house.rows('delete from products where id = ? returning id', [
          (await pick(`select id, null as v from products where kind in ('single', 'variant')`)).id,
        ]),
      () => house.call('POST', '/products', { sku: `T-${Math.floor(random() * 1e9)}`, title: 'New' }),
      async () => refreshMarket(house.db, await loadMarket(house.db, 'quillhaven'), () => Promise.resolve()),
    ];
    for (let i = 0; i < 40; i++) {
      await changes[i < changes.length ? i : Math.floor(random() * changes.length)]!();
      expect({ after: i, kept: await loadKept() }).toEqual({ after: i, kept: await countAll() });
    }
  });
  it('stay so when a change is rolled back, and when their parts are put together', async () => {
    const before = await loadKept();
    await house.db
      .transaction(async (tx) => {
        await tx.raw('update listings set blockers = blockers + 1');
        throw new Error('no');
      })
      .catch(() => undefined);
    expect(await loadKept()).toEqual(before);
    const parts = async () => (await house.rows<{ n: number }>('select count(*) as n from tallies'))[0]!.n;
    for (let i = 0; (await parts()) <= 3000; i++)
      await house.rows(
        `insert into tallies (market_id, kind, key, n) select ?, 'state', 'x' || g % 2, case when g % 4 < 2 then 1 else -1 end from generate_series(1, 1000) g returning id`,
        [market],
      );
    await Promise.all([compactTallies(house.db), compactTallies(house.db)]);
    expect(await parts()).toBeLessThan(300);
    expect(await loadKept()).toEqual(before);
  });
});

it('the database and the core derive the same state from every case', async () => {
  const cases: StateFacts[] = [0, 2].flatMap((inFlight) =>
    (['none', 'in review', 'live', 'refused', 'withdrawn', 'left out'] as const).flatMap((marketState) =>
      [false, true].flatMap((isRefusalOpen) =>
        [false, true].flatMap((hasCategory) =>
          [0, 3].map((blockers) => ({ inFlight, marketState, isRefusalOpen, hasCategory, blockers })),
        ),
      ),
    ),
  );
  const rows = await house.rows<{ state: string }>(
    `select listing_state(c.in_flight, c.market_state, c.refusal_open, c.category, c.blockers) as state
      from rows from (
        jsonb_to_recordset(?::jsonb) as (in_flight int, market_state text, refusal_open boolean, category text, blockers int)
      ) with ordinality as c(in_flight, market_state, refusal_open, category, blockers, n)
      order by n`,
    [
      JSON.stringify(
        cases.map((c) => ({
          in_flight: c.inFlight,
          market_state: c.marketState,
          refusal_open: c.isRefusalOpen,
          category: c.hasCategory ? 'x' : null,
          blockers: c.blockers,
        })),
      ),
    ],
  );
  expect(rows.map((r) => r.state)).toEqual(cases.map(getListingState));
  expect(new Set(rows.map((r) => r.state)).size).toBe(9);
});
