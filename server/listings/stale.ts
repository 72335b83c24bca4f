// Listings that were checked against something older than what stands now: found, marked, and checked anew by a job.
import { causesInOthers } from '@basileus/core/checks';
import type { Correspondences } from '@basileus/core/listing';
import type { Operation } from '@basileus/core/rulebook';
import { compactTallies, type Db, rowOf, rowsOf, type Write, writeOn } from '../database';
import { announce } from '../events';
import { type Beside, enqueue } from '../jobs';
import { loadCorrespondences, loadMarket, type Market } from '../markets';
import { listReadFields } from './read-fields';
import { type Progress, refreshInPages, refreshMarket } from './refresh';

const marksAtOnce = 500,
  listingsAtOnce = 50_000;

/** Listings of a market that wait, families together: never checked, or of products that were changed since. */
const loadStale = async (db: Db, market: Market, products: readonly number[]): Promise<number[]> =>
  (
    await rowsOf<{ id: number }>(
      db,
      `select l.id
        from (select id, product_id from listings where market_id = ? and market_revision = 0
          union select l.id, l.product_id from listings l join products p on p.id = l.product_id
            where l.market_id = ? and l.product_id = any(?) and l.product_version <> p.version) l
        join products p on p.id = l.product_id
        order by coalesce(p.parent_id, p.id), l.id limit ?`,
      [market.id, market.id, products, listingsAtOnce],
    )
  ).map((r) => r.id);

/**
 * Takes listings as checked whose items were changed in nothing that their market reads: so a change costs by the markets that
 * it is of. All marks of the market count, in one statement with the versions that they stand for. Answers the items.
 */
export const passOver = async (
  db: Db,
  market: Market,
  c: Correspondences,
  products?: readonly number[],
): Promise<number[]> => {
  const fields = [...listReadFields(market, c)],
    // Marks name many items at once; of those that were not asked for there may be others.
    asked = products ? [[...products]] : [];
  return (
    await rowsOf<{ id: number }>(
      db,
      `with marks as (
          select products, fields is null or fields && ?::text[] as is_read from unchecked
            where market_id = ? ${products ? 'and products && ?::bigint[]' : ''}),
        unread as (
          select unnest(products) as id from marks where not is_read
          except select unnest(products) from marks where is_read),
        locked as (
          select l.id, p.id as product_id, p.version from unread u
            join products p on p.id = u.id
            join listings l on l.product_id = p.id and l.market_id = ?
            where l.product_version < p.version ${products ? 'and p.id = any(?)' : ''}
            order by l.id for update of l)
        update listings l set product_version = k.version from locked k
          where l.id = k.id
          returning k.product_id as id`,
      [fields, market.id, ...asked, market.id, ...asked],
    )
  ).map((r) => r.id);
};

/** What of a market was checked against something older than what stands now, until nothing is. */
export async function refreshStale(
  db: Db,
  key: string,
  progress: Progress,
  write: Write = writeOn(db),
  beside?: Beside,
): Promise<void> {
  let done = 0;
  for (;;) {
    // Loaded anew each time: what is stale may be so because the market has changed.
    const market = await loadMarket(db, key);
    if (market.checksFrom > 1) {
      await refreshMarket(db, market, progress, write, beside);
      continue;
    }
    // Read before what they mark: of a change that comes later the mark stays.
    const marks = await rowsOf<{ id: number; products: number[] }>(
      db,
      'select id, products from unchecked where market_id = ? order by id limit ?',
      [market.id, marksAtOnce],
    );
    const c = await loadCorrespondences(db, market.id);
    await write((tx) => passOver(tx, market, c));
    const stale = await loadStale(db, market, [...new Set(marks.flatMap((m) => m.products))]);
    if (stale.length === 0 && marks.length === 0) break;
    const total = done + stale.length;
    await refreshInPages(
      db,
      market,
      stale,
      async (rows) => {
        done += rows;
        await progress(Math.min(done, total), total);
        await announce(db, { topic: 'listings' });
      },
      write,
      beside,
    );
    if (stale.length < listingsAtOnce)
      await write((tx) => tx.raw('delete from unchecked where id = any(?)', [marks.map((m) => m.id)]));
  }
  await write(compactTallies);
  await announce(db, { topic: 'listings' });
}

/**
 * True where something of a market waits to be checked, as after a crash, a large change or a new version of its rulebook.
 * Answered from marks: no listing is looked at.
 */
export const hasStale = async (db: Db, market: Market): Promise<boolean> =>
  (await rowOf(
    db,
    `select 1 as x from markets m
      where m.id = ? and (m.checks_from > 1 or exists (select 1 from unchecked where market_id = m.id)
        or exists (select 1 from listings where market_id = m.id and market_revision = 0))`,
    [market.id],
  )) !== undefined;

/**
 * Planned rows that nothing else holds, of listings that are stale though their market as a whole is not: found by the marks, so
 * that it costs by what has changed.
 */
export const countStalePlanned = (db: Db, market: Market): Promise<{ operation: Operation; n: number }[]> =>
  rowsOf(
    db,
    `with changed as (select distinct unnest(products) as id from unchecked where market_id = ?),
      stale as (
        select l.in_flight, l.planned from listings l where l.market_id = ? and l.market_revision = 0
        union all select l.in_flight, l.planned
          from changed c join products p on p.id = c.id join listings l on l.product_id = p.id and l.market_id = ?
          where l.product_version <> p.version and l.market_revision <> 0)
      select e ->> 'operation' as operation, count(*)::int as n
        from stale s cross join jsonb_array_elements(s.planned) e
        where s.in_flight = 0 and e ->> 'held' is null group by 1`,
    [market.id, market.id, market.id],
  );

/** Takes away what this transaction has marked, where it has checked all of it itself. */
export const dropOwnMarks = (db: Db, checked: readonly number[]): Promise<unknown> =>
  db.raw(
    `delete from unchecked u
      where writer = pg_current_xact_id()
        and not exists (select 1 from unnest(u.products) c left join unnest(?::bigint[]) d on d = c where d is null)`,
    [[...checked]],
  );

/** Causes that stand in other items, for SQL: rows of check and message. */
export const inOthersSql = 'select * from unnest(?::text[], ?::text[])';
export const toBindings = (causes: readonly { check: string; message: string }[]): [string[], string[]] => [
  causes.map((c) => c.check),
  causes.map((c) => c.message),
];

/**
 * Listings whose findings hang on other products than their own: those that share a barcode or nearly a SKU, those that
 * did so when last checked, and bundles. Marked so that the next refresh takes them along.
 */
export const markSharing = (db: Db): Promise<unknown> =>
  db.raw(
    `update listings set market_revision = 0 where product_id in (
      select id from products where gtin14 in (select gtin14 from products where gtin14 is not null group by 1 having count(*) > 1)
      union select id from products where sku_fold in (select sku_fold from products group by 1 having count(*) > 1)
      union select bundle_id from bundle_parts)
    or id in (select listing_id from findings where market_id in (select id from markets) and ("check", message) in (${inOthersSql}))`,
    toBindings([...causesInOthers.number, ...causesInOthers.sku]),
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
