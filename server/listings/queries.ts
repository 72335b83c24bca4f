import type { ListingRow as ListingShape, ListingFinding } from '@basileus/contract';
import type { MarketEntry, Value } from '@basileus/core/listing';
import { padMoney } from '@basileus/core/quantity';
import { marginAttribute } from '@basileus/core/rulebook';
import { type Db, rowOf, rowsOf } from '../database';
import { loadCorrespondences, type Market } from '../markets';
import { roleOf, toMarketAxes } from './rows';
import { loadOwnCounts, loadStateCounts, loadUnplaced } from './tallies';

/** The state of a listing l; the database's function and `getListingState` of the core are the same. */
export const stateSql = `listing_state(l.in_flight, l.market_state, l.refusal_open, l.category, l.blockers)`;

export interface ListingFilter {
  category: string;
  ownCategory: string;
  brand: string;
  /** Items that an import wrote; 0 for all. */
  import: number;
  state: string;
  search: string;
  check: string;
  message: string;
  field: string;
  level: string;
  without: string;
  /** Those of which the market has an entry, by what is said of it: `found`, `joined`, `other`. */
  entry: string;
  keep: readonly number[];
  sort: string;
  direction: 'up' | 'down';
  offset: number;
  limit: number;
}

export function toWhere(market: Market, f: Partial<ListingFilter>): { where: string; bindings: unknown[] } {
  const where = ['l.market_id = ?'],
    bindings: unknown[] = [market.id];
  const add = (sql: string, ...b: unknown[]) => {
    where.push(sql);
    bindings.push(...b);
  };
  if (f.category) add('l.category = ?', f.category);
  if (f.ownCategory) add('p.category = ?', f.ownCategory);
  if (f.brand) add('p.brand = ?', f.brand);
  if (f.import) add('p.sku in (select r.sku from import_rows r where r.import_id = ? and r.applied)', f.import);
  if (f.entry) add('l.entry_is = ?', f.entry);
  if (f.without === 'category') add('l.category is null');
  if (f.state) add(`${stateSql} = ?`, f.state);
  for (const word of (f.search ?? '').toLowerCase().split(/\s+/).filter(Boolean))
    add('p.search like ?', `%${word.replace(/[\\%_]/g, '\\$&')}%`);
  if (f.check)
    add(
      `l.id in (select listing_id from findings where market_id = ? and "check" = ? and (? = '' or message = ?) and (? = '' or field = ?) union select unnest(?::bigint[]))`,
      market.id,
      f.check,
      f.message ?? '',
      f.message ?? '',
      f.field ?? '',
      f.field ?? '',
      f.keep ?? [],
    );
  else if (f.level) add(`exists (select 1 from findings f where f.listing_id = l.id and f.level = ?)`, f.level);
  return { where: where.join(' and '), bindings };
}

interface Row {
  id: number;
  product_id: number;
  sku: string;
  title: string;
  own_category: string | null;
  sites_out: string[];
  kind: string;
  parent_sku: string | null;
  axes: string[];
  category: string | null;
  state: ListingShape['state'];
  number: string | null;
  values: Record<string, Value>;
  origins: ListingShape['origins'];
  wish: ListingShape['wish'];
  version: number;
  cost: string | null;
  margin: number | null;
  entry_is: 'none' | 'found' | 'joined' | 'other';
  entry: MarketEntry | null;
}

/** What listings are put in order by: as people count, numbers by size; families before their variants where it is the SKU. */
function toOrder(market: Market, sort: string, direction: string): { order: string; bindings: unknown[] } {
  const way = direction === 'down' ? 'desc nulls last' : 'asc nulls last';
  const bySku = 'p.shelf_order';
  const last = 'p.parent_id is not null, p.id';
  if (sort === 'state') return { order: `${stateSql} ${way}, ${bySku}, ${last}`, bindings: [] };
  if (sort === 'category') return { order: `l.category ${way}, ${bySku}, ${last}`, bindings: [] };
  if (sort === marginAttribute) return { order: `l.margin ${way}, ${bySku}, ${last}`, bindings: [] };
  const attribute = market.rulebook.attributes.find((a) => a.key === sort);
  if (!attribute) return { order: `${bySku} ${direction === 'down' ? 'desc' : 'asc'}, ${last}`, bindings: [] };
  const isNumber = attribute.type === 'money' || attribute.type === 'integer' || attribute.type === 'decimal';
  const value = `l."values" ->> ?`;
  return isNumber
    ? {
        order: `case when ${value} ~ '^-{0,1}[0-9]{1,12}([.][0-9]+){0,1}$' then (${value})::numeric end ${way}, p.id`,
        bindings: [sort, sort],
      }
    : { order: `(${value}) collate "natural" ${way}, p.id`, bindings: [sort] };
}

