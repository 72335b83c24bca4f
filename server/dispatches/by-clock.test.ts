// Sending by the clock: again and again, and once at a time that was set for rows.
import { randomUUID } from 'node:crypto';
import type { ClockWork } from '@basileus/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type House, openHouse, until, transact } from '../tests/house';
import { refreshListings } from '../listings';
import { loadMarket } from '../markets';
import { writeOn } from '../database';
import { sendByClockJob, wakeSendingClock } from '.';

let house: House;
beforeAll(async () => {
  house = await openHouse('by_clock_test', { size: 400, with: ['lumbara'] });
});
afterAll(() => house.close());

interface Sending {
  id: number;
  operations: string[];
  at: string | null;
  rows: number;
  last: {
    rows: number;
    dispatches: number[];
    surprises: { kind: string; operation: string; rows: number }[];
    busy: number;
    isPaused: boolean;
    fault: string | null;
  } | null;
}
interface Plan {
  operations: { operation: string; count: number; held: number }[];
  held: { reason: string; count: number }[];
}
interface Refused {
  code?: string;
  message?: string;
  field?: string;
}
const hourly = { every: 'hours', hours: 1, at: '06:00' };
const tomorrow = () => new Date(Date.now() + 86_400_000).toISOString();
const set = async (body: Record<string, unknown>, market = 'quillhaven') =>
  (await house.call<Sending & Refused>('POST', `/markets/${market}/sendings`, body)).body;
const again = (operations: string[]) => set({ is: 'again', operations, schedule: hourly });
const once = (operation: string, extra: Record<string, unknown>, market = 'quillhaven') =>
  set({ is: 'once', operation, at: tomorrow(), ...extra }, market);
const all = async () => (await house.call<{ rows: Sending[] }>('GET', '/sendings')).body.rows;
const read = async (id: number) => (await all()).find((s) => s.id === id)!;
const callOff = (id: number) => house.call('DELETE', `/sendings/${id}`);
/** Makes a sending due, and waits until it has been done. */
const comesDue = async (id: number) => {
  const before = JSON.stringify((await read(id)).last);
  await house.db.raw(`update sendings set next_at = now() - interval '1 minute' where id = ?`, [id]);
  await transact(house, wakeSendingClock);
  return until(
    () => read(id),
    (s) => s.last !== null && JSON.stringify(s.last) !== before,
  );
};
const dispatches = async (ids: readonly number[]) =>
  Promise.all(
    ids.map(async (id) =>
      until(
        async () =>
          (
            await house.call<{ operation: string; total: number; accepted: number; refused: number; state: string }>(
              'GET',
              `/dispatches/${id}`,
            )
          ).body,
        (d) => d.state === 'answered',
      ),
    ),
  );
const plan = async (query = '', market = 'quillhaven') =>
  (await house.call<Plan>('GET', `/markets/${market}/plan${query}`)).body;
const countOf = async (operation: string) =>
  (await plan()).operations.find((o) => o.operation === operation) ?? { operation, count: 0, held: 0 };
const timed = async () => (await plan()).held.find((h) => h.reason === 'timed')?.count ?? 0;
const live = (n: number) =>
  house.rows<{ id: number; product_id: number; sku: string; price: string; stock: string }>(
    `select l.id, l.product_id, p.sku, p.price::numeric(12,2)::text as price, s.on_hand::text as stock
      from listings l join products p on p.id = l.product_id join stock s on s.product_id = p.id join markets m on m.id = l.market_id
      where m.key = 'quillhaven' and l.market_state = 'live' and l.in_flight = 0 and l.planned = '[]' and p.kind <> 'family'
        and s.on_hand > 3 and p.price > 1
      order by l.id limit ?`,
    [n],
  );
const patch = async (cells: { id: number; field: string; before: string; after: string }[]) => {
  expect((await house.call('PATCH', '/products', { cells })).status).toBe(200);
};
/** What is planned of listings and what they show their families is what judging them anew would say. */
const standsAsJudged = async (sending: number, market: string) => {
  const read = () =>
    house.rows<{ id: number }>(
      `select l.id, l.planned, l.family_sight from listings l join products p on p.id = l.product_id
        where l.market_id = (select market_id from sendings where id = ?)
          and coalesce(p.parent_id, p.id) in (select coalesce(q.parent_id, q.id) from listings t join products q on q.id = t.product_id
            where t.timed ->> 'create' = ?::text)
        order by l.id`,
      [sending, sending],
    );
  const before = await read();
  expect(before.length).toBeGreaterThan(1);
  await refreshListings(
    house.db,
    await loadMarket(house.db, market),
    before.map((l) => l.id),
  );
  expect(await read()).toEqual(before);
};
const dearer = (price: string): string => (Number(price) + 0.1).toFixed(2);

