// One step of writing a planned import into the catalog: some hundred rows in one transaction that marks them as applied, so
// that a crash loses nothing and a repeated job doubles nothing.
import { type Conflict, type ItemChange, mergeChanges } from '@basileus/core/change';
import { isSameField } from '@basileus/core/product';
import { loadListedValues } from '../choose';
import { type Db, rowOf, rowsOf } from '../database';
import {
  loadProductsOf,
  lockProducts,
  recordAdded,
  recordChangeSet,
  recordSelected,
  toFields,
  updateProducts,
} from '../products';
import { insertNew, type PlannedRow } from './insert-new';
import { listNew } from './list-new';
import { divideChanges, isListed, loadFieldsOfImport, type ListedWrite, writeListed } from './listed';

/** Rows of a step: more at once cost less each, and keep others who edit the same items waiting for longer. */
const step = 1000;

interface Clash {
  row: number;
  clash: 'changed' | 'added' | 'removed';
  conflicts: Conflict[];
}
type Standing = Awaited<ReturnType<typeof lockProducts>>[number];
type Meant = PlannedRow & { item: Standing };

/**
 * Whether the item stands as it stood when the row was compared with it, so that every change is as it was planned. What is
 * kept apart from the item (its stock, its listings) moves without it.
 */
const isAsPlanned = (r: PlannedRow, item: Standing): boolean =>
  r.compared_with === item.version &&
  r.changes.every((c) => c.field !== 'stock' && c.field !== 'parent_sku' && !isListed(c.field));

export interface ImportHead {
  id: number;
  name: string;
  actor: string;
}

/**
 * The next rows: `new` ones, families before their variants, since rows name others as their family; those that change
 * items and are `free` of whoever else takes some in the same moment; or `all`.
 */
export type WhichRows = 'new' | 'free' | 'all';
const whichSql: Readonly<Record<WhichRows, { where: string; lock: string }>> = {
  new: { where: `action = 'create'`, lock: 'for update' },
  free: { where: `action = 'update'`, lock: 'for update skip locked' },
  all: { where: `action in ('create', 'update')`, lock: 'for update' },
};

/**
 * Writes the next rows. Items that are there are locked, then compared with what stood there when the file was read: what
 * both sides changed is not written but kept for a decision. Answers how many rows there were; none at the end.
 */
export async function applyStep(
  db: Db,
  of: ImportHead,
  changeSetId: number,
  which: WhichRows,
): Promise<{ rows: number; clashes: number }> {
  const { id: importId, name, actor } = of,
    { where, lock } = whichSql[which];
  const rows = await rowsOf<PlannedRow>(
    db,
    `select "row", sku, action, changes, compared_with from import_rows r
      where import_id = ? and not applied and action in ('create', 'update') and ${where}
      order by parent_sku is not null, "row" limit ? ${lock}`,
    [importId, step],
  );
  if (rows.length === 0) return { rows: 0, clashes: 0 };
  const { added, leftOut } = await addNew(db, of, rows, changeSetId);
  const there = rows.filter((r) => !added.has(r.sku));
  const standing = new Map(
    (
      await lockProducts(
        db,
        there.map((r) => r.sku),
      )
    ).map((p) => [p.sku, p]),
  );
  const asPlanned: Meant[] = [],
    others: Meant[] = [],
    clashes = new Map<number, Clash>();
  for (const r of there) {
    const item = standing.get(r.sku);
    if (item) (isAsPlanned(r, item) ? asPlanned : others).push({ ...r, item });
    else
      clashes.set(r.row, {
        row: r.row,
        clash: 'removed',
        conflicts: r.changes.map((c) => ({ field: c.field, base: c.before, theirs: null, ours: c.after })),
      });
  }
  const merged = await mergeOthers(db, importId, others, clashes);
  await updateProducts(
    db,
    [...asPlanned.map((r) => ({ id: r.item.id, changes: r.changes })), ...merged.items]
      .filter((i) => i.changes.length > 0)
      .map(({ id, changes }) => ({ id, fields: Object.fromEntries(changes.map((c) => [c.field, c.after])) })),
  );
  await markAsPlanned(db, importId, changeSetId, asPlanned);
  await recordChangeSet(
    db,
    { title: `Import ${name}`, actor, target: 'products', marketId: null, id: changeSetId },
    merged.items,
  );
  const since = await writeListed(db, of, merged.onMarkets);
  for (const { row, id } of merged.onMarkets) {
    const conflicts = since.get(id);
    if (!conflicts) continue;
    const known = clashes.get(row);
    if (known) known.conflicts.push(...conflicts);
    else clashes.set(row, { row, clash: 'changed', conflicts });
  }
  const planned = new Set(asPlanned.map((r) => r.row));
  await markApplied(
    db,
    importId,
    rows.filter((r) => !planned.has(r.row)),
    clashes,
    leftOut,
  );
  return { rows: rows.length, clashes: clashes.size };
}

