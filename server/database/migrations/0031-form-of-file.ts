import type { Knex } from 'knex';

/** Which of a market's forms a file was written in: an operation may have several, by category. */
export const formOfFile = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(`alter table dispatches add column form text`);
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw('alter table dispatches drop column form');
  },
};
