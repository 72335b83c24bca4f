// Listings with their products as read for checking, and the listing that checks and feeds make of such a row.
import type { Wish } from '@basileus/core/feed';
import {
  type Correspondences,
  findSource,
  type Listing,
  listRead,
  type MarketEntry,
  type ResolvedListing,
  resolveListing,
  type RowRole,
  toText,
  type Value,
  type Values,
} from '@basileus/core/listing';
import { getCategoryPath, type Operation } from '@basileus/core/rulebook';
import { computePublishable, type StockRule } from '@basileus/core/stock';
import { type Db, rowsOf } from '../database';
import type { Market } from '../markets';
import type { Sight } from './members';
import { getStock, productFrom, type ProductRow, productSelect, selectProduct, toFields } from '../products';

export interface ListingRow {
  listing_id: number;
  market_category: string | null;
  overrides: Record<string, string | string[]>;
  /** What was made of it last; where it is read only to be checked, not there unless the market refused it. */
  old_values: Values;
  market_state: string;
  wish: Wish;
  accepted_details: Values | null;
  accepted_price: Values | null;
  accepted_stock: Values | null;
  refusal_open: boolean;
  /** Prices that a person has let go, by field. */
  released_prices: Values | null;
  /** By operation, the sending for whose time it waits. */
  timed: Partial<Record<Operation, number>> | null;
  product_version: number;
  market_revision: number;
  checks_from: number;
  row_digest: string | null;
  findings_digest: string | null;
  /** In thousandths; null where it has none. */
  margin: number | null;
  /** What it shows the others of its family; null where that was never noted. */
  family_sight: Sight | null;
  entry_is: 'none' | 'found' | 'joined' | 'other';
  entry: MarketEntry | null;
  /** Sites of the market where the item is not sold. */
  sites_out: string[];
  /** Markets on which it is not sold at all; none where the stock is not shared out. */
  not_there: number[];
}
export type FullRow = ListingRow & ProductRow & { root_id: number };

/** The prices of a listing l as they are now, by the fields that are bound: what is let go, however far they move. */
export const pricesNowSql = `(select jsonb_object_agg(k, l."values" -> k) from unnest(?::text[]) k where l."values" -> k is not null)`;

/** True of a listing of an item that is not sold on its market, so that nothing of a stock that is shared out is kept for it. */
export const notThereSql = (l: string): string => `${l}.market_state in ('left out', 'withdrawn')`;

const selectListing = (
  values: string,
): string => `l.id as listing_id, l.category as market_category, l.overrides, ${values} as old_values,
  l.market_state, l.wish, l.accepted_details, l.accepted_price, l.accepted_stock, l.refusal_open, l.released_prices, l.timed, l.product_version,
  l.market_revision, l.row_digest, l.findings_digest, l.margin, l.family_sight, l.entry_is, l.entry, l.sites_out, m.checks_from,
  case when m.settings ->> 'weight' is null then '{}' else array(
    select x.market_id from listings x where x.product_id = p.id and ${notThereSql('x')}) end as not_there, coalesce(p.parent_id, p.id) as root_id`;
const listingSelect = selectListing('l."values"');
const checkSelect = selectListing(`case when l.refusal_open then l."values" else '{}' end`);

/** True where a listing was checked against its product and its market as they are now. */
export const isCurrent = (row: FullRow): boolean =>
  row.product_version === row.version && row.market_revision >= row.checks_from;
/** The same for SQL, over listings l, products p and markets m. */
export const staleSql = '(l.product_version <> p.version or l.market_revision < m.checks_from)';

const load = (
  db: Db,
  select: string,
  marketId: number,
  where: string,
  bindings: readonly unknown[],
  unread: readonly string[] = [],
): Promise<FullRow[]> =>
  rowsOf<FullRow>(
    db,
    `select ${unread.length > 0 ? selectProduct('p.facts - ?::text[]') : productSelect}, ${select}
      from ${productFrom}
      join listings l on l.product_id = p.id and l.market_id = ?
      join markets m on m.id = l.market_id
      where ${where}`,
    [...(unread.length > 0 ? [unread] : []), marketId, ...bindings],
  );

/** Listings of a market with their products, by a condition on p or l. */
export const loadFullRows = (
  db: Db,
  marketId: number,
  where: string,
  bindings: readonly unknown[],
): Promise<FullRow[]> => load(db, listingSelect, marketId, where, bindings);

/** The same with what checking asks, and no more: without facts that the market does not read. */
export const loadRowsToCheck = (
  db: Db,
  marketId: number,
  where: string,
  bindings: readonly unknown[],
  unread?: readonly string[],
): Promise<FullRow[]> => load(db, checkSelect, marketId, where, bindings, unread);

/**
 * The same for who is about to write them: they are locked, in the order of their ids, since a refresh that read before
 * another change would otherwise write old findings over new ones. They are read by a statement of their own, after the
 * lock: one that waited for it sees the product as it was before it waited.
 */
export async function lockRowsToCheck(
  db: Db,
  marketId: number,
  where: string,
  bindings: readonly unknown[],
  unread?: readonly string[],
): Promise<FullRow[]> {
  await rowsOf(
    db,
    `select l.id from listings l
      join products p on p.id = l.product_id
      where l.market_id = ? and ${where}
      order by l.id for update of l`,
    [marketId, ...bindings],
  );
  return loadRowsToCheck(db, marketId, where, bindings, unread);
}

