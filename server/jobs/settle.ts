// How a run ends: settled on both sides, ours and pg-boss's, in one transaction.
import type { Logger } from 'pino';
import { type Db, rowOf } from '../database';
import { announce } from '../events';
import { type createBoss, executorOf } from './boss';
import type { JobKind, Outcome } from './kind';
import type { Run } from './run';
import { endJob, isAskedAgain, sendAgain } from './transitions';

/** What a worker works with. */
export interface Desk {
  db: Db;
  boss: ReturnType<typeof createBoss>;
  log: Logger;
  byKind: ReadonlyMap<string, JobKind>;
}

/** Ends a run on both sides in one transaction; a run that lost its job changes nothing. Answers when to look again. */
export async function settleRun(desk: Desk, run: Run, bossId: string, outcome: Outcome): Promise<number | undefined> {
  const { db, boss, log } = desk;
  const kind = desk.byKind.get(run.kind)!;
  if (outcome.is === 'lost') return undefined;
  const wait = await db.transaction(async (tx) => {
    const own = await rowOf(tx, 'delete from job_runs where token = ? returning 1 as x', [run.token]);
    if (!own) return undefined;
    const by = { db: executorOf(tx) };
    switch (outcome.is) {
      case 'done':
        await boss.complete(run.kind, bossId, {}, by);
        await endJob(tx, run.id, 'done', null);
        return undefined;
      case 'again': {
        await boss.complete(run.kind, bossId, {}, by);
        await sendAgain(tx, kind, run.id, outcome.seconds);
        return outcome.seconds;
      }
      case 'cancelled':
        await kind.onCancelled?.(kind.payload.parse(run.payload), tx);
        await boss.complete(run.kind, bossId, {}, by);
        await endJob(tx, run.id, 'cancelled', null);
        return undefined;
      case 'failed': {
        const isLast = outcome.isFinal || run.attempt >= kind.attempts;
        log[isLast ? 'error' : 'warn']({ job: run.kind, attempt: run.attempt, error: outcome.detail }, 'job failed');
        return failRun(desk, tx, kind, { ...run, bossId }, outcome.reason, isLast);
      }
    }
  });
  await announce(db, { topic: 'jobs', id: run.id });
  return wait;
}

/** Fails a run: pg-boss brings the job again after a pause that grows, or it ends with its reason. */
export async function failRun(
  { boss }: Pick<Desk, 'boss'>,
  tx: Db,
  kind: JobKind,
  run: { id: string; payload: unknown; attempt: number; bossId: string },
  reason: string,
  isLast: boolean,
): Promise<number | undefined> {
  const by = { db: executorOf(tx) };
  if (!isLast && !(await isAskedAgain(tx, kind.kind, run.id))) {
    await boss.fail(kind.kind, run.bossId, { reason }, by);
    const left = await boss.getJobById(kind.kind, run.bossId, { ...by, includeArchive: false });
    if (left?.state === 'retry') {
      await tx.raw(`update jobs set state = 'queued', error = ?, updated_at = now() where id = ?`, [reason, run.id]);
      return 2 ** run.attempt;
    }
  } else await boss.cancel(kind.kind, run.bossId, by);
  const payload = kind.payload.safeParse(run.payload);
  if (payload.success) await kind.onFailed?.(payload.data, tx, reason);
  await endJob(tx, run.id, 'failed', reason);
  return undefined;
}
