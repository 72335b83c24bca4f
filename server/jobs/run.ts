// One run of a job, in whatever thread: the handler called with a fenced context, its end turned into plain data.
import { type Db, rowOf, type Write } from '../database';
import { announce } from '../events';
import { AppError, isAway } from '../http';
import { type Beside, JobCancelled, type JobContext, type JobKind, JobLost, type Outcome } from './kind';

export interface Run {
  id: string;
  kind: string;
  payload: unknown;
  token: string;
  attempt: number;
}

/** Locks the run in this transaction, so that nobody can take its job before the transaction ends. Throws `JobLost`. */
export async function holdRun(tx: Db, token: string): Promise<void> {
  const held = await rowOf(tx, 'select 1 as x from job_runs where token = ? for key share', [token]);
  if (!held) throw new JobLost();
}

/** Transactions of a run, in whatever thread; none once its job is elsewhere. */
const fence =
  (db: Db, token: string): Write =>
  (work) =>
    db.transaction(async (tx) => {
      await holdRun(tx, token);
      return work(tx);
    });

const tellEveryMs = 250;

function createContext(db: Db, run: Run, beside: Beside | undefined): JobContext {
  let told = 0;
  return {
    id: run.id,
    db,
    attempt: run.attempt,
    beside,
    write: fence(db, run.token),
    progress: async (done, total, doing) => {
      const row = await rowOf<{ cancel_wanted: boolean }>(
        db,
        `update jobs
          set done = ?, total = ?, doing = coalesce(?, doing), heartbeat_at = now(), updated_at = now()
          where id = ? and exists (select 1 from job_runs where token = ?)
          returning cancel_wanted`,
        [done, total, doing ?? null, run.id, run.token],
      );
      if (!row) throw new JobLost();
      if (row.cancel_wanted) throw new JobCancelled();
      if (Date.now() - told > tellEveryMs) {
        told = Date.now();
        await announce(db, { topic: 'jobs', id: run.id });
      }
    },
  };
}

/** Refusals of others, who may answer the next time. */
const worthAnotherTry: ReadonlySet<string> = new Set(['market-unreachable', 'source-unreachable']);

/** Parts of jobs that another thread may do, by their names. */
export type Parts = Readonly<Record<string, (db: Db, given: never, write: Write) => Promise<unknown>>>;
export interface PartTask {
  part: string;
  given: unknown;
  token: string;
}
/** `lost` as data: an error of ours has no kind any more when it arrives in another thread. */
export type PartAnswer = { done: unknown } | { lost: true };

/** Does a part of a run that goes on in another thread. */
export async function executePart(db: Db, parts: Parts, { part, given, token }: PartTask): Promise<PartAnswer> {
  try {
    return { done: await parts[part]!(db, given as never, fence(db, token)) };
  } catch (error) {
    if (error instanceof JobLost) return { lost: true };
    throw error;
  }
}

/** Runs a job to its end. Never throws: what went wrong is in the answer. */
export async function executeRun(
  db: Db,
  kinds: ReadonlyMap<string, JobKind>,
  run: Run,
  beside?: Beside,
): Promise<Outcome> {
  const kind = kinds.get(run.kind);
  if (!kind) return toFailure(new Error(`No handler of ${run.kind}`), true);
  const payload = kind.payload.safeParse(run.payload);
  if (!payload.success) return toFailure(payload.error, true);
  try {
    const context = createContext(db, run, beside);
    await context.progress(0, 0);
    const result = await kind.run(payload.data, context);
    return result === 'done' ? { is: 'done' } : { is: 'again', seconds: result.again };
  } catch (error) {
    if (error instanceof JobLost) return { is: 'lost' };
    if (error instanceof JobCancelled) return { is: 'cancelled' };
    // What was asked is wrong, and will be wrong the next time; an unreachable market or database may be there by then.
    return toFailure(error, error instanceof AppError && !worthAnotherTry.has(error.code));
  }
}

export const toFailure = (error: unknown, isFinal: boolean): Outcome => ({
  is: 'failed',
  isFinal,
  reason:
    error instanceof AppError
      ? error.message
      : isAway(error)
        ? 'The database could not be reached.'
        : 'Something went wrong on our side; the server’s log says more.',
  detail: error instanceof Error ? (error.stack ?? error.message) : String(error),
});
