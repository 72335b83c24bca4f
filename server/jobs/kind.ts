// What a kind of job is, and what its handler is given.
import type { z } from 'zod';
import type { Db, Write } from '../database';

/**
 * Part of a run in a thread beside its own: what is named in `server/parts.ts`, given plain data, its writes fenced like those of
 * the run. Throws `JobLost` where the job has been given to another run.
 */
export type Beside = <T>(part: string, given: unknown) => Promise<T>;

export interface JobContext {
  id: string;
  /** For reading only: what is written through it is not fenced. */
  db: Db;
  /** Which run of this job it is, from 1. */
  attempt: number;
  /** A transaction of this run. Throws `JobLost` where the job has been given to another run meanwhile. */
  write: Write;
  /** Says how far it is and what is being done; throws `JobCancelled` where the person asked to stop, `JobLost` as above. */
  progress: (done: number, total: number, doing?: string) => Promise<void>;
  /** Undefined where no other thread has room. */
  beside: Beside | undefined;
}

export interface JobKind<P = unknown> {
  kind: string;
  payload: z.ZodType<P>;
  /** Runs at the most, those included that killed their worker. */
  attempts: number;
  /** A run that takes longer is ended and counts as failed. */
  mostSeconds: number;
  /** True where it is long and divides what it does, so that a second thread makes it shorter. */
  hasParts?: true;
  run: (payload: P, context: JobContext) => Promise<'done' | { again: number }>;
  /** In the transaction that ends the job as failed. */
  onFailed?: (payload: P, db: Db, reason: string) => Promise<void>;
  /** In the transaction that ends the job as cancelled. */
  onCancelled?: (payload: P, db: Db) => Promise<void>;
}

/** Gives a kind of job its types. */
export const defineJob = <P>(kind: JobKind<P>): JobKind =>
  // A kind parses its payload before it runs it, so that it may stand among kinds of other payloads.
  kind as unknown as JobKind;

/** The person asked the job to stop. */
export class JobCancelled extends Error {}
/** The job runs elsewhere by now: this run must not write another word. */
export class JobLost extends Error {
  constructor() {
    super('The job was given to another run.');
  }
}

/** How a run ended, as plain data: it may have ended in another thread. */
export type Outcome =
  | { is: 'done' }
  | { is: 'again'; seconds: number }
  | { is: 'cancelled' }
  | { is: 'lost' }
  | { is: 'failed'; reason: string; detail: string; isFinal: boolean };
