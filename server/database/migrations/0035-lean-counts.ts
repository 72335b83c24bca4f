import type { Knex } from 'knex';
import {
  addParts,
  counted,
  heldParts,
  listingUpdateOf0009,
  longestWord,
  movedProducts,
  nameParts,
  productUpdateOf0009,
} from './0009-kept-marks';
import { unplacedOf0016 } from './0016-left-out';

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

const ofRow = (columns: string, row: string): string =>
  columns
    .split(', ')
    .map((c) => `${row}.${c}`)
    .join(', ');
/**
 * Counts what an update of listings has moved, by the columns that are counted and their parts. Most changes of a listing fill
 * another value where there was one: only fields that came or went are taken apart.
 */
export const countListings = (columns: string, parts: (table: string, sign: string) => string[]): string =>
  addParts(
    `with pairs as materialized (
      select n.id, n.market_id, (${ofRow(columns, 'n')}) is distinct from (${ofRow(columns, 'o')}) as is_counted, n."values" as now, o."values" as was
      from added n join gone o using (id)),
    after as (select ${columns} from added where id in (select id from pairs where is_counted)),
    before as (select ${columns} from gone where id in (select id from pairs where is_counted))`,
    [
      ...parts('before', '-'),
      ...parts('after', ''),
      `select market_id, 'filled', k, -1 from pairs cross join jsonb_object_keys(was) k where now <> was and now -> k is null`,
      `select market_id, 'filled', k, 1 from pairs cross join jsonb_object_keys(now) k where now <> was and was -> k is null`,
    ].join(' union all '),
  );

/** As they were counted until 0042. */
export const countListingsOf0035 = countListings(counted, (table, sign) => heldParts(table, sign, unplacedOf0016));

export const setUpdate = (table: string, sql: string): string =>
  `create or replace function tally_${table}_update() returns trigger language plpgsql
    set enable_nestloop = off as $$ begin ${sql} return null; end $$`;

/** What an update of items moves of the catalog's counts is counted with less work; a row of an import keeps what it was compared with. */
export const leanCounts = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(setUpdate('products', countMoved));
    await db.raw(setUpdate('listings', countListingsOf0035));
    await db.raw(keepCategories(' order by 1'));
    await db.raw('alter table import_rows add column compared_with int');
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw('alter table import_rows drop column compared_with');
    await db.raw(keepCategories(''));
    await db.raw(setUpdate('listings', listingUpdateOf0009(unplacedOf0016)));
    await db.raw(setUpdate('products', productUpdateOf0009));
  },
};
