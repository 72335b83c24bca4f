// What rows that are new say of listings, written once the items are there: by then their listings have the leaves that are
// remembered for their own categories, or the ones that the rows name.
import type { FieldChange } from '@basileus/core/change';
import { readMarketKey } from '@basileus/core/product';
import { categoryAttribute } from '@basileus/core/rulebook';
import type { Problem } from '@basileus/core/sheet';
import { findListingFault, groupByMarket, loadListedValues, loadListings } from '../choose';
import { type Db, rowsOf } from '../database';
import { applyCategoryRules, refreshListings } from '../listings';
import { loadMarket, type Market } from '../markets';
import { toLeftOut } from './judge-listed';
import { divideChanges, writeListed } from './listed';

interface NewItem {
  row: number;
  id: number;
  changes: readonly FieldChange[];
}
type Of = Parameters<typeof writeListed>[1];

/** Writes what is said of the listings of items that an import has just added; answers, by row, what could not be. */
export async function listNew(db: Db, of: Of, added: readonly NewItem[]): Promise<ReadonlyMap<number, Problem[]>> {
  const items = added
    .map((i) => ({ ...i, changes: divideChanges(i.changes).listed }))
    .filter((i) => i.changes.length > 0);
  const leftOut = new Map<number, Problem[]>();
  if (items.length === 0) return leftOut;
  const ids = items.map((i) => i.id);
  const kinds = new Map(
    (await rowsOf<{ id: number; kind: string }>(db, 'select id, kind from products where id = any(?)', [ids])).map(
      (k) => [k.id, k.kind],
    ),
  );
  const markets = new Map<string, Market>();
  for (const key of groupByMarket(items.flatMap((i) => i.changes.map((c) => c.field))).keys()) {
    const market = await loadMarket(db, key);
    markets.set(key, market);
    await applyCategoryRules(db, market, ids);
    const there = await loadListings(db, [key], ids);
    await refreshListings(
      db,
      market,
      [...(there.get(key)?.values() ?? [])].map((l) => l.id),
    );
  }
  const isLeaf = ({ field }: FieldChange): boolean => readMarketKey(field)?.attribute === categoryAttribute;
  // The leaf first: it tells what else is asked for.
  for (const isTurn of [isLeaf, (c: FieldChange) => !isLeaf(c)])
    await writeSome(
      items.map((i) => ({ ...i, changes: i.changes.filter(isTurn) })).filter((i) => i.changes.length > 0),
    );
  return leftOut;

  async function writeSome(some: readonly NewItem[]): Promise<void> {
    const keys = [...new Set(some.flatMap((i) => i.changes.map((c) => c.field)))];
    const listings = await loadListings(db, markets.keys(), ids),
      held = await loadListedValues(db, keys, ids);
    const writable = some.map(({ row, id, changes }) => {
      const kind = kinds.get(id) ?? 'single';
      const can = changes.filter((c) => {
        const { market, attribute } = readMarketKey(c.field)!;
        const fault = findListingFault(markets.get(market)!, listings.get(market)?.get(id), { kind }, attribute);
        if (fault) leftOut.set(row, [...(leftOut.get(row) ?? []), toLeftOut(c, fault)]);
        return !fault;
      });
      return {
        id,
        kind,
        // What the listing has of the item by now is what the row was to change.
        changes: can.map((c) => ({ ...c, before: held.get(id)?.[c.field] ?? null })),
      };
    });
    await writeListed(db, of, writable);
  }
}
