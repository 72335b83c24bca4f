import type { DispatchShape } from '@basileus/contract';
import { randomUUID } from 'node:crypto';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { type House, openHouse, until } from '../tests/house';

let house: House;
beforeAll(async () => {
  house = await openHouse('dispatches_test', { size: 400 });
});
afterEach(() => {
  Object.assign(house.market.moods, { slowMs: 0, failNext: 0, garbageNext: 0, hangUpNext: 0, forgetNext: 0 });
});
afterAll(async () => {
  await house.close();
});

interface Dispatch {
  id: number;
  state: string;
  total: number;
  accepted: number;
  remarked: number;
  refused: number;
  mended: number;
  attempts: number;
  fault: string | null;
  ticket: string | null;
}
interface Plan {
  operations: { operation: string; count: number; held: number }[];
  held: { reason: string; count: number }[];
  waiting: number;
}
const plan = async () => (await house.call<Plan>('GET', '/markets/quillhaven/plan')).body;
const send = (operation: string, extra: Record<string, unknown> = {}) =>
  house.call<{ dispatch: Dispatch; heldBack: number; message?: string }>('POST', '/markets/quillhaven/dispatches', {
    operation,
    key: randomUUID(),
    ...extra,
  });
const answered = (id: number) =>
  until(
    async () => (await house.call<Dispatch>('GET', `/dispatches/${id}`)).body,
    (d) => d.state === 'answered' || d.state === 'failed',
    40_000,
  );
const readyIds = async (operation: string, n: number) =>
  (
    await house.rows<{ id: number }>(
      `select l.id
        from listings l
        join products p on p.id = l.product_id
        where p.kind = 'family' and l.in_flight = 0 and l.planned @> ?
        order by l.id limit ?`,
      [JSON.stringify([{ operation, held: null }]), n],
    )
  ).map((r) => r.id);
const liveOf = async (n = 1) =>
  house.rows<{ id: number; product_id: number; sku: string; price: string; stock: string }>(
    `select l.id, l.product_id, p.sku, p.price::numeric(12,2)::text as price, s.on_hand::text as stock
      from listings l
      join products p on p.id = l.product_id
      join stock s on s.product_id = p.id
      where l.market_state = 'live' and l.in_flight = 0 and l.planned = '[]' and p.kind <> 'family'
      order by l.id limit ?`,
    [n],
  );
const tickets = () => Object.values(house.market.shelf.memory.tickets);

