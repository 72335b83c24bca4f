// The items that a change set added or removed, taken back in steps: removed again where nothing holds them, added again with
// what was kept of them.
import { type Db, parseColumn, rowsOf } from '../database';
import { announce } from '../events';
import { refreshProducts } from '../listings';
import { insertProducts, recordAdded } from '../products';
import { removedRecord, takeOut } from '../reshape';
import { keepSql } from './reversal';

const itemStep = 300;

/** Removes some of the items that the set added and that nothing holds; families after their variants. */
export async function removeStep(db: Db, set: number, into: number): Promise<number> {
  const items = await rowsOf<{ product_id: number; sku: string; kind: string | null }>(
    db,
    `with judged as (${keepSql})
      select j.product_id, j.sku, j.kind from judged j
      where j.reason is null and not exists (select 1 from products v where v.parent_id = j.product_id)
      order by j.product_id limit ?`,
    [set, itemStep],
  );
  if (items.length === 0) return 0;
  // One that is being sent since it was judged stays, and is judged again.
  const ids = await takeOut(
    db,
    items.map((i) => i.product_id),
    into,
  );
  await db.raw('update change_products set reversed = true where change_set_id = ? and product_id = any(?)', [
    set,
    ids,
  ]);
  return items.length;
}

/** Notes why the items that are left stay. */
export const keepTheRest = (db: Db, set: number): Promise<unknown> =>
  db.raw(
    `update change_products a
      set reversed = true, left_as = case when j.reason = 'gone' then null else coalesce(j.reason, 'family') end
      from (${keepSql}) j
      where a.change_set_id = ? and a.product_id = j.product_id`,
    [set, set],
  );

/** Adds some of the items again that the set had removed; families before their variants. */
export async function addStep(db: Db, set: number, into: number): Promise<number> {
  const rows = await rowsOf<{ product_id: number; sku: string; record: unknown }>(
    db,
    `select product_id, sku, record from change_products
      where change_set_id = ? and action = 'removed' and not reversed
      order by array_position(array['family', 'single', 'variant', 'bundle'], record ->> 'kind'), product_id limit ?`,
    [set, itemStep],
  );
  if (rows.length === 0) return 0;
  const items = rows.map((r) => ({ ...r, record: parseColumn('change_products.record', removedRecord, r.record) }));
  // A family may have been taken by another item of its name, or be gone.
  const families = new Set(
    (
      await rowsOf<{ sku: string }>(db, `select sku from products where kind = 'family' and sku = any(?)`, [
        items.flatMap((i) => i.record.parentSku ?? []),
      ])
    ).map((f) => f.sku),
  );
  const added: { id: number; sku: string }[] = [];
  for (const isVariant of [false, true]) {
    const some = items.filter((i) => (i.record.kind === 'variant') === isVariant);
    for (const a of added) families.add(a.sku);
    added.push(
      ...(await insertProducts(
        db,
        some.map(({ sku, record }) => {
          const parentSku = record.parentSku !== null && families.has(record.parentSku) ? record.parentSku : null;
          const kind = record.kind === 'variant' && parentSku === null ? 'single' : record.kind;
          return { sku, kind, parentSku, axes: record.axes, fields: record.fields };
        }),
      )),
    );
  }
  await recordAdded(db, into, added);
  const idOf = new Map(added.map((a) => [a.sku, a.id]));
  await db.raw(
    `update listings l
      set category = r.category, overrides = r.overrides, sites_out = array(select jsonb_array_elements_text(r."sitesOut")),
        market_state = case when r."isLeftOut" then 'left out' else l.market_state end
      from jsonb_to_recordset(?::jsonb) as r(product bigint, market int, category text, overrides jsonb, "isLeftOut" boolean, "sitesOut" jsonb)
      where l.product_id = r.product and l.market_id = r.market`,
    [
      JSON.stringify(
        items.flatMap((i) => {
          const product = idOf.get(i.sku);
          return product === undefined ? [] : i.record.listings.map((l) => ({ product, ...l }));
        }),
      ),
    ],
  );
  await db.raw(
    `update stock s set reserved = r.reserved
      from jsonb_to_recordset(?::jsonb) as r(product bigint, reserved int) where s.product_id = r.product`,
    [JSON.stringify(items.map((i) => ({ product: idOf.get(i.sku), reserved: i.record.reserved })))],
  );
  await db.raw(
    `insert into bundle_parts (bundle_id, part_id, count)
      select r.bundle, p.id, r.count from jsonb_to_recordset(?::jsonb) as r(bundle bigint, sku text, count int)
        join products p on p.sku = r.sku
      on conflict do nothing`,
    [
      JSON.stringify(
        items.flatMap((i) => {
          const bundle = idOf.get(i.sku);
          return bundle === undefined ? [] : i.record.parts.map((p) => ({ bundle, ...p }));
        }),
      ),
    ],
  );
  await db.raw(
    `update change_products a
      set reversed = true, left_as = case when exists (select 1 from change_products n where n.change_set_id = ? and n.sku = a.sku) then null else 'taken' end
      where a.change_set_id = ? and a.product_id = any(?)`,
    [into, set, items.map((i) => i.product_id)],
  );
  await refreshProducts(
    db,
    added.map((a) => a.id),
  );
  await announce(db, { topic: 'products' });
  return items.length;
}
