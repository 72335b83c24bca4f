// Writing a planned import into the catalog, in steps of some hundred rows: each step is one transaction that marks its
// rows as applied, so that a crash loses nothing and a repeated job doubles nothing.
import { type Conflict, type FieldChange, type ItemChange, mergeChanges } from '@basileus/core/change';
import type { Value } from '@basileus/core/listing';
import { isSameField } from '@basileus/core/product';
import { z } from 'zod';
import { loadListedValues } from '../choose';
import { type Db, rowOf, rowsOf, type Write, writeOn } from '../database';
import { announce } from '../events';
import { recordHistory } from '../history';
import { defineJob } from '../jobs';
import {
  applyCategoryRules,
  hasStale,
  markSharing,
  refreshLater,
  refreshProducts,
  refreshStale,
  type Touch,
} from '../listings';
import { loadMarkets } from '../markets';
import { loadProductRows, recordAdded, recordChangeSet, toFields, toGtin14, updateProducts } from '../products';
import { insertNew, type PlannedRow } from './insert-new';
import { listNew } from './list-new';
import { divideChanges, loadFieldsOfImport, writeListed } from './listed';
import { loadImport } from './queries';

const step = 400;

export const applyImportJob = defineJob({
  kind: 'apply-import',
  payload: z.strictObject({ import: z.int(), actor: z.string() }),
  attempts: 10,
  mostSeconds: 3600,
  run: async ({ import: id, actor }, { db, progress, write }) => {
    const found = await loadImport(db, id);
    if (!found || found.state !== 'applying') return 'done';
    const total = (found.counts.create ?? 0) + (found.counts.update ?? 0);
    // Families before their variants: rows that others name as their parent go first.
    for (;;) {
      const stepped = await write(async (tx) => {
        const { rows, clashes } = await applyStep(tx, id, found.name, actor);
        return rows === 0 ? undefined : addToCounts(tx, id, rows, clashes);
      });
      if (!stepped) break;
      const { done, conflicts } = stepped;
      await progress(done, total, `row ${done} of ${total}${conflicts ? `, ${conflicts} for a decision` : ''}`);
      await announce(db, { topic: 'imports', id: String(id) });
    }
    await finishImport(db, id, found.name, actor, total, 'applied', write);
    return 'done';
  },
  onFailed: async ({ import: id }, db, reason) => {
    await db.raw(`update imports set state = 'failed', fault = ? where id = ? and state = 'applying'`, [reason, id]);
    await announce(db, { topic: 'imports', id: String(id) });
  },
  onCancelled: async ({ import: id, actor }, db) => {
    const found = await loadImport(db, id);
    if (found) await finishImport(db, id, found.name, actor, 0, 'cancelled');
  },
});

/** Counts on by what a step has written: counting all rows after each step would take longer with every one of them. */
const addToCounts = async (
  db: Db,
  id: number,
  rows: number,
  clashes: number,
): Promise<{ done: number; conflicts: number }> =>
  (await rowOf<{ done: number; conflicts: number }>(
    db,
    `update imports
      set counts = counts || jsonb_build_object('applied', coalesce((counts ->> 'applied')::int, 0) + ?::int,
        'conflicts', coalesce((counts ->> 'conflicts')::int, 0) + ?::int)
      where id = ?
      returning (counts ->> 'applied')::int as done, (counts ->> 'conflicts')::int as conflicts`,
    [rows, clashes, id],
  ))!;

/** The counts as they are: rows that were decided are written a second time, and counted once. */
const countAnew = (db: Db, id: number): Promise<unknown> =>
  db.raw(
    `update imports i
      set counts = counts || jsonb_build_object('applied', r.done, 'conflicts', r.conflicts)
      from (select count(*) filter (where applied)::int as done, count(*) filter (where clash is not null)::int as conflicts
        from import_rows where import_id = ?) r
      where i.id = ?`,
    [id, id],
  );

