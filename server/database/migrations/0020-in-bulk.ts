import type { Knex } from 'knex';

/**
 * Which items are meant, as questions that addresses can name; changes of many items on their way, with the rows that each
 * is to change in their order; and changes that are kept to be done again.
 */
export const inBulk = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(`
      create table choices (
        id bigint generated always as identity primary key,
        digest text not null unique,
        which jsonb not null check (jsonb_typeof(which) = 'object'),
        name text unique check (name <> ''),
        actor text not null,
        at timestamptz not null default now()
      );
      create table recipes (
        id bigint generated always as identity primary key,
        name text not null unique check (name <> ''),
        which jsonb not null check (jsonb_typeof(which) = 'object'),
        steps jsonb not null check (jsonb_typeof(steps) = 'array'),
        schedule jsonb check (jsonb_typeof(schedule) = 'object'),
        next_at timestamptz,
        ran_at timestamptz,
        last_items int,
        last_set bigint references change_sets (id) on delete set null,
        actor text not null,
        at timestamptz not null default now(),
        check ((schedule is null) = (next_at is null))
      );
      create index recipes_last_set on recipes (last_set);
      create table bulk_changes (
        change_set_id bigint primary key references change_sets (id) on delete cascade,
        recipe_id bigint references recipes (id) on delete set null,
        which jsonb not null check (jsonb_typeof(which) = 'object'),
        steps jsonb not null check (jsonb_typeof(steps) = 'array'),
        today date not null,
        total int not null check (total >= 0),
        done int not null default 0 check (done between 0 and total),
        changed int not null default 0,
        wrong int not null default 0
      );
      create index bulk_changes_recipe on bulk_changes (recipe_id);
      create table bulk_rows (
        change_set_id bigint not null references bulk_changes (change_set_id) on delete cascade,
        n int not null,
        product_id bigint not null,
        primary key (change_set_id, n)
      );
      -- Up to which part kept counts have been put together, so that what came since is found without counting all.
      create table tally_marks (name text primary key, upto bigint not null);
      insert into tally_marks (name, upto)
        select 'tallies', coalesce(max(id), 0) from tallies union all select 'catalog_tallies', coalesce(max(id), 0) from catalog_tallies;
      -- Facts that are kept outside their row are fetched one by one when all items are asked for one of them.
      alter table products set (toast_tuple_target = 4080);
    `);
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw(
      `alter table products reset (toast_tuple_target); drop table tally_marks; drop table bulk_rows; drop table bulk_changes; drop table recipes; drop table choices;`,
    );
  },
};
