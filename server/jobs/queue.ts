// Long work as jobs. The `jobs` table is the truth (state, progress, cancel, who runs it); pg-boss delivers.
// A job whose worker died is found by its heartbeat and delivered again, so every handler works in steps that may be
// repeated: a job run twice has the effect of one.
import { randomUUID } from 'node:crypto';
import PgBoss from 'pg-boss';
import type { Logger } from 'pino';
import { type Db, rowOf, rowsOf } from '../database';
import { announce } from '../events';
import { AppError } from '../http';

const queue = 'work';
const staleSeconds = 8;

export interface JobContext {
  id: string;
  db: Db;
  log: Logger;
  attempt: number;
  /** Says how far it is; throws `JobCancelled` where the person asked to stop. */
  progress: (done: number, total: number) => Promise<void>;
}
export interface JobKind<P> {
  kind: string;
  attempts: number;
  run: (payload: P, context: JobContext) => Promise<'done' | { again: number }>;
  onFailed?: (payload: P, db: Db, reason: string) => Promise<void>;
  onCancelled?: (payload: P, db: Db) => Promise<void>;
}
export class JobCancelled extends Error {}

export interface JobRequest {
  kind: string;
  title: string;
  payload: Record<string, unknown>;
  link?: string;
  once?: string;
  cancellable?: boolean;
  delaySeconds?: number;
}

/** Records a job in the caller's transaction; a worker finds it when that commits. Answers the id of the same job if one with this `once` key waits or runs. */
export async function enqueue(db: Db, request: JobRequest): Promise<string> {
  const id = randomUUID();
  const row = await rowOf<{ id: string }>(
    db,
    `insert into jobs (id, kind, title, payload, link, once, cancellable, run_at) values (?, ?, ?, ?, ?, ?, ?, now() + make_interval(secs => ?))
    on conflict (once) where once is not null and state in ('queued', 'running') do nothing returning id`,
    [
      id,
      request.kind,
      request.title,
      JSON.stringify(request.payload),
      request.link ?? null,
      request.once ?? null,
      request.cancellable ?? false,
      request.delaySeconds ?? 0,
    ],
  );
  if (!row)
    return (
      (
        await rowOf<{ id: string }>(db, `select id from jobs where once = ? and state in ('queued', 'running')`, [
          request.once ?? '',
        ])
      )?.id ?? id
    );
  await announce(db, { topic: 'jobs', id });
  return id;
}

export interface Worker {
  stop: () => Promise<void>;
}

/** Runs jobs until stopped. Several workers may run, on any number of machines. */
export async function startWorker(db: Db, url: string, kinds: readonly JobKind<never>[], log: Logger): Promise<Worker> {
  const byKind = new Map(kinds.map((k) => [k.kind, k as unknown as JobKind<unknown>]));
  const me = randomUUID();
  const boss = new PgBoss({ connectionString: url, application_name: 'basileus-jobs', schema: 'boss', max: 4 });
  boss.on('error', (e) => {
    log.warn({ error: e.message }, 'job queue');
  });
  await boss.start();
  await boss.createQueue(queue);
  await boss.work<{ id: string }>(queue, { pollingIntervalSeconds: 0.5, batchSize: 1 }, async ([message]) => {
    if (message) await runJob(db, message.data.id, me, byKind, log);
  });
  await boss.work<{ id: string }>(queue, { pollingIntervalSeconds: 0.5, batchSize: 1 }, async ([message]) => {
    if (message) await runJob(db, message.data.id, me, byKind, log);
  });
  let isStopped = false;
  const deliver = async (): Promise<void> => {
    // Due jobs that nobody has delivered, and running ones whose worker fell silent.
    const due = await rowsOf<{ id: string }>(
      db,
      `update jobs set worker = 'delivered', heartbeat_at = now() where id in (
        select id from jobs where (state = 'queued' and run_at <= now() and (worker is null or heartbeat_at < now() - make_interval(secs => ?)))
          or (state = 'running' and heartbeat_at < now() - make_interval(secs => ?)) order by created_at limit 50 for update skip locked) returning id`,
      [staleSeconds * 4, staleSeconds],
    );
    for (const { id } of due) await boss.send(queue, { id }, { expireInHours: 4, retryLimit: 0 });
  };
  const loop = (async () => {
    while (!isStopped) {
      try {
        await deliver();
      } catch (e) {
        if (!isStopped) log.warn({ error: String(e) }, 'delivering jobs');
      }
      await new Promise((r) => setTimeout(r, 200));
    }
  })();
  return {
    stop: async () => {
      isStopped = true;
      await loop;
      await boss.stop({ graceful: true, timeout: 5000, wait: true });
    },
  };
}

