// Writing what was looked at: items, or the listings of one market. Trying and doing come through here.
import type { PreparedChange } from '@basileus/core/change';
import { readMarketKey } from '@basileus/core/product';
import { type Db, rowsOf } from '../database';
import { patchListingCells, refreshProducts, type Touch } from '../listings';
import { loadMarket } from '../markets';
import { openChangeSet, recordChangeSet, updateProducts } from '../products';
import type { Looked } from './meant';

/** Locks items, and their listings where these are changed, so that what is read after that is what is written over. */
export async function lockFor(tx: Db, change: PreparedChange, ids: readonly number[]): Promise<void> {
  await rowsOf(tx, 'select id from products where id = any(?) order by id for update', [ids]);
  if (change.market !== null)
    await rowsOf(
      tx,
      'select id from listings where product_id = any(?) and market_id = (select id from markets where key = ?) order by id for update',
      [ids, change.market],
    );
}

/** Opens a change set of what a bulk change is about; its title is put in later. */
export const openBulkSet = async (tx: Db, { market }: PreparedChange, actor: string): Promise<number> =>
  openChangeSet(tx, {
    title: 'Bulk change',
    actor,
    target: market === null ? 'products' : 'listings',
    marketId: market === null ? null : (await loadMarket(tx, market)).id,
  });

/** Writes what changes into a change set, and lets markets follow. Answers how many items were changed. */
export async function writeLooked(
  tx: Db,
  change: PreparedChange,
  looked: readonly Looked[],
  set: { id: number; actor: string },
): Promise<number> {
  const changed = looked.filter((l) => l.changes.length > 0);
  if (change.market === null) {
    await updateProducts(
      tx,
      changed.map(({ row, changes }) => ({
        id: row.id,
        fields: Object.fromEntries(changes.map((c) => [c.field, c.after])),
      })),
    );
    await recordChangeSet(
      tx,
      { ...set, title: '', target: 'products', marketId: null },
      changed.map(({ row, changes }) => ({ id: row.id, sku: row.sku, changes })),
    );
    await refreshProducts(
      tx,
      changed.map((c) => c.row.id),
      toTouch(changed),
    );
    return changed.length;
  }
  const market = await loadMarket(tx, change.market);
  const cells = changed.flatMap(({ listing, changes }) =>
    listing === null ? [] : changes.map((c) => ({ ...c, id: listing, field: readMarketKey(c.field)!.attribute })),
  );
  // A leaf first: which fields there are follows from it.
  for (const part of [cells.filter((c) => c.field === 'category'), cells.filter((c) => c.field !== 'category')])
    if (part.length > 0) await patchListingCells(tx, market.id, part, '', set.actor, set.id);
  return changed.length;
}

/** What changes touch: fields, and numbers that items had before. */
const toTouch = (items: readonly Looked[]): Touch => ({
  fields: new Set(items.flatMap((i) => i.changes.map((c) => c.field))),
  formerGtins: items.flatMap(({ row, changes }) => (changes.some((c) => c.field === 'gtin') ? (row.gtin14 ?? []) : [])),
});
