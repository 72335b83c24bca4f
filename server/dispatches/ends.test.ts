// Dispatches that end without a receipt, that go in several files, and what is chosen, held and asked before they go.
import { randomUUID } from 'node:crypto';
import { quillhavenDocument } from '@basileus/rulebooks/quillhaven';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { type House, openHouse, until } from '../tests/house';
import { splitByFamily } from './split';

let house: House;
beforeAll(async () => {
  house = await openHouse('ends_test', { size: 400 });
});
afterEach(() => {
  Object.assign(house.market.moods, { slowMs: 0, failNext: 0, garbageNext: 0, hangUpNext: 0, forgetNext: 0 });
});
afterAll(async () => {
  await house.close();
});

interface Dispatch {
  id: number;
  operation: string;
  state: string;
  total: number;
  accepted: number;
  refused: number;
  part: number;
  parts: number;
  hasLeft: boolean;
  fault: string | null;
  ticket: string | null;
  fileName: string;
}
interface Sent {
  dispatch: Dispatch;
  dispatches: Dispatch[];
  code?: string;
  message?: string;
}
interface Plan {
  operations: { operation: string; count: number; held: number }[];
  surprises: { kind: string; operation: string; rows: number; live: number }[];
  waiting: number;
}
const send = async (operation: string, extra: Record<string, unknown> = {}) =>
  (await house.call<Sent>('POST', '/markets/quillhaven/dispatches', { operation, key: randomUUID(), ...extra })).body;
const read = async (id: number) => (await house.call<Dispatch>('GET', `/dispatches/${id}`)).body;
const reaches = (id: number, ...states: string[]) =>
  until(
    () => read(id),
    (d) => states.includes(d.state),
    40_000,
  );
const plan = async (query = '') => (await house.call<Plan>('GET', `/markets/quillhaven/plan${query}`)).body;
const countOf = async (operation: string, query = '') =>
  (await plan(query)).operations.find((o) => o.operation === operation)?.count ?? 0;
const inFlight = async () =>
  (await house.rows<{ n: number }>('select coalesce(sum(in_flight), 0)::int as n from listings'))[0]!.n;
const families = (n: number) => ready('family', n);
const ready = async (kind: string, n: number) =>
  (
    await house.rows<{ id: number }>(
      `select l.id from listings l join products p on p.id = l.product_id
        where p.kind = ? and l.in_flight = 0 and l.planned @> '[{"operation": "create", "held": null}]'
        order by l.id limit ?`,
      [kind, n],
    )
  ).map((r) => r.id);
const live = (n: number) =>
  house.rows<{ id: number; product_id: number; sku: string; price: string; stock: string; brand: string }>(
    `select l.id, l.product_id, p.sku, p.brand, p.price::numeric(12,2)::text as price, s.on_hand::text as stock
      from listings l join products p on p.id = l.product_id join stock s on s.product_id = p.id
      where l.market_state = 'live' and l.in_flight = 0 and l.planned = '[]' and p.kind <> 'family'
      order by l.id limit ?`,
    [n],
  );
const patch = (cells: { id: number; field: string; before: string | null; after: string }[]) =>
  house.call<{ applied: number }>('PATCH', '/products', { cells });

describe('a dispatch that has not left', () => {
  it('can be stopped while the market takes nothing; its rows are free and nothing reaches the market', async () => {
    const ids = await families(1);
    const [before, key] = [await inFlight(), randomUUID()];
    house.market.moods.failNext = 1000;
    const { dispatch } = await send('create', { ids, key });
    await until(
      () => read(dispatch.id),
      (d) => d.fault !== null && !d.hasLeft,
    );
    expect((await house.call('POST', `/dispatches/${dispatch.id}/stop`)).body).toMatchObject({ state: 'stopped' });
    expect(await inFlight()).toBe(before);
    expect(await house.rows('select distinct state from dispatch_lines where dispatch_id = ?', [dispatch.id])).toEqual([
      { state: 'stopped' },
    ]);
    house.market.moods.failNext = 0;
    await until(
      () =>
        house.rows<{ state: string }>(`select state from jobs where payload = ?`, [
          JSON.stringify({ dispatch: dispatch.id }),
        ]),
      (jobs) => jobs.every((j) => j.state === 'done'),
    );
    expect(Object.values(house.market.shelf.memory.tickets).filter((t) => t.key === key)).toEqual([]);
    // The rows go another time.
    const again = (await send('create', { ids })).dispatch;
    expect(again.total).toBe(dispatch.total);
    await reaches(again.id, 'answered');
  });
  it('cannot be stopped any more once it may have arrived', async () => {
    const ids = await families(1);
    house.market.moods.hangUpNext = 1;
    const { dispatch } = await send('create', { ids });
    await until(
      () => read(dispatch.id),
      (d) => d.hasLeft && /dropped the connection/.test(d.fault ?? ''),
    );
    // Later answers that nobody was there do not make it unsent: the first try may have arrived.
    house.market.moods.failNext = 2;
    expect((await house.call('POST', `/dispatches/${dispatch.id}/stop`)).body).toMatchObject({ code: 'not-now' });
    await reaches(dispatch.id, 'answered');
  });
});

