// Changes in bulk: what people of the trade do with hundreds of items, through the server's own doors.
import type { BulkCounts, ChoiceShape, ClockWork, Job, Product, RecipeShape } from '@basileus/contract';
import type { ChangeOperation, ChangeStep } from '@basileus/core/change';
import { type Clause, type Which, whichSchema } from '@basileus/core/choose';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { executeRun } from '../jobs';
import { type House, openHouse, until, transact } from '../tests/house';
import { bulkChangeJob } from './apply';

let house: House;
beforeAll(async () => {
  house = await openHouse('bulk_test', { size: 240, with: ['torgvik'] });
});
afterAll(() => house.close());

interface Row {
  id: number;
  sku: string;
  kind: string;
  brand: string | null;
  category: string | null;
  price: string | null;
  sale_price: string | null;
  sale_start: string | null;
  cost: string | null;
  facts: Record<string, unknown>;
  highlights: string[] | null;
  pictures: string[] | null;
  on_hand: number | null;
}
/** Items as they stand, without asking the server. */
const items = (where = 'true') =>
  house.rows<Row>(
    `select p.id, p.sku, p.kind, p.brand, p.category, p.price::text, p.sale_price::text, p.sale_start::text, p.cost::text, p.facts, p.highlights, p.pictures,
        (select sum(on_hand)::int from stock s where s.product_id = p.id) as on_hand
      from products p where ${where} order by p.id`,
  );
const step = (field: string, operation: ChangeOperation): ChangeStep => ({ field, operation });
const whichOf = (...clauses: Clause[]): Which => whichSchema.parse({ clauses });
interface Begun {
  changeSet: number;
  job: string;
  message: string;
  field: string;
}
const start = (which: Which, steps: ChangeStep[], title = '') =>
  house.call<Begun>('POST', '/bulk', { which, steps, title });
const isEnded = async (job: string): Promise<boolean> =>
  (await house.rows<Job>('select state from jobs where id = ?', [job])).every((j) => j.state === 'done');
/** Changes, waits until it is done, and answers the change set. */
async function change(which: Which, steps: ChangeStep[], title = ''): Promise<number> {
  const begun = await start(which, steps, title);
  expect([begun.status, begun.body.message]).toEqual([200, undefined]);
  await until(() => isEnded(begun.body.job), Boolean);
  return begun.body.changeSet;
}
async function takeBack(set: number): Promise<void> {
  const { job } = (await house.call<Begun>('POST', `/change-sets/${set}/reverse`)).body;
  await until(() => isEnded(job), Boolean);
}
const count = async (which: Which, steps: ChangeStep[]) =>
  (await house.call<BulkCounts>('POST', '/bulk/count', { which, steps })).body;
const cents = (price: string | null): number => Math.round(Number(price) * 100);
const priced = (r: Row): boolean => r.price !== null;

/** A change, what it must make of each item that is meant, and that taking it back leaves everything as it was. */
async function proves(
  which: Which,
  steps: ChangeStep[],
  isMeant: (r: Row) => boolean,
  isRight: (now: Row, was: Row) => boolean,
): Promise<void> {
  const before = await items();
  const meant = new Set(before.filter(isMeant).map((r) => r.id));
  expect(meant.size).toBeGreaterThan(0);
  const set = await change(which, steps);
  const after = new Map((await items()).map((r) => [r.id, r]));
  expect(before.filter((r) => meant.has(r.id) && !isRight(after.get(r.id)!, r)).map((r) => r.sku)).toEqual([]);
  expect(
    before.filter((r) => !meant.has(r.id) && JSON.stringify(after.get(r.id)) !== JSON.stringify(r)).map((r) => r.sku),
  ).toEqual([]);
  await takeBack(set);
  expect(await items()).toEqual(before);
}

