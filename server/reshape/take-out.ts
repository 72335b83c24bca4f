// Items taken out of the catalog with what is kept of them, so that they can be added again as they were.
import { z } from 'zod';
import { type Db, rowsOf } from '../database';
import { announce } from '../events';
import { refreshProducts } from '../listings';
import { getStock, leaveEntries, loadProductRows, standsSql, toFields } from '../products';

const values = z.record(z.string(), z.union([z.string(), z.array(z.string()).readonly()]));
/** What is kept of an item that was removed. */
export const removedRecord = z.object({
  kind: z.enum(['single', 'family', 'variant', 'bundle']),
  parentSku: z.string().nullable(),
  axes: z.array(z.string()),
  fields: values,
  listings: z.array(
    z.object({
      market: z.number(),
      category: z.string().nullable(),
      overrides: values,
      isLeftOut: z.boolean().default(false),
      sitesOut: z.array(z.string()).default([]),
    }),
  ),
  /** How many were reserved; what is on hand stands among the fields. */
  reserved: z.number().default(0),
  /** What a bundle is made of. */
  parts: z.array(z.object({ sku: z.string(), count: z.number() })).default([]),
});
type RemovedRecord = z.input<typeof removedRecord>;

/**
 * Removes items that nothing holds any more, as a part of a change set. What markets know of them is put aside; who hangs on them
 * is followed up. Answers those that went: one that was put into a file for a market just now stays.
 */
export async function takeOut(db: Db, meant: readonly number[], into: number): Promise<number[]> {
  if (meant.length === 0) return [];
  await db.raw('select id from products where id = any(?) order by id for update', [[...meant]]);
  // Whoever makes a file holds the listings that go into it: judged is what stands when they are done.
  await db.raw('select id from listings where product_id = any(?) order by id for update', [[...meant]]);
  const free = await rowsOf<{ id: number }>(
    db,
    `select p.id from products p where p.id = any(?) and not ${standsSql('p.id')}`,
    [[...meant]],
  );
  const ids = free.map((p) => p.id);
  if (ids.length === 0) return [];
  const rows = await loadProductRows(db, 'p.id = any(?)', [[...ids]]);
  const listings = await rowsOf<RemovedRecord['listings'][number] & { product_id: number }>(
    db,
    `select product_id, market_id as market, category, overrides, market_state = 'left out' as "isLeftOut", sites_out as "sitesOut"
      from listings where product_id = any(?)`,
    [[...ids]],
  );
  const parts = await rowsOf<{ bundle_id: number; sku: string; count: number }>(
    db,
    'select b.bundle_id, p.sku, b.count from bundle_parts b join products p on p.id = b.part_id where b.bundle_id = any(?) order by p.sku',
    [[...ids]],
  );
  const records = rows.map((r) => {
    const { sku: _, parent_sku: parent, ...fields } = toFields(r);
    const record: RemovedRecord = {
      kind: r.kind,
      parentSku: typeof parent === 'string' ? parent : null,
      axes: r.axes,
      fields,
      reserved: getStock(r)?.reserved ?? 0,
      listings: listings.filter((l) => l.product_id === r.id).map(({ product_id: _, ...l }) => l),
      parts: parts.filter((p) => p.bundle_id === r.id).map(({ sku, count }) => ({ sku, count })),
    };
    return { id: r.id, sku: r.sku, record };
  });
  await db.raw(
    `insert into change_products (change_set_id, product_id, sku, action, record)
      select ?, r.id, r.sku, 'removed', r.record from jsonb_to_recordset(?::jsonb) as r(id bigint, sku text, record jsonb)
      on conflict do nothing`,
    [into, JSON.stringify(records)],
  );
  // Who shared a barcode or nearly a SKU with them is judged anew.
  const alike = await rowsOf<{ id: number }>(
    db,
    `select distinct q.id from products p join products q on q.id <> p.id and (q.sku_fold = p.sku_fold or q.gtin14 = p.gtin14)
      where p.id = any(?) and not q.id = any(?)`,
    [[...ids], [...ids]],
  );
  await leaveEntries(db, ids);
  await db.raw('delete from products where id = any(?)', [[...ids]]);
  const parents = rows.flatMap((r) => r.parent_id ?? []).filter((p) => !ids.includes(p));
  await refreshProducts(db, [...new Set([...parents, ...alike.map((a) => a.id)])]);
  await announce(db, { topic: 'products' });
  return ids;
}
