// Listings that were checked against something older than what stands now: found, marked, and checked anew by a job.
import { type Db, rowOf, rowsOf, type Write, writeOn } from '../database';
import { announce } from '../events';
import { enqueue } from '../jobs/enqueue';
import { loadMarket, type Market } from '../markets/load';
import { type Progress, refreshFamilies } from './refresh';
import { staleSql } from './rows';
import { compactTallies } from './tallies';

/** What of a market was checked against something older than what stands now, until nothing is. */
export async function refreshStale(db: Db, key: string, progress: Progress, write: Write = writeOn(db)): Promise<void> {
  let done = 0;
  for (;;) {
    // Loaded anew each time: what is stale may be so because the market has changed.
    const market = await loadMarket(db, key);
    const stale = await rowsOf<{ id: number; rows: number }>(
      db,
      `select coalesce(p.parent_id, p.id) as id, count(*) as rows
        from listings l
        join products p on p.id = l.product_id
        join markets m on m.id = l.market_id
        where l.market_id = ? and ${staleSql}
        group by 1
        order by 1 limit 20000`,
      [market.id],
    );
    if (stale.length === 0) break;
    const total = done + stale.reduce((n, s) => n + s.rows, 0);
    await refreshFamilies(
      db,
      market,
      stale.map((s) => s.id),
      async (rows) => {
        done += rows;
        await progress(Math.min(done, total), total);
        await announce(db, { topic: 'listings' });
      },
      write,
    );
  }
  await compactTallies(db);
  await announce(db, { topic: 'listings' });
}

/** True where something of a market waits to be checked, as after a crash or a new version of this program. */
export const hasStale = async (db: Db, market: Market): Promise<boolean> =>
  (await rowOf(
    db,
    `select 1 as x
      from listings l
      join products p on p.id = l.product_id
      join markets m on m.id = l.market_id
      where l.market_id = ? and ${staleSql} limit 1`,
    [market.id],
  )) !== undefined;

/**
 * Listings whose findings hang on other products than their own: those that share a barcode or nearly a SKU, those that
 * did so when last checked, and bundles. Marked so that the next refresh takes them along.
 */
export const markSharing = (db: Db): Promise<unknown> =>
  db.raw(
    `update listings set product_version = 0 where product_id in (
      select id from products where gtin14 in (select gtin14 from products where gtin14 is not null group by 1 having count(*) > 1)
      union select id from products where sku_fold in (select sku_fold from products group by 1 having count(*) > 1)
      union select bundle_id from bundle_parts)
    or id in (select listing_id from findings where "check" = 'identifier-twice' or ("check" = 'sku-form' and message = 'twin'))`,
  );

/**
 * Asks for what is stale in a market to be checked, as a job. Asking twice while one waits makes one; while one runs,
 * another is put behind it, since the running one may be past what has just changed.
 */
export async function refreshLater(db: Db, market: Market): Promise<string> {
  return enqueue(db, {
    kind: 'refresh-market',
    title: `Checking ${market.name} anew`,
    payload: { market: market.key },
    once: `refresh-${market.key}`,
    link: `/${market.key}/check`,
  });
}