/** Follow-up in every market, then the import is done. Runs again harmlessly after a crash. */
async function finishImport(
  db: Db,
  id: number,
  name: string,
  actor: string,
  total: number,
  state: 'applied' | 'cancelled' = 'applied',
  write: Write = writeOn(db),
): Promise<void> {
  await write(async (tx) => {
    for (const market of await loadMarkets(tx)) await applyCategoryRules(tx, market);
  });
  if (total > 3000) {
    await write(markSharing);
    for (const market of await loadMarkets(db)) await refreshLater(db, market);
  } else {
    const skus = (
      await rowsOf<{ id: number }>(
        db,
        `select p.id from import_rows r join products p on p.sku = r.sku where r.import_id = ? and r.applied`,
        [id],
      )
    ).map((r) => r.id);
    if (skus.length > 1500) {
      await write(markSharing);
      for (const market of await loadMarkets(db)) await refreshStale(db, market.key, () => Promise.resolve(), write);
    } else {
      const touch = await loadTouch(db, id);
      await write((tx) => refreshProducts(tx, skus, touch));
    }
  }
  // Remembered categories may have placed listings of other products too.
  for (const market of await loadMarkets(db)) if (await hasStale(db, market)) await refreshLater(db, market);
  await write(async (tx) => {
    await countAnew(tx, id);
    await dropEmptySet(tx, id);
    const changed = await rowsOf(tx, `update imports set state = ? where id = ? and state = 'applying' returning id`, [
      state,
      id,
    ]);
    if (changed.length)
      await recordHistory(tx, actor, {
        is: state === 'applied' ? 'imported' : 'import-stopped',
        name,
        rows: total,
      });
    await announce(tx, { topic: 'imports', id: String(id) }, { topic: 'products' }, { topic: 'listings' });
  });
}

/** An import that wrote into listings alone has changed nothing of items: that is no change to be read or taken back. */
async function dropEmptySet(db: Db, id: number): Promise<void> {
  const empty = await rowOf<{ set: number }>(
    db,
    `select s.id as set from imports i join change_sets s on s.id = i.change_set_id
      where i.id = ? and s.cells = 0 and exists (select 1 from import_sets n where n.import_id = i.id)
        and not exists (select 1 from change_products p where p.change_set_id = s.id)`,
    [id],
  );
  if (!empty) return;
  await db.raw('update imports set change_set_id = null where id = ?', [id]);
  await db.raw('delete from change_sets where id = ?', [empty.set]);
}

/** What an import has changed of the items that were there; undefined where it has added some, which may share anything. */
async function loadTouch(db: Db, id: number): Promise<Touch | undefined> {
  const changed = await rowsOf<{ field: string | null; before: Value | null; is_new: boolean }>(
    db,
    `select c.field, case when c.field = 'gtin' then c.before end as before, r.action = 'create' as is_new
      from import_rows r left join lateral jsonb_to_recordset(r.changes) as c(field text, before jsonb) on true
      where r.import_id = ? and r.applied group by 1, 2, 3`,
    [id],
  );
  if (changed.some((c) => c.is_new)) return undefined;
  return {
    fields: new Set(changed.flatMap((c) => c.field ?? [])),
    formerGtins: changed.flatMap((c) => (typeof c.before === 'string' ? (toGtin14(c.before) ?? []) : [])),
  };
}

interface Clash {
  row: number;
  clash: 'changed' | 'added' | 'removed';
  conflicts: Conflict[];
}

/**
 * One step, in one transaction. Items that are there are locked, then read, then compared with what stood there when the
 * file was read: what both sides changed is not written but kept for a decision.
 */
