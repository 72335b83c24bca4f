import type { Knex } from 'knex';

/** What a listing shows the others of its family: they are judged beside it, and anew only where it is new. */
export const familySight = {
  up: async (db: Knex): Promise<void> => {
    await db.raw('alter table listings add column family_sight jsonb');
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw('alter table listings drop column family_sight');
  },
};
