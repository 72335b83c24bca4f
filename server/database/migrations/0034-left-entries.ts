import type { Knex } from 'knex';

/**
 * An item that was sent once can leave the catalog when nothing of it stands on a market any more. Lines of dispatches outlive
 * it, and what is known of its entries waits under its SKU for it to come again.
 */
export const leftEntries = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(
      `create table left_entries (
        market_id smallint not null references markets (id) on delete cascade, sku text not null,
        market_state text not null check (market_state in ('none', 'in review', 'live', 'refused', 'withdrawn')), market_reason text not null default '',
        number text, number_since timestamptz, accepted_details jsonb, accepted_price jsonb, accepted_stock jsonb, released_price text,
        entry jsonb, entry_is text not null default 'none', standings jsonb not null default '[]' check (jsonb_typeof(standings) = 'array'),
        left_at timestamptz not null default now(), primary key (market_id, sku), check ((entry_is = 'none') = (entry is null)))`,
    );
    await db.raw(
      `alter table dispatch_lines alter column listing_id drop not null, drop constraint dispatch_lines_listing_id_fkey,
        add constraint dispatch_lines_listing_id_fkey foreign key (listing_id) references listings (id) on delete set null`,
    );
    await db.raw('create index dispatch_lines_left on dispatch_lines (sku) where listing_id is null');
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw('drop index dispatch_lines_left');
    await db.raw('delete from dispatch_lines where listing_id is null');
    await db.raw(
      `alter table dispatch_lines alter column listing_id set not null, drop constraint dispatch_lines_listing_id_fkey,
        add constraint dispatch_lines_listing_id_fkey foreign key (listing_id) references listings (id)`,
    );
    await db.raw('drop table left_entries');
  },
};
