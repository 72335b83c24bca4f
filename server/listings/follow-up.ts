// After a change: the listings that it touches are made anew, at once where they are few, by a job where they are many.
import { causesInOthers } from '@basileus/core/checks';
import { type Db, rowsOf } from '../database';
import { announce } from '../events';
import { loadCorrespondences, loadMarkets, type Market } from '../markets';
import { refreshTouched } from './refresh';
import { dropOwnMarks, inOthersSql, passOver, refreshLater, toBindings } from './stale';

/** Past this many listings a change is followed up by a job a market instead of in the request: a second or two of work. */
const mostAtOnce = 2500;

/** What of products was changed, where that is known: others hang on their numbers and on their stock alone. */
export interface Touch {
  fields: ReadonlySet<string>;
  /** Numbers that they carried before: who shared one is judged anew too. */
  formerGtins: readonly string[];
}

/**
 * Follows a change of products up in every market: themselves, those of their families who see something new of them, and
 * what hangs on them: all that share a barcode or nearly a SKU, bundles of them. Without `touch` everything of them may have
 * changed, and their families are made anew whole.
 */
export async function refreshProducts(db: Db, productIds: readonly number[], touch?: Touch): Promise<void> {
  if (productIds.length === 0) return;
  const markets = await loadMarkets(db);
  const { own, hanging } = await loadTouched(db, productIds, touch, markets);
  // Members of one family may share a number, which they do not see in each other; and the row of a family may be on no market.
  const isWhole = !touch || touch.fields.has('gtin');
  const whole = [...own.filter((o) => isWhole || o.isRow).map((o) => o.id), ...hanging];
  if (productIds.length * markets.length > mostAtOnce) {
    // Products that were changed are known by their version; of what else is touched every row is marked. That what is behind
    // its pictures is another changes no product.
    await db.raw(
      `update listings l set market_revision = 0
        from products p
        where p.id = l.product_id and l.market_revision <> 0 and l.product_version = p.version
          and (p.id = any(?) or p.parent_id = any(?) or p.id = any(?))`,
      [whole, whole, [...productIds]],
    );
    for (const m of markets) await refreshLater(db, m);
    return;
  }
  for (const market of markets) {
    const c = await loadCorrespondences(db, market.id);
    const passed = new Set(await passOver(db, market, c, productIds));
    await refreshTouched(db, market, c, { products: productIds.filter((id) => !passed.has(id)), whole });
  }
  await dropOwnMarks(db, productIds);
  await announce(db, { topic: 'listings' });
}

const familiesSql = (join: string): string => `select coalesce(p.parent_id, p.id) as id from products p ${join}`;

/** Families of what a change of products touches: their own; and of who shares or shared a number or nearly a SKU, and bundles of them. */
async function loadTouched(
  db: Db,
  productIds: readonly number[],
  touch: Touch | undefined,
  markets: readonly Market[],
): Promise<{ own: { id: number; isRow: boolean }[]; hanging: number[] }> {
  const parts: string[] = [],
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
    parts.push('select bp.bundle_id as id from bundle_parts bp join seed s on s.id = bp.part_id');
  const rows = await rowsOf<{ id: number; own: boolean; row: boolean }>(
    db,
    `with seed as (select id, parent_id, gtin14, sku_fold from products where id = any(?)),
      own as (select coalesce(parent_id, id) as id, bool_or(parent_id is null) as is_row from seed group by 1)
      select id, true as own, is_row as row from own
      ${parts.length === 0 ? '' : `union all (select id, false, false from (${parts.join(' union ')}) h except select id, false, false from own)`}`,
    [productIds, ...bindings],
  );
  return {
    own: rows.filter((r) => r.own).map((r) => ({ id: r.id, isRow: r.row })),
    hanging: rows.filter((r) => !r.own).map((r) => r.id),
  };
}

/** The same for listings of one market, named by id. */
export async function refreshListings(db: Db, market: Market, listingIds: readonly number[]): Promise<void> {
  if (listingIds.length === 0) return;
  const c = await loadCorrespondences(db, market.id);
  await refreshTouched(db, market, c, { listings: listingIds });
  await followShared(db, market, listingIds);
  await announce(db, { topic: 'listings' });
}

/** Where an item came to be sold on a market or no more, those that share its stock out with it are told by a job (`listings_sharing` has marked them). */
async function followShared(db: Db, market: Market, listingIds: readonly number[]): Promise<void> {
  if (!market.sharing) return;
  const marked = await rowsOf<{ id: number }>(
    db,
    `select distinct x.market_id as id
      from listings l join listings x on x.product_id = l.product_id and x.market_id <> l.market_id
      where l.id = any(?) and x.market_revision = 0`,
    [[...listingIds]],
  );
  if (marked.length === 0) return;
  const ids = new Set(marked.map((m) => m.id));
  for (const m of await loadMarkets(db)) if (ids.has(m.id)) await refreshLater(db, m);
}
