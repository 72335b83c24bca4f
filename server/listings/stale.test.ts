// What was checked against something older than what stands now never goes out, and is always checked again.
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { allJobs } from '../all-jobs';
import { writeOn } from '../database';
import { bumpRevision, loadMarket } from '../markets/load';
import { type House, openHouse } from '../tests/house';
import { refreshProducts } from './follow-up';
import { refreshMarket } from './refresh';
import { staleSql } from './rows';
import { dropOwnMarks, hasStale, markSharing, refreshLater, refreshStale } from './stale';

let house: House;
beforeAll(async () => {
  // Nobody works on jobs here: the tests run them when they want them.
  house = await openHouse('stale_test', { size: 200, worker: false });
});
afterAll(async () => {
  await house.close();
});

interface Plan {
  operations: { operation: string; count: number; held: number }[];
  held: { reason: string; count: number }[];
}
const market = () => loadMarket(house.db, 'quillhaven');
const plan = async () => (await house.call<Plan>('GET', '/markets/quillhaven/plan')).body;
const checkAll = () => refreshStale(house.db, 'quillhaven', () => Promise.resolve());
const send = (operation: string, ids: number[]) =>
  house.call<{ message?: string }>('POST', '/markets/quillhaven/dispatches', { operation, ids, key: randomUUID() });
const readyPrice = async () =>
  (
    await house.rows<{ id: number; product_id: number }>(
      `select l.id, l.product_id
        from listings l
        where l.in_flight = 0 and l.planned @> '[{"operation": "price", "held": null}]'
        order by l.id limit 1`,
    )
  )[0]!;
const heldOf = async (id: number, operation: string) =>
  (
    await house.rows<{ held: string | null }>(
      `select e ->> 'held' as held
        from listings l, jsonb_array_elements(l.planned) e
        where l.id = ? and e ->> 'operation' = ?`,
      [id, operation],
    )
  )[0]?.held;

describe('a listing that is stale', () => {
  it('is none after the demo has been laid out', async () => {
    expect(await hasStale(house.db, await market())).toBe(false);
  });
  it('is held: a price that slipped by two places does not go out with the old blessing', async () => {
    const { id, product_id } = await readyPrice();
    // As a large import writes it, before the job that follows has come round.
    await house.db.raw('update products set price = price * 100, version = version + 1 where id = ?', [product_id]);
    const now = await plan();
    expect(now.held.find((h) => h.reason === 'stale')).toMatchObject({ count: 1 });
    const refused = await send('price', [id]);
    expect(refused.status).toBe(409);
    expect(refused.body.message).toMatch(/nothing to send/);
    const rows = await house.call<{ rows: { listingId: number; held: string }[] }>(
      'GET',
      '/markets/quillhaven/plan/price?held=yes&limit=500',
    );
    expect(rows.body.rows.find((r) => r.listingId === id)?.held).toBe('stale');
    await checkAll();
    expect(await heldOf(id, 'price')).toBe('price-moved');
    expect((await plan()).held.some((h) => h.reason === 'stale')).toBe(false);
  });
  it('is counted by what has changed as by looking at every listing', async () => {
    await house.db.raw(
      `update products set version = version + 1 where id in (select product_id from listings where planned <> '[]' order by id limit 20)`,
    );
    // Of some both is true, some were never checked, one is on its way.
    await house.db.raw(
      `update listings set market_revision = 0 where id in (select id from listings where planned <> '[]' order by id offset 10 limit 25)`,
    );
    await house.db.raw(
      `update listings set in_flight = 1 where id in (select id from listings where planned <> '[]' order by id offset 5 limit 1)`,
    );
    const looked = await house.rows<{ operation: string; count: number; held: number }>(
      `select e ->> 'operation' as operation, count(*) filter (where not h.held)::int as count, count(*) filter (where h.held)::int as held
        from listings l join products p on p.id = l.product_id join markets m on m.id = l.market_id
          cross join jsonb_array_elements(l.planned) e
          cross join lateral (select e ->> 'held' is not null or ${staleSql} as held) h
        where l.in_flight = 0 group by 1 order by 1`,
    );
    const { operations, held } = await plan();
    expect(operations.sort((a, b) => a.operation.localeCompare(b.operation))).toEqual(looked);
    expect(held.find((h) => h.reason === 'stale')!.count).toBeGreaterThan(25);
    await house.db.raw('update listings set in_flight = 0');
    await checkAll();
    expect((await plan()).held.some((h) => h.reason === 'stale')).toBe(false);
  });
  it('is every one of a market whose rulebook or correspondences have changed', async () => {
    await bumpRevision(house.db, await market());
    const before = await plan();
    expect(before.operations.length).toBeGreaterThan(0);
    expect(before.operations.every((o) => o.count === 0 && o.held > 0)).toBe(true);
    let told = 0;
    await refreshStale(house.db, 'quillhaven', (done) => {
      told = done;
      return Promise.resolve();
    });
    const total = (await house.rows<{ n: number }>('select count(*) as n from listings'))[0]!.n;
    expect(told).toBe(total);
    expect((await plan()).operations.some((o) => o.count > 0)).toBe(true);
  });
  it('stays stale when it was checked against a revision that has passed meanwhile', async () => {
    const old = await market();
    await bumpRevision(house.db, old);
    await refreshMarket(house.db, old, () => Promise.resolve());
    expect(await hasStale(house.db, await market())).toBe(true);
    await checkAll();
    expect(await hasStale(house.db, await market())).toBe(false);
  });
});

