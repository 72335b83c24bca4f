// Runs whose worker fell silent: killed, asleep or cut off.
import { rowOf, rowsOf } from '../database';
import { announce } from '../events';
import { type Desk, failRun } from './settle';

/** A run that has not been heard of for so long has lost its job. */
const silentSeconds = 6;

/** Takes jobs from runs that fell silent. Whoever deletes the run's row has it; the row's lock waits for its last transaction. */
export async function takeFromSilent(desk: Desk, lookIn: (seconds: number) => void): Promise<void> {
  const { db, log, byKind } = desk;
  const silent = await rowsOf<{ id: string; kind: string }>(
    db,
    `select id, kind from jobs where state = 'running' and heartbeat_at < now() - make_interval(secs => ?) and kind = any(?)`,
    [silentSeconds, [...byKind.keys()]],
  );
  for (const { id, kind } of silent) {
    const wait = await db.transaction(async (tx) => {
      const job = await rowOf<SilentJob>(
        tx,
        `select id, payload, attempts as attempt, boss_id as "bossId", done, total, doing
          from jobs
          where id = ? and state = 'running' and heartbeat_at < now() - make_interval(secs => ?)
          for update skip locked`,
        [id, silentSeconds],
      );
      if (!job) return undefined;
      await tx.raw(`set local lock_timeout = '2s'`);
      await tx.raw('delete from job_runs where job_id = ?', [id]);
      log.warn(
        { job: kind, attempt: job.attempt, doing: job.doing },
        'a worker fell silent; its job goes on elsewhere',
      );
      return failRun(desk, tx, byKind.get(kind)!, job, wordSilence(job), job.attempt >= byKind.get(kind)!.attempts);
    });
    if (wait !== undefined) lookIn(Math.min(wait, 2));
    await announce(db, { topic: 'jobs', id });
  }
}

interface SilentJob {
  id: string;
  payload: unknown;
  attempt: number;
  bossId: string;
  done: number;
  total: number;
  doing: string | null;
}

const wordSilence = (job: SilentJob): string => {
  const where = job.total > 0 ? ` at ${job.done} of ${job.total}` : '';
  return `It stopped without a word ${job.attempt === 1 ? 'once' : `${job.attempt} times`}, last${where || ' at its beginning'}${job.doing ? ` (${job.doing})` : ''}.`;
};