describe('a dispatch that nobody answers', () => {
  it('made by hand and never uploaded is given up, and its rows go again', async () => {
    const ids = await families(1);
    const before = await inFlight();
    const { dispatch } = await send('create', { ids, by: 'hand' });
    expect(await inFlight()).toBeGreaterThan(before);
    expect((await house.call('POST', `/dispatches/${dispatch.id}/abandon`)).body).toMatchObject({ state: 'abandoned' });
    expect(await inFlight()).toBe(before);
    expect((await house.call('POST', `/dispatches/${dispatch.id}/abandon`)).body).toMatchObject({ code: 'not-now' });
    expect((await house.upload<{ code: string }>('r.txt', 'x', `/dispatches/${dispatch.id}/receipt`)).body.code).toBe(
      'not-now',
    );
    await reaches((await send('create', { ids })).dispatch.id, 'answered');
  });
  it('that the market forgot is settled by its shelf: what stands there was accepted', async () => {
    const ids = await ready('single', 3);
    // Uploaded by a person, worked through by half, and the receipt was never fetched.
    const { dispatch } = await send('create', { ids, by: 'hand' });
    const { memory } = house.market.shelf;
    const lines = await house.rows<{ sku: string }>(
      'select sku from dispatch_lines where dispatch_id = ? order by line',
      [dispatch.id],
    );
    const arrived = lines.slice(0, 1).map((l) => l.sku);
    const pattern = Object.values(memory.entries)[0]!;
    for (const sku of arrived) memory.entries[sku] = { ...structuredClone(pattern), sku, number: '799999' };
    const { body } = await house.call<Dispatch>('POST', `/dispatches/${dispatch.id}/ask-shelf`);
    expect(body).toMatchObject({ state: 'answered', accepted: 1, refused: lines.length - 1 });
    expect(
      await house.rows('select sku from dispatch_lines where dispatch_id = ? and state = ? order by line', [
        dispatch.id,
        'accepted',
      ]),
    ).toEqual(arrived.map((sku) => ({ sku })));
    for (const sku of arrived) delete memory.entries[sku];
  });
  it('says that a shelf does not show prices, and that giving up does no harm', async () => {
    const [item] = await live(1);
    await patch([
      { id: item!.product_id, field: 'price', before: item!.price, after: (Number(item!.price) + 0.1).toFixed(2) },
    ]);
    const { dispatch } = await send('price', { ids: [item!.id], by: 'hand' });
    expect((await house.call('POST', `/dispatches/${dispatch.id}/ask-shelf`)).body).toMatchObject({ code: 'not-now' });
    await house.call('POST', `/dispatches/${dispatch.id}/abandon`);
    await reaches((await send('price', { ids: [item!.id] })).dispatch.id, 'answered');
  });
  it('does not believe a receipt that speaks of none of its rows', async () => {
    const ids = await families(1);
    const { dispatch } = await send('create', { ids, by: 'hand' });
    const { answers } = quillhavenDocument as { answers: { slots: Record<string, string> }[] };
    const header = Object.values(answers[0]!.slots).join('\t');
    const r = await house.upload<{ code: string; message: string }>(
      'r.txt',
      `${header}\n`,
      `/dispatches/${dispatch.id}/receipt`,
    );
    expect(r).toMatchObject({ status: 422, body: { code: 'unreadable-file' } });
    expect(r.body.message).toMatch(/^The receipt speaks of none of the \d+ rows that were sent/);
    expect(await read(dispatch.id)).toMatchObject({ state: 'by hand', refused: 0 });
    await house.call('POST', `/dispatches/${dispatch.id}/abandon`);
  });
});
describe('what is chosen', () => {
  it('is a brand, or what one import has changed', async () => {
    const [a, b] = await live(2);
    await house.rows(`update products set brand = brand where id = ? returning id`, [a!.product_id]);
    await patch([{ id: b!.product_id, field: 'price', before: b!.price, after: (Number(b!.price) + 0.1).toFixed(2) }]);
    const { body } = await house.upload<{ id: number }>(
      'one.csv',
      `SKU,Price\n${a!.sku},${(Number(a!.price) + 0.2).toFixed(2)}\n`,
    );
    await until(
      async () => (await house.call<{ state: string }>('GET', `/imports/${body.id}`)).body.state,
      (s) => s === 'planned',
    );
    await house.call('POST', `/imports/${body.id}/apply`);
    await until(
      async () => (await house.call<{ state: string }>('GET', `/imports/${body.id}`)).body.state,
      (s) => s === 'applied',
    );
    expect(await countOf('price')).toBeGreaterThan(1);
    expect(await countOf('price', `?import=${body.id}`)).toBe(1);
    expect(await countOf('price', '?brand=Nobody')).toBe(0);
    expect(await countOf('price', `?ids=${b!.id}`)).toBe(1);
    const { dispatch } = await send('price', { import: body.id });
    expect(dispatch.total).toBe(1);
    expect(await house.rows('select sku from dispatch_lines where dispatch_id = ?', [dispatch.id])).toEqual([
      { sku: a!.sku },
    ]);
    await reaches(dispatch.id, 'answered');
  });
  it('brings the family row of a new variant along, without which it would be refused', async () => {
    const [variant] = await house.rows<{ id: number }>(
      `select l.id from listings l join products p on p.id = l.product_id
        where p.kind = 'variant' and l.in_flight = 0 and l.planned @> '[{"operation": "create", "held": null}]'
          and exists (select 1 from listings f where f.product_id = p.parent_id and f.in_flight = 0
            and f.planned @> '[{"operation": "create", "held": null}]')
        order by l.id desc limit 1`,
    );
    expect(await countOf('create', `?ids=${variant!.id}`)).toBe(2);
  });
  it('sends price and stock of the same entry together, each in its file, and leaves nothing of it', async () => {
    const [item] = await live(1);
    await patch([
      { id: item!.product_id, field: 'price', before: item!.price, after: (Number(item!.price) + 0.3).toFixed(2) },
      { id: item!.product_id, field: 'stock', before: item!.stock, after: String(Number(item!.stock) + 1) },
    ]);
    const { dispatches } = await send('price', { also: 'stock', ids: [item!.id] });
    expect(dispatches.map((d) => [d.operation, d.total])).toEqual([
      ['price', 1],
      ['stock', 1],
    ]);
    for (const d of dispatches) expect(await reaches(d.id, 'answered')).toMatchObject({ accepted: 1 });
    expect(await house.rows('select planned, in_flight from listings where id = ?', [item!.id])).toEqual([
      { planned: [], in_flight: 0 },
    ]);
    expect((await send('create', { also: 'stock' })).code).toBe('bad-input');
  });
});

