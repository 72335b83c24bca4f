import type { Knex } from 'knex';

/** When a file that a market could not take for the moment is tried again. */
export const retries = {
  up: async (db: Knex): Promise<void> => {
    await db.raw('alter table dispatches add column retry_at timestamptz');
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw('alter table dispatches drop column retry_at');
  },
};