describe('checking again', () => {
  /** The rows as they lie in the database: a row that is written again, even with the same, has another xmin. */
  const lying = () =>
    house.rows(`select id, l.xmin::text as row, (select string_agg(f.xmin::text, ',' order by f.id) from findings f where f.listing_id = l.id) as findings
      from listings l order by id`);
  it('writes nothing of a listing of which nothing is new', async () => {
    const before = await lying();
    expect(before.length).toBeGreaterThan(100);
    await bumpRevision(house.db, await market());
    await checkAll();
    expect(await lying()).toEqual(before);
    expect((await market()).checksFrom).toBe(1);
  });
  it('writes what is new and leaves its neighbours', async () => {
    const before = await lying();
    const [one] = await house.rows<{ id: number }>(
      `select l.id from listings l join products p on p.id = l.product_id where p.kind = 'single' and l.category is not null order by 1 limit 1`,
    );
    await house.db.raw(`update listings set row_digest = 'another', findings_digest = 'another' where id = ?`, [
      one!.id,
    ]);
    await bumpRevision(house.db, await market());
    await checkAll();
    const after = await lying();
    expect(after.filter((row, i) => JSON.stringify(row) !== JSON.stringify(before[i]))).toMatchObject([
      { id: one!.id },
    ]);
  });
  it('writes only the findings where only they are new', async () => {
    const [one] = await house.rows<{ id: number; version: number }>(
      `select listing_id as id, l.version from findings f join listings l on l.id = f.listing_id order by 1 limit 1`,
    );
    const findings = () =>
      house.rows(
        `select "check", message, field, value, params, remedies from findings where listing_id = ? order by id`,
        [one!.id],
      );
    const before = await findings();
    await house.db.raw('delete from findings where listing_id = ?', [one!.id]);
    await house.db.raw(
      `update listings set findings_digest = null, blockers = 0, cautions = 0, tips = 0 where id = ?`,
      [one!.id],
    );
    await bumpRevision(house.db, await market());
    await checkAll();
    expect(await findings()).toEqual(before);
    const [now] = await house.rows<{ n: number; version: number }>(
      'select blockers + cautions + tips as n, version from listings where id = ?',
      [one!.id],
    );
    expect(now).toEqual({ n: before.length, version: one!.version });
  });
});

describe('the mark of what waits', () => {
  const marks = async () => (await house.rows('select 1 as x from unchecked')).length;
  const gale = 'WK-GALE-28CM';
  const productId = async () =>
    (await house.rows<{ id: number }>('select id from products where sku = ?', [gale]))[0]!.id;
  it('is gone when a transaction has checked itself what it has changed', async () => {
    expect(await marks()).toBe(0);
    const answer = await house.call<{ applied: number }>('PATCH', '/products', {
      cells: [{ id: await productId(), field: 'mpn', before: null, after: 'G-28' }],
    });
    expect([answer.status, await marks()]).toEqual([200, 0]);
  });
  it('stays where a transaction has checked something else', async () => {
    const id = await productId();
    await house.db.transaction(async (tx) => {
      await tx.raw('update products set version = version + 1 where id = ?', [id]);
      await dropOwnMarks(tx, [id + 1]);
    });
    expect(await marks()).toBe(1);
    expect(await hasStale(house.db, await market())).toBe(true);
    // Another transaction, which has nothing of its own to take away, takes nothing of others.
    await dropOwnMarks(house.db, [id]);
    expect(await marks()).toBe(1);
    await checkAll();
    expect([await marks(), await hasStale(house.db, await market())]).toEqual([0, false]);
  });
  it('is not made by a change that leaves the version as it was', async () => {
    await house.db.raw('update products set updated_at = now() where id = ?', [await productId()]);
    expect(await marks()).toBe(0);
  });
  it('is one of a listing that was never checked, too', async () => {
    await house.db.raw('update listings set market_revision = 0 where product_id = ?', [await productId()]);
    expect(await hasStale(house.db, await market())).toBe(true);
    await checkAll();
    expect(await hasStale(house.db, await market())).toBe(false);
  });
  it('of a change that comes while the market is gone through stays', async () => {
    const id = await productId();
    let isChanged = false;
    await refreshMarket(house.db, await market(), async () => {
      if (isChanged) return;
      isChanged = true;
      await house.db.raw('update products set version = version + 1 where id = ?', [id]);
    });
    expect(await marks()).toBe(1);
    await checkAll();
  });
});

