// Which items are wanted on a market. What is left out there is asked for nothing and goes nowhere, until somebody wants it.
import { type Db, rowOf, rowsOf } from '../database';
import { recordHistory } from '../history';
import type { Market } from '../markets';
import { refreshListings } from './follow-up';

/** Listings that are meant: a family that is left out takes its variants along, a variant that is wanted brings its family. */
const meantSql = (wanted: boolean): string => `select distinct l.id
  from products p
  join products q on q.id = p.id or ${wanted ? 'q.id = p.parent_id' : 'q.parent_id = p.id'}
  join listings l on l.product_id = q.id and l.market_id = ?
  where p.id = any(?) or p.id in (select product_id from listings where id = any(?) and market_id = ?)
    or coalesce(p.category, '') = ?`;

/** Remembers whether items of an own category that are added later are wanted. */
const remember = (db: Db, market: Market, own: string, wanted: boolean): Promise<unknown> =>
  db.raw(
    wanted
      ? `delete from correspondences where market_id = ? and kind = 'unwanted' and ours = ?`
      : `insert into correspondences (market_id, kind, ours, theirs) values (?, 'unwanted', ?, '') on conflict do nothing`,
    [market.id, own],
  );

/** Nothing of it is on the market, nor on its way there. */
const isFree = `in_flight = 0 and (market_state = 'none' or market_state = 'refused' and accepted_details is null)`;

/** Leaves items out of a market, or wants them there again; of an own category also those that are added later. Answers how many that were, and how many stay since they are there. */
export const setWanted = (
  db: Db,
  market: Market,
  {
    ids,
    products,
    own,
    wanted,
  }: { ids: readonly number[]; products: readonly number[]; own: string | null; wanted: boolean },
  actor: string,
): Promise<{ changed: number; there: number }> =>
  db.transaction(async (tx) => {
    if (own !== null) await remember(tx, market, own, wanted);
    const meant = (await rowsOf<{ id: number }>(tx, meantSql(wanted), [market.id, products, ids, market.id, own])).map(
      (r) => r.id,
    );
    const there = wanted
      ? 0
      : (await rowOf<{ n: number }>(
          tx,
          `select count(*) as n from listings where id = any(?) and market_state <> 'left out' and not (${isFree})`,
          [meant],
        ))!.n;
    const changed = await rowsOf<{ id: number }>(
      tx,
      wanted
        ? `update listings set market_state = 'none', updated_at = now()
            where id = any(?) and market_state = 'left out' returning id`
        : `update listings set market_state = 'left out', wish = 'keep', refusal_open = false, updated_at = now()
            where id = any(?) and ${isFree} returning id`,
      [meant],
    );
    await refreshListings(
      tx,
      market,
      changed.map((r) => r.id),
    );
    if (changed.length)
      await recordHistory(tx, actor, { is: 'wanted', rows: changed.length, wanted, market: market.name });
    return { changed: changed.length, there };
  });
