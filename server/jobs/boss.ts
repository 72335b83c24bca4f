// pg-boss over our own pool and transactions: one queue a kind, at most one waiting and one active job of each key.
import type { Knex } from 'knex';
import PgBoss from 'pg-boss';
import type { Db } from '../database';

/**
 * pg-boss writes $1; knex binds by name, and leaves alone what is not in the list (such as ::jsonb). A name that stands
 * several times becomes several bindings, each of which the server would take for another type: such a text says that it is one.
 */
export const executorOf = (
  db: Db,
): { executeSql: (text: string, values?: unknown[]) => Promise<{ rows: never[] }> } => ({
  executeSql: async (text, values = []) => {
    const bound = values.map(toBinding);
    const named = Object.fromEntries(bound.map((v, i) => [`p${i + 1}`, v])) as Record<string, Knex.RawBinding>;
    const sql = text.replace(/\$(\d+)/g, (_, n: string) =>
      typeof values[Number(n) - 1] === 'string' && text.split(new RegExp(`\\$${n}\\b`)).length > 2
        ? `(:p${n})::text`
        : `:p${n}`,
    );
    const answer = (await db.raw(values.length ? sql : text, named)) as { rows?: never[] } | { rows?: never[] }[];
    return { rows: (Array.isArray(answer) ? answer.at(-1)?.rows : answer.rows) ?? [] };
  },
});

// knex would spread a list into many bindings; the driver makes a PostgreSQL array of a list in a list.
const toBinding = (value: unknown): unknown =>
  Array.isArray(value)
    ? `{${value.map(String).join(',')}}`
    : typeof value === 'object' && value !== null
      ? JSON.stringify(value)
      : value === undefined
        ? null
        : value;

export const createBoss = (db: Db, isSupervising: boolean): PgBoss =>
  new PgBoss({ db: executorOf(db), schema: 'boss', supervise: isSupervising, schedule: false, migrate: true });

/** Makes sure that pg-boss's tables and a queue of each kind are there. Safe to call from several processes. */
export async function openQueues(db: Db, kinds: readonly { kind: string }[]): Promise<void> {
  const boss = createBoss(db, false);
  await boss.start();
  const known = new Set((await boss.getQueues()).map((q) => q.name));
  for (const { kind } of kinds) if (!known.has(kind)) await boss.createQueue(kind, { name: kind, policy: 'stately' });
  await boss.stop({ graceful: false });
}
