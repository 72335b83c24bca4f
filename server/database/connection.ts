import knex, { type Knex } from 'knex';
import pg from 'pg';

// Counts and ids fit a JavaScript number; money stays text.
pg.types.setTypeParser(pg.types.builtins.INT8, Number);
// A day is a day, not a moment in some time zone: it stays YYYY-MM-DD.
pg.types.setTypeParser(pg.types.builtins.DATE, (day) => day);

export type Db = Knex;

/** A transaction of whoever does the work; a job's is fenced, a request's is not. */
export type Write = <T>(work: (tx: Db) => Promise<T>) => Promise<T>;

/** Transactions that nothing but the database guards. */
export const writeOn =
  (db: Db): Write =>
  (work) =>
    db.transaction(work);

/** Nobody's transaction may stand idle for longer: a process that sleeps in the middle of one would hold its rows for ever. */
const idleInTransaction = '30s';

const ignore = (): void => undefined;

/** A pool on the given server. Idle sessions are kept few, so that several processes can share one server. */
export const connect = (url: string, most = 12): Db =>
  knex({
    client: 'pg',
    connection: {
      connectionString: url,
      application_name: 'basileus',
      keepAlive: true,
      connectionTimeoutMillis: 8000,
      // Statements are short and many: compiling one for the machine took longer (60 ms) than running it (20 ms).
      options: `-c idle_in_transaction_session_timeout=${idleInTransaction} -c jit=off`,
    },
    acquireConnectionTimeout: 20_000,
    // What goes wrong is told where it ends; knex would print it as well.
    log: { warn: ignore, error: ignore, deprecate: ignore, debug: ignore },
    pool: { min: 0, max: most },
  });

/** Rows of a raw statement, typed by the caller. */
export async function rowsOf<T>(db: Db, sql: string, bindings: readonly unknown[] = []): Promise<T[]> {
  return ((await db.raw(sql, bindings as never)) as { rows: T[] }).rows;
}

/** First row of a raw statement. */
export const rowOf = async <T>(db: Db, sql: string, bindings: readonly unknown[] = []): Promise<T | undefined> =>
  (await rowsOf<T>(db, sql, bindings))[0];
