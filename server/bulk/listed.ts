// What a bulk change reads of listings, and the listings of one market where it changes these.
import type { ChangeItem, PreparedChange, PriceLeaving } from '@basileus/core/change';
import { resolveListing, type Values } from '@basileus/core/listing';
import { prepareListingPrice } from '@basileus/core/pricing';
import { readMarketKey, toMarketKey } from '@basileus/core/product';
import type { CompiledCategory } from '@basileus/core/rulebook';
import { findListingFault, type Listed as ListingHeld, loadListings } from '../choose';
import type { Db } from '../database';
import { categoryOf, loadFullRows, roleOf, toOffered } from '../listings';
import { loadCorrespondences, loadMarket, type Market } from '../markets';
import type { ProductRow } from '../products';

/** A listing as a change sees it. */
export interface Listed {
  id: number;
  item: NonNullable<ChangeItem['listing']>;
}

/** The listings of items on the market whose listings a change is about, by item. Those that are left out there have none. */
export async function loadListed(
  db: Db,
  change: PreparedChange,
  rows: ReadonlyMap<number, ProductRow>,
): Promise<ReadonlyMap<number, Listed>> {
  const market = await loadMarket(db, change.market!),
    ids = [...rows.keys()];
  const given = change.asksGiven ? await loadGiven(db, market, change, ids) : undefined;
  const listings = (await loadListings(db, [market.key], ids)).get(market.key) ?? new Map<never, never>();
  const pricesOf = change.asksPrices ? preparePrices(market) : undefined;
  return new Map(
    [...listings].map(([item, listing]) => {
      const refuse = (field: string) =>
        findListingFault(market, listing, rows.get(item)!, readMarketKey(field)!.attribute);
      return [
        item,
        {
          id: listing.id,
          item: {
            given: given?.get(item),
            refuse,
            ...(pricesOf ? { priceLeaving: pricesOf(listing, refuse) } : {}),
          },
        },
      ];
    }),
  );
}

/** Which price of a listing of a market leaves what, by the fees of its leaf and its tax; made ready once for each leaf and field. */
function preparePrices(market: Market): (listing: ListingHeld, refuse: Listed['item']['refuse']) => PriceLeaving {
  const made = new Map<CompiledCategory, Map<string, ReturnType<typeof prepareListingPrice>>>();
  const priceOf = (category: CompiledCategory, field: string) => {
    const fields = made.get(category) ?? new Map<string, ReturnType<typeof prepareListingPrice>>();
    made.set(category, fields);
    if (!fields.has(field)) fields.set(field, prepareListingPrice(category, field));
    return fields.get(field);
  };
  return (listing, refuse) => {
    const category = categoryOf(market, { ...listing, market_category: listing.category })?.compiled;
    return (field, cost, margin, ending) => {
      const fault = refuse(field),
        find = category && priceOf(category, readMarketKey(field)!.attribute);
      if (fault || !find) return { ok: false, fault: fault ?? { kind: 'no-category' } };
      return find({ values: listing.values, cost }, market.rates, { margin, ending });
    };
  };
}

/** What the catalog gives these listings in the fields of a change by itself, whatever was typed there. */
async function loadGiven(
  db: Db,
  market: Market,
  { fields }: PreparedChange,
  ids: readonly number[],
): Promise<ReadonlyMap<number, Values>> {
  const c = await loadCorrespondences(db, market.id);
  const attributes = new Set(fields.map((f) => readMarketKey(f)!.attribute));
  return new Map(
    (await loadFullRows(db, market.id, 'p.id = any(?)', [ids])).map((row) => {
      const category = categoryOf(market, row)?.compiled;
      const others = Object.fromEntries(Object.entries(row.overrides).filter(([k]) => !attributes.has(k)));
      const values: Values = category
        ? resolveListing(category, toOffered(market, row).fields, roleOf(row), others, c).values
        : {};
      return [row.id, Object.fromEntries(Object.entries(values).map(([k, v]) => [toMarketKey(market.key, k), v]))];
    }),
  );
}
