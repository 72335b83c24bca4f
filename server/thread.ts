// The program of a worker thread: a pool of its own, jobs, parts of them and questions, answers as plain data.
import { fileURLToPath } from 'node:url';
import { workerData } from 'node:worker_threads';
import { allJobs } from './all-jobs';
import { asks } from './asks';
import { connect, type Db } from './database';
import { AppError } from './http';
import {
  executePart,
  executeRun,
  openBeside,
  type Outcome,
  type PartAnswer,
  type ThreadAnswer,
  type ThreadTask,
} from './jobs';
import { parts } from './parts';

const { url } = workerData as { url: string };
const db: Db = connect(url, 3);
const kinds = new Map(allJobs.map((k) => [k.kind, k]));
const besideOf = openBeside(fileURLToPath(import.meta.url), url);

export default async function work(task: ThreadTask): Promise<Outcome | PartAnswer | ThreadAnswer<unknown>> {
  if ('job' in task) return executeRun(db, kinds, task.job, task.hasBeside ? besideOf(task.job.token) : undefined);
  if ('part' in task) return executePart(db, parts, task);
  try {
    const answer = asks[task.ask as keyof typeof asks] as (db: Db, given: unknown) => Promise<unknown>;
    return { ok: await answer(db, task.given) };
  } catch (error) {
    if (error instanceof AppError) return { refused: { code: error.code, message: error.message, about: error.about } };
    throw error;
  }
}
