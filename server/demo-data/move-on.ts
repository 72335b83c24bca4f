// What has changed in the demo's catalog since its markets last heard of it.
import { type Db, rowsOf } from '../database';

/** Time has passed since the market last heard from us: stock moved, some prices changed, one by a slip of the decimal point. */
export async function moveOn(db: Db, listingIds: readonly number[]): Promise<void> {
  const products = (
    await rowsOf<{ id: number }>(
      db,
      `select p.id
        from products p
        where p.kind in ('single', 'variant') and p.id in (select product_id from listings where id = any(?))
        order by p.id`,
      [listingIds],
    )
  ).map((p) => p.id);
  const every = (n: number, from: number) => products.filter((_, i) => i % n === from);
  await db.raw('update stock set on_hand = greatest(0, on_hand - 3 - product_id % 5) where product_id = any(?)', [
    every(9, 2),
  ]);
  await db.raw('update products set version = version + 1, price = round(price * 1.06) + 0.99 where id = any(?)', [
    every(23, 4),
  ]);
  await db.raw('update products set version = version + 1, price = price * 10 where id = any(?)', [
    products.slice(7, 8),
  ]);
  await db.raw(
    `update products
      set version = version + 1, highlights = highlights || '["Checked by hand before packing"]'::jsonb
      where id = any(?)`,
    [every(37, 5)],
  );
  await db.raw(
    `update products
      set version = version + 1,
        facts = jsonb_set(facts, '{price@eur}', to_jsonb(to_char((facts ->> 'price@eur')::numeric + 2, 'FM999999990.00')))
      where id = any(?) and facts ->> 'price@eur' is not null`,
    [every(29, 6)],
  );
}