describe('sending', () => {
  it('begins with a shelf that both sides agree on: nothing live differs but what moved since', async () => {
    const live = await house.rows<{ sku: string; price: string | null }>(
      `select p.sku, l.accepted_price ->> 'price' as price
        from listings l
        join products p on p.id = l.product_id
        where l.market_state = 'live'`,
    );
    expect(live.length).toBeGreaterThan(20);
    for (const l of live) expect(house.market.shelf.memory.entries[l.sku]?.cells['price'] || null, l.sku).toBe(l.price);
  });
  it('is one submission under one key, however often it is asked', async () => {
    const ids = await readyIds('create', 3);
    const key = randomUUID();
    const asked = await Promise.all([1, 2, 3].map(() => send('create', { ids, key })));
    expect(new Set(asked.map((a) => a.body.dispatch.id)).size).toBe(1);
    const d = await answered(asked[0]!.body.dispatch.id);
    expect(d).toMatchObject({ total: ids.length, refused: 0 });
    expect(tickets().filter((t) => t.key === key)).toHaveLength(1);
  });
  it('sends no row twice when two people send at once', async () => {
    const before = (await plan()).operations.find((o) => o.operation === 'stock')?.count ?? 0;
    expect(before).toBeGreaterThan(0);
    const both = await Promise.all([send('stock'), send('stock')]);
    const won = both.filter((r) => r.status === 200),
      lost = both.filter((r) => r.status !== 200);
    expect(won).toHaveLength(1);
    expect(lost[0]!.body.message).toMatch(/nothing to send/);
    expect((await answered(won[0]!.body.dispatch.id)).total).toBe(before);
  });
  it('takes up a connection that dropped after the market had the file: one submission, one receipt', async () => {
    const ids = await readyIds('create', 1);
    house.market.moods.forgetNext = 1;
    const key = randomUUID();
    const d = await answered((await send('create', { ids, key })).body.dispatch.id);
    expect(d).toMatchObject({ state: 'answered', attempts: 2, refused: 0, fault: null });
    expect(tickets().filter((t) => t.key === key)).toHaveLength(1);
  });
  it.each([
    ['fails once', { failNext: 1 }],
    ['hangs up', { hangUpNext: 1 }],
    ['answers garbage', { garbageNext: 1 }],
  ])('goes on when the market %s', async (_, mood) => {
    const ids = await readyIds('create', 1);
    Object.assign(house.market.moods, mood);
    expect(await answered((await send('create', { ids })).body.dispatch.id)).toMatchObject({
      state: 'answered',
      refused: 0,
    });
  });
  it('says what is wrong while it cannot reach the market', async () => {
    const ids = await readyIds('create', 1);
    house.market.moods.failNext = 2;
    const { dispatch } = (await send('create', { ids })).body;
    const waiting = await until(
      async () => (await house.call<Dispatch & Pick<DispatchShape, 'retry'>>('GET', `/dispatches/${dispatch.id}`)).body,
      (d) => d.fault !== null,
    );
    expect(waiting.fault).toBe('Quillhaven is not there for the moment (503).');
    expect(waiting.retry!.failed).toBeGreaterThan(0);
    // Half a second for the first time, twice as much for each that follows.
    expect(Math.abs(Date.parse(waiting.retry!.at) - Date.now())).toBeLessThan(10_000);
    expect(await answered(dispatch.id)).toMatchObject({ state: 'answered', fault: null, retry: null });
  });
  it('holds back what has a blocker, and says how many', async () => {
    const p = await plan();
    const blocked = await house.rows<{ id: number }>(
      `select l.id
        from listings l
        where l.blockers > 0 and l.category is not null and l.accepted_details is null limit 3`,
    );
    expect(p.held.find((h) => h.reason === 'blocked')!.count).toBeGreaterThan(0);
    expect(await send('create', { ids: blocked.map((b) => b.id) })).toMatchObject({
      status: 409,
      body: { message: 'There is nothing to send: no row of this kind is ready.' },
    });
  });
  it('refuses an operation that is none', async () => {
    expect((await send('burn')).status).toBe(400);
  });
});

