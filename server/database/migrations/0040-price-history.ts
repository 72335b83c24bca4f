import type { Knex } from 'knex';

/**
 * At which prices a market has sold an entry, from when on: noted with whatever changes what was accepted, kept for a hundred days
 * and the last before that. A reduction is announced from the lowest of them.
 */
export const priceHistory = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(`
      create table price_history (
        listing_id bigint not null references listings (id) on delete cascade,
        at timestamptz not null,
        prices jsonb check (jsonb_typeof(prices) = 'object'),
        primary key (listing_id, at)
      );
      insert into price_history (listing_id, at, prices)
        select id, coalesce(number_since, now()), accepted_price from listings where accepted_price is not null;
      create function note_prices() returns trigger language plpgsql as $$
        begin
          insert into price_history (listing_id, at, prices) values (new.id, now(), new.accepted_price)
            on conflict (listing_id, at) do update set prices = excluded.prices;
          delete from price_history h
            where h.listing_id = new.id and h.at < (select max(x.at) from price_history x
              where x.listing_id = new.id and x.at < now() - interval '100 days');
          return null;
        end $$;
      create trigger listings_prices after update on listings for each row
        when (old.accepted_price is distinct from new.accepted_price)
        execute function note_prices();
    `);
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw('drop trigger listings_prices on listings; drop function note_prices(); drop table price_history');
  },
};
