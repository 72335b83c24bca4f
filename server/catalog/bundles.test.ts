// Bundles made, changed and taken apart in the catalog, through the server's own doors.
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type House, openHouse, takeBack } from '../tests/house';

let house: House;
beforeAll(async () => {
  house = await openHouse('bundles_test', { size: 150 });
});
afterAll(() => house.close());

interface Item {
  id: number;
  sku: string;
  kind: string;
  stock: number | null;
}
const items = (where: string) =>
  house.rows<Item>(
    `select p.id, p.sku, p.kind, (select sum(on_hand)::int from stock s where s.product_id = p.id) as stock from products p where ${where} order by p.sku`,
  );
interface Patched {
  applied: number;
  changeSet: number;
  conflicts: unknown[];
  refused: { fault: { kind: string } }[];
}
const patch = async (id: number, field: string, before: unknown, after: unknown) =>
  (await house.call<Patched>('PATCH', '/products', { cells: [{ id, field, before, after }] })).body;
const parts = async (id: number) =>
  (await house.call<{ parts: string[]; partOf: string[] }>('GET', `/products/${id}/parts`)).body;
const shown = async (sku: string) =>
  (
    await house.call<{ rows: { kind: string; fields: Record<string, string> }[] }>(
      'GET',
      `/products?search=${sku}&open=all`,
    )
  ).body.rows[0]!;

/** A single that becomes a bundle of two of another single. */
async function makeBundle(): Promise<{ bundle: Item; part: Item }> {
  const [bundle, part] = await items(
    `kind = 'single' and not exists (select 1 from bundle_parts b where b.part_id = p.id)`,
  );
  expect((await patch(bundle!.id, 'parts', null, [`2 × ${part!.sku}`])).applied).toBe(1);
  return { bundle: bundle!, part: part! };
}

describe('an item with parts', () => {
  it('is a bundle, has as many as they are there for, on its markets too, and is a single again when that is taken back', async () => {
    const sold = await items(
      `kind in ('single', 'variant') and exists (select 1 from stock s where s.product_id = p.id)`,
    );
    const [whole] = sold.filter((i) => i.kind === 'single');
    const [one, two] = sold.filter((i) => i.id !== whole!.id);
    for (const [i, on] of [
      [one!, 7],
      [two!, 9],
    ] as const)
      await patch(i.id, 'stock', String(i.stock), String(on));
    await house.rows(`update stock set reserved = 0 where product_id in (${one!.id}, ${two!.id}) returning 1`);
    const made = await patch(whole!.id, 'parts', null, [`3 x ${one!.sku}`, two!.sku]);
    expect([made.applied, made.refused]).toEqual([1, []]);
    expect(await parts(whole!.id)).toEqual({
      parts: [`3 × ${one!.sku}`, `1 × ${two!.sku}`].sort((a, b) => (a.slice(4) < b.slice(4) ? -1 : 1)),
      partOf: [],
    });
    expect((await parts(one!.id)).partOf).toEqual([whole!.sku]);
    // Seven are there for two times three.
    expect(await shown(whole!.sku)).toMatchObject({ kind: 'bundle', fields: { stock: '2' } });
    await patch(one!.id, 'stock', '7', '12');
    expect((await shown(whole!.sku)).fields['stock']).toBe('4');
    const fewer = await patch(whole!.id, 'parts', (await parts(whole!.id)).parts, [`4 × ${one!.sku}`]);
    expect(await parts(whole!.id)).toEqual({ parts: [`4 × ${one!.sku}`], partOf: [] });
    expect((await shown(whole!.sku)).fields['stock']).toBe('3');
    await takeBack(house, fewer.changeSet);
    await takeBack(house, made.changeSet);
    expect(await parts(whole!.id)).toEqual({ parts: [], partOf: [] });
    const again = await shown(whole!.sku);
    expect([again.kind, again.fields['stock']]).toEqual(['single', String(whole!.stock)]);
  });
  it('says why what cannot be a part is none, and changes nothing', async () => {
    const { bundle, part } = await makeBundle();
    const [family] = await items(`kind = 'family'`);
    const [single] = await items(
      `kind = 'single' and not exists (select 1 from bundle_parts b where b.part_id = p.id)`,
    );
    const [variant] = await items(`kind = 'variant'`);
    const why = async (id: number, after: string[]) => (await patch(id, 'parts', null, after)).refused[0]?.fault.kind;
    expect(await why(single!.id, ['NO-SUCH'])).toBe('no-such-item');
    expect(await why(single!.id, [single!.sku])).toBe('holds-itself');
    expect(await why(single!.id, [family!.sku])).toBe('part-is');
    expect(await why(single!.id, [bundle.sku])).toBe('part-is');
    expect(await why(single!.id, ['0 × A'])).toBe('not-a-part');
    expect(await why(variant!.id, [single!.sku])).toBe('no-bundle');
    expect(await why(part.id, [single!.sku])).toBe('is-a-part');
    expect((await items(`id = ${single!.id}`))[0]!.kind).toBe('single');
  });
  it('is not changed over what somebody else has made of it', async () => {
    const { bundle } = await makeBundle();
    const before = (await parts(bundle.id)).parts;
    const outcome = await patch(bundle.id, 'parts', ['1 × SOMETHING'], null);
    expect(outcome.conflicts).toHaveLength(1);
    expect((await parts(bundle.id)).parts).toEqual(before);
  });
});
