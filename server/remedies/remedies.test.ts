// Mends for all rows of a cause: tried first, applied where they settle it, taken back as one.
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { type House, openHouse, takeBack } from '../tests/house';

let house: House;
beforeAll(async () => {
  house = await openHouse('remedies_test', { size: 700 });
});
afterAll(async () => {
  await house.close();
});

const m = '/markets/quillhaven';
interface CauseRow {
  check: string;
  message: string;
  field: string;
  level: string;
  count: number;
  safe: number;
  likely: number;
  found: number;
}
interface Preview {
  safe: number;
  likely: number;
  left: number;
  rows: { id: number; sku: string; sureness: string; changes: { field: string; before: unknown; after: unknown }[] }[];
}
interface Fill {
  settles: number;
  fails: { count: number; finding: { check: string } }[];
  memory: { kind: string; words: string[] };
  changed: number;
  changeSet: number | null;
}
const causes = async (query = '') =>
  (await house.call<{ rows: CauseRow[]; blockers: number }>('GET', `${m}/causes${query}`)).body;
const keyOf = ({ check, message, field }: CauseRow) => ({ check, message, field });
const preview = async (cause: object) => (await house.call<Preview>('POST', `${m}/remedies/preview`, cause)).body;
const mend = async (body: object) =>
  (await house.call<{ changed: number; left: number; changeSet: number | null }>('POST', `${m}/remedies`, body)).body;
const tryFill = async (body: object) => (await house.call<Fill>('POST', `${m}/fill/preview`, body)).body;
const fill = async (body: object) => (await house.call<Fill>('POST', `${m}/fill`, body)).body;
const withCause = (cause: object) => {
  const { check, message, field } = cause as CauseRow;
  return house.rows<{ id: number; sku: string }>(
    `select l.id, p.sku from listings l join products p on p.id = l.product_id
      where exists (select 1 from findings f where f.listing_id = l.id and f."check" = ? and f.message = ? and f.field = ?)
      order by l.id`,
    [check, message, field],
  );
};

describe('mechanical remedies', () => {
  it('are shown for every row, mend what they settle, and are taken back as one', async () => {
    const before = await causes();
    const cause = before.rows.find((c) => c.safe > 1 && c.safe === c.count)!;
    const shown = await preview(keyOf(cause));
    expect(shown).toMatchObject({ safe: cause.count, likely: 0, left: 0 });
    expect(shown.rows).toHaveLength(cause.count);
    expect((await causes()).blockers).toBe(before.blockers);
    const done = await mend(keyOf(cause));
    expect(done).toMatchObject({ changed: cause.count, left: 0 });
    expect(await withCause(cause)).toEqual([]);
    await takeBack(house, done.changeSet!);
    expect(await withCause(cause)).toHaveLength(cause.count);
  });
  it('that are only likely wait for a tick, row by row', async () => {
    const cause = (await causes()).rows.find((c) => c.safe === 0 && c.likely > 2 && c.check !== 'identifier-twice')!;
    const shown = await preview(keyOf(cause));
    expect(shown.likely).toBeGreaterThan(2);
    expect(await mend(keyOf(cause))).toMatchObject({ changed: 0, changeSet: null });
    const [first, second] = shown.rows;
    const one = await mend({ ...keyOf(cause), also: [first!.id] });
    expect(one.changed).toBe(1);
    expect((await withCause(cause)).map((l) => l.id)).not.toContain(first!.id);
    const rest = await mend({ ...keyOf(cause), likely: true, except: [second!.id] });
    expect(rest.changed).toBe(shown.likely - 2);
    expect((await withCause(cause)).map((l) => l.id)).toContain(second!.id);
    await takeBack(house, rest.changeSet!);
    await takeBack(house, one.changeSet!);
  });
  it('settle the cause they are counted for, or are counted as none', async () => {
    const mechanical = (await causes()).rows.filter((c) => c.safe + c.likely > 0);
    expect(mechanical.length).toBeGreaterThan(8);
    for (const cause of mechanical) {
      const shown = await preview(keyOf(cause));
      expect({ cause: keyOf(cause), left: shown.left }).toEqual({
        cause: keyOf(cause),
        left: cause.count - shown.safe - shown.likely,
      });
      expect({ cause: keyOf(cause), none: shown.safe + shown.likely === 0 }).toEqual({
        cause: keyOf(cause),
        none: false,
      });
    }
  });
});

