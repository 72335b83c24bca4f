// After a change: the listings that it touches are made anew, at once where they are few, by a job where they are many.
import { causesInOthers } from '@basileus/core/checks';
import { type Db, rowsOf } from '../database';
import { announce } from '../events';
import { loadCorrespondences, loadMarkets, type Market } from '../markets';
import { refreshRows } from './refresh';
import { lockRowsToCheck } from './rows';
import { dropOwnMarks, inOthersSql, refreshLater, toBindings } from './stale';

/** Past this many listings a change is followed up by a job a market instead of in the request: a second or two of work. */
const mostAtOnce = 2500;

/** What of products was changed, where that is known: others hang on their numbers and on their stock alone. */
export interface Touch {
  fields: ReadonlySet<string>;
  /** Numbers that they carried before: who shared one is judged anew too. */
  formerGtins: readonly string[];
}

/**
 * Follows a change of products up in every market: themselves, their families, and what hangs on them: all that share a
 * barcode or nearly a SKU, bundles of them. Without `touch` everything of them may have changed.
 */
export async function refreshProducts(db: Db, productIds: readonly number[], touch?: Touch): Promise<void> {
  if (productIds.length === 0) return;
  const markets = await loadMarkets(db);
  const roots = await loadTouched(db, productIds, touch, markets);
  if (productIds.length * markets.length > mostAtOnce) {
    // Families of what was changed are known by its version, and checked whole; of what else it touches every row is marked.
    const hanging = (
      await rowsOf<{ id: number }>(
        db,
        `with other as (
            select unnest(?::bigint[]) as id
            except select coalesce(parent_id, id) from products where id = any(?))
          select id from other
          union select p.id from products p where p.parent_id = any(array(select id from other))`,
        [roots, [...productIds]],
      )
    ).map((r) => r.id);
    await db.raw('update listings set market_revision = 0 where product_id = any(?) and market_revision <> 0', [
      hanging,
    ]);
    for (const m of markets) await refreshLater(db, m);
    return;
  }
  for (const market of markets) {
    const c = await loadCorrespondences(db, market.id);
    await refreshRows(
      db,
      market,
      c,
      await lockRowsToCheck(db, market.id, 'coalesce(p.parent_id, p.id) = any(?)', [roots]),
    );
  }
  await dropOwnMarks(db, productIds);
  await announce(db, { topic: 'listings' });
}

const familiesSql = (join: string): string => `select coalesce(p.parent_id, p.id) as id from products p ${join}`;

/** Families of what a change of products touches: themselves, who shares or shared a number or nearly a SKU, bundles of them. */
async function loadTouched(
  db: Db,
  productIds: readonly number[],
  touch: Touch | undefined,
  markets: readonly Market[],
): Promise<number[]> {
  const parts = ['select coalesce(parent_id, id) as id from seed'],
    bindings: unknown[] = [];
  if (!touch) parts.push(familiesSql('join seed s on s.sku_fold = p.sku_fold'));
  if (!touch || touch.fields.has('gtin')) {
    parts.push(
      familiesSql('join seed s on s.gtin14 = p.gtin14'),
      `${familiesSql('')} where p.gtin14 = any(?)`,
      `${familiesSql('join listings l on l.product_id = p.id join findings f on f.listing_id = l.id')}
        where f.market_id = any(?) and (f."check", f.message) in (${inOthersSql})
          and not exists (select 1 from products q where q.gtin14 = p.gtin14 and q.id <> p.id)`,
    );
    bindings.push(
      touch?.formerGtins ?? [],
      markets.map((m) => m.id),
      ...toBindings(causesInOthers.number),
    );
  }
  if (!touch || touch.fields.has('stock'))
    parts.push('select bp.bundle_id from bundle_parts bp join seed s on s.id = bp.part_id');
  const rows = await rowsOf<{ id: number }>(
    db,
    `with seed as (select id, parent_id, gtin14, sku_fold from products where id = any(?)) ${parts.join(' union ')}`,
    [productIds, ...bindings],
  );
  return rows.map((r) => r.id);
}

/** The same for listings of one market, named by id. */
export async function refreshListings(db: Db, market: Market, listingIds: readonly number[]): Promise<void> {
  if (listingIds.length === 0) return;
  const c = await loadCorrespondences(db, market.id);
  await refreshRows(
    db,
    market,
    c,
    await lockRowsToCheck(
      db,
      market.id,
      `coalesce(p.parent_id, p.id) in (select coalesce(q.parent_id, q.id) from listings x join products q on q.id = x.product_id where x.id = any(?))`,
      [listingIds],
    ),
  );
  await announce(db, { topic: 'listings' });
}
