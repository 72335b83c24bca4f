import type { Knex } from 'knex';

/**
 * Stock that markets share out is shared among those on which an item is sold. Where it is left out of one, withdrawn there, or comes
 * back, its listings on the others are marked to be checked anew.
 */
export const sharedStock = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(`
      create function mark_sharing_markets() returns trigger language plpgsql as $$
        begin
          update listings l set market_revision = 0
            from markets m
            where l.product_id = new.product_id and l.market_id <> new.market_id and m.id = l.market_id
              and m.settings ->> 'weight' is not null
              and exists (select 1 from markets own where own.id = new.market_id and own.settings ->> 'weight' is not null);
          return null;
        end $$;
      create trigger listings_sharing after update on listings for each row
        when ((old.market_state in ('left out', 'withdrawn')) <> (new.market_state in ('left out', 'withdrawn')))
        execute function mark_sharing_markets();
    `);
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw('drop trigger listings_sharing on listings; drop function mark_sharing_markets()');
  },
};
