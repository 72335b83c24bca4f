import type { Knex } from 'knex';

// What must hold of the data holds in the database too. A finding is of a listing of its market; the parent of a variant is a
// family; days are days; no price is below nothing. Columns and an index that serve nothing are gone.
const up = `
-- With the product beside it, so that listings of a market are put in order without reading them.
alter table listings add unique (id, market_id) include (product_id);
alter table findings drop constraint findings_listing_id_fkey,
  add foreign key (listing_id, market_id) references listings (id, market_id) on delete cascade;
alter table change_sets add foreign key (market_id) references markets (id), add foreign key (reversed_by) references change_sets (id);
alter table imports add foreign key (change_set_id) references change_sets (id);
alter table change_cells add primary key (id);

alter table products add unique (id, kind);
alter table products add column parent_kind text generated always as (case when parent_id is not null then 'family' end) stored;
alter table products drop constraint products_parent_id_fkey,
  add foreign key (parent_id, parent_kind) references products (id, kind),
  add check (cost >= 0), add check (price >= 0), add check (sale_price >= 0);

insert into history (actor, action, subject, detail)
  select 'Basileus', 'changed', sku, c.field || ' was “' || c.value || '”, which is no day, and is empty now'
  from products cross join lateral (values ('sale start', sale_start), ('sale end', sale_end)) c (field, value)
  where c.value is not null and not is_day(c.value);
alter table products alter column sale_start type date using case when is_day(sale_start) then sale_start::date end,
  alter column sale_end type date using case when is_day(sale_end) then sale_end::date end;

drop index listings_planned;
alter table listings drop column held;
alter table files drop column hash;
update markets set settings = settings - 'person';
`;

// A day of the calendar in the one form that is kept. Whether the 30th of February is one, only trying tells.
const isDay = `
create function is_day(value text) returns boolean language plpgsql immutable as $$ begin
  perform value::date; return value ~ '^[0-9]{4}-[0-9]{2}-[0-9]{2}$'; exception when others then return false; end $$;
`;

const down = `
alter table files add column hash text;
alter table listings add column held text;
create index listings_planned on listings using gin (planned jsonb_path_ops);
alter table products alter column sale_start type text using sale_start::text, alter column sale_end type text using sale_end::text;
alter table products drop constraint products_sale_price_check, drop constraint products_price_check, drop constraint products_cost_check,
  drop constraint products_parent_id_parent_kind_fkey, drop column parent_kind, drop constraint products_id_kind_key,
  add foreign key (parent_id) references products (id);
alter table change_cells drop constraint change_cells_pkey;
alter table imports drop constraint imports_change_set_id_fkey;
alter table change_sets drop constraint change_sets_reversed_by_fkey, drop constraint change_sets_market_id_fkey;
alter table findings drop constraint findings_listing_id_market_id_fkey,
  add foreign key (listing_id) references listings (id) on delete cascade;
alter table listings drop constraint listings_id_market_id_product_id_key;
`;

export const constraints = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(isDay);
    await db.raw(up);
    await db.raw('drop function is_day');
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw(down);
  },
};
