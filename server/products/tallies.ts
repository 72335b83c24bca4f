// The kept counts of the catalog: what it is narrowed by, and the words that stand in its facts.
import { type Db, rowsOf } from '../database';

/** Products by one of the things that the catalog is narrowed by, most first; of a fact, by its words. */
export const loadCatalogCounts = (
  db: Db,
  kind: 'category' | 'brand' | 'kind' | 'fact',
  fact = '',
): Promise<{ name: string; count: number }[]> => {
  const prefix = kind === 'fact' ? `${fact}\t` : '';
  return rowsOf(
    db,
    `select substr(key, ?) as name, sum(n)::bigint as count
      from catalog_tallies
      where kind = ? and starts_with(key, ?)
      group by 1
      having sum(n) > 0
      order by 2 desc, 1`,
    [prefix.length + 1, kind, prefix],
  );
};
