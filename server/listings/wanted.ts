// Which items are wanted on a market. What is left out there is asked for nothing and goes nowhere, until somebody wants it.
import { type Db, rowOf, rowsOf } from '../database';
import { recordHistory } from '../history';
import { AppError } from '../http';
import type { Market } from '../markets';
import { refreshListings } from './follow-up';
import { say } from '@basileus/core/text';

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

/** Which items are wanted or not: listings, products, or all of an own category; at some sites, or on the market as a whole. */
interface Wanting {
  ids: readonly number[];
  products: readonly number[];
  own: string | null;
  wanted: boolean;
  sites: readonly string[];
}

/** Leaves items out of some sites of a market, or wants them there again. What stands there is ended with the next sending. */
async function setSites(
  tx: Db,
  market: Market,
  { ids, products, own, wanted, sites }: Wanting,
  actor: string,
): Promise<{ changed: number; there: number }> {
  const known = new Map(market.rulebook.sites.map((s) => [s.key, s]));
  for (const site of sites) {
    const found = known.get(site);
    if (!found)
      throw new AppError('bad-input', say`${market.name} has no site “${site}”.`, {
        field: 'sites',
        remedy: say`Choose among ${[...known.keys()].join(', ')}.`,
      });
    if (!wanted && !found.optional)
      throw new AppError('bad-input', say`${market.name} sells every entry at ${found.name}; it cannot be left out.`, {
        field: 'sites',
        remedy: say`Leave the items out of the market as a whole.`,
      });
  }
  const meant = (await rowsOf<{ id: number }>(tx, meantSql(wanted), [market.id, products, ids, market.id, own])).map(
    (r) => r.id,
  );
  const changed = await rowsOf<{ id: number }>(
    tx,
    `with said as (
        select l.id, array(
            select s from unnest(?::text[]) with ordinality as k(s, n)
            where (s = any(l.sites_out) or s = any(?)) and not (? and s = any(?))
            order by n) as sites_out
          from listings l where l.id = any(?))
      update listings l set sites_out = said.sites_out, updated_at = now()
        from said where said.id = l.id and said.sites_out <> l.sites_out and cardinality(said.sites_out) < ?
        returning l.id`,
    [[...known.keys()], wanted ? [] : sites, wanted, sites, meant, known.size],
  );
  await refreshListings(
    tx,
    market,
    changed.map((r) => r.id),
  );
  if (changed.length)
    await recordHistory(tx, actor, {
      is: 'wanted',
      rows: changed.length,
      wanted,
      market: `${market.name} (${sites.map((s) => known.get(s)!.name).join(', ')})`,
    });
  return { changed: changed.length, there: 0 };
}

/** Leaves items out of a market, or wants them there again; of an own category also those that are added later. Answers how many that were, and how many stay since they are there. */
export const setWanted = (
  db: Db,
  market: Market,
  { ids, products, own, wanted, sites }: Wanting,
  actor: string,
): Promise<{ changed: number; there: number }> =>
  db.transaction(async (tx) => {
    if (sites.length > 0) return setSites(tx, market, { ids, products, own, wanted, sites }, actor);
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
