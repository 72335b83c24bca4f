import type { Knex } from 'knex';

/**
 * The keys that markets know us by, apart from all that is read out; by what we know their hosts; and what has been asked of a market that takes only so
 * much in a stretch of time. What a market says of why an entry stands as it does is kept with the listing.
 */
export const gates = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(`
create table market_keys (
  market_id bigint primary key references markets (id) on delete cascade,
  key text not null check (key <> ''), at timestamptz not null default now()
);
create table market_hosts (
  market_id bigint primary key references markets (id) on delete cascade,
  fingerprint text not null, at timestamptz not null default now()
);
alter table listings add column market_reason text not null default '';
create table market_quotas (
  market_id bigint primary key references markets (id) on delete cascade,
  ends timestamptz not null, requests int not null, records int not null
);`);
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw(`
alter table listings drop column market_reason;
drop table market_keys, market_hosts, market_quotas;`);
  },
};
