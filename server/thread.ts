// The program of a worker thread: a pool of its own, jobs and questions one at a time, answers as plain data.
import { workerData } from 'node:worker_threads';
import { allJobs } from './all-jobs';
import { asks } from './asks';
import { connect, type Db } from './database';
import { AppError } from './http';
import { executeRun, type Outcome, type ThreadAnswer, type ThreadTask } from './jobs';

const db: Db = connect((workerData as { url: string }).url, 3);
const kinds = new Map(allJobs.map((k) => [k.kind, k]));

export default async function work(task: ThreadTask): Promise<Outcome | ThreadAnswer<unknown>> {
  if ('job' in task) return executeRun(db, kinds, task.job);
  try {
    const answer = asks[task.ask as keyof typeof asks] as (db: Db, given: unknown) => Promise<unknown>;
    return { ok: await answer(db, task.given) };
  } catch (error) {
    if (error instanceof AppError) return { refused: { code: error.code, message: error.message, about: error.about } };
    throw error;
  }
}