describe('what goes again and again', () => {
  it('goes when it is due, prices and stock beside each other, and nothing else goes with it', async () => {
    const news = (await countOf('create')).count;
    const sending = await again(['stock', 'price']);
    expect(Date.parse(sending.at!)).toBeGreaterThan(Date.now());
    const [both, one] = await live(2);
    await patch([
      { id: both!.product_id, field: 'price', before: both!.price, after: dearer(both!.price) },
      { id: both!.product_id, field: 'stock', before: both!.stock, after: '3' },
      { id: one!.product_id, field: 'stock', before: one!.stock, after: '2' },
    ]);
    const { price, stock } = { price: await countOf('price'), stock: await countOf('stock') };
    const after = await comesDue(sending.id);
    expect(after.at).toBe(sending.at);
    expect(after.last).toMatchObject({ rows: price.count + stock.count, surprises: [], fault: null });
    expect((await dispatches(after.last!.dispatches)).map((d) => [d.operation, d.total])).toEqual([
      ['price', price.count],
      ['stock', stock.count],
    ]);
    expect((await countOf('create')).count).toBe(news);
    const [work, ...none] = (await house.call<{ rows: ClockWork[] }>('GET', '/clock-work')).body.rows;
    expect(none).toEqual([]);
    expect(work).toMatchObject({ kind: 'sent', market: 'quillhaven', times: 2, rows: price.count + stock.count });
    expect(work).toMatchObject(
      (await dispatches(after.last!.dispatches)).reduce(
        (n, d) => ({ accepted: n.accepted + d.accepted, refused: n.refused + d.refused }),
        { accepted: 0, refused: 0 },
      ),
    );
    // Nothing has changed since: nothing goes.
    expect((await comesDue(sending.id)).last).toMatchObject({ rows: 0, dispatches: [], fault: null });
    expect((await callOff(sending.id)).status).toBe(200);
    expect(await all()).toEqual([]);
  });
  it('leaves what is surprising until somebody looks, says so on Home, and sends the rest', async () => {
    const sending = await again(['stock', 'price']);
    const items = await live(200);
    const [last] = items.splice(-1);
    await patch([
      ...items.map((i) => ({ id: i.product_id, field: 'stock', before: i.stock, after: '0' })),
      { id: last!.product_id, field: 'price', before: last!.price, after: dearer(last!.price) },
    ]);
    const { last: went } = await comesDue(sending.id);
    expect(went!.surprises).toMatchObject([{ kind: 'stock-gone', operation: 'stock' }, { kind: 'stock-falls' }]);
    expect((await dispatches(went!.dispatches)).map((d) => d.operation)).toEqual(['price']);
    const today = async () =>
      (
        await house.call<{ today: { kind: string; count: number; market: string }[] }>('GET', '/overview')
      ).body.today.filter((t) => t.kind === 'unsent');
    expect(await today()).toMatchObject([{ market: 'quillhaven' }]);
    const sent = await house.call<{ dispatches: { id: number }[] }>('POST', '/markets/quillhaven/dispatches', {
      operation: 'stock',
      looked: true,
      key: randomUUID(),
    });
    await dispatches(sent.body.dispatches.map((d) => d.id));
    expect(await today()).toEqual([]);
    await patch(items.map((i) => ({ id: i.product_id, field: 'stock', before: '0', after: i.stock })));
    const { last: filled } = await comesDue(sending.id);
    expect(filled).toMatchObject({ rows: items.length, surprises: [] });
    await dispatches(filled!.dispatches);
    await callOff(sending.id);
  });
  it('leaves a paused market alone', async () => {
    const sending = await again(['stock']);
    const [item] = await live(1);
    await patch([{ id: item!.product_id, field: 'stock', before: item!.stock, after: '1' }]);
    await house.call('PATCH', '/markets/quillhaven', { isPaused: true });
    expect((await comesDue(sending.id)).last).toMatchObject({ isPaused: true, rows: 0, dispatches: [] });
    await house.call('PATCH', '/markets/quillhaven', { isPaused: false });
    const { last } = await comesDue(sending.id);
    expect(last).toMatchObject({ isPaused: false, rows: 1 });
    await dispatches(last!.dispatches);
    await callOff(sending.id);
  });
  it('is said anew, and no operation goes by two clocks', async () => {
    const sending = await again(['stock']);
    expect(await again(['price', 'stock'])).toMatchObject({
      code: 'bad-input',
      message: '“stock” goes to Quillhaven by the clock already.',
    });
    const other = await again(['price']);
    expect((await house.call<Refused>('PATCH', `/sendings/${other.id}`, { operations: ['stock'] })).body.code).toBe(
      'bad-input',
    );
    const changed = await house.call<Sending>('PATCH', `/sendings/${other.id}`, {
      operations: ['price', 'revise'],
      schedule: { every: 'minutes', minutes: 5 },
    });
    expect(changed.body).toMatchObject({ operations: ['price', 'revise'], schedule: { every: 'minutes', minutes: 5 } });
    expect(Date.parse(changed.body.at!) - Date.now()).toBeLessThanOrEqual(300_000);
    expect(await again(['withdraw'])).toMatchObject({ code: 'bad-input' });
    expect((await house.call<Refused>('PATCH', `/sendings/${sending.id}`, { at: tomorrow() })).body.message).toBe(
      'This sending goes again and again: say how often.',
    );
    for (const s of await all()) await callOff(s.id);
  });
});

