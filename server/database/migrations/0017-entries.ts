import type { Knex } from 'knex';

const named = `'create', 'revise', 'replace', 'price', 'stock', 'withdraw', 'restore'`;
const allow = (operations: string): string =>
  `alter table dispatches drop constraint dispatches_operation_check, add constraint dispatches_operation_check check (operation in (${operations}));`;

/** Entries that a market has already of an item, what a person says of each, and offers that join one. */
export const entries = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(`
alter table listings add column entry jsonb,
  add column entry_is text not null default 'none' check (entry_is in ('none', 'found', 'joined', 'other')),
  add check ((entry_is = 'none') = (entry is null));
create index listings_entry on listings (market_id, entry_is, id) where entry_is <> 'none';
create index listings_number on listings (market_id, number) where number is not null;`);
    await db.raw(allow(`${named}, 'offer'`));
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw(`delete from dispatches where operation = 'offer'`);
    await db.raw(allow(named));
    await db.raw(`drop index listings_number; drop index listings_entry;
alter table listings drop column entry_is, drop column entry;`);
  },
};
