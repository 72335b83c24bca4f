// What a bulk change reads of listings, and the listings of one market where it changes these.
import type { ChangeItem, ListingFault, PreparedChange } from '@basileus/core/change';
import { resolveListing, type Value, type Values } from '@basileus/core/listing';
import { readMarketKey, toMarketKey } from '@basileus/core/product';
import { categoryAttribute } from '@basileus/core/rulebook';
import { type Db, rowsOf } from '../database';
import { categoryOf, type FullRow, loadFullRows, roleOf, toOffered } from '../listings';
import { loadCorrespondences, loadMarket, type Market } from '../markets';
import type { ProductRow } from '../products';

interface ListedRow {
  id: number;
  product_id: number;
  category: string | null;
  values: Values;
  entry_is: FullRow['entry_is'];
  sites_out: string[];
}

/** A listing as a change sees it. */
export interface Listed {
  id: number;
  item: NonNullable<ChangeItem['listing']>;
}

const loadRows = (db: Db, market: number, ids: readonly number[]): Promise<ListedRow[]> =>
  rowsOf<ListedRow>(
    db,
    `select l.id, l.product_id, l.category, l."values", l.entry_is, l.sites_out from listings l
      where l.market_id = ? and l.product_id = any(?) and l.market_state <> 'left out'`,
    [market, ids],
  );

/** Fields of the listings of items that a change reads, by item. */
export async function loadListedValues(
  db: Db,
  reads: readonly string[],
  ids: readonly number[],
): Promise<ReadonlyMap<number, Record<string, Value>>> {
  const byMarket = new Map<string, string[]>();
  for (const key of reads) {
    const named = readMarketKey(key);
    if (named) byMarket.set(named.market, [...(byMarket.get(named.market) ?? []), named.attribute]);
  }
  const byItem = new Map<number, Record<string, Value>>();
  for (const [key, attributes] of byMarket)
    for (const row of await loadRows(db, (await loadMarket(db, key)).id, ids)) {
      const values = byItem.get(row.product_id) ?? {};
      byItem.set(row.product_id, values);
      for (const a of attributes) {
        const held = a === categoryAttribute ? (row.category ?? undefined) : row.values[a];
        if (held !== undefined) values[toMarketKey(key, a)] = held;
      }
    }
  return byItem;
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
  return new Map(
    (await loadRows(db, market.id, ids)).map((r) => [
      r.product_id,
      { id: r.id, item: { given: given?.get(r.product_id), refuse: refuser(market, r, rows.get(r.product_id)!) } },
    ]),
  );
}

/** Says why a field of a listing cannot be filled: it has no leaf yet, or its leaf does not ask for the field. */
function refuser(market: Market, row: ListedRow, product: ProductRow): (field: string) => ListingFault | undefined {
  const category = categoryOf(market, { ...row, market_category: row.category })?.compiled;
  const role = row.entry_is === 'joined' ? 'single' : roleOf(product);
  return (field) => {
    const { attribute } = readMarketKey(field)!;
    if (attribute === categoryAttribute) return undefined;
    if (!category) return { kind: 'no-category' };
    const asked = category.byKey.get(attribute);
    return asked && asked.levelFor(row.values, role) !== 'unused'
      ? undefined
      : { kind: 'not-in-category', category: category.label };
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
