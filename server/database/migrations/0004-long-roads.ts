import type { Knex } from 'knex';

// A dispatch may be long on its way: unanswered tries are counted and only delay it, the moment it left is kept (until then
// it can be stopped), it may be abandoned, and a large send is several files that belong together.
const sql = `
alter table dispatches add column trouble int not null default 0, add column left_at timestamptz,
  add column part int not null default 1, add column parts int not null default 1;
update dispatches set left_at = coalesce(sent_at, created_at) where attempts > 0 or ticket is not null;
alter table dispatches drop constraint dispatches_state_check, drop constraint dispatches_key_key;
alter table dispatches add check (state in ('built', 'by hand', 'sending', 'sent', 'answered', 'failed', 'stopped', 'abandoned')),
  add check (operation in ('create', 'revise', 'replace', 'price', 'stock', 'withdraw', 'restore')),
  add unique (key, part);
alter table dispatch_lines drop constraint dispatch_lines_state_check;
alter table dispatch_lines add check (state in ('waiting', 'accepted', 'remarked', 'refused', 'lost', 'stopped', 'abandoned'));
`;

export const longRoads = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(sql);
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw(`update dispatches set state = 'failed' where state in ('stopped', 'abandoned');
      update dispatch_lines set state = 'lost' where state in ('stopped', 'abandoned');
      alter table dispatches drop constraint dispatches_key_part_key, add unique (key), drop column trouble, drop column left_at,
        drop column part, drop column parts`);
  },
};
