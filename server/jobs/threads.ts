// Heavy work away from the thread that answers people: a pool of worker threads, each with limits of time and memory.
import { Piscina } from 'piscina';
import { AppError } from '../http';
import type { Db } from '../database';
import { type Beside, type JobKind, JobLost, type Outcome } from './kind';
import { executeRun, type PartAnswer, type PartTask, type Run, toFailure } from './run';
import { say } from '@basileus/core/text';

export interface Threads {
  /** Runs a job; a thread that needs too much memory or time is ended and the run has failed. */
  run: (run: Run, kind: Pick<JobKind, 'mostSeconds' | 'hasParts'>) => Promise<Outcome>;
  /** Asks a thread something that is not a job. Throws `AppError`, as the work itself does. */
  ask: <T>(what: string, given: unknown, mostSeconds: number) => Promise<T>;
  stop: () => Promise<void>;
}

/** What a thread is given and what it answers. */
export type ThreadTask = { job: Run; hasBeside: boolean } | { ask: string; given: unknown } | PartTask;
export type ThreadAnswer<T> = { ok: T } | { refused: { code: string; message: string; about: AppError['about'] } };

const mostThreads = 3,
  defaultMegabytes = 1500;
/**
 * For how long a thread without work stays. One that is started anew takes seconds until its checks are made ready and its code
 * is fast, and whoever edits has pauses.
 */
const idleMs = 600_000;

type Asks = Readonly<Record<string, (db: Db, given: never) => Promise<unknown>>>;

/** The same in this thread, without limits; for tests. */
export function runHere(db: Db, kinds: readonly JobKind[], asks: Asks): Threads {
  const byKind = new Map(kinds.map((k) => [k.kind, k]));
  return {
    run: (run) => executeRun(db, byKind, run),
    ask: <T>(what: string, given: unknown) => asks[what]!(db, given as never) as Promise<T>,
    stop: () => Promise.resolve(),
  };
}

/** A pool of threads that run `file`, the built thread program, against the database at `url`. */
export function startThreads(
  file: string,
  url: string,
  { mostMegabytes = defaultMegabytes }: { mostMegabytes?: number } = {},
): Threads {
  const pool = new Piscina<ThreadTask, unknown>({
    filename: file,
    minThreads: 1,
    maxThreads: mostThreads,
    idleTimeout: idleMs,
    concurrentTasksPerWorker: 1,
    workerData: { url },
    resourceLimits: { maxOldGenerationSizeMb: mostMegabytes, maxYoungGenerationSizeMb: 128 },
  });
  const start = (task: ThreadTask, mostSeconds: number): Promise<unknown> =>
    pool.run(task, { signal: AbortSignal.timeout(mostSeconds * 1000) });
  /** Only one run at a time has a thread beside its own: of two, each keeps the other from a processor. */
  let isTaken = false;
  return {
    run: async (job, { mostSeconds, hasParts = false }) => {
      const hasBeside = hasParts && !isTaken;
      isTaken ||= hasBeside;
      try {
        return (await start({ job, hasBeside }, mostSeconds)) as Outcome;
      } catch (error) {
        return toFailure(explain(error, mostSeconds, mostMegabytes), true);
      } finally {
        if (hasBeside) isTaken = false;
      }
    },
    ask: async <T>(what: string, given: unknown, mostSeconds: number) => {
      let answer: ThreadAnswer<T>;
      try {
        answer = (await start({ ask: what, given }, mostSeconds)) as ThreadAnswer<T>;
      } catch (error) {
        throw explain(error, mostSeconds, mostMegabytes);
      }
      if ('ok' in answer) return answer.ok;
      const { code, message, about } = answer.refused;
      throw new AppError(code as AppError['code'], message, about);
    },
    stop: () => pool.destroy(),
  };
}

/**
 * A thread beside the one that this is called in, for parts of its runs: started when it is first given one, ended when it has had
 * nothing to do for a while. `file` and `url` as for the pool.
 */
export function openBeside(file: string, url: string): (token: string) => Beside {
  let pool: Piscina<PartTask, PartAnswer> | undefined;
  return (token) =>
    async <T>(part: string, given: unknown) => {
      pool ??= new Piscina<PartTask, PartAnswer>({
        filename: file,
        minThreads: 0,
        maxThreads: 1,
        idleTimeout: 10_000,
        // While the database is busy with one, another is computed.
        concurrentTasksPerWorker: 2,
        workerData: { url },
        resourceLimits: { maxOldGenerationSizeMb: defaultMegabytes, maxYoungGenerationSizeMb: 128 },
      });
      const answer = await pool.run({ part, given, token });
      if ('lost' in answer) throw new JobLost();
      return answer.done as T;
    };
}

function explain(error: unknown, mostSeconds: number, mostMegabytes: number): unknown {
  const { code, name } = error as { code?: string; name?: string };
  if (code === 'ERR_WORKER_OUT_OF_MEMORY')
    return new AppError(
      'too-large',
      say`This needed more than ${mostMegabytes.toLocaleString('en-GB')} MB of memory and was stopped.`,
      {
        remedy: say`Split the file into several, or leave out columns that are not needed.`,
      },
    );
  if (name === 'AbortError')
    return new AppError('too-large', say`This took longer than ${mostSeconds} seconds and was stopped.`, {
      remedy: say`Split the file into several, or leave out columns that are not needed.`,
    });
  return error;
}
