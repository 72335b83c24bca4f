import type { Knex } from 'knex';

/** How people keep the catalog's table: which columns in which order and width, how many stay in sight, and what is asked. */
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
    `);
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw('drop table views');
  },
};