describe('one value for all rows of a cause', () => {
  const torch = { check: 'demanded-missing', message: 'mustBecause', field: 'battery_un_number' };
  beforeEach(async () => {
    expect((await withCause(torch)).length).toBeGreaterThan(2);
  });
  it('is tried first: what the market would refuse is said and not written', async () => {
    const rows = await withCause(torch);
    const before = (await causes()).blockers;
    expect(await tryFill({ ...torch, value: '3090x' })).toMatchObject({
      settles: 0,
      fails: [{ count: rows.length, finding: { check: 'pattern-mismatch' } }],
    });
    expect(await fill({ ...torch, value: '3090x' })).toMatchObject({ changed: 0, changeSet: null });
    expect((await causes()).blockers).toBe(before);
    expect(await withCause(torch)).toEqual(rows);
  });
  it('goes into the selected rows alone', async () => {
    const rows = await withCause(torch);
    const ids = rows.slice(0, 2).map((r) => r.id);
    const done = await fill({ ...torch, value: 'UN3481', ids });
    expect(done).toMatchObject({ settles: 2, changed: 2, fails: [] });
    expect((await withCause(torch)).map((r) => r.id)).toEqual(rows.slice(2).map((r) => r.id));
    await takeBack(house, done.changeSet!);
  });
  it('is remembered for every item where nothing of ours feeds the field', async () => {
    expect((await tryFill({ ...torch, value: 'UN3481' })).memory).toEqual({ kind: 'field', words: [] });
    const done = await fill({ ...torch, value: 'UN3481', remember: true });
    expect(done.changed).toBeGreaterThan(2);
    expect(await withCause(torch)).toEqual([]);
    await house.call('PUT', `${m}/fields/battery_un_number`, { source: null });
  });
  it('is remembered for the word of ours that it stands for', async () => {
    const cause = (await causes()).rows.find((c) => c.check === 'value-not-allowed' && c.field === 'colour')!;
    const rows = await withCause(cause);
    const book = await house.call<{ codeLists: { colour: { entries: { code: string }[] } } }>('GET', `${m}/rulebook`);
    const black = book.body.codeLists.colour.entries[0]!.code;
    const trial = await tryFill({ ...keyOf(cause), value: black });
    expect(trial.memory.kind).toBe('value');
    expect(trial.memory.words.length).toBeGreaterThan(0);
    await fill({ ...keyOf(cause), value: black, remember: true });
    expect(await withCause(cause)).toEqual([]);
    expect(
      await house.rows(
        `select distinct "values" ->> 'colour' as c, overrides -> 'colour' is not null as typed
          from listings where id = any(?)`,
        [rows.map((r) => r.id)],
      ),
    ).toEqual([{ c: black, typed: false }]);
    for (const ours of trial.memory.words)
      await house.call('PUT', `${m}/values`, { codes: [{ attribute: 'colour', ours, theirs: null }] });
  });
});

describe('causes', () => {
  it('are narrowed to a brand, an own category, a market category, and what is searched for', async () => {
    const all = (await causes()).rows;
    const facts = await house.rows<{ brand: string; own: string; category: string; sku: string }>(
      `select p.brand, p.category as own, l.category, p.sku from findings f
        join listings l on l.id = f.listing_id join products p on p.id = l.product_id
        where f.level = 'blocker' and p.brand is not null and p.category is not null and l.category is not null
        order by f.id limit 1`,
    );
    const { brand, own, category, sku } = facts[0]!;
    const sum = (rows: CauseRow[], of: 'count' | 'found') => rows.reduce((n, c) => n + c[of], 0);
    for (const [query, condition, value] of [
      [`?brand=${encodeURIComponent(brand)}`, 'p.brand = ?', brand],
      [`?ownCategory=${encodeURIComponent(own)}`, 'p.category = ?', own],
      [`?category=${category}`, 'l.category = ?', category],
    ] as const) {
      const narrow = (await causes(query)).rows;
      const [counted] = await house.rows<{ n: number }>(
        `select count(distinct (f.listing_id, f."check", f.message, f.field)) as n from findings f
          join listings l on l.id = f.listing_id join products p on p.id = l.product_id where ${condition}`,
        [value],
      );
      expect(sum(narrow, 'count')).toBe(counted!.n);
      expect(counted!.n).toBeLessThan(sum(all, 'count'));
    }
    const found = (await causes(`?search=${sku}`)).rows;
    expect(sum(found, 'count')).toBe(sum(all, 'count'));
    expect(sum(found, 'found')).toBeGreaterThan(0);
    expect(sum(found, 'found')).toBeLessThan(sum(all, 'found'));
  });
});
