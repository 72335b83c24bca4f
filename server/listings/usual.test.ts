// What measures usually are in a category of ours, and the finding of one that slipped.
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type House, openHouse } from '../tests/house';
import { loadUsual, refreshUsual } from './usual';

let house: House;
beforeAll(async () => {
  house = await openHouse('usual_test', { size: 150, worker: false });
});
afterAll(() => house.close());

const pans = async () => (await loadUsual(house.db, ['Frying pans'])).get('Frying pans');
const found = async (sku: string) =>
  (
    await house.call<{
      rows: { sku: string; findings: { check: string; message: string; field: string; params: object }[] }[];
    }>('GET', `/markets/quillhaven/listings?search=${sku}`)
  ).body.rows
    .find((r) => r.sku === sku)!
    .findings.filter((f) => f.check === 'unusual-measure');

describe('the usual measures', () => {
  it('are kept by our own category, of the fields that are measures', async () => {
    const usual = await pans();
    expect(usual!['fact.diameter']).toMatchObject({ unit: 'cm' });
    expect(Number(usual!['fact.diameter']!.amount)).toBeGreaterThan(15);
    expect(Object.keys(usual!)).not.toContain('fact.colour');
    expect((await loadUsual(house.db, ['Nothing such'])).size).toBe(0);
  });
  it('tell at once of a unit that slipped, with the mend, on every market that takes the field', async () => {
    const [pan] = await house.rows<{ id: number; sku: string; was: string }>(
      `select p.id, p.sku, p.facts ->> 'diameter' as was from products p join listings l on l.product_id = p.id
        where p.category = 'Frying pans' and p.kind = 'variant' and p.facts ->> 'diameter' = '24 cm' and l.category is not null
        order by p.id limit 1`,
    );
    expect(await found(pan!.sku)).toEqual([]);
    const set = (before: string, after: string) =>
      house.call('PATCH', '/products', { cells: [{ id: pan!.id, field: 'fact.diameter', before, after }] });
    await set('24 cm', '2400 cm');
    expect(await found(pan!.sku)).toMatchObject([
      { message: 'tooMuch', params: { of: 'Frying pans', times: expect.any(Number) as number } },
    ]);
    await set('2400 cm', '24 cm');
    expect(await found(pan!.sku)).toEqual([]);
  });
  it('are left to whoever is making them', async () => {
    await house.rows(`update usual_measures set made_at = now() - interval '11 minutes'`);
    const stale = () =>
      house.rows<{ n: number }>(
        `select count(*)::int as n from usual_measures where made_at < now() - interval '10 minutes'`,
      );
    const before = await stale();
    await house.db.transaction(async (tx) => {
      await tx.raw(`select pg_advisory_xact_lock(hashtext('usual-measures'))`);
      await refreshUsual(house.db);
    });
    expect([before[0]!.n > 0, await stale()]).toEqual([true, before]);
    await refreshUsual(house.db);
    expect(await stale()).toEqual([{ n: 0 }]);
  });
  it('are made anew after a while, and not before', async () => {
    await house.rows(`update products set facts = facts || '{"diameter": "30 cm"}' where category = 'Frying pans'`);
    const before = await pans();
    await refreshUsual(house.db);
    expect(await pans()).toEqual(before);
    await house.rows(`update usual_measures set made_at = now() - interval '11 minutes'`);
    await refreshUsual(house.db);
    expect((await pans())!['fact.diameter']).toMatchObject({ amount: '30', unit: 'cm' });
  });
});
