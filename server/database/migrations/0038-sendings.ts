import type { Knex } from 'knex';

/**
 * What goes to a market by the clock: again and again, or once at a time that a person has set, with the rows for which it was set.
 * A row remembers by operation for which sending it waits; a sending whose time has come, which rows were freed for it.
 */
export const sendings = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(`
      create table sendings (
        id bigint generated always as identity primary key,
        market_id bigint not null references markets (id) on delete cascade,
        operations text[] not null check (cardinality(operations) > 0),
        schedule jsonb check (jsonb_typeof(schedule) = 'object'),
        next_at timestamptz,
        due_at timestamptz,
        actor text not null,
        rows int not null default 0 check (rows >= 0),
        freed bigint[],
        seen jsonb not null default '[]' check (jsonb_typeof(seen) = 'array'),
        last jsonb check (jsonb_typeof(last) = 'object'),
        created_at timestamptz not null default now(),
        check (schedule is null or next_at is not null)
      );
      create index sendings_market on sendings (market_id, id);
      create index sendings_next on sendings (next_at) where next_at is not null;
      alter table listings add column timed jsonb check (jsonb_typeof(timed) = 'object');
      alter table dispatches add column by_clock boolean not null default false;
      create index listings_timed on listings (market_id) where timed is not null;
    `);
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw(
      'alter table dispatches drop column by_clock; alter table listings drop column timed; drop table sendings',
    );
  },
};
