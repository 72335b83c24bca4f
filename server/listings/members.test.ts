// What follows a change of one member of a family: that alone, or the others too where they see something new of it.
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type House, openHouse } from '../tests/house';
import { loadCorrespondences, loadMarkets } from '../markets';
import { judgeRows } from './judge';
import { loadFullRows } from './rows';

let house: House;
beforeAll(async () => {
  house = await openHouse('members_test', { size: 400, with: ['lumbara', 'torgvik'] });
});
afterAll(() => house.close());

interface Item {
  id: number;
  sku: string;
  root: number;
  kind: string;
  fields: Record<string, string>;
}
const variants = () =>
  house.rows<Item>(
    `select p.id, p.sku, p.parent_id as root, p.kind, jsonb_build_object('price', p.price::text, 'title', p.title, 'brand', p.brand,
        'fact.colour', p.facts ->> 'colour', 'fact.material', p.facts ->> 'material', 'gtin', p.gtin) as fields
      from products p where p.kind = 'variant' order by p.id`,
  );
const patch = async (id: number, field: string, before: string | null, after: string | null) => {
  const answer = await house.call<{ applied: number }>('PATCH', '/products', { cells: [{ id, field, before, after }] });
  expect([answer.status, answer.body.applied]).toEqual([200, 1]);
};
/** When each listing was last written, by the transaction that wrote it. */
const writers = async () =>
  new Map(
    (
      await house.rows<{ id: number; product: number; by: string }>(
        'select id, product_id as product, xmin::text as by from listings order by id',
      )
    ).map((r) => [r.id, r]),
  );
/** Everything judged anew from nothing, beside what stands. */
async function findUntrue(): Promise<string[]> {
  const untrue: string[] = [];
  for (const market of await loadMarkets(house.db)) {
    const rows = await loadFullRows(house.db, market.id, 'true', []);
    const c = await loadCorrespondences(house.db, market.id);
    for (const o of await judgeRows(house.db, market, c, rows))
      if (o.isRowNew || o.areFindingsNew)
        untrue.push(`${market.key} ${rows.find((r) => r.listing_id === o.id)!.sku} ${o.isRowNew ? 'row' : 'findings'}`);
  }
  return untrue;
}

describe('a change of a variant', () => {
  it('that the others do not see is followed up on it alone', async () => {
    expect(await findUntrue()).toEqual([]);
    const [one] = await variants();
    // What it shows is noted from its first change on.
    await patch(one!.id, 'price', one!.fields['price']!, '77.01');
    const before = await writers();
    await patch(one!.id, 'price', '77.01', '77.02');
    const written = [...(await writers())].filter(([id, w]) => before.get(id)!.by !== w.by).map(([, w]) => w.product);
    expect(written.length).toBeGreaterThan(0);
    expect(new Set(written)).toEqual(new Set([one!.id]));
    expect(await findUntrue()).toEqual([]);
  });
  it('that makes it the same as another is found on both', async () => {
    const all = await variants();
    const one = all.find((v) => v.fields['fact.colour'] !== null)!;
    const other = all.find(
      (v) => v.root === one.root && v.id !== one.id && v.fields['fact.colour'] !== one.fields['fact.colour'],
    )!;
    const twins = () =>
      house.rows<{ n: number }>(
        `select count(*)::int as n from findings f join listings l on l.id = f.listing_id where f.message = 'duplicate' and l.product_id = ${other.id}`,
      );
    const [before] = await twins();
    await patch(one.id, 'fact.colour', one.fields['fact.colour']!, other.fields['fact.colour']!);
    expect((await twins())[0]!.n).toBeGreaterThan(before!.n);
    expect(await findUntrue()).toEqual([]);
    await patch(one.id, 'fact.colour', other.fields['fact.colour']!, one.fields['fact.colour']!);
    expect(await twins()).toEqual([before]);
    expect(await findUntrue()).toEqual([]);
  });
  it('leaves every listing true, whatever was changed of whom, one after the other', async () => {
    const all = await variants();
    const families = await house.rows<{ id: number; title: string; brand: string }>(
      `select id, title, brand from products where kind = 'family' order by id limit 6`,
    );
    for (const [i, f] of families.entries()) {
      const members = all.filter((v) => v.root === f.id);
      const [first, second] = members;
      if (!first || !second) continue;
      const steps: [number, string, string | null, string | null][] = [
        [first.id, 'brand', first.fields['brand'] ?? null, `Brand ${i}`],
        [f.id, 'brand', f.brand, `Brand ${i}`],
        [second.id, 'gtin', second.fields['gtin'] ?? null, first.fields['gtin'] ?? '4006381333931'],
        [second.id, 'gtin', first.fields['gtin'] ?? '4006381333931', '5901234123457'],
        [first.id, 'fact.material', first.fields['fact.material'] ?? null, 'Oak'],
        [first.id, 'parent_sku', null, null],
      ];
      for (const [id, field, before, after] of steps) {
        if (field === 'parent_sku') {
          const [sku] = await house.rows<{ sku: string }>(`select sku from products where id = ${f.id}`);
          await patch(id, field, sku!.sku, null);
        } else if (before !== after) await patch(id, field, before, after);
      }
      expect(await findUntrue()).toEqual([]);
    }
  });
});
