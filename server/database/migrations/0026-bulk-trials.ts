import type { Knex } from 'knex';

/** Changes of many items that are tried on all of them: how far that is, and what the markets would find. */
export const bulkTrials = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(`
      create table bulk_trials (
        id bigint generated always as identity primary key,
        which jsonb not null check (jsonb_typeof(which) = 'object'),
        steps jsonb not null check (jsonb_typeof(steps) = 'array'),
        at timestamptz not null default now(),
        total int not null check (total >= 0),
        done int not null default 0 check (done between 0 and total),
        tried int not null default 0 check (tried between 0 and done),
        markets jsonb not null default '[]' check (jsonb_typeof(markets) = 'array'),
        state text not null default 'running' check (state in ('running', 'done', 'stopped'))
      );
      create index bulk_trials_at on bulk_trials (at);
    `);
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw('drop table bulk_trials');
  },
};