const rowSelect = `l.id, l.product_id, l.sites_out, p.sku, p.title, p.category as own_category, p.kind, parent.sku as parent_sku, p.axes,
        l.category, ${stateSql} as state, l.number, l."values", l.origins, l.wish, l.version, p.cost, l.margin, l.entry_is, l.entry`;

/** What narrows a list of listings; their order and the page are none. */
const narrowing = [
  'category',
  'ownCategory',
  'brand',
  'import',
  'state',
  'search',
  'check',
  'level',
  'without',
  'entry',
] as const;

/** How many listings a filter leaves: the kept count where it is one thing that is kept, else counted. */
async function countListings(db: Db, market: Market, f: Partial<ListingFilter>): Promise<number> {
  const [only, ...others] = narrowing.filter((k) => f[k] !== undefined && f[k] !== '' && f[k] !== 0);
  const sum = (rows: readonly { n: number }[]): number => rows.reduce((n, r) => n + r.n, 0);
  if (others.length === 0) {
    if (only === undefined) return sum(await loadStateCounts(db, [market.id]));
    if (only === 'state') return sum((await loadStateCounts(db, [market.id])).filter((s) => s.state === f.state));
    if (only === 'category') return sum((await loadOwnCounts(db, market.id)).filter((o) => o.chosen === f.category));
    if (only === 'without') return sum(await loadUnplaced(db, [market.id]));
  }
  const { where, bindings } = toWhere(market, f);
  return (await rowOf<{ n: number }>(
    db,
    `select count(*) as n from listings l join products p on p.id = l.product_id where ${where}`,
    bindings,
  ))!.n;
}

/** A page of listings with everything a table of them shows. Families stand before their variants. */
export async function loadListings(
  db: Db,
  market: Market,
  f: Partial<ListingFilter> & { offset: number; limit: number },
): Promise<{ total: number; rows: ListingShape[] }> {
  const { where, bindings } = toWhere(market, f);
  const { order, bindings: ordered } = toOrder(market, f.sort ?? 'sku', f.direction ?? 'up');
  const total = await countListings(db, market, f);
  // The page is found first, among narrow rows, and read then: what is far down is reached by passing what stands above it.
  const rows = await rowsOf<Row>(
    db,
    `with page as materialized (
        select l.id
        from listings l
        join products p on p.id = l.product_id
        where ${where}
        order by ${order} offset ? limit ?)
      select ${rowSelect}
      from page
      join listings l on l.id = page.id
      join products p on p.id = l.product_id
      left join products parent on parent.id = p.parent_id
      order by ${order}`,
    [...bindings, ...ordered, f.offset, f.limit, ...ordered],
  );
  return { total, rows: await withFindings(db, market, rows) };
}

export async function loadListing(db: Db, market: Market, id: number): Promise<ListingShape | undefined> {
  const rows = await rowsOf<Row>(
    db,
    `select ${rowSelect}
      from listings l
      join products p on p.id = l.product_id
      left join products parent on parent.id = p.parent_id
      where l.market_id = ? and l.id = ?`,
    [market.id, id],
  );
  return (await withFindings(db, market, rows))[0];
}

async function withFindings(db: Db, market: Market, rows: readonly Row[]): Promise<ListingShape[]> {
  const findings = await rowsOf<ListingFinding & { listing_id: number }>(
    db,
    `select listing_id, "check", message, level, field, value, params, remedies
      from findings
      where listing_id = any(?)
      order by id`,
    [rows.map((r) => r.id)],
  );
  const c = await loadCorrespondences(db, market.id);
  const byListing = new Map<number, ListingFinding[]>();
  for (const { listing_id, ...f } of findings)
    (byListing.get(listing_id) ?? byListing.set(listing_id, []).get(listing_id)!).push(f);
  return rows.map((r) => {
    const isOffer = r.entry_is === 'joined',
      role = isOffer ? 'single' : roleOf(r);
    const compiled = r.category === null ? undefined : market.category(r.category, isOffer, r.sites_out)?.compiled;
    const levels = Object.fromEntries(
      (compiled?.attributes ?? [])
        .filter((a) => a.strongest !== 'unused')
        .map((a) => [a.attribute.key, a.levelFor(r.values, role)]),
    );
    return {
      id: r.id,
      productId: r.product_id,
      sku: r.sku,
      title: r.title,
      ownCategory: r.own_category ?? '',
      role,
      parentSku: r.parent_sku,
      axes: r.axes.length && !isOffer && r.category !== null ? toMarketAxes(market, r.category, r.axes, c) : [],
      category: r.category,
      state: r.state,
      number: r.number,
      values: r.values as ListingShape['values'],
      origins: r.origins,
      levels,
      findings: byListing.get(r.id) ?? [],
      wish: r.wish,
      sitesOut: r.sites_out,
      entry: r.entry && { is: r.entry_is as 'found' | 'joined' | 'other', ...r.entry },
      cost: r.cost === null ? null : padMoney(r.cost),
      margin: r.margin,
      version: r.version,
    };
  });
}
