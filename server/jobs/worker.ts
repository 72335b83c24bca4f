// Delivering jobs: fetched from pg-boss as soon as they are announced, claimed in our table, run in a thread, settled in one
// transaction on both sides. A run whose worker fell silent loses its job and is counted like any other that failed.
import type { Logger } from 'pino';
import { type Db, rowOf, rowsOf } from '../database';
import { announce, type Listener } from '../events';
import { createBoss, executorOf, openQueues } from './boss';
import type { JobKind, Outcome } from './kind';
import { executeRun, type Run } from './run';
import type { Threads } from './threads';
import { adoptJobs, claim, endJob, isAskedAgain, sendAgain } from './transitions';

/** A run that has not been heard of for so long has lost its job. */
const silentSeconds = 6;
const beatMs = 1500,
  lookMs = 1000,
  slots = 3;

export interface Worker {
  stop: () => Promise<void>;
}
interface WorkerOptions {
  db: Db;
  listener: Listener;
  kinds: readonly JobKind[];
  log: Logger;
  /** Where runs are executed; in this thread where none is given, for tests. */
  threads?: Threads | undefined;
}

/** Runs jobs of the known kinds until stopped; jobs of other kinds wait for a worker that knows them. */
export async function startWorker(options: WorkerOptions): Promise<Worker> {
  const { db, kinds, log } = options;
  const byKind = new Map(kinds.map((k) => [k.kind, k]));
  await openQueues(db, kinds);
  const boss = createBoss(db, true);
  boss.on('error', (e) => {
    log.warn({ error: e.message }, 'job queue');
  });
  await boss.start();
  await adoptJobs(db, byKind);
  const running = new Set<Promise<void>>();
  const timers = new Set<ReturnType<typeof setTimeout>>();
  let isStopped = false,
    isLooking = false,
    isAsked = false,
    turn = 0;

  /** Fills the free slots, kinds in turn so that none waits behind a long row of another. */
  async function look(): Promise<void> {
    isAsked = true;
    if (isLooking) return;
    isLooking = true;
    try {
      while (isAsked && !isStopped) {
        isAsked = false;
        turn++;
        for (let i = 0; i < kinds.length && running.size < slots && !isStopped; i++) {
          const { kind } = kinds[(turn + i) % kinds.length]!;
          const [message] = await boss.fetch<{ job: string }>(kind, { batchSize: 1 });
          if (!message) continue;
          isAsked = true;
          const work = take(kind, message.id).finally(() => {
            running.delete(work);
            void look();
          });
          running.add(work);
        }
        if (running.size >= slots) break;
      }
    } catch (e) {
      if (!isStopped) log.warn({ error: String(e) }, 'looking for jobs');
    } finally {
      isLooking = false;
    }
  }
  const lookIn = (seconds: number): void => {
    const timer = setTimeout(
      () => {
        timers.delete(timer);
        void look();
      },
      seconds * 1000 + 20,
    );
    timers.add(timer);
  };

  async function take(kind: string, bossId: string): Promise<void> {
    try {
      const run = await claim(db, bossId);
      // A message without a job that waits for it: the job has ended, or is at another run already.
      if (!run) {
        await boss.complete(kind, bossId);
        return;
      }
      const beat = setInterval(() => {
        void db
          .raw(
            'update jobs set heartbeat_at = now() where id = ? and exists (select 1 from job_runs where token = ?)',
            [run.id, run.token],
          )
          .catch(() => undefined);
      }, beatMs);
      let outcome: Outcome;
      try {
        const { mostSeconds } = byKind.get(kind)!;
        outcome = await (options.threads ? options.threads.run(run, mostSeconds) : executeRun(db, byKind, run));
      } finally {
        clearInterval(beat);
      }
      if (isStopped && outcome.is === 'failed') return;
      const wait = await settle(run, bossId, outcome);
      if (wait !== undefined) lookIn(wait);
    } catch (e) {
      // The run stays as it is and is found by its silence.
      if (!isStopped) log.warn({ error: String(e) }, 'a job could not be settled');
    }
  }

  /** Ends a run on both sides in one transaction; a run that lost its job changes nothing. Answers when to look again. */
  async function settle(run: Run, bossId: string, outcome: Outcome): Promise<number | undefined> {
    const kind = byKind.get(run.kind)!;
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
          return failRun(tx, kind, { ...run, bossId }, outcome.reason, isLast);
        }
      }
    });
    await announce(db, { topic: 'jobs', id: run.id });
    return wait;
  }

  /** Fails a run: pg-boss brings the job again after a pause that grows, or it ends with its reason. */
  async function failRun(
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

  /** Takes jobs from runs that fell silent. Whoever deletes the run's row has it; the row's lock waits for its last transaction. */
  async function takeFromSilent(): Promise<void> {
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
        return failRun(tx, byKind.get(kind)!, job, wordSilence(job), job.attempt >= byKind.get(kind)!.attempts);
      });
      if (wait !== undefined) lookIn(Math.min(wait, 2));
      await announce(db, { topic: 'jobs', id });
    }
  }

  const unsubscribe = options.listener.on((event) => {
    if (event.topic === 'jobs') void look();
  });
  let round = 0;
  const loop = setInterval(() => {
    void look();
    if (++round % 2 === 0)
      (round % 6 === 0 ? takeFromSilent().then(() => adoptJobs(db, byKind)) : takeFromSilent()).catch((e: unknown) => {
        if (!isStopped) log.warn({ error: String(e) }, 'looking for silent jobs');
      });
  }, lookMs);
  void look();
  return {
    stop: async () => {
      isStopped = true;
      clearInterval(loop);
      for (const t of timers) clearTimeout(t);
      unsubscribe();
      await Promise.race([Promise.all(running), new Promise((r) => setTimeout(r, 4000).unref())]);
      await boss.stop({ graceful: false });
    },
  };
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
