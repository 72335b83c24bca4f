// Kept counts are sums of parts (migrations 0007 and 0009); parts that have gathered are put together here.
import type { Knex } from 'knex';
import { rowOf } from './connection';

/** Parts that came since the last time, beyond which they are put together. */
const mostParts = 3000;

const kept = [
  { table: 'tallies', columns: ['market_id', 'kind', 'key'] },
  { table: 'catalog_tallies', columns: ['kind', 'key'] },
] as const;

/**
 * Puts sums in the place of their parts where many have come since the last time. Only keys that have news are looked at:
 * the words of a large catalog are some hundred thousand. Safe at any time: it takes away only the parts that it has
 * summed, and one of two that do so at once leaves it to the other. Sums keep the order in which they were changed.
 */
export async function compactTallies(db: Knex): Promise<void> {
  for (const { table, columns } of kept) {
    const mark = await rowOf<{ upto: number }>(
      db,
      'select upto from tally_marks where name = ? for update skip locked',
      [table],
    );
    if (!mark) continue;
    const { n } = (await rowOf<{ n: number }>(db, `select count(*)::int as n from ${table} where id > ?`, [
      mark.upto,
    ]))!;
    if (n <= mostParts) continue;
    const list = columns.join(', ');
    await db.raw(
      `with fresh as (select distinct ${list} from ${table} where id > ?),
        gone as (
          delete from ${table} t using fresh f where ${columns.map((c) => `t.${c} = f.${c}`).join(' and ')}
            returning t.id, ${columns.map((c) => `t.${c}`).join(', ')}, t.n)
        insert into ${table} (${list}, n)
          select ${list}, sum(n) from gone group by ${list} having sum(n) <> 0 order by max(id)`,
      [mark.upto],
    );
    await db.raw(`update tally_marks set upto = coalesce((select max(id) from ${table}), 0) where name = ?`, [table]);
  }
}
