import type { Knex } from 'knex';

/** Prices and stock that a market shows otherwise than it took them, by field as core/listing/drift.ts tells them, and since when. */
export const drift = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(`
      alter table listings add column drift jsonb check (jsonb_typeof(drift) = 'array'), add column drift_at timestamptz,
        add check ((drift is null) = (drift_at is null));
      create function take_shown(accepted jsonb, shown jsonb) returns jsonb language sql immutable as $$
        select case when accepted is null or shown = '{}' then accepted
          else (accepted || shown) - array(select key from jsonb_each_text(shown) where value = '') end $$;
      create index listings_drift on listings (market_id, drift_at desc, id) where drift is not null;
    `);
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw(
      'drop function take_shown(jsonb, jsonb); alter table listings drop column drift_at, drop column drift',
    );
  },
};
