// Asking for a job, in the transaction that makes it necessary.
import { randomUUID } from 'node:crypto';
import PgBoss from 'pg-boss';
import { type Db, rowOf } from '../database';
import { announce } from '../events';
import { executorOf } from './boss';

export interface JobRequest {
  kind: string;
  title: string;
  payload: Record<string, unknown>;
  link?: string;
  /** Of two requests with this key one job is made while it waits; while it runs, another may wait behind it. */
  once?: string;
  cancellable?: boolean;
  delaySeconds?: number;
  /** Runs at the most. */
  attempts?: number;
}

/** Never started: it only writes into the transactions that it is given. */
const sender = new PgBoss({
  db: { executeSql: () => Promise.reject(new Error('Give a transaction.')) },
  schema: 'boss',
});

/**
 * Makes a waiting job due now. pg-boss has no call for it; its table says when a message may be fetched. A message that somebody
 * else holds is being made due or fetched by them: waiting for that would be for nothing, and two who wait for each other fail.
 */
export const hurry = (db: Db, kind: string, once: string): Promise<unknown> =>
  db.raw(
    `update boss.job set start_after = now()
      where id in (
        select m.id from boss.job m join jobs j on j.boss_id = m.id
          where m.name = ? and m.state < 'active' and m.start_after > now() and j.kind = ? and j.once = ? and j.state = 'queued'
          for update of m skip locked) and name = ?`,
    [kind, kind, once, kind],
  );

const defaultAttempts = 5;
/** pg-boss ends what runs longer; a run of ours is ended by its own, shorter limit. */
const expireInHours = 12;

/** Puts a job into the queue; answers pg-boss's id of it, or null where its key waits already. */
export const send = (
  db: Db,
  job: { id: string; kind: string; once: string | null; attempts: number; delaySeconds: number },
): Promise<string | null> =>
  sender.send(
    job.kind,
    { job: job.id },
    {
      id: randomUUID(),
      singletonKey: job.once ?? job.id,
      startAfter: job.delaySeconds,
      retryLimit: Math.max(0, job.attempts - 1),
      retryDelay: 1,
      retryBackoff: true,
      expireInHours,
      db: executorOf(db),
    },
  );

/** Takes a message out of the queue, whatever its state. */
export const cancelMessage = (db: Db, kind: string, bossId: string): Promise<void> =>
  sender.cancel(kind, bossId, { db: executorOf(db) });

/**
 * Records a job in the caller's transaction (or one of its own); a worker starts it when that commits. Answers the id of the
 * waiting job if there is one with this key.
 */
export const enqueue = (db: Db, request: JobRequest): Promise<string> =>
  // Job and message must be seen together, or a quick worker finds the one without the other.
  db.isTransaction ? enqueueWithin(db, request) : db.transaction((tx) => enqueueWithin(tx, request));

async function enqueueWithin(db: Db, request: JobRequest): Promise<string> {
  const id = randomUUID();
  const once = request.once ?? null;
  const row = await rowOf<{ id: string }>(
    db,
    `insert into jobs (id, kind, title, payload, link, once, cancellable, run_at)
      values (?, ?, ?, ?, ?, ?, ?, now() + make_interval(secs => ?))
      on conflict (kind, once) where once is not null and state = 'queued' do nothing
      returning id`,
    [
      id,
      request.kind,
      request.title,
      JSON.stringify(request.payload),
      request.link ?? null,
      once,
      request.cancellable ?? false,
      request.delaySeconds ?? 0,
    ],
  );
  if (!row) {
    const waiting = await rowOf<{ id: string }>(
      db,
      `select id from jobs where kind = ? and once = ? and state = 'queued'`,
      [request.kind, once ?? ''],
    );
    return waiting?.id ?? id;
  }
  await db.raw('update jobs set boss_id = ? where id = ?', [
    await send(db, {
      id,
      kind: request.kind,
      once,
      attempts: request.attempts ?? defaultAttempts,
      delaySeconds: request.delaySeconds ?? 0,
    }),
    id,
  ]);
  await announce(db, { topic: 'jobs', id });
  return id;
}
