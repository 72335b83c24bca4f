// A change tried on all items that it is about, some at a time, as a job: what markets would find is known before anything is
// written, of a hundred thousand items too. What each step finds is kept with how far it came.
import type { BulkShape, BulkTrial } from '@basileus/contract';
import { changeSteps, nameBulk } from '@basileus/core/change';
import { whichSchema } from '@basileus/core/choose';
import { toDay } from '@basileus/core/quantity';
import { z } from 'zod';
import { loadWideFields } from '../choose';
import { type Db, rowOf } from '../database';
import { AppError } from '../http';
import { defineJob, enqueue } from '../jobs';
import { loadMarkets } from '../markets';
import { loadMeant, lookAt, readySteps } from './meant';
import { addTrials, tryOn } from './try';
import { say } from '@basileus/core/text';

/** Items of a step: theirs are locked while markets judge them, a second or two. */
const itemsAtOnce = 200;
const forgottenAfter = `interval '7 days'`;

interface Row extends BulkTrial {
  which: unknown;
  steps: unknown;
}
const loadRow = (db: Db, id: number): Promise<Row | undefined> =>
  rowOf<Row>(db, 'select id, which, steps, total, done, tried, markets, state from bulk_trials where id = ?', [id]);

/** How far a trial is and what it has found. Throws where there is none. */
export async function loadTrial(db: Db, id: number): Promise<BulkTrial> {
  const row = await loadRow(db, id);
  if (!row) throw new AppError('not-found', say`There is no trial ${id}.`, { remedy: say`Try the change anew.` });
  const { which: _, steps: __, ...trial } = row;
  return trial;
}

/** Begins a trial of all items that are meant. Throws where a step or a condition cannot be asked. */
export function startTrialOf(db: Db, { which, steps }: BulkShape): Promise<{ trial: number; job: string }> {
  return db.transaction(async (tx) => {
    const book = await loadWideFields(tx);
    readySteps(steps, book);
    const total = (await loadMeant(tx, which, book)).length;
    await tx.raw(`delete from bulk_trials where at < now() - ${forgottenAfter}`);
    const { id } = (await rowOf<{ id: number }>(
      tx,
      'insert into bulk_trials (which, steps, total) values (?::jsonb, ?::jsonb, ?) returning id',
      [JSON.stringify(which), JSON.stringify(steps), total],
    ))!;
    const names = new Map((await loadMarkets(tx)).map((m) => [m.key, m.name]));
    const job = await enqueue(tx, {
      kind: 'bulk-trial',
      title: `Trying: ${nameBulk(steps, which, total, book, (key) => names.get(key) ?? key)}`,
      payload: { trial: id },
      cancellable: true,
    });
    return { trial: id, job };
  });
}

const endAs =
  (state: BulkTrial['state']) =>
  async (trial: number, db: Db): Promise<void> => {
    await db.raw('update bulk_trials set state = ? where id = ?', [state, trial]);
  };

export const bulkTrialJob = defineJob({
  kind: 'bulk-trial',
  payload: z.strictObject({ trial: z.int() }),
  attempts: 5,
  mostSeconds: 7200,
  run: async ({ trial }, { db, write, progress }) => {
    const found = await loadRow(db, trial);
    if (found?.state !== 'running') return 'done';
    const book = await loadWideFields(db);
    const change = readySteps(changeSteps.parse(found.steps), book),
      today = toDay(new Date());
    const ids = await loadMeant(db, whichSchema.parse(found.which), book);
    let { done, tried, markets } = found;
    while (done < Math.min(found.total, ids.length)) {
      await progress(done, found.total);
      const page = ids.slice(done, done + itemsAtOnce);
      const changed = (await lookAt(db, change, page, today, done)).filter((l) => l.changes.length > 0);
      markets = addTrials(markets, await tryOn(db, change, changed));
      done = Math.min(found.total, done + page.length);
      tried += changed.length;
      await write((tx) =>
        tx.raw('update bulk_trials set done = ?, tried = ?, markets = ?::jsonb where id = ?', [
          done,
          tried,
          JSON.stringify(markets),
          trial,
        ]),
      );
    }
    await write((tx) => endAs('done')(trial, tx));
    return 'done';
  },
  onFailed: ({ trial }, db) => endAs('stopped')(trial, db),
  onCancelled: ({ trial }, db) => endAs('stopped')(trial, db),
});
