// Entries that stand in several places and were turned back in some of them.
import { type Db, rowsOf } from '../database';

/** Condition on l: turned back at one site, standing at another, and nothing has been mended since. */
export const turnedAtSiteSql = `(l.refusal_open and l.market_state <> 'refused'
  and exists (select 1 from standings s where s.listing_id = l.id and s.market_state = 'refused'))`;

/** How many entries of each market were turned back at one site only. */
export const countTurnedAtSites = (db: Db, markets: readonly number[]): Promise<{ market_id: number; n: number }[]> =>
  rowsOf(
    db,
    `select l.market_id, count(distinct l.id) as n
      from standings s
      join listings l on l.id = s.listing_id
      where s.market_state = 'refused' and l.refusal_open and l.market_state <> 'refused' and l.market_id = any(?)
      group by 1`,
    [markets],
  );
