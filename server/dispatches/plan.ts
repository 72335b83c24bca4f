// What would go out: from the operations that refreshing has planned for each listing.
import { type Accepted, type FeedRow, planOperations } from '@basileus/core/feed';
import type { Correspondences, Value } from '@basileus/core/listing';
import { type Operation, operations } from '@basileus/core/rulebook';
import { type Db, rowOf, rowsOf } from '../database';
import { type FullRow, isCurrent, loadFullRows, staleSql, toListing } from '../listings/rows';
import type { Market } from '../markets/load';

const heldLabels: Readonly<Record<string, string>> = {
  blocked: 'it has a blocker',
  refused: 'it was refused and is not mended',
  family: 'its family row cannot go yet',
  'price-moved': 'the price moved far; look at it',
  stale: 'it is being checked anew',
};
export const wordHeld = (reason: string): string => heldLabels[reason] ?? reason;

const planFrom = 'listings l join products p on p.id = l.product_id join markets m on m.id = l.market_id';

export async function loadPlan(db: Db, market: Market) {
  const rows = await rowsOf<{ operation: Operation; held: string | null; n: number }>(
    db,
    `select e ->> 'operation' as operation, coalesce(e ->> 'held', case when ${staleSql} then 'stale' end) as held,
        count(*) as n
      from ${planFrom}
      cross join jsonb_array_elements(l.planned) e
      where l.market_id = ? and l.in_flight = 0
      group by 1, 2`,
    [market.id],
  );
  const waiting = (await rowOf<{ n: number }>(
    db,
    'select count(*) as n from listings where market_id = ? and in_flight > 0',
    [market.id],
  ))!.n;
  const sum = (f: (r: (typeof rows)[number]) => boolean) => rows.filter(f).reduce((n, r) => n + r.n, 0);
  const reasons = [...new Set(rows.flatMap((r) => (r.held ? [r.held] : [])))];
  return {
    operations: operations
      .map((operation) => ({
        operation,
        count: sum((r) => r.operation === operation && r.held === null),
        held: sum((r) => r.operation === operation && r.held !== null),
      }))
      .filter((o) => o.count + o.held > 0),
    held: reasons.map((reason) => ({ reason, label: wordHeld(reason), count: sum((r) => r.held === reason) })),
    waiting,
  };
}

/** Condition on l, p and m for listings with a planned operation; what is stale is held like what has a blocker. */
function plannedCondition(held: '' | 'yes' | 'no'): string {
  const isHeld = `(e ->> 'held' is not null or ${staleSql})`;
  const which = { '': '', yes: ` and ${isHeld}`, no: ` and not ${isHeld}` }[held];
  return `l.in_flight = 0 and exists (select 1 from jsonb_array_elements(l.planned) e where e ->> 'operation' = ?${which})`;
}

export interface PlannedRow {
  full: FullRow;
  feed: FeedRow;
  differences: { field: string; before: Value | null; after: Value | null }[];
  held: string | null;
}

export async function countPlanned(
  db: Db,
  market: Market,
  operation: Operation,
  held: '' | 'yes' | 'no',
): Promise<number> {
  return (await rowOf<{ n: number }>(
    db,
    `select count(*) as n from ${planFrom} where l.market_id = ? and ${plannedCondition(held)}`,
    [market.id, operation],
  ))!.n;
}

/** Ids of planned listings in the order of a file: each parent before its variants. */
export async function loadPlannedIds(
  db: Db,
  market: Market,
  operation: Operation,
  held: '' | 'yes' | 'no',
  ids: readonly number[] | undefined,
  offset = 0,
  limit = 10_000_000,
): Promise<number[]> {
  return (
    await rowsOf<{ id: number }>(
      db,
      `select l.id
        from ${planFrom}
        left join products parent on parent.id = p.parent_id
        where l.market_id = ? and ${plannedCondition(held)} and (? or l.id = any(?))
        order by coalesce(parent.sku, p.sku), p.parent_id is not null, p.id offset ? limit ?`,
      [market.id, operation, ids === undefined, ids ?? [], offset, limit],
    )
  ).map((r) => r.id);
}

/** The rows of an operation, worked out from what stands in the database now. A listing whose plan has changed is left out. */
export async function loadPlannedRows(
  db: Db,
  market: Market,
  operation: Operation,
  c: Correspondences,
  ids: readonly number[],
): Promise<PlannedRow[]> {
  const rows = await loadFullRows(db, market.id, 'l.id = any(?)', [ids]);
  const byId = new Map(rows.map((r) => [r.listing_id, r]));
  const heldById = new Map(
    (
      await rowsOf<{ id: number; held: string | null }>(
        db,
        `select l.id, e ->> 'held' as held
          from listings l, jsonb_array_elements(l.planned) e
          where l.id = any(?) and e ->> 'operation' = ?`,
        [ids, operation],
      )
    ).map((r) => [r.id, r.held]),
  );
  return ids.flatMap((id) => {
    const full = byId.get(id);
    const category = full && full.market_category !== null ? market.category(full.market_category) : undefined;
    if (!full || !category) return [];
    const { listing } = toListing(market, full, c);
    const accepted: Accepted = {
      details: full.accepted_details ?? undefined,
      price: full.accepted_price ?? undefined,
      stock: full.accepted_stock ?? undefined,
    };
    const planned = planOperations(
      category.compiled,
      listing.role,
      listing.values,
      accepted,
      full.wish,
      full.market_state === 'withdrawn',
    ).find((p) => p.operation === operation);
    if (!planned) return [];
    // A revision carries only what differs: a blank leaves the rest as it is.
    const isPartial = operation === 'revise' || operation === 'price' || operation === 'stock';
    const named = new Set(planned.differences.map((d) => d.field));
    const values = isPartial
      ? Object.fromEntries(Object.entries(listing.values).filter(([k]) => named.has(k)))
      : listing.values;
    const cleared = planned.differences.filter((d) => d.after === null).map((d) => d.field);
    return [
      {
        full,
        differences: planned.differences,
        held: heldById.get(id) ?? (isCurrent(full) ? null : 'stale'),
        feed: {
          operation,
          sku: full.sku,
          role: listing.role,
          parentSku: listing.parentSku,
          axes: listing.axes,
          category: listing.category,
          values,
          cleared,
        },
      },
    ];
  });
}