describe('what hangs on other products', () => {
  const gtins = [
    '9529999999818',
    '9529999999825',
    '9529999999948',
    '9529999999962',
    '9529999999979',
    '9529999999986',
    '9529999999993',
  ];
  /** Two singles made to carry the same number, as a large import would, and judged. */
  const makeTwins = async () => {
    const gtin = gtins.pop()!;
    const [a, b] = await house.rows<{ id: number; product_id: number }>(
      `select l.id, p.id as product_id
        from listings l
        join products p on p.id = l.product_id
        where p.kind = 'single' and l.category is not null
          and not exists (select 1 from findings f where f.listing_id = l.id and f."check" like 'identifier%')
        order by p.id limit 2`,
    );
    await house.db.raw('update products set gtin = ?, gtin14 = ?, version = version + 1 where id = any(?)', [
      gtin,
      `0${gtin}`,
      [a!.product_id, b!.product_id],
    ]);
    await checkAll();
    expect([await isTwin(a!.id), await isTwin(b!.id)]).toEqual([true, true]);
    return { a: a!, b: b!, gtin };
  };
  const isTwin = async (id: number) =>
    (await house.rows(`select 1 as x from findings where "check" = 'identifier-twice' and listing_id = ?`, [id]))
      .length > 0;
  it('is marked when many products change at once', async () => {
    const { a, b } = await makeTwins();
    await house.db.raw('update products set gtin = null, gtin14 = null, version = version + 1 where id = ?', [
      a.product_id,
    ]);
    await markSharing(house.db);
    await checkAll();
    expect([await isTwin(a.id), await isTwin(b.id)]).toEqual([false, false]);
  });
  it('is marked alone of all that share something, where a change of many is followed by jobs', async () => {
    const { a, b, gtin } = await makeTwins();
    const setNumber = (id: number, number: string | null) =>
      house.db.raw('update products set gtin = ?, gtin14 = ?, version = version + 1 where id = ?', [
        number,
        number && `0${number}`,
        id,
      ]);
    // Two others that share a number of their own, which the change has nothing to do with.
    const others = await house.rows<{ id: number; was: string }>(
      `select id, gtin as was from products where kind = 'variant' and gtin is not null order by id desc limit 2`,
    );
    for (const o of others) await setNumber(o.id, '9529999999931');
    await checkAll();
    await setNumber(a.product_id, null);
    // Items that are none fill it up to what is left to jobs.
    const many = Array.from({ length: 2600 }, (_, i) => 900_000_000 + i);
    await refreshProducts(house.db, [a.product_id, ...many], { fields: new Set(['gtin']), formerGtins: [`0${gtin}`] });
    const marked = await house.rows<{ id: number }>('select id from listings where market_revision = 0');
    expect(marked.map((m) => m.id)).toEqual([b.id]);
    const [job] = await house.rows<{ state: string }>(
      `select state from jobs where kind = 'refresh-market' order by created_at desc limit 1`,
    );
    expect(job!.state).toBe('queued');
    await checkAll();
    expect([await isTwin(a.id), await isTwin(b.id)]).toEqual([false, false]);
    await setNumber(a.product_id, gtins.pop()!);
    for (const o of others) await setNumber(o.id, o.was);
    await checkAll();
  });
  it('is left alone where what was changed of the other is not its number', async () => {
    const { a, b } = await makeTwins();
    await checkAll();
    const isMarked = async () =>
      (await house.rows<{ n: number }>('select market_revision as n from listings where id = ?', [b.id]))[0]!.n === 0;
    const touch = (fields: string[]) =>
      refreshProducts(house.db, [a.product_id], { fields: new Set(fields), formerGtins: [] });
    await house.db.raw('update listings set market_revision = 0 where id = ?', [b.id]);
    await touch(['price', 'title']);
    expect(await isMarked()).toBe(true);
    await touch(['price', 'gtin']);
    expect(await isMarked()).toBe(false);
    const another = gtins.pop()!;
    await house.db.raw('update products set gtin = ?, gtin14 = ?, version = version + 1 where id = ?', [
      another,
      `0${another}`,
      a.product_id,
    ]);
    await checkAll();
  });
  it('is followed up at once when a barcode is corrected in the catalog', async () => {
    const { a, b, gtin } = await makeTwins();
    const answer = await house.call<{ applied: number }>('PATCH', '/products', {
      title: 'Corrected a barcode',
      cells: [{ id: a.product_id, field: 'gtin', before: gtin, after: gtins.pop() }],
    });
    expect(answer.body.applied).toBe(1);
    expect([await isTwin(a.id), await isTwin(b.id)]).toEqual([false, false]);
  });
});

