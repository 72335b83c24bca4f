// What bundles are made of. An item with parts is a bundle, and one whose parts were all taken out is a single again.
import type { Value } from '@basileus/core/listing';
import { type CellFault, readParts, writeParts } from '@basileus/core/product';
import { type Db, rowsOf } from '../database';

/** The parts of bundles as values, by item; nothing of what has none. */
export async function loadParts(db: Db, ids: readonly number[]): Promise<ReadonlyMap<number, string[]>> {
  const rows = await rowsOf<{ id: number; sku: string; count: number }>(
    db,
    `select b.bundle_id as id, p.sku, b.count from bundle_parts b join products p on p.id = b.part_id
      where b.bundle_id = any(?) order by b.bundle_id, p.shelf_order, p.id`,
    [[...ids]],
  );
  const byItem = new Map<number, { sku: string; count: number }[]>();
  for (const { id, ...part } of rows) (byItem.get(id) ?? byItem.set(id, []).get(id)!).push(part);
  return new Map([...byItem].map(([id, parts]) => [id, writeParts(parts)]));
}

/** Bundles that an item is a part of, by their SKUs. */
export const loadBundlesOf = async (db: Db, id: number): Promise<string[]> =>
  (
    await rowsOf<{ sku: string }>(
      db,
      'select p.sku from bundle_parts b join products p on p.id = b.bundle_id where b.part_id = ? order by p.shelf_order',
      [id],
    )
  ).map((r) => r.sku);

/** What keeps parts from being those of an item, as the catalog stands; undefined where nothing does. */
export async function findPartsFault(
  db: Db,
  item: { id: number; sku: string },
  value: Value | null,
): Promise<CellFault | undefined> {
  const read = readParts(value);
  if (!read.ok || read.parts.length === 0) return undefined;
  const [holder] = await loadBundlesOf(db, item.id);
  if (holder !== undefined) return { kind: 'is-a-part', of: holder };
  const kinds = new Map(
    (
      await rowsOf<{ sku: string; kind: string }>(db, 'select sku, kind from products where sku = any(?) for share', [
        read.parts.map((p) => p.sku),
      ])
    ).map((r) => [r.sku, r.kind]),
  );
  for (const { sku } of read.parts) {
    if (sku === item.sku) return { kind: 'holds-itself', sku };
    const kind = kinds.get(sku);
    if (kind === undefined) return { kind: 'no-such-item', sku };
    if (kind === 'family' || kind === 'bundle') return { kind: 'part-is', sku, is: kind };
  }
  return undefined;
}

/** Makes items bundles of these parts, or singles where there are none. The parts are there. */
export async function setParts(db: Db, bundles: readonly { id: number; value: Value | null }[]): Promise<void> {
  if (bundles.length === 0) return;
  const rows = bundles.flatMap(({ id, value }) => {
    const read = readParts(value);
    return read.ok ? read.parts.map((p) => ({ id, ...p })) : [];
  });
  await db.raw('delete from bundle_parts where bundle_id = any(?)', [bundles.map((b) => b.id)]);
  await db.raw(
    `insert into bundle_parts (bundle_id, part_id, count)
      select r.id, p.id, r.count from jsonb_to_recordset(?::jsonb) as r(id bigint, sku text, count int)
        join products p on p.sku = r.sku`,
    [JSON.stringify(rows)],
  );
  await db.raw(
    `update products p
      set kind = case when exists (select 1 from bundle_parts b where b.bundle_id = p.id) then 'bundle' else 'single' end,
        version = p.version + 1, updated_at = now()
      where p.id = any(?)`,
    [bundles.map((b) => b.id)],
  );
}
