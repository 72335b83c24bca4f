// The items that a change set added or removed, taken back in steps: removed again where nothing holds them, added again with
// what was kept of them.
import { z } from 'zod';
import { type Db, parseColumn, rowsOf } from '../database';
import { announce } from '../events';
import { refreshProducts } from '../listings';
import { insertProducts, loadProductRows, recordAdded, toFields } from '../products';
import { keepSql } from './reversal';

const itemStep = 300;

const values = z.record(z.string(), z.union([z.string(), z.array(z.string()).readonly()]));
/** What is kept of an item that was removed, so that it can be added again. */
const removedRecord = z.object({
  kind: z.enum(['single', 'family', 'variant', 'bundle']),
  parentSku: z.string().nullable(),
  axes: z.array(z.string()),
  fields: values,
  listings: z.array(z.object({ market: z.number(), category: z.string().nullable(), overrides: values })),
});
type RemovedRecord = z.input<typeof removedRecord>;

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
  const ids = items.map((i) => i.product_id);
  await db.raw('select id from products where id = any(?) order by id for update', [ids]);
  const rows = await loadProductRows(db, 'p.id = any(?)', [ids]);
  const listings = await rowsOf<RemovedRecord['listings'][number] & { product_id: number }>(
    db,
    `select product_id, market_id as market, category, overrides from listings where product_id = any(?)`,
    [ids],
  );
  const records = rows.map((r) => {
    const { sku: _, parent_sku: parent, ...fields } = toFields(r);
    const record: RemovedRecord = {
      kind: r.kind,
      parentSku: typeof parent === 'string' ? parent : null,
      axes: r.axes,
      fields,
      listings: listings.filter((l) => l.product_id === r.id).map(({ product_id: _, ...l }) => l),
    };
    return { id: r.id, sku: r.sku, record };
  });
  await db.raw(
    `insert into change_products (change_set_id, product_id, sku, action, record)
      select ?, r.id, r.sku, 'removed', r.record from jsonb_to_recordset(?::jsonb) as r(id bigint, sku text, record jsonb)
      on conflict do nothing`,
    [into, JSON.stringify(records)],
  );
  await db.raw('update change_products set reversed = true where change_set_id = ? and product_id = any(?)', [
    set,
    ids,
  ]);
  // Who shared a barcode or nearly a SKU with them is judged anew.
  const alike = await rowsOf<{ id: number }>(
    db,
    `select distinct q.id from products p join products q on q.id <> p.id and (q.sku_fold = p.sku_fold or q.gtin14 = p.gtin14)
      where p.id = any(?) and not q.id = any(?)`,
    [ids, ids],
  );
  await db.raw('delete from products where id = any(?)', [ids]);
  const parents = rows.flatMap((r) => r.parent_id ?? []);
  await refreshProducts(db, [...new Set([...parents, ...alike.map((a) => a.id)])]);
  await announce(db, { topic: 'products' });
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

/** Adds some of the items again that the set had removed; families before their variants. Their stock stays unknown. */
export async function addStep(db: Db, set: number, into: number): Promise<number> {
  const rows = await rowsOf<{ product_id: number; sku: string; record: unknown }>(
    db,
    `select product_id, sku, record from change_products
      where change_set_id = ? and action = 'removed' and not reversed
      order by record ->> 'kind' = 'variant', product_id limit ?`,
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
          const { stock: _, ...fields } = record.fields;
          const parentSku = record.parentSku !== null && families.has(record.parentSku) ? record.parentSku : null;
          const kind = record.kind === 'variant' && parentSku === null ? 'single' : record.kind;
          return { sku, kind, parentSku, axes: record.axes, fields };
        }),
      )),
    );
  }
  await recordAdded(db, into, added);
  const idOf = new Map(added.map((a) => [a.sku, a.id]));
  await db.raw(
    `update listings l
      set category = r.category, overrides = r.overrides
      from jsonb_to_recordset(?::jsonb) as r(product bigint, market int, category text, overrides jsonb)
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