describe('what is behind the pictures of many items', () => {
  it('marks them all for the job, though no product has changed', async () => {
    await checkAll();
    const shown = await house.rows<{ id: number; product: number; kind: string }>(
      `select distinct on (p.kind) l.id, p.id as product, p.kind from listings l join products p on p.id = l.product_id
        where p.kind in ('single', 'variant', 'family') order by p.kind, l.id`,
    );
    expect(shown.map((s) => s.kind).sort()).toEqual(['family', 'single', 'variant']);
    // Items that are none fill it up to what is left to jobs.
    const many = Array.from({ length: 2600 }, (_, i) => 900_000_000 + i);
    await refreshProducts(house.db, [...shown.map((s) => s.product), ...many], {
      fields: new Set(['pictures']),
      formerGtins: [],
    });
    const marked = new Set(
      (await house.rows<{ id: number }>('select id from listings where market_revision = 0')).map((m) => m.id),
    );
    expect(shown.filter((s) => !marked.has(s.id))).toEqual([]);
    await checkAll();
    expect(await hasStale(house.db, await market())).toBe(false);
  });
});

describe('an import that teaches a category to others', () => {
  it('leaves nobody waiting: what it placed beside its own rows is checked too', async () => {
    // An item of an own category with a remembered place, taken out of its place.
    const [other] = await house.rows<{ id: number; own: string }>(
      `select l.id, p.category as own from listings l join products p on p.id = l.product_id join correspondences c on c.kind = 'category' and c.ours = p.category where p.kind = 'single' and l.category is not null order by l.id limit 1`,
    );
    await house.db.raw('update listings set category = null where id = ?', [other!.id]);
    const up = await house.upload<{ id: number }>('one.csv', 'SKU;Title\nZZ-1;One more thing\n');
    const run = async (kind: string) => {
      const [job] = await house.rows<{ payload: never }>(
        `update jobs set state = 'done' where kind = ? and state = 'queued' returning payload`,
        [kind],
      );
      const context = {
        id: 'test',
        db: house.db,
        attempt: 1,
        beside: undefined,
        progress: () => Promise.resolve(),
        write: writeOn(house.db),
      };
      await allJobs.find((k) => k.kind === kind)!.run(job!.payload, context);
    };
    await run('plan-import');
    await house.call('POST', `/imports/${up.body.id}/apply`);
    await run('apply-import');
    const [placed] = await house.rows<{ category: string | null }>('select category from listings where id = ?', [
      other!.id,
    ]);
    expect(placed!.category).not.toBeNull();
    expect(await hasStale(house.db, await market())).toBe(true);
    await run('refresh-market');
    expect(await hasStale(house.db, await market())).toBe(false);
  });
});

describe('asking for a check', () => {
  const waiting = () =>
    house.rows<{ id: string; once: string; state: string }>(
      `select id, once, state from jobs where kind = 'refresh-market' and state in ('queued', 'running') order by state desc`,
    );
  it('twice while one waits makes one, and while one runs puts one behind it', async () => {
    const first = await refreshLater(house.db, await market());
    expect(await refreshLater(house.db, await market())).toBe(first);
    await house.db.raw(`update jobs set state = 'running' where id = ?`, [first]);
    await house.db.raw(`update boss.job set state = 'active' where id = (select boss_id from jobs where id = ?)`, [
      first,
    ]);
    const second = await refreshLater(house.db, await market());
    expect(second).not.toBe(first);
    expect(await refreshLater(house.db, await market())).toBe(second);
    expect((await waiting()).map((j) => [j.once, j.state])).toEqual([
      ['refresh-quillhaven', 'running'],
      ['refresh-quillhaven', 'queued'],
    ]);
  });
});
