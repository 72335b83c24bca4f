// Writing a planned import into the catalog as a job, step by step, and what follows of it on the markets.
import type { Value } from '@basileus/core/listing';
import { z } from 'zod';
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
import { lookAtNew } from '../placing';
import { toGtin14 } from '../products';
import { applyStep, openChangeSet, type WhichRows } from './apply-step';
import { isListed } from './listed';
import { loadImport } from './queries';

export const applyImportJob = defineJob({
  kind: 'apply-import',
  payload: z.strictObject({ import: z.int(), actor: z.string() }),
  attempts: 10,
  mostSeconds: 3600,
  run: async ({ import: id, actor }, { db, progress, write }) => {
    const found = await loadImport(db, id);
    if (!found || found.state !== 'applying') return 'done';
    const total = (found.counts.create ?? 0) + (found.counts.update ?? 0);
    const of = { id, name: found.name, actor };
    const changeSet = await write((tx) => openChangeSet(tx, of));
    let told = 0;
    const step = async (which: WhichRows): Promise<boolean> => {
      const stepped = await write(async (tx) => {
        const { rows, clashes } = await applyStep(tx, of, changeSet, which);
        return rows === 0 ? undefined : addToCounts(tx, id, rows, clashes);
      });
      if (!stepped) return false;
      const { done, conflicts } = stepped;
      // Of two steps that end at once the earlier may be told later: what is said never goes back.
      if (done < told) return true;
      told = done;
      await progress(done, total, `row ${done} of ${total}${conflicts ? `, ${conflicts} for a decision` : ''}`);
      await announce(db, { topic: 'imports', id: String(id) });
      return true;
    };
    await runLanes(1, () => step('new'));
    // Change sets of listings are opened as they are needed, which one step at a time can do.
    await runLanes(found.reading.columns.some((c) => c.field !== null && isListed(c.field)) ? 1 : 2, () =>
      step('free'),
    );
    // Rows that whoever ran before still held have come free by now.
    await runLanes(1, () => step('all'));
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

/**
 * Takes steps until there is none left, in lanes side by side: while one waits for the database, the other is made ready. Where
 * one breaks, the others end after the step that they are in.
 */
async function runLanes(lanes: number, step: () => Promise<boolean>): Promise<void> {
  let isBroken = false;
  const run = async (): Promise<void> => {
    try {
      while (!isBroken && (await step()));
    } catch (error) {
      isBroken = true;
      throw error;
    }
  };
  const broken = (await Promise.allSettled(Array.from({ length: lanes }, run))).find((e) => e.status === 'rejected');
  if (broken) throw broken.reason;
}

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
    // What came without a category is looked at by itself, so that proposals are there when somebody comes to choose.
    if (changed.length && state === 'applied') await lookAtNew(tx);
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
