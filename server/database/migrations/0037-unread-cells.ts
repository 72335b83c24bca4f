import type { Knex } from 'knex';

/** What cannot be read in several rows of an import, kept by its plan; and what a person has said that such cells are read as, for the next file. */
export const unreadCells = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(
      `alter table imports add column unread jsonb not null default '[]' check (jsonb_typeof(unread) = 'array')`,
    );
    await db.raw(
      `alter table import_layouts add column replacements jsonb not null default '[]' check (jsonb_typeof(replacements) = 'array')`,
    );
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw('alter table import_layouts drop column replacements');
    await db.raw('alter table imports drop column unread');
  },
};
