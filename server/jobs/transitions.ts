// The steps of a job from state to state, each on our table and on the queue in one transaction of the caller.
import { randomUUID } from 'node:crypto';
import { type Db, rowOf, rowsOf } from '../database';
import { cancelMessage, send } from './enqueue';
import type { JobKind } from './kind';
import type { Run } from './run';

/** Between a message and the claim of its job lie milliseconds; after so long whoever fetched it is gone. */
const claimSeconds = 4;

/** Takes a job for a new run with a token of its own; undefined where it is not there to be taken. */
export const claim = (db: Db, bossId: string): Promise<Run | undefined> =>
  db.transaction(async (tx) => {
    const job = await rowOf<Omit<Run, 'token'>>(
      tx,
      `update jobs
        set state = 'running', heartbeat_at = now(), attempts = attempts + 1, updated_at = now()
        where boss_id = ? and state = 'queued'
        returning id, kind, payload, attempts as attempt`,
      [bossId],
    );
    if (!job) return undefined;
    const token = randomUUID();
    await tx.raw('insert into job_runs (token, job_id) values (?, ?)', [token, job.id]);
    return { ...job, token };
  });

/** Puts a job behind itself: the same job in the list, a new message in the queue, its runs counted anew. */
export async function sendAgain(tx: Db, kind: JobKind, id: string, seconds: number): Promise<void> {
  const job = (await rowOf<{ once: string | null }>(tx, 'select once from jobs where id = ? for update', [id]))!;
  const bossId = (await isAskedAgain(tx, kind.kind, id))
    ? null
    : await send(tx, { id, kind: kind.kind, once: job.once, attempts: kind.attempts, delaySeconds: seconds });
  if (bossId === null) {
    await endJob(tx, id, 'done', null);
    return;
  }
  await tx.raw(
    `update jobs
      set state = 'queued', boss_id = ?, attempts = 0, run_at = now() + make_interval(secs => ?), updated_at = now()
      where id = ?`,
    [bossId, seconds, id],
  );
}

/** True where somebody asked for the same meanwhile: that one goes on in the place of this. */
export const isAskedAgain = async (tx: Db, kind: string, id: string): Promise<boolean> =>
  (await rowOf(
    tx,
    `select 1 as x
      from jobs own
      join jobs other on other.kind = own.kind and other.once = own.once and other.id <> own.id
      where own.id = ? and other.kind = ? and other.state = 'queued'`,
    [id, kind],
  )) !== undefined;

/** Ends a job that waits or runs; one that has ended stays as it is. */
export async function endJob(
  db: Db,
  id: string,
  state: 'done' | 'failed' | 'cancelled',
  error: string | null,
): Promise<void> {
  await db.raw(
    `update jobs
      set state = ?, error = ?, done = case when ? = 'done' then greatest(done, total) else done end, updated_at = now()
      where id = ? and state in ('queued', 'running')`,
    [state, error, state, id],
  );
}

/**
 * Waiting jobs that nothing will bring get a new message: those of an earlier version or of a queue that was emptied, and
 * those whose message was fetched by a worker that died before it claimed the job.
 */
export async function adoptJobs(db: Db, kinds: ReadonlyMap<string, JobKind>): Promise<void> {
  const orphans = await rowsOf<{ id: string; kind: string; once: string | null; bossId: string | null }>(
    db,
    `select id, kind, once, boss_id as "bossId" from jobs j
      where state = 'queued' and kind = any(?) and not exists (
        select 1 from boss.job m where m.name = j.kind and m.id = j.boss_id
          and (m.state < 'active' or m.state = 'active' and m.started_on > now() - make_interval(secs => ?)))`,
    [[...kinds.keys()], claimSeconds],
  );
  for (const job of orphans)
    await db.transaction(async (tx) => {
      const own = await rowOf(tx, `select 1 as x from jobs where id = ? and state = 'queued' for update skip locked`, [
        job.id,
      ]);
      if (!own) return;
      const { attempts } = kinds.get(job.kind)!;
      // A message that is being delivered for ever would keep the next one of its key from being delivered.
      if (job.bossId !== null) await cancelMessage(tx, job.kind, job.bossId);
      const bossId = await send(tx, { ...job, attempts, delaySeconds: 0 });
      if (bossId === null) await endJob(tx, job.id, 'done', null);
      else await tx.raw('update jobs set boss_id = ? where id = ?', [bossId, job.id]);
    });
}
