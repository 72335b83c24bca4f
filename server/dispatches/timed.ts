// Rows that wait for a time that a person has set: held, so that nothing else sends them before, and free again when it has come.
import type { Operation } from '@basileus/core/rulebook';
import { type Db, rowsOf } from '../database';
import { refreshListings, staleSql } from '../listings';
import type { Market } from '../markets';

/** What is planned of listing l, with another hold where `condition` on entry e is true. */
const plannedWith = (condition: string, held: string): string =>
  `(select coalesce(jsonb_agg(case when ${condition} then jsonb_set(e, '{held}', ${held}) else e end order by o), '[]')
    from jsonb_array_elements(l.planned) with ordinality as x (e, o))`;

/** Families of which the row that goes first is among these: whether it may go is seen by their variants. */
async function refreshFamilies(tx: Db, market: Market, listings: readonly number[]): Promise<void> {
  const rows = await rowsOf<{ id: number }>(
    tx,
    `select l.id from listings l join products p on p.id = l.product_id where l.id = any(?) and p.kind = 'family'`,
    [listings],
  );
  await refreshListings(
    tx,
    market,
    rows.map((r) => r.id),
  );
}

/** Lets listings wait with these operations for the time of a sending, from this moment on. */
export async function markTimed(
  tx: Db,
  market: Market,
  sending: number,
  operations: readonly Operation[],
  listings: readonly number[],
): Promise<void> {
  await tx.raw('select 1 from listings where id = any(?) order by id for update', [[...listings]]);
  await tx.raw(
    `update listings l
      set timed = coalesce(l.timed, '{}') || ?::jsonb,
        planned = ${plannedWith(`e ->> 'operation' = any(?) and e ->> 'held' is null`, `'"timed"'`)}
      where l.id = any(?) and l.market_id = ?`,
    [
      JSON.stringify(Object.fromEntries(operations.map((o) => [o, sending]))),
      [...operations],
      [...listings],
      market.id,
    ],
  );
  if (operations.includes('create')) await refreshFamilies(tx, market, listings);
}

/**
 * Frees the listings that wait for the time of a sending, and answers which. With `isReady`, only those that can go: neither on
 * their way with something else nor being checked anew.
 */
export async function liftTimed(tx: Db, market: Market, sending: number, isReady: boolean): Promise<number[]> {
  const mine = `v = to_jsonb(?::bigint)`;
  const lifted = await rowsOf<{ id: number; first: boolean }>(
    tx,
    `with mine as (
        select l.id, l.timed -> 'create' is not null as first,
            (select jsonb_object_agg(k, v) from jsonb_each(l.timed) as x (k, v) where not ${mine}) as rest
          from listings l join products p on p.id = l.product_id join markets m on m.id = l.market_id
          where l.market_id = ? and l.timed is not null and exists (select 1 from jsonb_each(l.timed) as x (k, v) where ${mine})
            ${isReady ? `and l.in_flight = 0 and not ${staleSql}` : ''}
          order by l.id for update of l)
      update listings l
        set timed = mine.rest,
          planned = ${plannedWith(`e ->> 'held' = 'timed' and mine.rest -> (e ->> 'operation') is null`, `'null'`)}
        from mine where l.id = mine.id
        returning l.id, mine.first`,
    [sending, market.id, sending],
  );
  const ids = lifted.map((l) => l.id);
  if (lifted.some((l) => l.first)) await refreshFamilies(tx, market, ids);
  return ids;
}

/** How many listings wait for the time of a sending. */
export const countTimed = async (db: Db, market: Market, sending: number): Promise<number> =>
  (
    await rowsOf<{ n: number }>(
      db,
      `select count(*) as n from listings l
        where l.market_id = ? and l.timed is not null
          and exists (select 1 from jsonb_each(l.timed) as x (k, v) where v = to_jsonb(?::bigint))`,
      [market.id, sending],
    )
  )[0]!.n;