async function applyStep(
  db: Db,
  importId: number,
  name: string,
  actor: string,
): Promise<{ rows: number; clashes: number }> {
  const rows = await rowsOf<PlannedRow>(
    db,
    `select "row", sku, action, changes from import_rows r where import_id = ? and not applied
        and action in ('create', 'update')
      order by parent_sku is not null, "row" limit ? for update`,
    [importId, step],
  );
  if (rows.length === 0) return { rows: 0, clashes: 0 };
  const changeSetId = await openChangeSet(db, importId, name, actor);
  const items: ItemChange[] = [];
  const clashes: Clash[] = [];
  const creates = rows.filter((r) => r.action === 'create');
  const added = await insertNew(db, importId, creates);
  await recordAdded(db, changeSetId, added);
  const idOf = new Map(added.map((a) => [a.sku, a.id]));
  const fresh = creates.flatMap((r) => {
    const id = idOf.get(r.sku);
    return id === undefined ? [] : [{ row: r.row, id, sku: r.sku, changes: r.changes }];
  });
  for (const { id, sku, changes } of fresh)
    items.push({
      id,
      sku,
      changes: divideChanges(changes).items.map((c) => ({ field: c.field, before: null, after: c.after })),
    });
  const leftOut = await listNew(db, { id: importId, name, actor }, fresh);
  const there = rows.filter((r) => !idOf.has(r.sku));
  const skus = there.map((r) => r.sku);
  // Locked first and read by a statement of its own: one that waits for a lock reads what stood there before it waited.
  await db.raw('select id from products where sku = any(?) order by id for update', [skus]);
  const held = new Map((await loadProductRows(db, 'p.sku = any(?)', [skus])).map((r) => [r.sku, r]));
  const listed = await loadListedValues(
    db,
    [...new Set(there.flatMap((r) => r.changes.map((c) => c.field)))],
    [...held.values()].map((p) => p.id),
  );
  const onMarkets: { row: number; id: number; kind: string; changes: FieldChange[] }[] = [];
  const fields = await loadFieldsOfImport(db, importId);
  const changes = there.flatMap((r) => {
    const product = held.get(r.sku);
    if (!product) {
      clashes.push({
        row: r.row,
        clash: 'removed',
        conflicts: r.changes.map((c) => ({ field: c.field, base: c.before, theirs: null, ours: c.after })),
      });
      return [];
    }
    const planned = r.changes.filter((c) => c.field !== 'parent_sku');
    const merged = mergeChanges(planned, { ...toFields(product), ...listed.get(product.id) }, (f, a, b) =>
      isSameField(fields, f, a, b),
    );
    if (r.action === 'create') {
      // Somebody else added this SKU since: nothing of the row is written over it unasked.
      const conflicts = [
        ...merged.conflicts,
        ...merged.changes.map((c) => ({ field: c.field, base: null, theirs: c.before, ours: c.after })),
      ];
      if (conflicts.length) clashes.push({ row: r.row, clash: 'added', conflicts });
      return [];
    }
    if (merged.conflicts.length) clashes.push({ row: r.row, clash: 'changed', conflicts: merged.conflicts });
    const of = divideChanges(merged.changes);
    items.push({ id: product.id, sku: r.sku, changes: of.items });
    if (of.listed.length > 0) onMarkets.push({ row: r.row, id: product.id, kind: product.kind, changes: of.listed });
    return of.items.length > 0
      ? [{ id: product.id, fields: Object.fromEntries(of.items.map((c) => [c.field, c.after])) }]
      : [];
  });
  await updateProducts(db, changes);
  await recordChangeSet(
    db,
    { title: `Import ${name}`, actor, target: 'products', marketId: null, id: changeSetId },
    items,
  );
  const since = await writeListed(db, { id: importId, name, actor }, onMarkets);
  for (const { row, id } of onMarkets) {
    const conflicts = since.get(id);
    if (!conflicts) continue;
    const known = clashes.find((c) => c.row === row);
    if (known) known.conflicts.push(...conflicts);
    else clashes.push({ row, clash: 'changed', conflicts });
  }
  await db.raw(
    `update import_rows i
      set applied = true, clash = r.clash, conflicts = coalesce(r.conflicts, '[]'), problems = i.problems || coalesce(r."leftOut", '[]')
      from jsonb_to_recordset(?::jsonb) as r("row" int, clash text, conflicts jsonb, "leftOut" jsonb)
      where i.import_id = ? and i."row" = r."row"`,
    [
      JSON.stringify(
        rows.map((r) => ({ row: r.row, ...clashes.find((c) => c.row === r.row), leftOut: leftOut.get(r.row) })),
      ),
      importId,
    ],
  );
  return { rows: rows.length, clashes: clashes.length };
}

async function openChangeSet(db: Db, importId: number, name: string, actor: string): Promise<number> {
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