describe('what people do in bulk:', () => {
  it('take the cents off all prices', () =>
    proves(
      whichOf(),
      [step('price', { do: 'round', ending: '.00', way: 'down' })],
      priced,
      (now, was) => cents(now.price) === Math.floor(cents(was.price) / 100) * 100,
    ));
  it('change only prices that end in .99', async () => {
    await change(whichOf({ is: 'over', field: 'price', value: '30' }), [
      step('price', { do: 'round', ending: '.99', way: 'up' }),
    ]);
    const isSo = (r: Row): boolean => priced(r) && cents(r.price) % 100 === 99;
    expect((await items()).some((r) => priced(r) && !isSo(r))).toBe(true);
    await proves(
      whichOf({ is: 'ends', field: 'price', value: '.99' }),
      [step('price', { do: 'round', ending: '.95', way: 'down' })],
      isSo,
      (now, was) => cents(now.price) === cents(was.price) - 4,
    );
  });
  it('read what is missing from the titles, into the catalog or into the listings of one market', async () => {
    const titled = await house.rows<{ id: number; colour: string }>(
      `select id, facts ->> 'colour' as colour from products where title ~ ('\\m' || (facts ->> 'colour') || '\\M') order by id`,
    );
    const words = [...new Set(titled.map((t) => t.colour))];
    expect(words.length).toBeGreaterThan(4);
    const emptied = await change(whichOf(), [step('fact.colour', { do: 'clear' })]);
    const there = step('quillhaven/colour', { do: 'read', words: [], alone: false });
    expect((await count(whichOf({ is: 'empty', field: 'quillhaven/colour' }), [there])).changed).toBeGreaterThan(20);
    const read = await change(whichOf(), [step('fact.colour', { do: 'read', words, alone: false })]);
    const now = new Map((await items()).map((r) => [r.id, r.facts['colour']]));
    expect(titled.filter((t) => now.get(t.id) !== t.colour)).toEqual([]);
    // What its highlights or its description name is read too; nothing of what stands there is written over.
    const again = await count(whichOf(), [step('fact.colour', { do: 'read', words: ['Plum = the, a'], alone: false })]);
    expect(again.changed).toBeLessThan(now.size - titled.length);
    await takeBack(read);
    await takeBack(emptied);
  });
  it('do the regular price and the sale price at once', () =>
    proves(
      whichOf(),
      [
        step('price', { do: 'raise', by: 'percent', of: '10' }),
        step('sale_price', { do: 'formula', formula: 'round([Price] * 90%, 2)' }),
      ],
      priced,
      (now, was) =>
        cents(now.price) === Math.round(cents(was.price) * 1.1 + 1e-6) &&
        Math.abs(cents(now.sale_price) - cents(now.price) * 0.9) <= 0.51,
    ));
  it('put one brand on sale by 15 % from Friday to Sunday', async () => {
    const [{ brand } = { brand: '' }] = await house.rows<{ brand: string }>(
      `select brand from products where brand is not null group by 1 order by count(*) desc limit 1`,
    );
    await proves(
      whichOf({ is: 'equals', field: 'brand', value: brand }),
      [
        step('sale_price', { do: 'formula', formula: 'ending([Price] * 85%, .99)' }),
        step('sale_start', { do: 'set', value: '2026-11-27' }),
        step('sale_end', { do: 'set', value: '2026-11-29' }),
      ],
      (r) => r.brand === brand && r.kind !== 'family',
      (now, was) =>
        !priced(was) ||
        (now.sale_start === '2026-11-27' &&
          cents(now.sale_price) % 100 === 99 &&
          cents(now.sale_price) >= cents(was.price) * 0.85 &&
          cents(now.sale_price) < cents(was.price) * 0.85 + 100),
    );
  });
  it('move everything without stock to a holding category, and back when stock comes', async () => {
    const before = await items();
    const gone = before.filter(
      (r) => r.on_hand === 0 && r.kind !== 'family' && r.kind !== 'bundle' && r.category !== null,
    );
    expect(gone.length).toBeGreaterThan(3);
    const mine = (r: Row): boolean => gone.some((g) => g.id === r.id);
    await change(whichOf({ is: 'equals', field: 'stock', value: '0' }, { is: 'filled', field: 'category' }), [
      step('mpn', { do: 'copy', from: 'category' }),
      step('category', { do: 'set', value: 'Holding' }),
    ]);
    expect((await items(`category = 'Holding'`)).map((r) => r.id)).toEqual(gone.map((r) => r.id));
    await house.call('PATCH', '/products', {
      cells: gone.slice(0, 2).map((r) => ({ id: r.id, field: 'stock', before: '0', after: '5' })),
    });
    await change(
      whichOf({ is: 'equals', field: 'category', value: 'Holding' }, { is: 'over', field: 'stock', value: '0' }),
      [step('category', { do: 'copy', from: 'mpn' }), step('mpn', { do: 'clear' })],
    );
    const after = (await items()).filter(mine);
    expect(after.map((r) => r.category)).toEqual(gone.map((r, i) => (i < 2 ? r.category : 'Holding')));
  });
  it('add a tag to all items that carry another tag', async () => {
    await change(whichOf({ is: 'contains', field: 'title', value: 'a' }), [
      step('highlights', { do: 'add', items: ['Autumn table'] }),
    ]);
    await proves(
      whichOf({ is: 'equals', field: 'highlights', value: 'autumn TABLE' }),
      [step('highlights', { do: 'add', items: ['On the table'] })],
      (r) => r.highlights?.includes('Autumn table') ?? false,
      (now, was) => now.highlights!.join() === [...was.highlights!, 'On the table'].join(),
    );
  });
  it('make prices of supplier cost with a margin of 40 %, which is not a markup', () =>
    proves(
      whichOf({ is: 'filled', field: 'cost' }),
      [step('price', { do: 'formula', formula: 'margin([Cost], 40%)' })],
      (r) => r.cost !== null && Number(r.cost) > 0,
      (now, was) => cents(now.price) === Math.round((Number(was.cost) / 0.6) * 100 + 1e-6),
    ));
  it('give a brand to every item that has none', async () => {
    await change(whichOf({ is: 'starts', field: 'sku', value: 'S' }), [step('brand', { do: 'clear' })]);
    await proves(
      whichOf({ is: 'empty', field: 'brand' }),
      [step('brand', { do: 'set', value: 'Unbranded' })],
      (r) => r.brand === null,
      (now) => now.brand === 'Unbranded',
    );
  });
  it.each(['family', 'variant'] as const)('change rows of one kind only: %s', (rows) =>
    proves(
      { ...whichOf(), rows },
      [step('brand', { do: 'set', value: 'Brindle' })],
      (r) => r.kind === rows && r.brand !== 'Brindle',
      (now) => now.brand === 'Brindle',
    ),
  );
});

