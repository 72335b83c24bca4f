// Rows that wait for a time that a person has set: held, so that nothing else sends them before, and free again when it has come.
import { takesWholeFamilies } from '@basileus/core/feed';
import type { Operation } from '@basileus/core/rulebook';
import { type Db, rowsOf } from '../database';
import { refreshListings, staleSql } from '../listings';
import type { Market } from '../markets';

/** What is planned of listing l, with another hold where `condition` on entry e is true. */
const plannedWith = (condition: string, held: string): string =>
  `(select coalesce(jsonb_agg(case when ${condition} then jsonb_set(e, '{held}', ${held}) else e end order by o), '[]')
    from jsonb_array_elements(l.planned) with ordinality as x (e, o))`;

/**
 * What listing l of product p shows the others of its family (`Sight`) once its entry is to be created under another hold: whether
 * the family's own row holds them back and, where families go whole, how its creating is held.
 */
const sightWith = (market: Market, condition: string, held: 'timed' | null): string => {
  const own = `jsonb_set(l.family_sight, '{2}', case when p.kind = 'family' then '${held !== null}' else l.family_sight -> 2 end)`;
  const whole = takesWholeFamilies(market.rulebook) ? `jsonb_set(${own}, '{4}', '${JSON.stringify([held])}')` : own;
  return `case when l.family_sight is not null and ${condition} then ${whole} else l.family_sight end`;
};

/** Judges families anew of which the row that goes first is among these, where a variant beside them is held otherwise by now. */
async function refreshFamilies(tx: Db, market: Market, listings: readonly number[], variant: string): Promise<void> {
  const rows = await rowsOf<{ id: number }>(
    tx,
    `select l.id from listings l join products p on p.id = l.product_id
      where l.id = any(?) and p.kind = 'family'
        and exists (select 1 from products q join listings ql on ql.product_id = q.id and ql.market_id = l.market_id
          where q.parent_id = p.id and ql.planned @> ?::jsonb)`,
    [[...listings], variant],
  );
  await refreshListings(
    tx,
    market,
    rows.map((r) => r.id),
  );
}

const createHeld = (held: string | null): string => JSON.stringify([{ operation: 'create', held }]);

/** Lets listings wait with these operations for the time of a sending, from this moment on. */
export async function markTimed(
  tx: Db,
  market: Market,
  sending: number,
  operations: readonly Operation[],
  listings: readonly number[],
): Promise<void> {
  await tx.raw('select 1 from listings where id = any(?) order by id for update', [[...listings]]);
  const isCreated = operations.includes('create') ? `l.planned @> '${createHeld(null)}'` : 'false';
  await tx.raw(
    `update listings l
      set timed = coalesce(l.timed, '{}') || ?::jsonb,
        planned = ${plannedWith(`e ->> 'operation' = any(?) and e ->> 'held' is null`, `'"timed"'`)},
        family_sight = ${sightWith(market, isCreated, 'timed')}
      from products p
      where p.id = l.product_id and l.id = any(?) and l.market_id = ?`,
    [
      JSON.stringify(Object.fromEntries(operations.map((o) => [o, sending]))),
      [...operations],
      [...listings],
      market.id,
    ],
  );
  if (operations.includes('create')) await refreshFamilies(tx, market, listings, createHeld(null));
}

/**
 * Frees the listings that wait for the time of a sending, and answers which. With `isReady`, only those that can go: neither on
 * their way with something else nor being checked anew.
 */
export async function liftTimed(tx: Db, market: Market, sending: number, isReady: boolean): Promise<number[]> {
  const mine = `v = to_jsonb(?::bigint)`;
  const isFreed = `mine.rest -> 'create' is null and l.planned @> '${createHeld('timed')}'`;
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
          planned = ${plannedWith(`e ->> 'held' = 'timed' and mine.rest -> (e ->> 'operation') is null`, `'null'`)},
          family_sight = ${sightWith(market, isFreed, null)}
        from mine, products p
        where l.id = mine.id and p.id = l.product_id
        returning l.id, mine.first`,
    [sending, market.id, sending],
  );
  const ids = lifted.map((l) => l.id);
  if (lifted.some((l) => l.first))
    for (const held of ['family', 'member']) await refreshFamilies(tx, market, ids, createHeld(held));
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
