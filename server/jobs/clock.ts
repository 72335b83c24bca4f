// Rows that are due at a time: whatever is done again by a schedule stands in a table with `next_at`, and one job per table does
// what is due and sleeps until the next.
import { z } from 'zod';
import { type Db, rowOf } from '../database';
import { enqueue, hurry } from './enqueue';
import { defineJob, type JobKind } from './kind';

/** Longest that a clock sleeps: a clock of the machine that was put on is noticed within the hour. */
const longestSleepSeconds = 3600;

export interface Clock {
  job: JobKind;
  /** The clock looks when the next row is due; asked for whenever a schedule is said. */
  wake: (tx: Db) => Promise<void>;
}

/**
 * A clock over a table. `runDue` does one row that is due and says when it is due again, in the transaction that it is given;
 * it answers false where none is.
 */
export function defineClock(kind: string, table: string, runDue: (tx: Db, now: Date) => Promise<boolean>): Clock {
  return {
    job: defineJob({
      kind,
      payload: z.strictObject({}),
      attempts: 1000,
      mostSeconds: 600,
      run: async (_, { db, write }) => {
        while (await write((tx) => runDue(tx, new Date())));
        const next = await rowOf<{ at: Date | null }>(db, `select min(next_at) as at from ${table}`);
        if (!next?.at) return 'done';
        const seconds = Math.ceil((next.at.getTime() - Date.now()) / 1000);
        return { again: Math.min(longestSleepSeconds, Math.max(1, seconds)) };
      },
    }),
    wake: async (tx) => {
      await enqueue(tx, { kind, title: '', payload: {}, once: table });
      await hurry(tx, kind, table);
    },
  };
}