describe('a bulk change', () => {
  it('is counted before, in rows, cells and sums, with what is wrong', async () => {
    const rows = (await items()).filter((r) => r.kind !== 'family');
    const lowered = rows.filter((r) => priced(r) && Number(r.price) > 20);
    const counts = await count({ ...whichOf(), rows: 'sold' }, [
      step('price', { do: 'raise', by: 'amount', of: '-20' }),
    ]);
    expect(counts).toMatchObject({
      total: rows.length,
      changed: lowered.length,
      cells: lowered.length,
      wrong: rows.filter((r) => priced(r) && Number(r.price) <= 20).length,
      same: rows.filter((r) => !priced(r)).length,
    });
    expect(counts.problems.map((p) => [p.problem.field, p.problem.fault.kind]).sort()).toEqual(
      counts.problems.length === 2
        ? [
            ['price', 'not-a-price'],
            ['price', 'zero-price'],
          ]
        : [['price', 'not-a-price']],
    );
    const sum = lowered.reduce((n, r) => n + cents(r.price), 0);
    expect(counts.sums).toHaveLength(1);
    expect([cents(counts.sums[0]!.before), cents(counts.sums[0]!.after), counts.sums[0]!.rows]).toEqual([
      sum,
      sum - 2000 * lowered.length,
      lowered.length,
    ]);
  });
  it('is looked at row by row, in the order of the catalog, every row once', async () => {
    const given = {
      which: { ...whichOf(), rows: 'sold' as const },
      steps: [step('mpn', { do: 'number', pattern: 'N-####', start: 1, step: 1 })],
    };
    const seen: { sku: string; after: unknown }[] = [];
    let pages = 0;
    for (let from: number | null = 0; from !== null; pages++) {
      const page: { rows: (Product & { changes: { after: unknown }[] })[]; next: number | null } = (
        await house.call<{ rows: (Product & { changes: { after: unknown }[] })[]; next: number | null }>(
          'POST',
          '/bulk/rows',
          { ...given, from, limit: 37 },
        )
      ).body;
      seen.push(...page.rows.map((r) => ({ sku: r.sku, after: r.changes[0]!.after })));
      from = page.next;
    }
    expect(pages).toBeGreaterThan(3);
    const catalog = (await house.call<{ rows: Product[] }>('GET', '/products?open=all&limit=1000')).body.rows.filter(
      (r) => r.kind !== 'family',
    );
    expect(seen).toEqual(catalog.map((r, i) => ({ sku: r.sku, after: `N-${String(i + 1).padStart(4, '0')}` })));
    const set = await change(given.which, given.steps);
    const numbered = new Map(
      (await house.rows<{ sku: string; mpn: string }>('select sku, mpn from products')).map((r) => [r.sku, r.mpn]),
    );
    expect(seen.filter((r) => numbered.get(r.sku) !== r.after)).toEqual([]);
    await takeBack(set);
  });
  it('is tried on the markets and undone: new findings and held prices are told, nothing is changed', async () => {
    const state = () =>
      house.rows(
        `select p.price::text, p.version, l.id, l."values", l.planned, l.blockers from products p join listings l on l.product_id = p.id order by l.id`,
      );
    const before = await state();
    interface Tried {
      tried: number;
      markets: {
        market: string;
        news: { count: number; finding: { check: string; level: string } }[];
        gone: number;
        held: number;
      }[];
    }
    const steps = [
      step('price', { do: 'formula', formula: '[Cost] / 2' }),
      step('title', { do: 'rewrite', find: 'a', by: '!!!', exactCase: false, wholeWords: false }),
    ];
    const { tried, markets } = (
      await house.call<Tried>('POST', '/bulk/try', { which: { ...whichOf(), rows: 'sold' }, steps })
    ).body;
    expect(tried).toBe(200);
    expect(markets.map((m) => m.market)).toEqual(['quillhaven', 'torgvik']);
    expect(markets[0]!.news.length).toBeGreaterThan(1);
    expect(markets[0]!.news[0]!.finding.level).toBe('blocker');
    expect(markets[0]!.held).toBeGreaterThan(0);
    expect(await state()).toEqual(before);
    // What was told is what comes.
    const live = await house.rows<{ sku: string }>(
      `select p.sku from products p join listings l on l.product_id = p.id where l.market_id = 1 and l.market_state = 'live' and p.kind <> 'family' and p.cost is not null limit 40`,
    );
    const which = whichSchema.parse({ skus: live.map((l) => l.sku) });
    const half = [step('price', { do: 'formula' as const, formula: '[Cost] / 2' })];
    const told = (await house.call<Tried>('POST', '/bulk/try', { which, steps: half })).body.markets[0]!;
    const found = () =>
      house.rows<{ k: string }>(
        `select f.listing_id || f."check" || f.message || f.field as k from findings f where f.market_id = 1`,
      );
    const was = new Set((await found()).map((f) => f.k));
    const set = await change(which, half);
    const news = (await found()).filter((f) => !was.has(f.k));
    expect(told.news.reduce((n, f) => n + f.count, 0)).toBe(news.length);
    expect(news.length).toBeGreaterThan(0);
    await takeBack(set);
  });
  it('is kept as one change set that says what and which, and stands in the history', async () => {
    const which = whichOf({ is: 'over', field: 'price', value: '40' });
    const total = (await items()).filter((r) => priced(r) && Number(r.price) > 40).length;
    const set = await change(which, [step('price', { do: 'raise', by: 'percent', of: '5' })]);
    const read = (
      await house.call<{ set: { title: string; cells: number; isDone: boolean } }>('GET', `/change-sets/${set}`)
    ).body.set;
    expect(read).toMatchObject({ title: `Price, ${total} items: Price over 40`, cells: total, isDone: true });
    const log = (await house.call<{ rows: { fact: { is: string; title: string } }[] }>('GET', '/history')).body.rows[0]!
      .fact;
    expect(log).toMatchObject({ is: 'changed', title: read.title, cells: total });
    const [one] = await house.rows<{ target_id: number; sku: string }>(
      'select target_id, sku from change_items where change_set_id = ? limit 1',
      [set],
    );
    const history = (
      await house.call<{
        rows: { set: number; title: string; field: string; label: string; before: string; after: string }[];
      }>('GET', `/products/${one!.target_id}/history?field=price`)
    ).body.rows;
    expect(history[0]).toMatchObject({ set, title: read.title, field: 'price', label: 'Price' });
    expect(cents(history[0]!.after)).toBe(Math.round(cents(history[0]!.before) * 1.05 + 1e-6));
    expect(history.every((h) => h.field === 'price')).toBe(true);
    await takeBack(set);
    const again = (
      await house.call<{ rows: { before: string; after: string }[] }>(
        'GET',
        `/products/${one!.target_id}/history?field=price`,
      )
    ).body.rows;
    expect([again[0]!.before, again[0]!.after]).toEqual([history[0]!.after, history[0]!.before]);
  });
  it('that changes nothing is forgotten, and one that means nothing is refused', async () => {
    const set = await change(whichOf({ is: 'filled', field: 'price' }), [
      step('price', { do: 'raise', by: 'amount', of: '0' }),
    ]);
    expect((await house.call('GET', `/change-sets/${set}`)).status).toBe(404);
    const nothing = await start(whichOf({ is: 'over', field: 'price', value: '999999' }), [
      step('price', { do: 'raise', by: 'amount', of: '1' }),
    ]);
    expect([nothing.status, nothing.body.message]).toEqual([400, 'No item is meant.']);
    expect(await house.rows('select 1 from bulk_rows')).toEqual([]);
  });
  it('with a step that cannot be done is refused with its number, and changes nothing', async () => {
    const refused = await start(whichOf(), [
      step('brand', { do: 'clear' }),
      step('price', { do: 'formula', formula: '[Price] * [Brand]' }),
    ]);
    expect([refused.status, refused.body.field, refused.body.message]).toEqual([
      400,
      'steps.1',
      '“*” takes a number here, and this is a text. value( ) reads a number from a text.',
    ]);
    expect((await house.call('POST', '/bulk/count', { which: whichOf(), steps: [] })).status).toBe(400);
  });
  it('killed between its steps goes on where it was, each row changed once', async () => {
    const before = await items(`price is not null`);
    await house.db.raw(`update bulk_changes set total = total`);
    const { changeSet, job } = await house.db.transaction(async (tx) => {
      const { beginBulk } = await import('./apply');
      const begun = await beginBulk(
        tx,
        {
          which: whichOf({ is: 'filled', field: 'price' }),
          steps: [step('price', { do: 'raise', by: 'amount', of: '1' })],
          title: 'Once',
        },
        'tester',
      );
      // No worker takes it: it is run by hand below.
      await tx.raw(`delete from boss.job where data ->> 'job' = ?`, [begun.job]);
      return begun;
    });
    const token = '00000000-0000-4000-8000-000000000001';
    await house.db
      .raw('insert into job_runs (job_id, token) values (?, ?)', [job, token])
      .catch(async () => house.db.raw('update job_runs set token = ? where job_id = ?', [token, job]));
    const kinds = new Map([[bulkChangeJob.kind, bulkChangeJob]]);
    const run = { id: job, kind: 'bulk-change', payload: { changeSet, actor: 'tester' }, token, attempt: 1 };
    // The second step fails in the middle: what it wrote is gone with it.
    await house.db.raw(
      `create function fail_once() returns trigger language plpgsql as $$ begin if new.done >= 1 then raise exception 'killed'; end if; return new; end $$`,
    );
    await house.db.raw('create trigger killed before update on bulk_changes for each row execute function fail_once()');
    expect((await executeRun(house.db, kinds, run)).is).toBe('failed');
    expect(await items(`price is not null`)).toEqual(before);
    await house.db.raw('drop trigger killed on bulk_changes');
    expect((await executeRun(house.db, kinds, run)).is).toBe('done');
    expect((await executeRun(house.db, kinds, run)).is).toBe('done');
    const after = new Map((await items()).map((r) => [r.id, r]));
    expect(before.filter((r) => cents(after.get(r.id)!.price) !== cents(r.price) + 100)).toEqual([]);
    await house.db.raw(`update jobs set state = 'done' where id = ?`, [job]);
    await takeBack(changeSet);
  });
});

