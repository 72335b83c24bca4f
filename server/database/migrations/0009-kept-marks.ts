import type { Knex } from 'knex';
import { listingTriggersOf0007 } from './0007-tallies';

// What waits to be checked is marked where it comes about, so that nobody has to look for it: by each statement that raises
// the version of products, in its own transaction; by listings that were never checked; by a market whose rulebook or
// correspondences have changed. Digests tell whether checking has found anything new: what is as it was is not written.
const marks = `
create table unchecked (
  id bigint generated always as identity primary key, market_id smallint not null references markets (id) on delete cascade,
  products bigint[] not null, writer xid8 not null default pg_current_xact_id()
);
create index unchecked_market on unchecked (market_id, id);
create index unchecked_writer on unchecked (writer);
create function mark_unchecked() returns trigger language plpgsql as $$ begin
  insert into unchecked (market_id, products)
    select m.id, c.products from markets m cross join
      (select array_agg(n.id) as products from added n join gone o using (id) where n.version <> o.version) c
    where c.products is not null;
  return null; end $$;
create trigger mark_unchecked after update on products referencing old table as gone new table as added
  for each statement execute function mark_unchecked();

alter table markets add column checks_from int not null default 1;
update markets m set checks_from = revision where exists (select 1 from listings l where l.market_id = m.id and l.market_revision <> m.revision);
insert into unchecked (market_id, products)
  select l.market_id, array_agg(p.id) from listings l join products p on p.id = l.product_id where l.product_version <> p.version group by 1;
alter table listings add column row_digest text, add column findings_digest text, add column own_category text not null default '', drop column checked_at;
update listings l set own_category = p.category from products p where p.id = l.product_id and p.category is not null;
drop index products_category;
create index products_category on products (category, id);
drop index products_shelf;
create index products_shelf on products (shelf_order, (parent_id is not null), id) include (parent_id);
create index listings_on_shelf on listings (market_id, market_state) where market_state <> 'none';
create index listings_state on listings (market_id, (listing_state(in_flight, market_state, refusal_open, category, blockers)), number_since desc nulls last, id);
create index listings_never_checked on listings (market_id) where market_revision = 0;
`;

// More counts are kept as those of 0007 are: listings by own category and the market's, and by the fields that are filled;
// products by what the catalog is narrowed by, and by the words that stand in their facts.
export const kinds = ['state', 'unplaced', 'level', 'plan', 'cause', 'safe', 'likely'];
export const allowKinds = (list: readonly string[]): string =>
  `alter table tallies drop constraint tallies_kind_check, add check (kind in ('${list.join(`', '`)}'));`;

export const counted =
  'id, market_id, in_flight, market_state, refusal_open, category, blockers, cautions, tips, planned, own_category';
/** What is counted of listings, but for the fields that are filled. */
export const heldParts = (table: string, sign: string, unplaced: string): string[] => [
  `select market_id, 'state' as kind, listing_state(in_flight, market_state, refusal_open, category, blockers) as key, ${sign}1 as d from ${table}`,
  `select market_id, 'unplaced', '', ${sign}1 from ${table} where ${unplaced}`,
  `select market_id, 'own', own_category || E'\\t' || coalesce(category, ''), ${sign}1 from ${table}`,
  `select market_id, 'plan', (e ->> 'operation') || E'\\t' || coalesce(e ->> 'held', ''), ${sign}1
      from ${table} cross join jsonb_array_elements(planned) e where in_flight = 0`,
  ...['blocker', 'caution', 'tip'].map(
    (level) => `select market_id, 'level', '${level}', ${sign}${level}s from ${table} where ${level}s <> 0`,
  ),
];
export const listingParts = (table: string, sign: string, withValues: string, unplaced: string): string =>
  [
    ...heldParts(table, sign, unplaced),
    `select market_id, 'filled', k, ${sign}1 from ${withValues} cross join jsonb_object_keys("values") k`,
  ].join(' union all ');
export const addParts = (with_: string, parts: string): string => `
  insert into tallies (market_id, kind, key, n)
    ${with_} select market_id, kind, key, sum(d) from (${parts}) x group by 1, 2, 3 having sum(d) <> 0;`;

// Most updates of a listing move no count: what is as it was is left out before anything is taken apart.
const moved = `with pairs as materialized (
      select n.id, (${counted
        .split(', ')
        .map((c) => `n.${c}`)
        .join(', ')}) is distinct from (${counted
        .split(', ')
        .map((c) => `o.${c}`)
        .join(
          ', ',
        )}) as is_counted, n."values" is distinct from o."values" as has_values from added n join gone o using (id)),
    after as (select ${counted} from added where id in (select id from pairs where is_counted)),
    before as (select ${counted} from gone where id in (select id from pairs where is_counted)),
    filled_after as (select market_id, "values" from added where id in (select id from pairs where has_values)),
    filled_before as (select market_id, "values" from gone where id in (select id from pairs where has_values))`;

/** Counts what an update of listings has moved, as it was until 0035. */
export const listingUpdateOf0009 = (unplaced: string): string =>
  addParts(
    moved,
    `${listingParts('before', '-', 'filled_before', unplaced)} union all ${listingParts('after', '', 'filled_after', unplaced)}`,
  );

