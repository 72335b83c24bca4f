import type { Knex } from 'knex';

/** An import may wait for its time: when it is written, and by whose word; and those that were, with when. */
export const timedImports = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(`
      alter table imports
        add column due_at timestamptz,
        add column due_by text,
        -- When the clock has to look; none once it has.
        add column next_at timestamptz,
        add column clock_at timestamptz,
        add check ((due_at is null) = (due_by is null)),
        add check (next_at is null or due_at is not null);
      create index imports_next on imports (next_at) where next_at is not null;
      create index imports_by_clock on imports (clock_at) where clock_at is not null;
    `);
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw(
      'alter table imports drop column clock_at, drop column next_at, drop column due_by, drop column due_at',
    );
  },
};
