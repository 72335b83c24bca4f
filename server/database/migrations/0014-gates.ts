import type { Knex } from 'knex';

/**
 * The keys that markets know us by, apart from all that is read out; and what has been asked of a market that takes only so
 * much in a stretch of time.
 */
export const gates = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(`
create table market_keys (
  market_id bigint primary key references markets (id) on delete cascade,
  key text not null check (key <> ''), at timestamptz not null default now()
);
create table market_quotas (
  market_id bigint primary key references markets (id) on delete cascade,
  ends timestamptz not null, requests int not null, records int not null
);`);
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw('drop table market_keys, market_quotas;');
  },
};
