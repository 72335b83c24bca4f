import knex, { type Knex } from 'knex';
import pg from 'pg';

// Counts and ids fit a JavaScript number; money stays text.
pg.types.setTypeParser(pg.types.builtins.INT8, Number);

export type Db = Knex;

/** A pool on the given server. Idle sessions are kept few, so that several processes can share one server. */
export const connect = (url: string, most = 12): Db =>
  knex({
    client: 'pg',
    connection: { connectionString: url, application_name: 'basileus' },
    pool: { min: 0, max: most },
  });

/** Rows of a raw statement, typed by the caller. */
export async function rowsOf<T>(db: Db, sql: string, bindings: readonly unknown[] = []): Promise<T[]> {
  return ((await db.raw(sql, bindings as never)) as { rows: T[] }).rows;
}

/** First row of a raw statement. */
export const rowOf = async <T>(db: Db, sql: string, bindings: readonly unknown[] = []): Promise<T | undefined> =>
  (await rowsOf<T>(db, sql, bindings))[0];
