import type { Knex } from 'knex';
import { longestWord, movedProducts, nameParts, productUpdateOf0009 } from './0009-kept-marks';

// Facts are taken apart once before and once after, and put in order by their bytes: four times and by the rules of a language
// took half of the time of a large import.
const countMoved = `
  insert into catalog_tallies (kind, key, n)
    ${movedProducts},
    moved as materialized (
      select k, v, -1 as d from pairs cross join jsonb_each(was) f (k, v) where now <> was and now -> k is distinct from v
      union all select k, v, 1 from pairs cross join jsonb_each(now) f (k, v) where now <> was and was -> k is distinct from v)
    select kind, key, sum(d) from (
        ${[...nameParts('before', '-'), ...nameParts('after', '')].join(' union all ')}) x
      group by 1, 2 having sum(d) <> 0
    union all
    select 'fact', (k collate "C") || E'\\t' || (w collate "C"), sum(d) from (
        select k, v #>> '{}' as w, d from moved where jsonb_typeof(v) <> 'array'
        union all select k, w, d from moved cross join jsonb_array_elements_text(v) w where jsonb_typeof(v) = 'array') x
      where length(w) <= ${longestWord} group by w collate "C", k collate "C" having sum(d) <> 0;`;

// In one order, since two who add the same categories at once wait for each other's.
const keepCategories = (order: string): string => `
  create or replace function keep_own_categories() returns trigger language plpgsql as $$
  begin
    insert into own_categories (name)
      select distinct n.category from new_rows n
      where n.category <> '' and not exists (select 1 from own_categories o where o.name = n.category)${order}
      on conflict do nothing;
    return null;
  end $$`;

const setUpdate = (sql: string): string =>
  `create or replace function tally_products_update() returns trigger language plpgsql
    set enable_nestloop = off as $$ begin ${sql} return null; end $$`;

/** What an update of items moves of the catalog's counts is counted with less work; a row of an import keeps what it was compared with. */
export const leanCounts = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(setUpdate(countMoved));
    await db.raw(keepCategories(' order by 1'));
    await db.raw('alter table import_rows add column compared_with int');
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw('alter table import_rows drop column compared_with');
    await db.raw(keepCategories(''));
    await db.raw(setUpdate(productUpdateOf0009));
  },
};