describe('price, stock and details of a live entry', () => {
  it('go out alone, each in its own file, and leave nothing to send', async () => {
    const [item] = await liveOf();
    await house.call('PATCH', '/products', {
      cells: [
        { id: item!.product_id, field: 'price', before: item!.price, after: (Number(item!.price) + 1).toFixed(2) },
      ],
    });
    expect(await house.rows('select planned from listings where id = ?', [item!.id])).toEqual([
      { planned: [{ operation: 'price', held: null }] },
    ]);
    const d = await answered((await send('price', { ids: [item!.id] })).body.dispatch.id);
    expect(d).toMatchObject({ total: 1, accepted: 1 });
    expect(house.market.shelf.memory.entries[item!.sku]!.cells['price']).toBe((Number(item!.price) + 1).toFixed(2));
    expect(await house.rows('select planned from listings where id = ?', [item!.id])).toEqual([{ planned: [] }]);
    const file = await house.call<string>('GET', `/dispatches/${d.id}/file`);
    expect(file.body.split('\r\n')[2]!.split('\t').filter(Boolean)).toEqual([
      item!.sku,
      (Number(item!.price) + 1).toFixed(2),
    ]);
  });
  it('holds a price that moved far until someone has looked', async () => {
    const [item] = await liveOf();
    await house.call('PATCH', '/products', {
      cells: [
        { id: item!.product_id, field: 'price', before: item!.price, after: (Number(item!.price) * 3).toFixed(2) },
      ],
    });
    expect(await house.rows('select planned from listings where id = ?', [item!.id])).toEqual([
      { planned: [{ operation: 'price', held: 'price-moved' }] },
    ]);
    expect((await send('price', { ids: [item!.id] })).status).toBe(409);
    expect((await house.call('POST', '/markets/quillhaven/release', { ids: [item!.id] })).body).toEqual({
      released: 1,
    });
    expect((await answered((await send('price', { ids: [item!.id] })).body.dispatch.id)).accepted).toBe(1);
  });
  it('sends stock though the details have a blocker, so that nothing is oversold', async () => {
    const [item] = await liveOf();
    await house.call('PATCH', '/products', {
      cells: [
        { id: item!.product_id, field: 'stock', before: item!.stock, after: '9' },
        {
          id: item!.product_id,
          field: 'title',
          before: (
            await house.rows<{ title: string }>('select title from products where id = ?', [item!.product_id])
          )[0]!.title,
          after: '★ Best price ★ for all of you',
        },
      ],
    });
    const [row] = await house.rows<{ planned: { operation: string; held: string | null }[] }>(
      'select planned from listings where id = ?',
      [item!.id],
    );
    expect(row!.planned).toEqual(
      expect.arrayContaining([
        { operation: 'revise', held: 'blocked' },
        { operation: 'stock', held: null },
      ]),
    );
    expect((await answered((await send('stock', { ids: [item!.id] })).body.dispatch.id)).accepted).toBe(1);
    const [stock] = await house.rows<{ reserved: number }>('select reserved from stock where product_id = ?', [
      item!.product_id,
    ]);
    expect(house.market.shelf.memory.entries[item!.sku]!.quantity).toBe(9 - stock!.reserved - 2);
  });
  it('does not let the identity of a live entry be edited', async () => {
    const [item] = await liveOf();
    await house.call('PATCH', '/products', {
      cells: [
        {
          id: item!.product_id,
          field: 'brand',
          before: (
            await house.rows<{ brand: string }>('select brand from products where id = ?', [item!.product_id])
          )[0]!.brand,
          after: 'Another',
        },
      ],
    });
    expect(
      (
        await house.rows<{ value: string; params: object }>(
          `select value, params from findings where listing_id = ? and "check" = 'live-fact-changed'`,
          [item!.id],
        )
      )[0],
    ).toMatchObject({ value: 'Another', params: { live: expect.stringMatching(/./) as string } });
  });
  it('takes a listing down on wish, and knows that this market burns the SKU', async () => {
    const [item] = await liveOf();
    await house.call('POST', '/markets/quillhaven/listings/wish', { ids: [item!.id], wish: 'withdraw' });
    expect((await answered((await send('withdraw', { ids: [item!.id] })).body.dispatch.id)).accepted).toBe(1);
    expect(await house.rows('select market_state, wish from listings where id = ?', [item!.id])).toEqual([
      { market_state: 'withdrawn', wish: 'keep' },
    ]);
    expect(house.market.shelf.memory.burnt).toContain(item!.sku);
  });
});

describe('by hand', () => {
  it('waits for the receipt that a person brings, refuses garbage, and is answered once', async () => {
    const ids = await readyIds('create', 2);
    const { dispatch } = (await send('create', { ids, by: 'hand' })).body;
    expect(dispatch.state).toBe('by hand');
    expect((await plan()).waiting).toBe(2);
    const lines = await house.rows<{ line: number; sku: string }>(
      'select line, sku from dispatch_lines where dispatch_id = ? order by line',
      [dispatch.id],
    );
    expect(await house.upload('r.txt', 'what is this\n', `/dispatches/${dispatch.id}/receipt`)).toMatchObject({
      status: 422,
    });
    const receipt =
      [
        'line\thouse_sku\tverdict\tcode\tfield\tentry',
        `1\t${lines[0]!.sku}\tTAKEN\t\t\tQ9001`,
        `2\t${lines[1]!.sku}\tTURNED BACK\tQ11\tcolour\t`,
      ].join('\r\n') + '\r\n';
    const swapped = receipt.replace(lines[0]!.sku, 'SOMEONE-ELSE');
    expect(
      (await house.upload<{ message: string }>('r.txt', swapped, `/dispatches/${dispatch.id}/receipt`)).body.message,
    ).toMatch(/Line 1 of the receipt speaks of SOMEONE-ELSE/);
    expect((await house.upload<Dispatch>('r.txt', receipt, `/dispatches/${dispatch.id}/receipt`)).body).toMatchObject({
      state: 'answered',
      accepted: 1,
      refused: 1,
    });
    expect((await house.upload('r.txt', receipt, `/dispatches/${dispatch.id}/receipt`)).status).toBe(409);
    const shown = await house.call<{ rows: { fieldLabel: string; says: string; remedy: string }[] }>(
      'GET',
      `/dispatches/${dispatch.id}/lines?state=refused`,
    );
    expect(shown.body.rows[0]).toMatchObject({
      fieldLabel: 'Colour',
      says: 'The value is not on the market’s list.',
      remedy: 'Choose a value from the list.',
    });
  });
});

