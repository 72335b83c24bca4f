import type { Knex } from 'knex';

// What two writers made of the same values is kept for a decision; a take-back knows which items a change added or removed,
// goes on where it was broken off, and says what it left as it was.
const sql = `
alter table import_rows add column conflicts jsonb not null default '[]',
  add column clash text check (clash in ('changed', 'added', 'removed'));
create index import_rows_clash on import_rows (import_id) where clash is not null;
update imports set sheets = coalesce((select jsonb_agg(jsonb_build_object('name', s, 'hidden', false)) from jsonb_array_elements(sheets) s), '[]')
  where jsonb_typeof(sheets -> 0) = 'string';
alter table change_cells add column id bigint generated always as identity, add column reversed boolean not null default false,
  add column left_as text check (left_as in ('changed', 'stock', 'gone', 'refused'));
create index change_cells_left on change_cells (change_set_id, id) where not reversed;
create index change_cells_target on change_cells (target_id, change_set_id);
alter table change_sets add column reverses bigint references change_sets (id), add column outcome jsonb,
  add column is_done boolean not null default true;
create table change_products (
  change_set_id bigint not null references change_sets (id) on delete cascade, product_id bigint not null, sku text not null,
  action text not null check (action in ('added', 'removed')), record jsonb, reversed boolean not null default false,
  left_as text check (left_as in ('changed', 'sent', 'family', 'part', 'taken')),
  primary key (change_set_id, product_id)
);
`;

export const twoWriters = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(sql);
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw(`drop table change_products;
      alter table change_sets drop column reverses, drop column outcome, drop column is_done;
      alter table change_cells drop column id, drop column reversed, drop column left_as;
      drop index change_cells_target;
      update imports set sheets = coalesce((select jsonb_agg(s -> 'name') from jsonb_array_elements(sheets) s), '[]');
      alter table import_rows drop column conflicts, drop column clash`);
  },
};
