// What stands in a field of the items that are meant, counted.
import type { Which } from '@basileus/core/choose';
import { type FieldBook, toShown } from '@basileus/core/product';
import { type Db, rowsOf } from '../database';
import { AppError } from '../http';
import { listingsSql, toListSql, toNumberSql, toTextSql } from './held';
import { toWhichSql } from './which';
import { say } from '@basileus/core/text';

const mostValues = 200;
const escapeLike = (text: string): string => text.replace(/[\\%_]/g, '\\$&');

/** The values of a field among the items that are meant, the most frequent first, and how many hold none. Throws where there is no such field. */
export async function loadValues(
  db: Db,
  which: Which,
  key: string,
  search: string,
  book: FieldBook,
): Promise<{ values: { value: string; count: number }[]; empty: number; isMore: boolean }> {
  const field = book.get(key);
  if (!field) throw new AppError('bad-input', say`The catalog has no field “${key}”.`, { field: 'field' });
  const { sql, bindings } = await toWhichSql(db, which, book);
  // Rows of families hold nothing of what is sold: they are not counted as lacking it.
  const meant = field.rows === 'sellable' ? `p.kind <> 'family' and (${sql})` : sql;
  const isList = field.kind === 'list';
  // What stands in listings is looked for in the words that people read; there are so many as their list has.
  const isCoded = field.words !== undefined;
  const from = `products p ${listingsSql(field.market)}`,
    market = field.market === undefined ? [] : [field.market];
  const value = key === 'stock' ? `(${toNumberSql(field)})::text` : toTextSql(field);
  const held = isList
    ? `select e.value from ${from} cross join lateral jsonb_array_elements_text(${toListSql(field)}) e where ${meant}
       union all select null from ${from} where ${meant} and jsonb_array_length(${toListSql(field)}) = 0`
    : `select ${value} as value from ${from} where ${meant}`;
  const rows = await rowsOf<{ value: string | null; count: number }>(
    db,
    `with held as materialized (select value, count(*)::int as count from (${held}) h group by value)
      (select value, count from held where value is null)
      union all (select value, count from held where value is not null and lower(value) like lower(?) order by count desc, value limit ?)`,
    [
      ...market,
      ...bindings,
      ...(isList ? [...market, ...bindings] : []),
      isCoded ? '%' : `%${escapeLike(search.trim())}%`,
      isCoded ? null : mostValues + 1,
    ],
  );
  const sought = isCoded ? search.trim().toLowerCase() : '';
  const values = rows
    .flatMap(({ value, count }) => (value === null ? [] : [{ value: toShown(field, value), count }]))
    .filter((v) => v.value.toLowerCase().includes(sought));
  return {
    values: values.slice(0, mostValues),
    empty: rows.find((r) => r.value === null)?.count ?? 0,
    isMore: values.length > mostValues,
  };
}