/** The leaf in which a row is checked and sent: as an offer where it joins an entry of the market. */
export const categoryOf = (
  market: Market,
  row: Pick<FullRow, 'market_category' | 'entry_is' | 'sites_out'>,
): ReturnType<Market['category']> =>
  row.market_category === null
    ? undefined
    : market.category(row.market_category, row.entry_is === 'joined', row.sites_out);

export const roleOf = (row: { kind: string }): RowRole =>
  row.kind === 'family' ? 'parent' : row.kind === 'variant' ? 'variant' : 'single';

/** The market's attributes that divide a family, from the fields of ours that do. */
export function toMarketAxes(market: Market, category: string, ours: readonly string[], c: Correspondences): string[] {
  const compiled = market.category(category)?.compiled;
  if (!compiled) return [];
  const path = getCategoryPath(market.rulebook, category).map((n) => n.key);
  return ours.map((field) => {
    const fed = compiled.attributes
      .filter((a) => listRead(findSource(a.attribute, path, c)).includes(field))
      .map((a) => a.attribute.key);
    return fed.find((k) => compiled.axes.includes(k)) ?? fed[0] ?? field;
  });
}

/** A row made into the listing that checks and feeds see. Stock is what may be published under the market's rule. */
export function toListing(
  market: Market,
  row: FullRow,
  c: Correspondences,
): { listing: Listing; origins: ResolvedListing['origins'] } {
  const { fields, made, stock } = toOffered(market, row);
  const category = row.market_category ?? '';
  const compiled = categoryOf(market, row)?.compiled,
    isOffer = row.entry_is === 'joined';
  // An offer stands by itself: what divides the entries of the market is the market's.
  const role = isOffer ? 'single' : roleOf(row);
  const resolved = compiled ? resolveListing(compiled, fields, role, row.overrides, c) : { values: {}, origins: {} };
  const whole = isOffer ? market.category(category)?.compiled : undefined;
  return {
    listing: {
      sku: row.sku,
      role,
      parentSku: isOffer ? undefined : (row.parent_sku ?? undefined),
      category,
      axes: isOffer ? [] : toMarketAxes(market, category, row.axes, c),
      values: resolved.values,
      cost: typeof fields['cost'] === 'string' ? fields['cost'] : undefined,
      accepted: row.accepted_details ?? undefined,
      entry:
        row.entry && (isOffer || row.entry_is === 'found')
          ? {
              there: row.entry,
              ours: whole ? resolveListing(whole, fields, roleOf(row), row.overrides, c).values : {},
            }
          : undefined,
    },
    origins: nameStock(nameMade(resolved.origins, made, fields), stock),
  };
}

/** The fields of a product as a market is offered them: stock by its rule, prices that are made of the house price filled in. */
export function toOffered(
  market: Market,
  row: FullRow,
): {
  fields: Record<string, Value>;
  made: Readonly<Record<string, string>>;
  /** What the product says of its stock, where the market is told another number. */
  stock: string | undefined;
} {
  const fields = toFields(row),
    own = toText(fields['stock']);
  if (row.kind !== 'family') {
    const { buffer, least, most } = market.settings;
    fields['stock'] = String(
      computePublishable(getStock(row) ?? { onHand: 0, reserved: 0 }, {
        buffer,
        cap: Math.min(market.rulebook.offer.quantityCap, most ?? Infinity),
        least,
        ...toShare(market, row),
      }),
    );
  }
  return { fields, made: market.fillPrices(fields), stock: fields['stock'] === own ? undefined : own };
}

/** How the stock of a row is shared out: among this market and the others that share and on which the item is sold. */
function toShare({ id, sharing }: Market, row: FullRow): Pick<StockRule, 'share'> {
  const there = sharing?.filter((s) => s.id === id || !row.not_there.includes(s.id));
  return there ? { share: { weights: there.map((s) => s.weight), mine: there.findIndex((s) => s.id === id) } } : {};
}

/** Origins with what the product says of its stock. */
function nameStock(origins: ResolvedListing['origins'], stock: string | undefined): ResolvedListing['origins'] {
  if (!stock) return origins;
  const fed = Object.entries(origins).filter(([, o]) => o.from === 'product' && o.field === 'stock');
  if (fed.length === 0) return origins;
  return {
    ...origins,
    ...Object.fromEntries(fed.map(([key]) => [key, { from: 'product' as const, field: 'stock', fitted: stock }])),
  };
}

/** Origins with the field of which a price was made, and what that says. */
function nameMade(
  origins: ResolvedListing['origins'],
  made: Readonly<Record<string, string>>,
  fields: Readonly<Record<string, Value>>,
): ResolvedListing['origins'] {
  if (Object.keys(made).length === 0) return origins;
  return Object.fromEntries(
    Object.entries(origins).map(([key, o]) => {
      const source = o.from === 'product' ? made[o.field] : undefined;
      return [
        key,
        source === undefined ? o : { from: 'product' as const, field: source, fitted: toText(fields[source]) },
      ];
    }),
  );
}