describe('lines refused for the same reason', () => {
  it('are one cause, take one value at once, and go again together', async () => {
    const some = await house.rows<{ id: number; brand: string }>(
      `select l.id, l."values" ->> 'brand' as brand
        from listings l
        join products p on p.id = l.product_id
        where p.kind = 'single' and l.in_flight = 0 and l.planned @> '[{"operation": "create", "held": null}]'
        order by l.id limit 4`,
    );
    const ids = some.map((r) => r.id);
    house.market.moods.uncleared.push(...some.map((r) => r.brand));
    const d = await answered((await send('create', { ids })).body.dispatch.id);
    expect(d.refused).toBe(ids.length);
    interface Cause {
      code: string;
      field: string;
      fieldLabel: string;
      count: number;
      open: number;
    }
    const causes = async () => (await house.call<{ rows: Cause[] }>('GET', `/dispatches/${d.id}/refusals`)).body.rows;
    const [cause, ...others] = await causes();
    expect(others).toEqual([]);
    expect(cause).toMatchObject({ field: 'brand', fieldLabel: 'Brand', count: ids.length, open: ids.length });
    const lines = await house.call<{ total: number }>(
      'GET',
      `/dispatches/${d.id}/lines?state=refused&code=${cause!.code}&field=brand&limit=2`,
    );
    expect(lines.body.total).toBe(ids.length);
    expect((await house.call<{ total: number }>('GET', `/dispatches/${d.id}/lines?code=none`)).body.total).toBe(0);
    const mend = { code: cause!.code, field: 'brand', value: 'Unbranded' };
    // What would be refused for another reason is tried, said and not written.
    const tooLong = await house.call<{ fails: { count: number; finding: { check: string; field: string } }[] }>(
      'POST',
      `/dispatches/${d.id}/refusals`,
      { ...mend, value: 'x'.repeat(300) },
    );
    expect(tooLong.body).toMatchObject({ changeSet: null, changed: 0, left: ids.length });
    expect(tooLong.body.fails).toMatchObject([
      { count: ids.length, finding: { check: 'text-length', field: 'brand' } },
    ]);
    expect((await causes())[0]).toMatchObject({ open: ids.length });
    expect((await house.call('POST', `/dispatches/${d.id}/refusals`, mend)).body).toMatchObject({
      changed: ids.length,
      left: 0,
    });
    expect((await causes())[0]).toMatchObject({ count: ids.length, open: 0 });
    expect((await house.call('POST', `/dispatches/${d.id}/refusals`, mend)).body).toEqual({
      changeSet: null,
      changed: 0,
      left: 0,
      fails: [],
    });
    const again = await house.call<{ dispatch: Dispatch }>('POST', `/dispatches/${d.id}/resend`, { key: randomUUID() });
    expect(await answered(again.body.dispatch.id)).toMatchObject({ total: ids.length, refused: 0 });
    house.market.moods.uncleared.splice(-ids.length);
  });
  it('may go again as they are once the market has put it right', async () => {
    const [row] = await house.rows<{ id: number; brand: string }>(
      `select l.id, l."values" ->> 'brand' as brand
        from listings l
        join products p on p.id = l.product_id
        where p.kind in ('single', 'family') and l.in_flight = 0
          and l.planned @> '[{"operation": "create", "held": null}]'
        order by l.id limit 1`,
    );
    house.market.moods.uncleared.push(row!.brand);
    const d = await answered((await send('create', { ids: [row!.id] })).body.dispatch.id);
    const { code, field } = (
      await house.call<{ rows: { code: string; field: string }[] }>('GET', `/dispatches/${d.id}/refusals`)
    ).body.rows[0]!;
    house.market.moods.uncleared.pop();
    expect((await send('create', { ids: [row!.id] })).status).toBe(409);
    expect((await house.call('POST', `/dispatches/${d.id}/refusals`, { code, field })).body).toMatchObject({
      changed: 1,
    });
    const again = await house.call<{ dispatch: Dispatch }>('POST', `/dispatches/${d.id}/resend`, { key: randomUUID() });
    expect(await answered(again.body.dispatch.id)).toMatchObject({ total: 1, refused: 0 });
    const [now] = await house.rows<{ brand: string }>(
      `select "values" ->> 'brand' as brand from listings where id = ?`,
      [row!.id],
    );
    expect(now!.brand).toBe(row!.brand);
  });
  it('cannot be given a field that the market does not have', async () => {
    const [any] = await house.rows<{ id: number }>('select id from dispatches order by id limit 1');
    await house.rows(
      `update dispatch_lines
        set field = 'ghost', state = 'refused', mended = false
        where dispatch_id = ? and line = 1
        returning line`,
      [any!.id],
    );
    const r = await house.call<{ message: string }>('POST', `/dispatches/${any!.id}/refusals`, {
      code: '',
      field: 'ghost',
      value: 'x',
    });
    expect(r.status).toBe(400);
    expect(r.body.message).toContain('has no attribute “ghost”');
  });
});

