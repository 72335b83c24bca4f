import type { Knex } from 'knex';

/**
 * How people keep the catalog's table: which columns in which order and width, how many stay in sight, and what is asked. And
 * items that are taken out of the catalog by a job: which, and why some stay.
 */
export const views = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(`
      create table views (
        id bigint generated always as identity primary key,
        name text not null unique check (name <> ''),
        layout jsonb not null check (jsonb_typeof(layout) = 'object'),
        address text not null,
        actor text not null,
        at timestamptz not null default now()
      );
      create table removals (
        change_set_id bigint not null references change_sets (id) on delete cascade,
        product_id bigint not null,
        sku text not null,
        -- Bundles go before what they hold, variants before their families.
        rank smallint not null,
        left_as text check (left_as in ('sent', 'part', 'family')),
        is_done boolean not null default false,
        primary key (change_set_id, product_id)
      );
      create index removals_due on removals (change_set_id, rank, product_id) where not is_done;
    `);
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw('drop table removals; drop table views');
  },
};
