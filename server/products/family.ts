// Which family an item is in: its kind, its parent, its place on the shelf and the fields by which it differs go together.
import { toNaturalKey } from '@basileus/core/text';
import { type Db, rowsOf } from '../database';

/** Families among some SKUs, by SKU. */
export const loadFamilies = async (db: Db, skus: readonly string[]): Promise<Map<string, number>> =>
  new Map(
    (
      await rowsOf<{ id: number; sku: string }>(
        db,
        `select id, sku from products where kind = 'family' and sku = any(?) order by id for share`,
        [[...skus]],
      )
    ).map((f) => [f.sku, f.id]),
  );

/**
 * Puts singles and variants into families, or out of theirs where none is named. The families are there. Answers the ids of
 * the families that they left.
 */
export async function moveToFamilies(
  db: Db,
  moves: readonly { id: number; sku: string; family: string | null }[],
): Promise<number[]> {
  if (moves.length === 0) return [];
  const left = await rowsOf<{ id: number }>(
    db,
    'select distinct parent_id as id from products where id = any(?) and parent_id is not null',
    [moves.map((m) => m.id)],
  );
  await db.raw(
    `update products p
      set kind = case when f.id is null then 'single' else 'variant' end, parent_id = f.id,
        axes = coalesce(f.axes, '[]'), shelf_order = r.shelf_order, version = p.version + 1, updated_at = now()
      from jsonb_to_recordset(?::jsonb) as r(id bigint, family text, shelf_order text)
      left join products f on f.sku = r.family
      where p.id = r.id and p.kind in ('single', 'variant')`,
    [JSON.stringify(moves.map(({ id, sku, family }) => ({ id, family, shelf_order: toNaturalKey(family ?? sku) })))],
  );
  // Those who stay have one member less: what is said of them is said anew.
  await db.raw(
    `update listings set market_revision = 0
      where market_revision <> 0 and product_id in (select id from products where id = any(?) or parent_id = any(?))`,
    [left.map((l) => l.id), left.map((l) => l.id)],
  );
  return left.map((l) => l.id);
}

/** Says by which fields the variants of families differ; the variants carry them too. */
export const setFamilyAxes = (db: Db, axes: readonly { id: number; axes: readonly string[] }[]): Promise<unknown> =>
  db.raw(
    `update products p set axes = r.axes, version = p.version + 1, updated_at = now()
      from jsonb_to_recordset(?::jsonb) as r(id bigint, axes jsonb)
      where coalesce(p.parent_id, p.id) = r.id`,
    [JSON.stringify(axes)],
  );
