// The rows that would go, each with what it would change.
import type { HeldReason } from '@basileus/contract';
import { type Accepted, chooseCarried, planOperations } from '@basileus/core/feed';
import { type FeedRow, findForm } from '@basileus/core/forms';
import type { Correspondences, Value } from '@basileus/core/listing';
import type { Operation, Rulebook } from '@basileus/core/rulebook';
import { type Db, rowsOf } from '../database';
import { categoryOf, type FullRow, isCurrent, loadFullRows, toListing } from '../listings';
import type { Market } from '../markets';

export interface PlannedRow {
  full: FullRow;
  feed: FeedRow;
  differences: { field: string; before: Value | null; after: Value | null }[];
  held: HeldReason | null;
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
      await rowsOf<{ id: number; held: HeldReason | null }>(
        db,
        `select l.id, e ->> 'held' as held
          from listings l, jsonb_array_elements(l.planned) e
          where l.id = any(?) and e ->> 'operation' = ?`,
        [ids, operation],
      )
    ).map((r) => [r.id, r.held]),
  );
  const placesById = await loadPlaces(db, ids);
  return ids.flatMap((id) => {
    const full = byId.get(id);
    const category = full && categoryOf(market, full);
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
    const values = chooseCarried(category.compiled.rulebook, operation, listing.values, planned.differences, accepted);
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
          ...(full.entry_is === 'joined' && full.entry ? { entry: full.entry.number } : {}),
          ...chooseSites(market.at(full.sites_out), operation, placesById.get(id), planned.differences),
        },
      },
    ];
  });
}

/** Sites where entries stand, of those that are known by site. */
async function loadPlaces(db: Db, ids: readonly number[]): Promise<ReadonlyMap<number, readonly string[]>> {
  const rows = await rowsOf<{ id: number; sites: string[] }>(
    db,
    `select listing_id as id, array_agg(site) filter (where market_state in ('live', 'in review')) as sites
      from standings
      where listing_id = any(?)
      group by 1`,
    [ids],
  );
  return new Map(rows.map((r) => [r.id, r.sites ?? []]));
}

/** The sites that a row is about: where it stands, and of these where something differs, if it differs by site alone. */
function chooseSites(
  rulebook: Rulebook,
  operation: Operation,
  places: readonly string[] | undefined,
  differences: readonly { field: string }[],
): { sites?: readonly string[] } {
  if (findForm(rulebook, operation)?.record !== 'listing-at-site') return {};
  const sold = rulebook.sites.map((s) => s.key);
  const standing = places ? sold.filter((s) => places.includes(s)) : sold;
  const facets = new Map(rulebook.attributes.map((a) => [a.key, a.facet?.site]));
  const changed = differences.map((d) => facets.get(d.field));
  const isBySite = changed.length > 0 && !changed.includes(undefined);
  return { sites: isBySite ? standing.filter((s) => changed.includes(s)) : standing };
}
