import type { Knex } from 'knex';

/** What files that come back have written into listings: a change set for each market. */
export const listedColumns = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(`
      create table import_sets (
        import_id bigint not null references imports (id) on delete cascade,
        market_id smallint not null references markets (id) on delete cascade,
        change_set_id bigint not null unique references change_sets (id) on delete cascade,
        primary key (import_id, market_id)
      );
      create index import_sets_market on import_sets (market_id);
    `);
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw('drop table import_sets');
  },
};