describe('a refused line', () => {
  it('is not sent again until it is mended, and then alone', async () => {
    const [id] = await readyIds('create', 1);
    const [row] = await house.rows<{ brand: string; sku: string }>(
      `select l."values" ->> 'brand' as brand, p.sku
        from listings l
        join products p on p.id = l.product_id
        where l.id = ?`,
      [id],
    );
    house.market.moods.uncleared.push(row!.brand);
    const d = await answered((await send('create', { ids: [id] })).body.dispatch.id);
    expect(d).toMatchObject({ refused: 1, mended: 0 });
    expect((await send('create', { ids: [id] })).status).toBe(409);
    expect((await house.call('POST', `/dispatches/${d.id}/resend`, { key: randomUUID() })).status).toBe(409);
    await house.call('PATCH', '/markets/quillhaven/listings', {
      cells: [
        { id, field: 'brand', before: row!.brand, after: 'Unbranded' },
        {
          id,
          field: 'title',
          before: (
            await house.rows<{ t: string }>(`select "values" ->> 'title' as t from listings where id = ?`, [id])
          )[0]!.t,
          after: 'Unbranded thing for the kitchen',
        },
      ],
    });
    expect((await house.call<Dispatch>('GET', `/dispatches/${d.id}`)).body.mended).toBe(1);
    const again = await house.call<{ dispatch: Dispatch }>('POST', `/dispatches/${d.id}/resend`, { key: randomUUID() });
    expect(await answered(again.body.dispatch.id)).toMatchObject({ total: 1, refused: 0 });
    house.market.moods.uncleared.length = 0;
  });
  it('may come back days later, after review', async () => {
    const [id] = await readyIds('create', 1);
    const [row] = await house.rows<{ sku: string; brand: string }>(
      `select p.sku, l."values" ->> 'brand' as brand
        from listings l
        join products p on p.id = l.product_id
        where l.id = ?`,
      [id],
    );
    await house.call('PATCH', '/markets/quillhaven/listings', {
      cells: [
        {
          id,
          field: 'title',
          before: (
            await house.rows<{ t: string }>(`select "values" ->> 'title' as t from listings where id = ?`, [id])
          )[0]!.t,
          after: `${row!.brand} replica of a fine thing`,
        },
      ],
    });
    expect((await answered((await send('create', { ids: [id] })).body.dispatch.id)).refused).toBe(0);
    // The job that watches the shelf was not told to start here; the test asks as it would, until the review has ended.
    const { watchShelf } = await import('./jobs');
    await until(
      async () => {
        await watchShelf(house.db, 'quillhaven');
        return house.rows<{ s: string }>('select market_state as s from listings where id = ?', [id]);
      },
      (r) => r[0]?.s === 'refused',
    );
  });
});