describe('a recipe', () => {
  const steps = [step('price', { do: 'round' as const, ending: '.99', way: 'up' as const })];
  const recipes = async () => (await house.call<{ rows: RecipeShape[] }>('GET', '/recipes')).body.rows;
  const create = (more: object) =>
    house.call<RecipeShape & { message: string }>('POST', '/recipes', {
      name: 'To .99',
      which: whichOf({ is: 'under', field: 'price', value: '15' }),
      steps,
      ...more,
    });
  it('is done again on whatever then matches, and says what the last run did', async () => {
    const made = (await create({})).body;
    const run = (await house.call<Begun>('POST', `/recipes/${made.id}/run`)).body;
    await until(() => isEnded(run.job), Boolean);
    const matched = (await items()).filter(
      (r) => priced(r) && Number(r.price) < 16 && cents(r.price) % 100 !== 99 && Number(r.price) < 15,
    );
    expect(matched).toEqual([]);
    const [after] = await recipes();
    expect(after).toMatchObject({ lastSet: run.changeSet, schedule: null, nextAt: null, trouble: null });
    expect(after!.lastItems).toBeGreaterThan(0);
    expect(after!.ranAt).not.toBeNull();
    // Nothing is left to be done, which is no fault.
    const again = (await house.call<Begun>('POST', `/recipes/${made.id}/run`)).body;
    await until(() => isEnded(again.job), Boolean);
    expect((await recipes())[0]).toMatchObject({ lastItems: 0, lastSet: null });
    await takeBack(run.changeSet);
    const taken = await create({});
    expect([taken.status, taken.body.message]).toEqual([409, 'Another recipe is called “To .99”.']);
    expect((await house.call('DELETE', `/recipes/${made.id}`)).status).toBe(200);
    expect(await recipes()).toEqual([]);
    expect((await house.call('POST', `/recipes/${made.id}/run`)).status).toBe(404);
  });
  it('is done by the clock when it is due, once, and is due again', async () => {
    const made = (await create({ name: 'Nightly', schedule: { every: 'day', at: '03:00' } })).body;
    expect(new Date(made.nextAt!).getTime()).toBeGreaterThan(Date.now());
    await house.db.raw(`update recipes set next_at = now() - interval '1 minute' where id = ?`, [made.id]);
    const { wakeClock } = await import('./recipes');
    await transact(house, wakeClock);
    await until(async () => (await recipes())[0]!.lastItems !== null, Boolean);
    const [after] = await recipes();
    expect(after!.lastItems).toBeGreaterThan(0);
    expect(after!.nextAt).toBe(made.nextAt);
    expect(await house.rows('select 1 from bulk_changes where recipe_id = ?', [made.id])).toHaveLength(1);
    // What a person does again by hand is not what the clock did.
    await house.call('POST', `/recipes/${made.id}/run`);
    await until(
      async () => (await recipes())[0]!.lastItems,
      (n) => n === 0,
    );
    expect((await house.call<{ rows: ClockWork[] }>('GET', '/clock-work')).body.rows).toMatchObject([
      { kind: 'recipe', name: 'Nightly', times: 1, items: after!.lastItems, changeSet: after!.lastSet },
    ]);
    await house.call('DELETE', `/recipes/${made.id}`);
  });
  it('whose field is gone says so, and does not stop the clock', async () => {
    const added = await house.call<{ key: string }>('POST', '/own-fields', {
      label: 'Season',
      group: 'Item',
      kind: 'text',
      rows: 'all',
      by: null,
      language: null,
      unit: null,
      values: [],
      names: [],
      categories: [],
      axis: false,
      shared: false,
    });
    expect(added.status).toBe(200);
    const season = (
      await create({
        name: 'Season',
        which: whichOf(),
        steps: [step(`fact.${added.body.key}`, { do: 'set', value: 'Autumn' })],
        schedule: { every: 'day', at: '03:00' },
      })
    ).body;
    await create({ name: 'Second', schedule: { every: 'day', at: '03:00' } });
    await house.call('DELETE', `/own-fields/${added.body.key}`);
    await until(async () => (await recipes()).some((r) => r.id === season.id && r.trouble !== null), Boolean);
    expect((await recipes())[0]).toMatchObject({ name: 'Season', trouble: { step: { is: 'unknown-field' } } });
    await house.db.raw(`update recipes set next_at = now() - interval '1 minute'`);
    const { wakeClock } = await import('./recipes');
    await transact(house, wakeClock);
    await until(async () => (await recipes())[1]!.ranAt !== null && (await recipes())[0]!.ranAt !== null, Boolean);
    expect((await recipes()).map((r) => r.lastSet === null)).toEqual([true, expect.any(Boolean)]);
    for (const r of await recipes()) await house.call('DELETE', `/recipes/${r.id}`);
  });
});

describe('a choice of items', () => {
  it('may be remembered and used for a change', async () => {
    const { which } = (await house.call<ChoiceShape>('POST', '/choices', { which: { rows: 'bundle' } })).body;
    expect(which).toEqual(whichSchema.parse({ rows: 'bundle' }));
  });
});
