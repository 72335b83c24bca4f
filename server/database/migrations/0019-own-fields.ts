import { firstFields } from '@basileus/core/product';
import type { Knex } from 'knex';

/** Functions of triggers that join what a statement has changed with what was there before. */
const joining = ['tally_listings_update', 'tally_products_update', 'mark_unchecked'];

/**
 * The fields that a house says of its items, the languages and currencies that it writes beside its own, and its own
 * categories as a tree; what measures usually are in them. And the sites of a market
 * where an item is not sold, and how often it was looked at while nothing was new. A name of a category that an item has is in the tree, whoever wrote it.
 */
export const ownFields = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(`
      create table own_fields (
        key text primary key check (key ~ '^[a-z][a-z0-9_]{0,59}$'),
        position int not null,
        label text not null check (label <> ''),
        kind text not null,
        "rows" text not null check ("rows" in ('all', 'sellable')),
        "by" text check ("by" in ('language', 'currency')),
        language text,
        unit text,
        "values" jsonb not null default '[]',
        names jsonb not null default '[]',
        group_name text not null,
        categories jsonb not null default '[]',
        axis boolean not null default false,
        shared boolean not null default false,
        check ("by" is null or language is null)
      );
      create table own_facets (
        kind text not null check (kind in ('language', 'currency')),
        code text not null,
        position int not null,
        primary key (kind, code)
      );
      create table own_categories (
        name text primary key check (name <> ''),
        parent text references own_categories (name) on update cascade on delete set null deferrable,
        check (parent <> name)
      );
      create view own_lineage as
        with recursive up (name, ancestor, depth) as (
          select name, name, 0 from own_categories
          union all
          select up.name, o.parent, up.depth + 1
          from up join own_categories o on o.name = up.ancestor
          where o.parent is not null and up.depth < 50)
        select * from up;
      create table usual_measures (
        category text not null,
        field text not null,
        amount text not null,
        unit text not null,
        count int not null,
        made_at timestamptz not null default now(),
        primary key (category, field)
      );
      create index own_categories_parent on own_categories (parent);
      alter table markets add column quiet_looks int not null default 0;
      alter table listings add column sites_out text[] not null default '{}';
      insert into own_categories (name) select distinct category from products where category <> '';
      create function keep_own_categories() returns trigger language plpgsql as $$
      begin
        insert into own_categories (name)
          select distinct n.category from new_rows n
          where n.category <> '' and not exists (select 1 from own_categories o where o.name = n.category)
          on conflict do nothing;
        return null;
      end $$;
      create trigger own_categories_of_added after insert on products
        referencing new table as new_rows for each statement execute function keep_own_categories();
      create trigger own_categories_of_changed after update on products
        referencing new table as new_rows for each statement execute function keep_own_categories();
    `);
    // What such a function joins of a statement, it plans once for a connection: planned for one row as a loop within a loop,
    // it took minutes over twenty thousand.
    for (const name of joining) await db.raw(`alter function ${name}() set enable_nestloop = off`);
    await db.raw(
      `insert into own_fields
          (position, key, label, kind, "rows", "by", language, unit, "values", names, group_name, categories, axis, shared)
        select r.n, r.key, r.label, r.kind, r."rows", r."by", r.language, r.unit, r."values", r.names, r.group_name,
          r.categories, r.axis, r.shared
        from rows from (jsonb_to_recordset(?::jsonb) as (key text, label text, kind text, "rows" text, "by" text,
            language text, unit text, "values" jsonb, names jsonb, "group" text, categories jsonb, axis boolean,
            shared boolean)) with ordinality
          as r(key, label, kind, "rows", "by", language, unit, "values", names, group_name, categories, axis, shared, n)`,
      [JSON.stringify(firstFields.fields)],
    );
    const facets = [
      ...firstFields.languages.map((code) => ({ kind: 'language', code })),
      ...firstFields.currencies.map((code) => ({ kind: 'currency', code })),
    ];
    await db('own_facets').insert(facets.map((f, position) => ({ ...f, position })));
  },
  down: async (db: Knex): Promise<void> => {
    for (const name of joining) await db.raw(`alter function ${name}() reset enable_nestloop`);
    await db.raw(`
      drop trigger own_categories_of_added on products;
      drop trigger own_categories_of_changed on products;
      drop function keep_own_categories();
      alter table markets drop column quiet_looks;
      alter table listings drop column sites_out;
      drop view own_lineage;
      drop table own_fields, own_facets, own_categories, usual_measures;
    `);
  },
};
