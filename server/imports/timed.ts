// Imports that wait for a time: a price list that is valid from a day. Until then they can be mended like any other; at their time
// they are planned once more, against the catalog of that time, and written.
import { say } from '@basileus/core/text';
import { type Db, rowOf } from '../database';
import { announce } from '../events';
import { recordHistory } from '../history';
import { AppError } from '../http';
import { defineClock } from '../jobs';
import { claimWriting, startPlan } from './begin';
import { type ImportRow, mustLoadImport } from './queries';

const mostDaysAhead = 400,
  dayMs = 86_400_000;

/** Says when a planned import is written, or with null that it waits for a person again. */
export async function timeWriting(db: Db, id: number, at: Date | null, actor: string): Promise<ImportRow> {
  const ahead = at === null ? 0 : at.getTime() - Date.now();
  if (at !== null && ahead <= 0)
    throw new AppError('bad-input', say`${at.toISOString()} has passed already.`, {
      field: 'at',
      remedy: say`Give a later time, or write it now.`,
    });
  if (ahead > mostDaysAhead * dayMs)
    throw new AppError('bad-input', say`${at!.toISOString()} is more than ${mostDaysAhead} days ahead.`, {
      field: 'at',
      remedy: say`Give an earlier time.`,
    });
  await db.transaction(async (tx) => {
    const found = await mustLoadImport(tx, id);
    if (at !== null) mustBeClear(found);
    const set = await rowOf(
      tx,
      `update imports set due_at = ?, due_by = ?, next_at = ? where id = ? and state = 'planned' returning id`,
      [at, at === null ? null : actor, at, id],
    );
    if (!set)
      throw new AppError('not-now', say`This import does not wait to be written.`, {
        remedy: say`Wait until it has been read, or drop the file again.`,
      });
    await recordHistory(tx, actor, { is: 'import-timed', name: found.name, at: at?.toISOString() ?? null });
    if (at !== null) await wakeImportClock(tx);
    await announce(tx, { topic: 'imports', id: String(id) });
  });
  return mustLoadImport(db, id);
}

/** Refuses a file whose prices can be read in two ways. */
export function mustBeClear({ reading }: Pick<ImportRow, 'reading'>): void {
  if (reading.decimalSign === 'undetermined')
    throw new AppError(
      'bad-input',
      say`The prices of this file can be read in two ways; say which decimal sign it uses.`,
      { field: 'decimalSign', remedy: say`Choose point or comma.` },
    );
}

/** Plans one import anew whose time has come; one that is being planned just then goes on by itself. */
async function runDue(tx: Db, now: Date): Promise<boolean> {
  const due = await rowOf<{ id: number; name: string; state: string }>(
    tx,
    'select id, name, state from imports where next_at <= ? order by next_at, id limit 1 for update skip locked',
    [now],
  );
  if (!due) return false;
  if (due.state === 'planned') {
    const { plan_no: plan } = (await rowOf<{ plan_no: number }>(
      tx,
      `update imports set next_at = null, state = 'planning', plan_no = plan_no + 1 where id = ? returning plan_no`,
      [due.id],
    ))!;
    await startPlan(tx, due.id, plan, due.name);
  } else await tx.raw('update imports set next_at = null where id = ?', [due.id]);
  await announce(tx, { topic: 'imports', id: String(due.id) });
  return true;
}

/** Begins to write an import that has just been planned, where its time has come. */
export async function writeIfDue(tx: Db, id: number): Promise<void> {
  const due = await rowOf<{ name: string; due_by: string; sign: string }>(
    tx,
    `select name, due_by, reading ->> 'decimalSign' as sign from imports where id = ? and state = 'planned' and due_at <= now()`,
    [id],
  );
  if (!due) return;
  if (due.sign === 'undetermined') return leaveTime(tx, id);
  await tx.raw('update imports set clock_at = now() where id = ?', [id]);
  await claimWriting(tx, id, due.name, due.due_by);
}

/** An import whose time has come and that cannot be written waits for a person again. */
export const leaveTime = async (tx: Db, id: number): Promise<void> => {
  await tx.raw('update imports set due_at = null, due_by = null, next_at = null where id = ? and due_at <= now()', [
    id,
  ]);
};

const clock = defineClock('import-clock', 'imports', runDue);
export const importClockJob = clock.job;
/** The clock looks when the next import is due. */
export const wakeImportClock = clock.wake;
