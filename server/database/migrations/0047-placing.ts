import type { Knex } from 'knex';

/** What each item that has no category on a market is thought to be, and how good such thoughts are there. */
export const placing = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(`
      create table leaf_proposals (
        market_id smallint not null references markets (id) on delete cascade,
        -- A family is one, by its own row.
        product_id bigint not null references products (id) on delete cascade,
        -- The empty text where nothing is known of what it tells.
        leaf text not null,
        -- 0 none, 1 unsure, 2 likely, 3 sure.
        sureness smallint not null check (sureness between 0 and 3),
        reason jsonb not null,
        others text[] not null,
        primary key (market_id, product_id)
      );
      create index leaf_proposals_leaf on leaf_proposals (market_id, leaf, sureness desc, product_id);
      create index leaf_proposals_product on leaf_proposals (product_id);
      create table leaf_looks (
        market_id smallint primary key references markets (id) on delete cascade,
        looked_at timestamptz not null,
        -- Placed items that were judged as if they were not, and those of them that would have been placed the same.
        tried int not null,
        same int not null
      );
    `);
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw('drop table leaf_looks; drop table leaf_proposals');
  },
};
