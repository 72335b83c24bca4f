import type { Knex } from 'knex';

/**
 * Prices that a person has looked at and let go, however far they move, each by its field: a market with several sites has several.
 * Those of items that have left the catalog are looked at again.
 */
export const releasedPrices = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(`
      alter table listings add column released_prices jsonb check (jsonb_typeof(released_prices) = 'object');
      update listings set released_prices =
          (select jsonb_object_agg(k, v) from jsonb_each_text("values") e (k, v) where v = released_price)
        where released_price is not null;
      alter table listings drop column released_price;
      alter table left_entries drop column released_price, add column released_prices jsonb;
    `);
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw(`
      alter table left_entries drop column released_prices, add column released_price text;
      alter table listings add column released_price text;
      update listings set released_price = (select min(v) from jsonb_each_text(released_prices) e (k, v))
        where released_prices is not null;
      alter table listings drop column released_prices;
    `);
  },
};
