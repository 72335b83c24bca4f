// Imports that are written at a time of their own.
import type { ClockWork, ImportShape } from '@basileus/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type House, openHouse, until } from '../tests/house';
import { wakeImportClock } from './timed';

let house: House, sku: string;
beforeAll(async () => {
  house = await openHouse('timed_test', { size: 40 });
  [{ sku }] = (await house.rows<{ sku: string }>(
    `select sku from products where kind <> 'family' and price > 0 order by id limit 1`,
  )) as [{ sku: string }];
});
afterAll(() => house.close());

const read = async (id: number) => (await house.call<ImportShape>('GET', `/imports/${id}`)).body;
const isAt = (id: number, state: ImportShape['state']) =>
  until(
    () => read(id),
    (i) => i.state === state || i.state === 'failed',
  );
const take = async (text: string) => {
  const { body } = await house.upload<ImportShape>('prices.csv', text);
  return isAt(body.id, 'planned');
};
const time = (id: number, at: string | null) => house.call<ImportShape>('PUT', `/imports/${id}/time`, { at });
const later = () => new Date(Date.now() + 86_400_000).toISOString();
const priceOf = async () =>
  (await house.rows<{ p: number }>('select price::float as p from products where sku = ?', [sku]))[0]!.p;
/** Has the time of an import come. */
const come = (id: number) =>
  house.db.transaction(async (tx) => {
    await tx.raw(`update imports set due_at = now(), next_at = now() where id = ?`, [id]);
    await wakeImportClock(tx);
  });
const overview = async () => (await house.call<{ stops: { gather: number } }>('GET', '/overview')).body.stops.gather;

describe('an import with a time', () => {
  it('waits for it, is written against what the catalog holds then, and Home says so', async () => {
    const { id } = await take(`SKU;Price\n${sku};81.10\nNOT-OURS-1;5.00\n`);
    const waiting = await overview();
    const at = later();
    expect((await time(id, at)).body.due).toEqual({ at, by: 'Catalog desk' });
    // It needs nobody.
    expect(await overview()).toBe(waiting - 1);
    // Somebody else changes the price meanwhile, which would be a conflict with what was planned.
    const [p] = await house.rows<{ id: number; v: string }>('select id, price::text as v from products where sku = ?', [
      sku,
    ]);
    await house.call('PATCH', '/products', { cells: [{ id: p!.id, field: 'price', before: p!.v, after: '79.90' }] });
    expect(await read(id)).toMatchObject({ state: 'planned' });
    await come(id);
    const done = await isAt(id, 'applied');
    expect(done).toMatchObject({ due: null, counts: { conflicts: 0 } });
    expect(await priceOf()).toBe(81.1);
    const { rows } = (await house.call<{ rows: ClockWork[] }>('GET', '/clock-work')).body;
    expect(rows.filter((r) => r.kind === 'import')).toMatchObject([
      { import: id, name: 'prices.csv', rows: done.counts.applied, refused: done.counts.refuse },
    ]);
    const said = (await house.call<{ rows: { fact: object }[] }>('GET', '/history')).body.rows.map((r) => r.fact);
    expect(said).toContainEqual({ is: 'import-timed', name: 'prices.csv', at });
  });
  it('is not written before, nor once the time was taken away', async () => {
    const { id } = await take(`SKU;Price\n${sku};82.20\n`);
    await time(id, later());
    await house.db.transaction((tx) => wakeImportClock(tx));
    expect((await time(id, null)).body).toMatchObject({ state: 'planned', due: null });
    const other = await take(`SKU;Price\n${sku};83.30\n`);
    await time(other.id, later());
    await come(other.id);
    await isAt(other.id, 'applied');
    expect([(await read(id)).state, await priceOf()]).toEqual(['planned', 83.3]);
    await house.call('DELETE', `/imports/${id}`);
  });
  it('goes on where it is being read just when its time comes', async () => {
    const { id, reading } = await take(`SKU;Price\n${sku};84.40\n`);
    await time(id, later());
    await house.rows(`update imports set due_at = now(), next_at = null where id = ?`, [id]);
    await house.call('PUT', `/imports/${id}/reading`, { ...reading, blankClears: true });
    await isAt(id, 'applied');
    expect(await priceOf()).toBe(84.4);
  });
  it('waits for a person again where its prices can be read in two ways by then', async () => {
    const { id } = await take(`SKU;Price\n${sku};85.50\n`);
    await time(id, later());
    await house.rows(
      `update imports set reading = jsonb_set(reading, '{decimalSign}', '"undetermined"') where id = ?`,
      [id],
    );
    await come(id);
    const left = await until(
      () => read(id),
      (i) => i.state === 'planned' && i.due === null,
    );
    expect(left.counts.applied).toBe(0);
    expect((await time(id, later())).body).toMatchObject({ field: 'decimalSign' });
    expect(await priceOf()).toBe(84.4);
    await house.call('DELETE', `/imports/${id}`);
  });
  it('can be written at once all the same', async () => {
    const { id } = await take(`SKU;Price\n${sku};86.60\n`);
    await time(id, later());
    await house.call('POST', `/imports/${id}/apply`);
    expect((await isAt(id, 'applied')).due).toBeNull();
    expect((await time(id, later())).status).toBe(409);
  });
  it.each([
    ['2020-01-01T00:00:00Z', 400, '2020-01-01T00:00:00.000Z has passed already.'],
    ['2999-01-01T00:00:00Z', 400, '2999-01-01T00:00:00.000Z is more than 400 days ahead.'],
    ['tomorrow', 400, undefined],
  ])('is refused at %s', async (at, status, message) => {
    const { id } = await take(`SKU;Price\n${sku};87.70\n`);
    const answer = await house.call<{ message: string }>('PUT', `/imports/${id}/time`, { at });
    expect(answer.status).toBe(status);
    if (message !== undefined) expect(answer.body.message).toBe(message);
    expect((await read(id)).due).toBeNull();
    await house.call('DELETE', `/imports/${id}`);
  });
});
