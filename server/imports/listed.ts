// Fields of markets in a file: columns that are called so, or were chosen to be, are written into the listings.
import type { ImportReadingShape } from '@basileus/contract';
import type { Conflict, FieldChange } from '@basileus/core/change';
import { extendFields, type FieldBook, readMarketKey, toMarketKey } from '@basileus/core/product';
import { foldLoosely } from '@basileus/core/text';
import { findListingFault, groupByMarket, loadListings, loadWideFields } from '../choose';
import { type Db, rowOf, rowsOf } from '../database';
import { loadFields } from '../fields';
import { patchListingCells } from '../listings';
import { loadMarket } from '../markets';
import { openChangeSet as openSet, shareDeed } from '../products';

/** Whether a field is one of a market. */
export const isListed = (key: string): boolean => readMarketKey(key) !== undefined;

/** The fields that an import fills out of: those of the house, and those of markets that its columns are read as. */
export async function loadImportFields(db: Db, { columns }: Pick<ImportReadingShape, 'columns'>): Promise<FieldBook> {
  const house = await loadFields(db);
  const listed = columns.flatMap((c) => (c.field !== null && isListed(c.field) ? c.field : []));
  if (listed.length === 0) return house;
  const wide = await loadWideFields(db);
  return extendFields(
    house,
    listed.flatMap((key) => wide.get(key) ?? []),
  );
}

/** The same of an import by its number. */
export async function loadFieldsOfImport(db: Db, id: number): Promise<FieldBook> {
  const row = await rowOf<{ reading: ImportReadingShape }>(db, 'select reading from imports where id = ?', [id]);
  return loadImportFields(db, row?.reading ?? { columns: [] });
}

/** A reading whose columns that are headed by the very name of a field of a market are read as that field. */
export function nameListed(reading: ImportReadingShape, fields: FieldBook): ImportReadingShape {
  const byLabel = new Map(
    fields.all.filter((f) => f.market !== undefined && !f.made).map((f) => [foldLoosely(f.label), f.key]),
  );
  return {
    ...reading,
    columns: reading.columns.map((c) => {
      const field = byLabel.get(foldLoosely(c.name));
      return field === undefined ? c : { ...c, field, why: 'name' };
    }),
  };
}

/** Changes of items and of their listings apart. */
export const divideChanges = <C extends { field: string }>(changes: readonly C[]): { items: C[]; listed: C[] } => ({
  items: changes.filter((c) => !isListed(c.field)),
  listed: changes.filter((c) => isListed(c.field)),
});

/** The change set of what an import writes into the listings of a market: one of each. */
async function openListedSet(
  db: Db,
  importId: number,
  market: { id: number; name: string },
  name: string,
  actor: string,
) {
  const known = await rowOf<{ id: number }>(
    db,
    'select change_set_id as id from import_sets where import_id = ? and market_id = ?',
    [importId, market.id],
  );
  if (known) return known.id;
  const id = await openSet(db, {
    title: `Import ${name} on ${market.name}`,
    actor,
    target: 'listings',
    marketId: market.id,
  });
  await db.raw('update change_sets set is_done = true where id = ?', [id]);
  await db.raw('insert into import_sets (import_id, market_id, change_set_id) values (?, ?, ?)', [
    importId,
    market.id,
    id,
  ]);
  const sets = await rowsOf<{ id: number }>(
    db,
    `select change_set_id as id from import_sets where import_id = ?
      union select change_set_id from imports where id = ? and change_set_id is not null`,
    [importId, importId],
  );
  await shareDeed(
    db,
    sets.map((s) => s.id),
  );
  return id;
}

/** Changes of the listings of an item, of the row of a file. */
export interface ListedWrite {
  row: number;
  id: number;
  kind: string;
  changes: readonly FieldChange[];
}

/** Writes changes into the listings of items. Answers, by item, what somebody has changed there in the same moment. */
export async function writeListed(
  db: Db,
  of: { id: number; name: string; actor: string },
  items: readonly { id: number; kind: string; changes: readonly FieldChange[] }[],
): Promise<ReadonlyMap<number, Conflict[]>> {
  const conflicts = new Map<number, Conflict[]>();
  const note = (item: number, conflict: Conflict): void => {
    conflicts.set(item, [...(conflicts.get(item) ?? []), conflict]);
  };
  const markets = groupByMarket(new Set(items.flatMap((i) => i.changes.map((c) => c.field))));
  const listings = await loadListings(
    db,
    markets.keys(),
    items.map((i) => i.id),
  );
  for (const key of markets.keys()) {
    const market = await loadMarket(db, key),
      there = listings.get(key);
    const itemOf = new Map([...(there ?? [])].map(([item, l]) => [l.id, item]));
    const cells = items.flatMap(({ id, kind, changes }) => {
      const listing = there?.get(id);
      return changes.flatMap((c) => {
        const named = readMarketKey(c.field)!;
        if (named.market !== key) return [];
        // It was moved or left out since the file was read.
        const fault =
          c.after === null && listing ? undefined : findListingFault(market, listing, { kind }, named.attribute);
        if (!listing || fault) {
          note(id, { field: c.field, base: c.before, theirs: c.before, ours: c.after });
          return [];
        }
        return [{ ...c, id: listing.id, field: named.attribute }];
      });
    });
    if (cells.length === 0) continue;
    const set = await openListedSet(db, of.id, market, of.name, of.actor);
    const outcome = await patchListingCells(db, market.id, cells, '', of.actor, set);
    for (const c of outcome.conflicts) {
      const cell = cells.find((x) => x.id === c.id && x.field === c.field)!;
      note(itemOf.get(c.id)!, {
        field: toMarketKey(key, c.field),
        base: cell.before,
        theirs: c.now,
        ours: cell.after,
      });
    }
  }
  return conflicts;
}
