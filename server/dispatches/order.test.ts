// Sendings of many rows: their files are made by a job, whole or not at all.
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { loadMarket } from '../markets';
import { type House, openHouse, until } from '../tests/house';
import { openSending, ready } from '../tests/sending';
import type { BuildRequest } from './build';
import { orderDispatch } from './order';
import { loadDispatchesByKey } from './queries';

let house: House;
let torgvik: ReturnType<typeof openSending>;
beforeAll(async () => {
  house = await openHouse('order_test', { size: 120, with: ['torgvik'] });
  torgvik = openSending(house, 'torgvik');
});
afterAll(() => house.close());

const request = (more: Partial<BuildRequest>): BuildRequest => ({
  operation: 'create',
  brand: '',
  own: '',
  import: 0,
  looked: false,
  by: 'wire',
  key: `order-${Math.random().toString(36).slice(2, 12)}`,
  ...more,
});
const order = async (r: BuildRequest, most?: number) =>
  orderDispatch(house.db, await loadMarket(house.db, 'torgvik'), r, 'Ada', most);
const jobOf = async (id: string) =>
  (
    await house.rows<{ state: string; done: number; total: number; fault: string | null }>(
      'select state, done, total, error as fault from jobs where id = ?',
      [id],
    )
  )[0]!;

describe('what is sent', () => {
  it('is made at once where one can wait for it', async () => {
    const items = (await torgvik.loadItems(ready('create'))).slice(0, 2);
    const made = await order(request({ ids: items.map((i) => i.id) }), 2);
    expect(made.underway).toBeNull();
    expect(made.dispatches).toMatchObject([{ total: 2 }]);
  });
  it('is made by a job where it is more, goes by itself, and once under one key', async () => {
    const items = (await torgvik.loadItems(ready('create'))).slice(0, 3);
    const wanted = request({ ids: items.map((i) => i.id) });
    const made = await order(wanted, 2);
    expect(made.dispatches).toEqual([]);
    expect(made.underway!.rows).toBe(3);
    // Pressed twice.
    await order(wanted, 2);
    const sent = await until(
      () => loadDispatchesByKey(house.db, wanted.key),
      (d) => d[0]?.state === 'answered',
    );
    expect(sent).toHaveLength(1);
    expect(sent[0]).toMatchObject({ total: 3, accepted: 3, by_whom: 'Ada' });
    expect(
      await until(
        () => jobOf(made.underway!.job),
        (j) => j.state === 'done',
      ),
    ).toMatchObject({ done: 3, total: 3 });
    expect((await order(wanted, 2)).dispatches.map((d) => d.id)).toEqual([sent[0]!.id]);
  });
  it('is refused before a job is made of it where the market takes none of it, and tells of a job that finds nothing', async () => {
    await expect(order(request({ operation: 'restore', also: 'price' }), 0)).rejects.toMatchObject({
      code: 'bad-input',
    });
    const items = (await torgvik.loadItems(ready('create'))).slice(0, 3);
    const ids = items.map((i) => i.id);
    const [first, second] = await Promise.all([order(request({ ids }), 2), order(request({ ids }), 2)]);
    const ends = await until(
      async () => [await jobOf(first.underway!.job), await jobOf(second.underway!.job)],
      (jobs) => jobs.every((j) => j.state === 'done' || j.state === 'failed'),
    );
    expect(ends.map((j) => j.state).sort()).toEqual(['done', 'failed']);
    expect(ends.find((j) => j.state === 'failed')!.fault).toMatch(/nothing to send|checked anew/);
    const lines = await house.rows('select 1 from dispatch_lines where listing_id = any(?)', [ids]);
    expect(lines).toHaveLength(3);
  });
});
