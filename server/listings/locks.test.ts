// Two who write the same listing: who comes second waits, and then sees what the first has made. Each of these fails where
// the lock it is named for is taken out.
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { loadCorrespondences, loadMarket } from '../markets';
import { type House, openHouse, until } from '../tests/house';
import { refreshInPages } from './refresh';
import { patchListingCells } from './service';

let house: House;
beforeAll(async () => {
  house = await openHouse('locks_test', { size: 300, worker: false });
});
afterAll(async () => {
  await house.close();
});

interface Row {
  id: number;
  root: number;
  category: string;
  title: string;
}
const someListing = async (at: number): Promise<Row> =>
  (
    await house.rows<Row>(
      `select l.id, coalesce(p.parent_id, p.id) as root, l.category, l."values" ->> 'title' as title
        from listings l join products p on p.id = l.product_id
        where l.category is not null and p.kind <> 'family' order by l.id offset ? limit 1`,
      [at],
    )
  )[0]!;
/** Until somebody waits for a lock in this database. */
const somebodyWaits = () =>
  until(
    () => house.rows(`select 1 from pg_stat_activity where datname = current_database() and wait_event_type = 'Lock'`),
    (r) => r.length > 0,
  );

describe('who comes second', () => {
  it('to a listing waits for the first, and leaves what the first has changed', async () => {
    const { id, title } = await someListing(0);
    const market = await loadMarket(house.db, 'quillhaven');
    const first = await house.db.transaction();
    await first.raw('select id from listings where id = ? for update', [id]);
    const second = patchListingCells(
      house.db,
      market.id,
      [{ id, field: 'title', before: title, after: 'Second' }],
      '',
      'second',
    );
    await somebodyWaits();
    await first.raw(
      `update listings set overrides = overrides || '{"title": "First"}', "values" = "values" || '{"title": "First"}' where id = ?`,
      [id],
    );
    await first.commit();
    expect((await second).conflicts).toEqual([{ id, field: 'title', now: 'First' }]);
    expect(await house.rows(`select overrides ->> 'title' as t from listings where id = ?`, [id])).toEqual([
      { t: 'First' },
    ]);
  });
  it('to check a listing anew waits for who is changing it, and checks what that has made of it', async () => {
    const { id } = await someListing(1);
    const market = await loadMarket(house.db, 'quillhaven');
    await house.rows('update listings set market_revision = 0 where id = ?', [id]);
    await loadCorrespondences(house.db, market.id);
    const first = await house.db.transaction();
    await first.raw('select id from listings where id = ? for update', [id]);
    const second = refreshInPages(house.db, market, [id], () => Promise.resolve());
    await somebodyWaits();
    await first.raw(`update listings set overrides = overrides || '{"title": "Changed meanwhile"}' where id = ?`, [id]);
    await first.commit();
    await second;
    expect(await house.rows(`select "values" ->> 'title' as t from listings where id = ?`, [id])).toEqual([
      { t: 'Changed meanwhile' },
    ]);
  });
});

describe('what is so already', () => {
  it('is not written again: a change sent twice, because its answer was lost, was made once', async () => {
    const [p] = await house.rows<{ id: number; brand: string | null }>(
      `select id, brand from products where kind <> 'family' order by id offset 2 limit 1`,
    );
    const cells = [{ id: p!.id, field: 'brand', before: p!.brand, after: 'Twice told' }];
    const patch = () =>
      house.call<{ applied: number; changeSet: number | null; conflicts: unknown[] }>('PATCH', '/products', { cells });
    expect((await patch()).body.applied).toBe(1);
    const state = () => house.rows('select version, updated_at from products where id = ?', [p!.id]);
    const [before, sets] = [await state(), await house.rows('select count(*) as n from change_sets')];
    expect((await patch()).body).toMatchObject({ applied: 0, changeSet: null, conflicts: [] });
    expect(await state()).toEqual(before);
    expect(await house.rows('select count(*) as n from change_sets')).toEqual(sets);
  });
});

describe('a refusal', () => {
  it('stays open while the values are those that were refused, and is closed by another value', async () => {
    const { id, title } = await someListing(3);
    const market = await loadMarket(house.db, 'quillhaven');
    await house.rows('update listings set refusal_open = true, market_revision = 0 where id = ?', [id]);
    const isOpen = async () =>
      (await house.rows<{ o: boolean }>('select refusal_open as o from listings where id = ?', [id]))[0]!.o;
    await refreshInPages(house.db, market, [id], () => Promise.resolve());
    expect(await isOpen()).toBe(true);
    expect(await house.rows('select market_revision > 0 as r from listings where id = ?', [id])).toEqual([{ r: true }]);
    await patchListingCells(
      house.db,
      market.id,
      [{ id, field: 'title', before: title, after: `${title} anew` }],
      '',
      'x',
    );
    expect(await isOpen()).toBe(false);
  });
});

describe('a correspondence of values', () => {
  it('raises the revision of its market, so that what was checked against the old one is checked anew', async () => {
    const revision = async () =>
      (await house.rows<{ r: number }>(`select revision as r from markets where key = 'quillhaven'`))[0]!.r;
    const before = await revision();
    const body = { codes: [{ attribute: 'colour', ours: 'Navy blue', theirs: null }] };
    expect((await house.call('PUT', '/markets/quillhaven/values', body)).status).toBe(200);
    expect(await revision()).toBe(before + 1);
  });
});
