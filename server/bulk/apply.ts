// Changing many items as a job. Which rows, in which order, is written down when it is asked for; each step changes some of
// them and notes how far it came in one transaction, so that a crash loses nothing and a repeated run doubles nothing.
import type { BulkShape } from '@basileus/contract';
import { changeSteps, type ChangeStep, nameBulk } from '@basileus/core/change';
import { isEveryItem, type Which } from '@basileus/core/choose';
import type { FieldBook } from '@basileus/core/product';
import { toDay } from '@basileus/core/quantity';
import { z } from 'zod';
import { loadWideFields, toWhichSql } from '../choose';
import { type Db, rowOf, rowsOf } from '../database';
import { announce } from '../events';
import { recordHistory } from '../history';
import { AppError } from '../http';
import { defineJob, enqueue } from '../jobs';
import { loadMarkets } from '../markets';
import { closeChangeSet, loadChangeSet } from '../products';
import { lookAt, orderSql, readySteps } from './meant';
import { lockFor, openBulkSet, writeLooked } from './write';
import { say } from '@basileus/core/text';

/** So many that markets follow by a job each, and not within every step. */
const rowsAtOnce = 2000;

/** What a change is called where nobody says: its fields and how many items of which. */
async function nameIt(
  db: Db,
  steps: readonly ChangeStep[],
  which: Which,
  total: number,
  book: FieldBook,
): Promise<string> {
  const names = new Map((await loadMarkets(db)).map((m) => [m.key, m.name]));
  return nameBulk(steps, which, total, book, (key) => names.get(key) ?? key);
}

/** Begins a change in the caller's transaction. Throws where nothing is meant, or a step cannot be done. */
export async function beginBulk(
  tx: Db,
  { which, steps, title }: BulkShape & { title: string },
  actor: string,
  recipe: number | null = null,
): Promise<{ changeSet: number; job: string; total: number }> {
  const book = await loadWideFields(tx);
  const change = readySteps(steps, book);
  const { sql, bindings } = await toWhichSql(tx, which, book);
  const changeSet = await openBulkSet(tx, change, actor);
  await tx.raw(
    `insert into bulk_changes (change_set_id, recipe_id, which, steps, today, total) values (?, ?, ?::jsonb, ?::jsonb, ?, 0)`,
    [changeSet, recipe, JSON.stringify(which), JSON.stringify(steps), toDay(new Date())],
  );
  const { n: total } = (await rowOf<{ n: number }>(
    tx,
    `with put as (
        insert into bulk_rows (change_set_id, n, product_id)
          select ?, row_number() over (order by ${orderSql}) - 1, p.id from products p where ${sql} returning 1)
      select count(*)::int as n from put`,
    [changeSet, ...bindings],
  ))!;
  if (total === 0 && recipe === null)
    throw new AppError('bad-input', isEveryItem(which) ? say`The catalog is empty.` : say`No item is meant.`, {
      field: 'which',
      remedy: say`Choose other conditions.`,
    });
  const called = title === '' ? await nameIt(tx, steps, which, total, book) : title;
  await tx.raw('update bulk_changes set total = ? where change_set_id = ?', [total, changeSet]);
  await tx.raw('update change_sets set title = ? where id = ?', [called, changeSet]);
  const job = await enqueue(tx, {
    kind: 'bulk-change',
    title: called,
    payload: { changeSet, actor },
    link: `/all/history?set=${changeSet}`,
    cancellable: true,
  });
  await announce(tx, { topic: 'products' });
  return { changeSet, job, total };
}

interface BulkRow {
  steps: unknown;
  today: string;
  total: number;
  done: number;
  changed: number;
  wrong: number;
  recipe_id: number | null;
}
const loadBulk = (db: Db, id: number): Promise<BulkRow | undefined> =>
  rowOf<BulkRow>(
    db,
    `select steps, today::text as today, total, done, changed, wrong, recipe_id from bulk_changes where change_set_id = ? for update`,
    [id],
  );

/** Changes the next rows; answers how far it came, or undefined where nothing is left. */
async function changeStepOf(tx: Db, id: number, actor: string): Promise<BulkRow | undefined> {
  const bulk = await loadBulk(tx, id);
  if (!bulk || bulk.done >= bulk.total) return undefined;
  const ids = (
    await rowsOf<{ product_id: number }>(
      tx,
      'select product_id from bulk_rows where change_set_id = ? and n >= ? order by n limit ?',
      [id, bulk.done, rowsAtOnce],
    )
  ).map((r) => r.product_id);
  const change = readySteps(changeSteps.parse(bulk.steps), await loadWideFields(tx));
  await lockFor(tx, change, ids);
  const looked = await lookAt(tx, change, ids, bulk.today, bulk.done);
  const changed = await writeLooked(tx, change, looked, { id, actor });
  const next = {
    ...bulk,
    done: Math.min(bulk.total, bulk.done + rowsAtOnce),
    changed: bulk.changed + changed,
    wrong: bulk.wrong + looked.filter((l) => l.problem).length,
  };
  await tx.raw('update bulk_changes set done = ?, changed = ?, wrong = ? where change_set_id = ?', [
    next.done,
    next.changed,
    next.wrong,
    id,
  ]);
  return next;
}

/** Nothing more comes: one that changed nothing is forgotten, and what a recipe did is noted with it. */
async function endBulk(tx: Db, id: number, actor: string): Promise<void> {
  const bulk = await loadBulk(tx, id),
    set = await loadChangeSet(tx, id);
  if (!bulk || !set || set.is_done) return;
  await tx.raw('delete from bulk_rows where change_set_id = ?', [id]);
  if (bulk.recipe_id !== null) {
    await tx.raw('update recipes set last_items = ?, last_set = ? where id = ?', [
      bulk.changed,
      bulk.changed === 0 ? null : id,
      bulk.recipe_id,
    ]);
    await announce(tx, { topic: 'recipes' });
  }
  if (set.cells > 0) await recordHistory(tx, actor, { is: 'changed', title: set.title, cells: set.cells });
  await closeChangeSet(tx, id);
  await announce(tx, { topic: set.target });
}

export const bulkChangeJob = defineJob({
  kind: 'bulk-change',
  payload: z.strictObject({ changeSet: z.int(), actor: z.string() }),
  attempts: 10,
  mostSeconds: 7200,
  run: async ({ changeSet, actor }, { db, write, progress }) => {
    for (;;) {
      const step = await write((tx) => changeStepOf(tx, changeSet, actor));
      if (!step) break;
      await progress(step.done, step.total);
      await announce(db, { topic: 'products' }, { topic: 'listings' });
    }
    await write((tx) => endBulk(tx, changeSet, actor));
    return 'done';
  },
  onFailed: ({ changeSet, actor }, db) => endBulk(db, changeSet, actor),
  onCancelled: ({ changeSet, actor }, db) => endBulk(db, changeSet, actor),
});
