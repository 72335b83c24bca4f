import type { Knex } from 'knex';

/** Fields of which a file has only the beginnings of what the catalog holds. */
export const cutTexts = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(
      `alter table imports add column cut_texts jsonb not null default '[]' check (jsonb_typeof(cut_texts) = 'array')`,
    );
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw('alter table imports drop column cut_texts');
  },
};
