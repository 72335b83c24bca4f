import type { Knex } from 'knex';

/** What cannot be read in several rows of an import, kept by its plan. */
export const unreadCells = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(
      `alter table imports add column unread jsonb not null default '[]' check (jsonb_typeof(unread) = 'array')`,
    );
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw('alter table imports drop column unread');
  },
};
