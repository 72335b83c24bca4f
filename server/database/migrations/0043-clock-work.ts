import type { Knex } from 'knex';

/** What went by the clock is found again: which runs of recipes did, and the last of the dispatches that did. */
export const clockWork = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(`
      alter table bulk_changes add column by_clock boolean not null default false;
      create index bulk_changes_by_clock on bulk_changes (change_set_id) where by_clock;
      create index dispatches_by_clock on dispatches (created_at) where by_clock;
    `);
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw('drop index dispatches_by_clock; alter table bulk_changes drop column by_clock');
  },
};
