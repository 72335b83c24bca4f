// What stands in a field of the items that are meant, counted.
import type { Which } from '@basileus/core/choose';
import type { FieldBook } from '@basileus/core/product';
import { type Db, rowsOf } from '../database';
import { AppError } from '../http';
import { toListSql, toNumberSql, toTextSql } from './sql';
import { toWhichSql } from './which';

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
  if (!field) throw new AppError('bad-input', `The catalog has no field “${key}”.`, { field: 'field' });
  const { sql, bindings } = await toWhichSql(db, which, book);
  // Rows of families hold nothing of what is sold: they are not counted as lacking it.
  const meant = field.rows === 'sellable' ? `p.kind <> 'family' and (${sql})` : sql;
  const isList = field.kind === 'list';
  const value = key === 'stock' ? `(${toNumberSql(field)})::text` : toTextSql(field);
  const held = isList
    ? `select e.value from products p cross join lateral jsonb_array_elements_text(${toListSql(field)}) e where ${meant}
       union all select null from products p where ${meant} and jsonb_array_length(${toListSql(field)}) = 0`
    : `select ${value} as value from products p where ${meant}`;
  const rows = await rowsOf<{ value: string | null; count: number }>(
    db,
    `with held as materialized (select value, count(*)::int as count from (${held}) h group by value)
      (select value, count from held where value is null)
      union all (select value, count from held where value is not null and lower(value) like lower(?) order by count desc, value limit ?)`,
    [...bindings, ...(isList ? bindings : []), `%${escapeLike(search.trim())}%`, mostValues + 1],
  );
  const values = rows.flatMap(({ value, count }) => (value === null ? [] : [{ value, count }]));
  return {
    values: values.slice(0, mostValues),
    empty: rows.find((r) => r.value === null)?.count ?? 0,
    isMore: values.length > mostValues,
  };
}
