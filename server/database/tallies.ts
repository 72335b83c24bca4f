// Kept counts are sums of parts (migrations 0007 and 0009); parts that have gathered are put together here.
import type { Knex } from 'knex';
import { rowOf } from './connection';

/** Parts beyond which they are put together. */
const mostParts = 3000;

/**
 * Puts sums in the place of their parts where many have gathered. Safe at any time: it takes away only the parts that it
 * has summed, and one of two that do so at once finds nothing left to do. Sums keep the order in which they were changed.
 */
export async function compactTallies(db: Knex): Promise<void> {
  for (const [table, columns] of [
    ['tallies', 'market_id, kind, key'],
    ['catalog_tallies', 'kind, key'],
  ]) {
    const parts = (await rowOf<{ n: number }>(db, `select count(*) as n from ${table}`))!.n;
    const sums = (await rowOf<{ n: number }>(
      db,
      `select count(*) as n from (select 1 from ${table} group by ${columns}) x`,
    ))!.n;
    if (parts - sums <= mostParts) continue;
    await db.raw(
      `with gone as (delete from ${table} returning id, ${columns}, n)
        insert into ${table} (${columns}, n)
          select ${columns}, sum(n) from gone group by ${columns} having sum(n) <> 0 order by max(id)`,
    );
  }
}
