// What must go out of one listing, and what holds it back.
import type { Finding } from '@basileus/core/checks';
import { isPriceMoveHeld, planOperations } from '@basileus/core/feed';
import type { Listing } from '@basileus/core/listing';
import type { Part } from '@basileus/core/rulebook';
import type { Market } from '../markets/load';
import type { FullRow } from './rows';

/** What of a listing must go out, each with the reason for which it is held, if any. */
export function planOf(
  market: Market,
  row: FullRow,
  listing: Listing,
  findings: readonly Finding[],
  refusalOpen: boolean,
  isParentHeld: boolean,
): { operation: string; held: string | null }[] {
  const accepted = {
    details: row.accepted_details ?? undefined,
    price: row.accepted_price ?? undefined,
    stock: row.accepted_stock ?? undefined,
  };
  const compiled = market.category(listing.category)!.compiled;
  const parts = new Map<string, Part>(market.rulebook.attributes.map((a) => [a.key, a.part]));
  const blockers = findings.filter((f) => f.level === 'blocker');
  const priceField = market.rulebook.roles.price;
  return planOperations(
    compiled,
    listing.role,
    listing.values,
    accepted,
    row.wish,
    row.market_state === 'withdrawn',
  ).map(({ operation }) => {
    const relevant =
      operation === 'price' || operation === 'stock'
        ? blockers.filter((f) => parts.get(f.field) === operation || f.field === 'sku')
        : operation === 'withdraw' || operation === 'restore'
          ? []
          : blockers;
    const before = row.accepted_price?.[priceField],
      after = listing.values[priceField];
    const isHeldPrice =
      operation === 'price' &&
      typeof after === 'string' &&
      row.released_price !== after &&
      isPriceMoveHeld(typeof before === 'string' ? before : undefined, after, market.rulebook.offer.priceMoveHeld);
    const held = relevant.length
      ? 'blocked'
      : refusalOpen && operation !== 'stock'
        ? 'refused'
        : isParentHeld && operation === 'create'
          ? 'family'
          : isHeldPrice
            ? 'price-moved'
            : null;
    return { operation, held };
  });
}
