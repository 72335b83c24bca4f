import type { Knex } from 'knex';

/** Where each sheet of a workbook begins among the lines of an import that has several. */
export const alsoSheets = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(
      `alter table imports add column starts jsonb not null default '[]' check (jsonb_typeof(starts) = 'array')`,
    );
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw('alter table imports drop column starts');
  },
};