describe('what surprises', () => {
  it('is sent only after a look: a large share of the stocks that falls to nothing at once', async () => {
    const items = (await live(200)).filter((i) => Number(i.stock) > 0);
    expect(items.length).toBeGreaterThan(25);
    await patch(items.map((i) => ({ id: i.product_id, field: 'stock', before: i.stock, after: '0' })));
    const surprises = (await plan()).surprises;
    expect(surprises.map((s) => s.kind)).toContain('stock-gone');
    const refused = await send('stock');
    expect(refused.code).toBe('needs-look');
    expect(refused.message).toMatch(/^\d+ of \d+ live entries would fall to no stock at once; nothing was sent\.$/);
    // A few of them alone surprise nobody.
    expect((await plan(`?ids=${items[0]!.id}`)).surprises).toEqual([]);
    await reaches((await send('stock', { ids: [items[0]!.id] })).dispatch.id, 'answered');
    const sent = await send('stock', { looked: true });
    expect(sent.dispatches.reduce((n, d) => n + d.total, 0)).toBeGreaterThan(20);
    for (const d of sent.dispatches) await reaches(d.id, 'answered');
  });
});

describe('a wish', () => {
  const wish = (ids: number[], w: string) =>
    house.call<{ changed: number; onTheWay: number; code?: string; message?: string }>(
      'POST',
      '/markets/quillhaven/listings/wish',
      {
        ids,
        wish: w,
      },
    );
  it('to withdraw is shown, and taken back as long as it has not been sent', async () => {
    const [item] = await live(1);
    expect((await wish([item!.id], 'withdraw')).body).toEqual({ changed: 1, onTheWay: 0 });
    expect((await house.call<{ wish: string }>('GET', `/markets/quillhaven/listings/${item!.id}`)).body.wish).toBe(
      'withdraw',
    );
    expect(await countOf('withdraw', `?ids=${item!.id}`)).toBe(1);
    expect((await wish([item!.id], 'keep')).body.changed).toBe(1);
    expect(await countOf('withdraw', `?ids=${item!.id}`)).toBe(0);
  });
  it('is kept as it is once it has been sent', async () => {
    const [item] = await live(1);
    await wish([item!.id], 'withdraw');
    const { dispatch } = await send('withdraw', { ids: [item!.id], by: 'hand' });
    expect((await wish([item!.id], 'keep')).body).toEqual({ changed: 0, onTheWay: 1 });
    await house.call('POST', `/dispatches/${dispatch.id}/abandon`);
    expect((await wish([item!.id], 'keep')).body.changed).toBe(1);
  });
  it('to restore is refused where the market burns SKUs, and is a blocker where it was wished before', async () => {
    const [item] = await live(1);
    const r = await wish([item!.id], 'restore');
    expect(r).toMatchObject({
      status: 409,
      body: { code: 'not-now', message: 'Quillhaven never takes a withdrawn SKU again.' },
    });
    await house.rows(`update listings set market_state = 'withdrawn', wish = 'restore' where id = ? returning id`, [
      item!.id,
    ]);
    await patch([{ id: item!.product_id, field: 'stock', before: item!.stock, after: '7' }]);
    const row = (
      await house.call<{ findings: { check: string; message: string }[] }>(
        'GET',
        `/markets/quillhaven/listings/${item!.id}`,
      )
    ).body;
    expect(row.findings).toContainEqual(
      expect.objectContaining({ check: 'sku-form', message: 'burnt', level: 'blocker' }),
    );
    expect(await countOf('restore')).toBe(0);
  });
});