describe('what goes once, at a time', () => {
  /** A family of which nothing is on the market yet and everything is ready: its own row first. */
  const newFamily = async () =>
    (
      await house.rows<{ ids: number[] }>(
        `select array_agg(l.id::int order by p.parent_id is not null, l.id) as ids
          from listings l join products p on p.id = l.product_id join markets m on m.id = l.market_id
          where m.key = 'quillhaven' and p.kind in ('family', 'variant')
          group by coalesce(p.parent_id, p.id)
          having count(*) > 2 and bool_and(l.in_flight = 0 and l.planned @> '[{"operation": "create", "held": null}]') and min(p.parent_id) is not null
          order by min(l.id) limit 1`,
      )
    )[0]!.ids;
  it('waits whatever else is sent, also where it is changed meanwhile, and goes when the time has come', async () => {
    const ids = await newFamily();
    const before = await countOf('create');
    const sending = await once('create', { ids });
    expect(sending).toMatchObject({ operations: ['create', 'offer'], schedule: null, rows: ids.length, last: null });
    expect(await timed()).toBe(ids.length);
    await standsAsJudged(sending.id, 'quillhaven');
    expect(await countOf('create')).toEqual({
      operation: 'create',
      count: before.count - ids.length,
      held: before.held + ids.length,
    });
    const [item] = await house.rows<{ product_id: number; title: string }>(
      'select l.product_id, p.title from listings l join products p on p.id = l.product_id where l.id = ?',
      [ids[0]],
    );
    await patch([{ id: item!.product_id, field: 'title', before: item!.title, after: `${item!.title} 2` }]);
    expect(await timed()).toBe(ids.length);
    const refused = await house.call<Refused>('POST', '/markets/quillhaven/dispatches', {
      operation: 'create',
      ids,
      key: randomUUID(),
    });
    expect([refused.status, refused.body.code]).toEqual([409, 'not-now']);
    const { at, last } = await comesDue(sending.id);
    expect([at, last]).toMatchObject([null, { rows: ids.length, busy: 0, fault: null }]);
    expect(await dispatches(last!.dispatches)).toMatchObject([{ operation: 'create', total: ids.length }]);
    expect(await timed()).toBe(0);
    expect((await house.call<Refused>('PATCH', `/sendings/${sending.id}`, { at: tomorrow() })).body.message).toBe(
      'This sending is over.',
    );
    await callOff(sending.id);
  });
  it('is free again when it is called off, and only what is ready can wait', async () => {
    const before = await countOf('create');
    const [row, ...variants] = await newFamily();
    const ids = [row!];
    const sending = await once('create', { ids });
    // Its variants cannot go before their family row.
    const after = await countOf('create');
    expect([after.count, after.held]).toEqual([before.count - 1 - variants.length, before.held + 1 + variants.length]);
    expect(await once('create', { ids })).toMatchObject({ code: 'not-now' });
    await callOff(sending.id);
    expect(await countOf('create')).toEqual(before);
    expect((await callOff(sending.id)).status).toBe(404);
    expect(
      await set({ is: 'once', operation: 'create', ids, at: new Date(Date.now() - 1000).toISOString() }),
    ).toMatchObject({
      field: 'at',
      message: 'That time has passed.',
    });
    expect(
      await set({ is: 'once', operation: 'create', ids, at: new Date(Date.now() + 400 * 86_400_000).toISOString() }),
    ).toMatchObject({ field: 'at', message: 'That time is more than a year ahead.' });
    expect(await countOf('create')).toEqual(before);
  });
  it('goes a little later where some of it is on its way with something else', async () => {
    const [free, busy] = await live(2);
    await patch(
      [free!, busy!].map((i) => ({ id: i.product_id, field: 'price', before: i.price, after: dearer(i.price) })),
    );
    const sending = await once('price', { ids: [free!.id, busy!.id] });
    await house.db.raw('update listings set in_flight = 1 where id = ?', [busy!.id]);
    const first = await comesDue(sending.id);
    expect(first.last).toMatchObject({ rows: 1, busy: 1 });
    expect(Date.parse(first.at!)).toBeGreaterThan(Date.now());
    await dispatches(first.last!.dispatches);
    await house.db.raw('update listings set in_flight = 0 where id = ?', [busy!.id]);
    const second = await comesDue(sending.id);
    expect([second.at, second.last]).toMatchObject([null, { rows: 2, busy: 0 }]);
    expect(await dispatches(second.last!.dispatches)).toHaveLength(2);
    await callOff(sending.id);
  });
  it('goes whole, and once, where whoever sends it ends halfway', async () => {
    const items = await live(3);
    await patch(items.map((i) => ({ id: i.product_id, field: 'price', before: i.price, after: dearer(i.price) })));
    const sending = await once('price', { ids: items.map((i) => i.id) });
    await house.db.raw('update sendings set next_at = null where id = ?', [sending.id]);
    const at = new Date().toISOString();
    let steps = 0;
    const run = (most: number) =>
      sendByClockJob.run(
        { sending: sending.id, due: at, at },
        {
          id: 'test',
          db: house.db,
          attempt: 1,
          beside: undefined,
          progress: () => Promise.resolve(),
          write: (what) => (++steps > most ? Promise.reject(new Error('the power went')) : writeOn(house.db)(what)),
        },
      );
    await expect(run(1)).rejects.toThrow('the power went');
    expect(await timed()).toBe(0);
    await run(9);
    const { last } = await read(sending.id);
    expect(last).toMatchObject({ rows: 3, busy: 0 });
    await run(9);
    expect((await read(sending.id)).last).toMatchObject({ rows: 3, dispatches: last!.dispatches });
    expect((await dispatches(last!.dispatches)).map((d) => d.total)).toEqual([3]);
    await callOff(sending.id);
  });
  it('gives up after two hours, and leaves what could not go as ready as before', async () => {
    const [busy] = await live(1);
    await patch([{ id: busy!.product_id, field: 'price', before: busy!.price, after: dearer(busy!.price) }]);
    const sending = await once('price', { ids: [busy!.id] });
    await house.db.raw('update listings set in_flight = 1 where id = ?', [busy!.id]);
    await house.db.raw(`update sendings set due_at = now() - interval '3 hours' where id = ?`, [sending.id]);
    const after = await comesDue(sending.id);
    expect([after.at, after.last]).toMatchObject([null, { rows: 0, busy: 1 }]);
    await house.db.raw('update listings set in_flight = 0 where id = ?', [busy!.id]);
    expect(await countOf('price')).toMatchObject({ count: 1, held: 0 });
    await callOff(sending.id);
  });
  it('may be what a person has looked at, but not more than that', async () => {
    const items = await live(200);
    const few = items.splice(-10);
    const become = (some: typeof items, from: (stock: string) => string, to: (stock: string) => string) =>
      patch(some.map((i) => ({ id: i.product_id, field: 'stock', before: from(i.stock), after: to(i.stock) })));
    const asIs = (stock: string) => stock,
      none = () => '0',
      oneLess = (stock: string) => String(Number(stock) - 1);
    await become(items, asIs, none);
    await become(few, asIs, oneLess);
    expect(await once('stock', {})).toMatchObject({ code: 'needs-look' });
    const more = await once('stock', { looked: true });
    expect(more.rows).toBe(items.length + few.length);
    await become(few, oneLess, none);
    expect((await comesDue(more.id)).last).toMatchObject({ rows: 0, surprises: [{ kind: 'stock-gone' }, {}] });
    await callOff(more.id);
    const seen = await once('stock', { looked: true });
    const { last } = await comesDue(seen.id);
    expect(last).toMatchObject({ surprises: [], rows: items.length + few.length });
    await dispatches(last!.dispatches);
    await callOff(seen.id);
  });
  it('is a whole family where the market takes it whole', async () => {
    const [row] = await house.rows<{ id: number; members: number }>(
      `select l.id, (select count(*)::int from products q where q.parent_id = p.id) as members
        from listings l join products p on p.id = l.product_id join markets m on m.id = l.market_id
        where m.key = 'lumbara' and p.kind = 'family' and l.planned @> '[{"operation": "create", "held": null}]' order by 2 desc limit 1`,
    );
    const [variant] = await house.rows<{ id: number }>(
      `select l.id from listings l join products p on p.id = l.product_id join listings r on r.product_id = p.parent_id and r.market_id = l.market_id
        where r.id = ? order by l.id limit 1`,
      [row!.id],
    );
    const sending = await once('create', { ids: [variant!.id] }, 'lumbara');
    expect(sending.rows).toBe(row!.members + 1);
    await standsAsJudged(sending.id, 'lumbara');
    const { last } = await comesDue(sending.id);
    expect(last).toMatchObject({ rows: row!.members + 1, busy: 0 });
    expect((await dispatches(last!.dispatches)).map((d) => d.total)).toEqual([row!.members + 1]);
  });
});