async function runJob(
  db: Db,
  id: string,
  me: string,
  kinds: ReadonlyMap<string, JobKind<unknown>>,
  log: Logger,
): Promise<void> {
  const job = await rowOf<{ kind: string; payload: unknown; attempts: number; cancel_wanted: boolean }>(
    db,
    `update jobs
      set state = 'running', worker = ?, heartbeat_at = now(), attempts = attempts + 1, updated_at = now()
      where id = ? and (state = 'queued' or (state = 'running' and worker = 'delivered'))
      returning kind, payload, attempts, cancel_wanted`,
    [me, id],
  );
  if (!job) return;
  const kind = kinds.get(job.kind);
  if (!kind) {
    await finish(db, id, 'failed', `This server does not know jobs of the kind ${job.kind}.`);
    return;
  }
  const beat = setInterval(() => {
    void db.raw('update jobs set heartbeat_at = now() where id = ? and worker = ?', [id, me]).catch(() => undefined);
  }, 2000);
  let told = 0;
  const progress = async (done: number, total: number): Promise<void> => {
    const row = await rowOf<{ cancel_wanted: boolean }>(
      db,
      'update jobs set done = ?, total = ?, heartbeat_at = now(), updated_at = now() where id = ? returning cancel_wanted',
      [done, total, id],
    );
    if (row?.cancel_wanted) throw new JobCancelled();
    if (Date.now() - told > 250) {
      told = Date.now();
      await announce(db, { topic: 'jobs', id });
    }
  };
  try {
    if (job.cancel_wanted) throw new JobCancelled();
    const result = await kind.run(job.payload, { id, db, log, attempt: job.attempts, progress });
    if (result === 'done') await finish(db, id, 'done', null);
    else
      await db.raw(
        `update jobs
          set state = 'queued', worker = null, attempts = 0, run_at = now() + make_interval(secs => ?),
            updated_at = now()
          where id = ?`,
        [result.again, id],
      );
  } catch (error) {
    if (error instanceof JobCancelled) {
      await kind.onCancelled?.(job.payload, db);
      await finish(db, id, 'cancelled', null);
    } else if (job.attempts < kind.attempts && !(error instanceof AppError && error.code !== 'market-unreachable')) {
      log.warn(
        { job: job.kind, attempt: job.attempts, error: error instanceof Error ? error.message : String(error) },
        'job will be tried again',
      );
      await db.raw(
        `update jobs
          set state = 'queued', worker = null, error = ?, run_at = now() + make_interval(secs => ?), updated_at = now()
          where id = ?`,
        [reasonOf(error), Math.min(60, 2 ** job.attempts * 0.5), id],
      );
    } else {
      log.error({ job: job.kind, error: error instanceof Error ? error.stack : String(error) }, 'job failed');
      await kind.onFailed?.(job.payload, db, reasonOf(error));
      await finish(db, id, 'failed', reasonOf(error));
    }
  } finally {
    clearInterval(beat);
  }
  await announce(db, { topic: 'jobs', id });
}

const reasonOf = (error: unknown): string =>
  error instanceof AppError ? error.message : 'Something went wrong on our side; the server’s log says more.';

async function finish(db: Db, id: string, state: 'done' | 'failed' | 'cancelled', error: string | null): Promise<void> {
  await db.raw(
    `update jobs
      set state = ?, error = ?, done = case when ? = 'done' then greatest(done, total) else done end, updated_at = now()
      where id = ?`,
    [state, error, state, id],
  );
}