describe('more rows than a file takes', () => {
  it('are divided between families, and within one only where it is larger than a file', () => {
    const rows = (spec: [number, number][]) =>
      spec.flatMap(([root, n]) => Array.from({ length: n }, (_, i) => ({ id: root * 100 + i, root })));
    const parts = splitByFamily(
      rows([
        [1, 3],
        [2, 2],
        [3, 1],
        [4, 7],
      ]),
      5,
    );
    expect(parts.map((p) => p.map(({ root }) => root))).toEqual([[1, 1, 1, 2, 2], [3], [4, 4, 4, 4, 4], [4, 4]]);
    expect(splitByFamily([], 5)).toEqual([]);
  });
  it('count a family as one record where it is one, and never divide it', () => {
    const rows = [1, 1, 1, 2, 2, 3].map((root, i) => ({ id: i, root }));
    expect(splitByFamily(rows, 2, 12).map((p) => p.map(({ root }) => root))).toEqual([[1, 1, 1, 2, 2], [3]]);
    expect(splitByFamily(rows, 1, 12)).toHaveLength(3);
  });
  it('go as several files, one after the other, each line once', async () => {
    const document = structuredClone(quillhavenDocument) as unknown as {
      version: string;
      forms: { maxRecords: number }[];
    };
    document.version = '2026.12';
    for (const f of document.forms) f.maxRecords = 7;
    expect((await house.call('PUT', '/markets/quillhaven/rulebook', document)).status).toBe(200);
    await until(
      () => plan(),
      (p) => p.operations.some((o) => o.operation === 'create' && o.count > 20),
    );
    const ids = (
      await house.rows<{ id: number }>(
        `select l.id from listings l join products p on p.id = l.product_id
          where l.in_flight = 0 and l.planned @> '[{"operation": "create", "held": null}]' order by coalesce(p.parent_id, p.id), p.id limit 20`,
      )
    ).map((r) => r.id);
    const { dispatches } = await send('create', { ids });
    const total = dispatches.reduce((n, d) => n + d.total, 0);
    expect(dispatches.length).toBe(Math.max(2, dispatches.length));
    expect(dispatches.every((d, i) => d.part === i + 1 && d.parts === dispatches.length && d.total <= 7)).toBe(true);
    expect(dispatches[1]!.fileName).toMatch(/-2-of-\d+\.txt$/);
    for (const d of dispatches)
      expect(await reaches(d.id, 'answered', 'failed')).toMatchObject({ state: 'answered', refused: 0 });
    const left = await house.rows<{ id: number; at: Date }>(
      'select id, left_at as at from dispatches where id = any(?) order by left_at',
      [dispatches.map((d) => d.id)],
    );
    expect(left.map((l) => l.id)).toEqual(dispatches.map((d) => d.id));
    expect(
      await house.rows('select count(distinct listing_id)::int as n from dispatch_lines where dispatch_id = any(?)', [
        dispatches.map((d) => d.id),
      ]),
    ).toEqual([{ n: total }]);
  });
});