/** Adds the rows that are new. Answers the SKUs that were added, and what of their listings was left out, by row. */
async function addNew(
  db: Db,
  of: ImportHead,
  rows: readonly PlannedRow[],
  changeSetId: number,
): Promise<{ added: ReadonlySet<string>; leftOut: Awaited<ReturnType<typeof listNew>> }> {
  const creates = rows.filter((r) => r.action === 'create');
  const added = await insertNew(db, of.id, creates);
  await recordAdded(db, changeSetId, added);
  const idOf = new Map(added.map((a) => [a.sku, a.id]));
  const fresh = creates.flatMap((r) => {
    const id = idOf.get(r.sku);
    return id === undefined ? [] : [{ row: r.row, id, sku: r.sku, changes: r.changes }];
  });
  await recordChangeSet(
    db,
    { title: `Import ${of.name}`, actor: of.actor, target: 'products', marketId: null, id: changeSetId },
    fresh.map(({ id, sku, changes }) => ({
      id,
      sku,
      changes: divideChanges(changes).items.map((c) => ({ field: c.field, before: null, after: c.after })),
    })),
  );
  return { added: new Set(idOf.keys()), leftOut: await listNew(db, of, fresh) };
}

/** Rows whose items may stand otherwise than when they were planned: what may be written of each, and what both sides changed. */
async function mergeOthers(
  db: Db,
  importId: number,
  rows: readonly Meant[],
  clashes: Map<number, Clash>,
): Promise<{ items: ItemChange[]; onMarkets: ListedWrite[] }> {
  const items: ItemChange[] = [],
    onMarkets: ListedWrite[] = [];
  if (rows.length === 0) return { items, onMarkets };
  const keys = [...new Set(rows.flatMap((r) => r.changes.map((c) => c.field)))];
  const held = new Map(
    (
      await loadProductsOf(
        db,
        keys,
        rows.map((r) => r.sku),
      )
    ).map((r) => [r.id, toFields(r)]),
  );
  const listed = await loadListedValues(
    db,
    keys,
    rows.map((r) => r.item.id),
  );
  const fields = await loadFieldsOfImport(db, importId);
  for (const { row, sku, action, changes, item } of rows) {
    const merged = mergeChanges(
      changes.filter((c) => c.field !== 'parent_sku'),
      { ...held.get(item.id), ...listed.get(item.id) },
      (f, a, b) => isSameField(fields, f, a, b),
    );
    if (action === 'create') {
      // Somebody else added this SKU since: nothing of the row is written over it unasked.
      const conflicts = [
        ...merged.conflicts,
        ...merged.changes.map((c) => ({ field: c.field, base: null, theirs: c.before, ours: c.after })),
      ];
      if (conflicts.length) clashes.set(row, { row, clash: 'added', conflicts });
      continue;
    }
    if (merged.conflicts.length) clashes.set(row, { row, clash: 'changed', conflicts: merged.conflicts });
    const of = divideChanges(merged.changes);
    items.push({ id: item.id, sku, changes: of.items });
    if (of.listed.length > 0) onMarkets.push({ row, id: item.id, kind: item.kind, changes: of.listed });
  }
  return { items, onMarkets };
}

/** Marks rows as written and keeps their changes in the change set, as they stand in the file's plan: they are not carried once more. */
const markAsPlanned = (db: Db, importId: number, changeSetId: number, rows: readonly Meant[]): Promise<void> =>
  recordSelected(
    db,
    changeSetId,
    rows.reduce((n, r) => n + r.changes.length, 0),
    {
      sql: `update import_rows set applied = true where import_id = ? and "row" = any(?) returning "row", sku, changes`,
      bindings: [importId, rows.map((r) => r.row)],
    },
    {
      sql: `r.id, s.sku, s.changes from source s join unnest(?::int[], ?::bigint[]) as r("row", id) using ("row")`,
      bindings: [rows.map((r) => r.row), rows.map((r) => r.item.id)],
    },
  );

/** Marks other rows as written; few of them have more to say than that. */
async function markApplied(
  db: Db,
  importId: number,
  rows: readonly PlannedRow[],
  clashes: ReadonlyMap<number, Clash>,
  leftOut: Awaited<ReturnType<typeof listNew>>,
): Promise<void> {
  const said = rows.filter((r) => clashes.has(r.row) || leftOut.has(r.row));
  const telling = new Set(said.map((r) => r.row));
  await db.raw(`update import_rows set applied = true where import_id = ? and "row" = any(?)`, [
    importId,
    rows.flatMap((r) => (telling.has(r.row) ? [] : r.row)),
  ]);
  if (said.length === 0) return;
  await db.raw(
    `update import_rows i
      set applied = true, clash = r.clash, conflicts = coalesce(r.conflicts, '[]'), problems = i.problems || coalesce(r."leftOut", '[]')
      from jsonb_to_recordset(?::jsonb) as r("row" int, clash text, conflicts jsonb, "leftOut" jsonb)
      where i.import_id = ? and i."row" = r."row"`,
    [JSON.stringify(said.map((r) => ({ row: r.row, ...clashes.get(r.row), leftOut: leftOut.get(r.row) }))), importId],
  );
}

/** The change set that an import writes into, opened where there is none. */
export async function openChangeSet(db: Db, { id: importId, name, actor }: ImportHead): Promise<number> {
  const select = 'select change_set_id as id from imports where id = ? for update';
  const known = await rowOf<{ id: number | null }>(db, select, [importId]);
  if (known?.id) return known.id;
  const id = (await rowOf<{ id: number }>(
    db,
    `insert into change_sets (title, actor, target) values (?, ?, 'products') returning id`,
    [`Import ${name}`, actor],
  ))!.id;
  await db.raw('update imports set change_set_id = ? where id = ?', [id, importId]);
  return id;
}
