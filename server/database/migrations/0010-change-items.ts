import type { Knex } from 'knex';

// A change set keeps one row an item, with all that it changed of it, where it kept one a cell: a large import of twenty
// columns is a hundred thousand rows and not two million.
const up = `
create table change_items (
  id bigint generated always as identity primary key, change_set_id bigint not null references change_sets (id) on delete cascade,
  target_id bigint not null, sku text not null, changes jsonb not null check (jsonb_typeof(changes) = 'array'),
  reversed boolean not null default false, left_as jsonb not null default '{}' check (jsonb_typeof(left_as) = 'object')
);
insert into change_items (change_set_id, target_id, sku, changes, reversed, left_as)
  select change_set_id, target_id, min(sku), jsonb_agg(jsonb_build_object('field', field, 'before', before, 'after', after) order by id),
    bool_and(reversed), coalesce(jsonb_object_agg(field, left_as) filter (where left_as is not null), '{}')
  from change_cells group by change_set_id, target_id order by min(id);
drop table change_cells;
create index change_items_set on change_items (change_set_id, id);
create index change_items_target on change_items (target_id, change_set_id);
`;

const down = `
create table change_cells (
  id bigint generated always as identity primary key, change_set_id bigint not null references change_sets (id) on delete cascade,
  target_id bigint not null, sku text not null, field text not null, before jsonb, after jsonb,
  reversed boolean not null default false, left_as text check (left_as in ('changed', 'stock', 'gone', 'refused'))
);
insert into change_cells (change_set_id, target_id, sku, field, before, after, reversed, left_as)
  select i.change_set_id, i.target_id, i.sku, c.field, c.before, c.after, i.reversed, i.left_as ->> c.field
  from change_items i cross join lateral rows from (jsonb_to_recordset(i.changes) as (field text, before jsonb, after jsonb)) with ordinality as c (field, before, after, n)
  order by i.id, c.n;
drop table change_items;
create index change_cells_set on change_cells (change_set_id);
create index change_cells_left on change_cells (change_set_id, id) where not reversed;
create index change_cells_target on change_cells (target_id, change_set_id);
`;

export const changeItems = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(up);
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw(down);
  },
};