/** The functions that count listings; `unplaced` says which of them a category is still to be chosen for. */
export const listingTriggersOf0009 = (unplaced = 'category is null'): string => `
create or replace function tally_listings_insert() returns trigger language plpgsql as $$ begin
  ${addParts('', listingParts('added', '', 'added', unplaced))} return null; end $$;
create or replace function tally_listings_delete() returns trigger language plpgsql as $$ begin
  ${addParts('', listingParts('gone', '-', 'gone', unplaced))} return null; end $$;
create or replace function tally_listings_update() returns trigger language plpgsql as $$ begin
  ${listingUpdateOf0009(unplaced)} return null; end $$;
`;

/** Words longer than this are no choices, and not counted. */
export const longestWord = 60;
export const nameParts = (table: string, sign: string): string[] => [
  `select 'category' as kind, category as key, ${sign}1 as d from ${table} where category is not null`,
  `select 'brand', brand, ${sign}1 from ${table} where brand is not null`,
  `select 'kind', kind, ${sign}1 from ${table}`,
];
/** The words of facts: of a text itself, of a list each. */
const factParts = (from: string, sign: string): string[] => [
  `select 'fact', k || E'\\t' || (v #>> '{}'), ${sign}1 from ${from} and jsonb_typeof(v) <> 'array' and length(v #>> '{}') <= ${longestWord}`,
  `select 'fact', k || E'\\t' || w, ${sign}1 from (select k, v from ${from} and jsonb_typeof(v) = 'array') l
      cross join jsonb_array_elements_text(v) w where length(w) <= ${longestWord}`,
];
const productParts = (table: string, sign: string): string =>
  [...nameParts(table, sign), ...factParts(`${table} cross join jsonb_each(facts) f (k, v) where true`, sign)].join(
    ' union all ',
  );
// Of an item that has changed, only the facts that have are taken apart.
export const movedProducts = `with pairs as materialized (
      select n.id, (n.category, n.brand, n.kind) is distinct from (o.category, o.brand, o.kind) as is_named_anew, n.facts as now, o.facts as was
      from added n join gone o using (id)),
    after as (select category, brand, kind from added where id in (select id from pairs where is_named_anew)),
    before as (select category, brand, kind from gone where id in (select id from pairs where is_named_anew))`;
const movedProductParts = [
  ...nameParts('before', '-'),
  ...nameParts('after', ''),
  ...factParts('pairs cross join jsonb_each(was) f (k, v) where now <> was and now -> k is distinct from v', '-'),
  ...factParts('pairs cross join jsonb_each(now) f (k, v) where now <> was and was -> k is distinct from v', ''),
].join(' union all ');
const addProductParts = (with_: string, parts: string): string => `
  insert into catalog_tallies (kind, key, n)
    ${with_} select kind, key, sum(d) from (${parts}) x group by 1, 2 having sum(d) <> 0;`;

/** Counts what an update of items has moved, as it was until 0035. */
export const productUpdateOf0009 = addProductParts(movedProducts, movedProductParts);

const productTriggers = `
create table catalog_tallies (
  id bigint generated always as identity primary key, kind text not null check (kind in ('category', 'brand', 'kind', 'fact')),
  key text not null, n bigint not null
);
create index catalog_tallies_kind on catalog_tallies (kind, key text_pattern_ops) include (n);
${Object.entries({
  insert: { tables: 'new table as added', sql: addProductParts('', productParts('added', '')) },
  delete: { tables: 'old table as gone', sql: addProductParts('', productParts('gone', '-')) },
  update: {
    tables: 'old table as gone new table as added',
    sql: productUpdateOf0009,
  },
})
  .map(
    ([event, { tables, sql }]) => `
create function tally_products_${event}() returns trigger language plpgsql as $$ begin ${sql} return null; end $$;
create trigger tally_${event} after ${event} on products referencing ${tables}
  for each statement execute function tally_products_${event}();`,
  )
  .join('')}
`;

const countedNow = `
insert into tallies (market_id, kind, key, n)
  select market_id, 'own', own_category || E'\\t' || coalesce(category, ''), count(*) from listings group by 1, 3
  union all select market_id, 'filled', k, count(*) from listings cross join jsonb_object_keys("values") k group by 1, 3;
${addProductParts('', productParts('products', ''))}
`;

export const keptMarks = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(marks);
    await db.raw(allowKinds([...kinds, 'own', 'filled']));
    await db.raw(listingTriggersOf0009());
    await db.raw(productTriggers);
    await db.raw(countedNow);
  },
  down: async (db: Knex): Promise<void> => {
    const events = ['insert', 'delete', 'update'];
    const drop = (table: string): string =>
      events.map((e) => `drop trigger tally_${e} on ${table}; drop function tally_${table}_${e}();`).join('');
    await db.raw(`${drop('products')} drop table catalog_tallies; ${drop('listings')}
      delete from tallies where kind not in ('${kinds.join(`', '`)}'); ${allowKinds(kinds)}
      drop trigger mark_unchecked on products; drop function mark_unchecked(); drop table unchecked;
      drop index products_category; create index products_category on products (category); drop index listings_never_checked;
      drop index listings_on_shelf; drop index listings_state;
      drop index products_shelf; create index products_shelf on products (shelf_order, (parent_id is not null), id);
      alter table markets drop column checks_from;
      alter table listings drop column row_digest, drop column findings_digest, drop column own_category, add column checked_at timestamptz`);
    await db.raw(listingTriggersOf0007());
  },
};
