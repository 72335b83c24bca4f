import type { Knex } from 'knex';

/** Sets of columns and items that are taken out by the clock, and which files came of each. */
export const standingExports = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(`
      alter table export_sets
        add column schedule jsonb check (jsonb_typeof(schedule) = 'object'),
        add column next_at timestamptz,
        add check ((schedule is null) = (next_at is null));
      alter table exports add column set_id bigint references export_sets (id) on delete set null;
      create index exports_set on exports (set_id, id desc) where set_id is not null;
    `);
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw(
      'alter table exports drop column set_id; alter table export_sets drop column schedule, drop column next_at',
    );
  },
};
