// What stands in the listings of items, by the keys that fields of markets have beside those of items.
import type { ListingFault } from '@basileus/core/change';
import type { Value, Values } from '@basileus/core/listing';
import { readMarketKey, toMarketKey } from '@basileus/core/product';
import { belongs, categoryAttribute, marginAttribute } from '@basileus/core/rulebook';
import { type Db, rowsOf } from '../database';
import { categoryOf, type FullRow, roleOf } from '../listings';
import type { Market } from '../markets';

/** Fields of markets among some, by market. */
export function groupByMarket(keys: Iterable<string>): ReadonlyMap<string, readonly string[]> {
  const byMarket = new Map<string, string[]>();
  for (const key of keys) {
    const named = readMarketKey(key);
    if (named) byMarket.set(named.market, [...(byMarket.get(named.market) ?? []), named.attribute]);
  }
  return byMarket;
}

/** A listing as it is read to be changed. */
export interface Listed {
  id: number;
  category: string | null;
  values: Values;
  entry_is: FullRow['entry_is'];
  sites_out: string[];
  /** In thousandths. */
  margin: number | null;
}

/** What a listing holds in a field of its market; undefined where it holds nothing. */
export const heldBy = (listing: Listed, attribute: string): Value | undefined => {
  if (attribute === categoryAttribute) return listing.category ?? undefined;
  if (attribute === marginAttribute) return listing.margin === null ? undefined : (listing.margin / 10).toFixed(1);
  return listing.values[attribute];
};

/** Listings of items by market and item. Items that are left out of a market have none there. */
export async function loadListings(
  db: Db,
  markets: Iterable<string>,
  ids: readonly number[],
): Promise<ReadonlyMap<string, ReadonlyMap<number, Listed>>> {
  const rows = await rowsOf<Listed & { market: string; item: number }>(
    db,
    `select m.key as market, l.id, l.product_id as item, l.category, l."values", l.entry_is, l.sites_out, l.margin
      from listings l join markets m on m.id = l.market_id
      where m.key = any(?) and l.product_id = any(?) and l.market_state <> 'left out'`,
    [[...markets], [...ids]],
  );
  const byMarket = new Map<string, Map<number, Listed>>();
  for (const { market, item, ...listing } of rows)
    (byMarket.get(market) ?? byMarket.set(market, new Map()).get(market)!).set(item, listing);
  return byMarket;
}

/** Why a field of a listing cannot be filled: it is none there, has no leaf yet, or its leaf does not ask for the field. */
export function findListingFault(
  market: Market,
  listing: Listed | undefined,
  product: { kind: string },
  attribute: string,
): ListingFault | undefined {
  if (!listing) return { kind: 'not-on-market' };
  if (attribute === marginAttribute) return { kind: 'worked-out' };
  if (attribute === categoryAttribute) return undefined;
  const category = categoryOf(market, { ...listing, market_category: listing.category })?.compiled;
  if (!category) return { kind: 'no-category' };
  const role = listing.entry_is === 'joined' ? 'single' : roleOf(product);
  const asked = category.byKey.get(attribute);
  if (asked && asked.levelFor(listing.values, role) !== 'unused') return undefined;
  // It is asked for there, in other rows of the family.
  if (asked && asked.strongest !== 'unused' && role !== 'single' && !belongs(asked.attribute, role))
    return { kind: 'not-in-rows', of: role === 'variant' ? 'family' : 'variants' };
  return { kind: 'not-in-category', category: category.label };
}

/**
 * The same of an item that is yet to be added, by the leaf that its listing will have: what its leaf asks for only under a
 * condition passes, since the values that decide it are not there yet.
 */
export function findComingFault(
  market: Market,
  coming: { category: string | null; isWanted: boolean; isVariant: boolean },
  attribute: string,
): ListingFault | undefined {
  if (!coming.isWanted) return { kind: 'not-on-market' };
  if (attribute === marginAttribute) return { kind: 'worked-out' };
  if (attribute === categoryAttribute) return undefined;
  const category = coming.category === null ? undefined : market.category(coming.category)?.compiled;
  if (!category) return { kind: 'no-category' };
  const asked = category.byKey.get(attribute);
  if (!asked || asked.strongest === 'unused') return { kind: 'not-in-category', category: category.label };
  return coming.isVariant && !belongs(asked.attribute, 'variant') ? { kind: 'not-in-rows', of: 'family' } : undefined;
}

/** Fields of the listings of items, of those that are named, by item. */
export async function loadListedValues(
  db: Db,
  keys: readonly string[],
  ids: readonly number[],
): Promise<ReadonlyMap<number, Record<string, Value>>> {
  const wanted = groupByMarket(keys);
  const byItem = new Map<number, Record<string, Value>>();
  if (wanted.size === 0) return byItem;
  for (const [market, listings] of await loadListings(db, wanted.keys(), ids))
    for (const [item, listing] of listings) {
      const held = byItem.get(item) ?? {};
      byItem.set(item, held);
      for (const a of wanted.get(market)!) {
        const value = heldBy(listing, a);
        if (value !== undefined) held[toMarketKey(market, a)] = value;
      }
    }
  return byItem;
}
