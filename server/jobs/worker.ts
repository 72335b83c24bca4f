// Delivering jobs: fetched from pg-boss as soon as they are announced, claimed in our table, run in a thread, settled in one
// transaction on both sides. A run whose worker fell silent loses its job and is counted like any other that failed.
import type { Logger } from 'pino';
import type { Db } from '../database';
import type { Listener } from '../events';
import { createBoss, openQueues } from './boss';
import type { JobKind, Outcome } from './kind';
import { executeRun, type Run } from './run';
import { type Desk, settleRun } from './settle';
import { takeFromSilent } from './silence';
import type { Threads } from './threads';
import { adoptJobs, claim } from './transitions';

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

/** Does the work of a run and says meanwhile, from outside of it, that it lives. */
async function whileBeating(db: Db, run: Run, work: () => Promise<Outcome>): Promise<Outcome> {
  const beat = setInterval(() => {
    void db
      .raw('update jobs set heartbeat_at = now() where id = ? and exists (select 1 from job_runs where token = ?)', [
        run.id,
        run.token,
      ])
      .catch(() => undefined);
  }, beatMs);
  try {
    return await work();
  } finally {
    clearInterval(beat);
  }
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
  const desk: Desk = { db, boss, log, byKind };
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
      const outcome = await whileBeating(db, run, () =>
        options.threads ? options.threads.run(run, byKind.get(kind)!) : executeRun(db, byKind, run),
      );
      if (isStopped && outcome.is === 'failed') return;
      const wait = await settleRun(desk, run, bossId, outcome);
      if (wait !== undefined) lookIn(wait);
    } catch (e) {
      // The run stays as it is and is found by its silence.
      if (!isStopped) log.warn({ error: String(e) }, 'a job could not be settled');
    }
  }

  const unsubscribe = options.listener.on((event) => {
    if (event.topic === 'jobs') void look();
  });
  let round = 0;
  const loop = setInterval(() => {
    void look();
    if (++round % 2 === 0)
      (round % 6 === 0
        ? takeFromSilent(desk, lookIn).then(() => adoptJobs(db, byKind))
        : takeFromSilent(desk, lookIn)
      ).catch((e: unknown) => {
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
