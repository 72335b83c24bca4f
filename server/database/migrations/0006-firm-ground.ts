import { foldSku } from '@basileus/core/identifiers';
import { toNaturalKey } from '@basileus/core/text';
import type { Knex } from 'knex';
import { rowsOf } from '../connection';

// An import remembers how its columns were understood, what was mended in it, and which names are new.
const importsSql = `
alter table imports add column novelties jsonb not null default '[]', add column remembered_from text, add column width int not null default 0;
update imports set reading = jsonb_set(jsonb_set(reading, '{replacements}', '[]') || '{"dateOrder": "day-first"}', '{columns}',
  (select coalesce(jsonb_agg(c - 'reason' || jsonb_build_object('why', case when c ->> 'field' is null then 'none' else 'words' end) order by n), '[]')
    from jsonb_array_elements(reading -> 'columns') with ordinality as x(c, n)));
create table import_layouts (
  fingerprint text primary key, fields jsonb not null, decimal_sign text not null check (decimal_sign in ('.', ',', 'undetermined')),
  list_separator text not null, from_file text not null, updated_at timestamptz not null default now()
);
create table import_mends (
  import_id bigint not null references imports (id) on delete cascade, "row" int not null, col int not null, text text not null,
  primary key (import_id, "row", col)
);
`;

const page = 5000;

/**
 * How a SKU is folded, and where it stands among others, is the core's to say; what was folded by the database, in Latin
 * letters only, is folded anew. The members of a family stand where its SKU does.
 */
async function foldSkus(db: Knex): Promise<void> {
  await db.raw(`drop index products_sku_fold;
    alter table products drop column sku_fold;
    alter table products add column sku_fold text not null default '', add column shelf_order text collate "C" not null default ''`);
  for (let after = 0; ;) {
    const rows = await rowsOf<{ id: number; sku: string; root: string }>(
      db,
      `select p.id, p.sku, coalesce(parent.sku, p.sku) as root
        from products p left join products parent on parent.id = p.parent_id
        where p.id > ? order by p.id limit ?`,
      [after, page],
    );
    if (rows.length === 0) break;
    await db.raw(
      `update products p set sku_fold = r.fold, shelf_order = r.shelf
        from jsonb_to_recordset(?::jsonb) as r(id bigint, fold text, shelf text) where r.id = p.id`,
      [JSON.stringify(rows.map((r) => ({ id: r.id, fold: foldSku(r.sku), shelf: toNaturalKey(r.root) })))],
    );
    after = rows.at(-1)!.id;
  }
  await db.raw(`alter table products alter column sku_fold drop default, add check (sku_fold <> '');
    create index products_sku_fold on products (sku_fold);
    alter table products alter column shelf_order drop default;
    create index products_shelf on products (shelf_order, (parent_id is not null), id)`);
}

export const firmGround = {
  up: async (db: Knex): Promise<void> => {
    await foldSkus(db);
    // Texts in the order in which people count: KET-2 before KET-10.
    await db.raw(`create collation if not exists "natural" (provider = icu, locale = 'und-u-kn-true')`);
    await db.raw(importsSql);
    // Findings are facts; their sentences are made where they are shown.
    await db.raw('alter table findings drop column says');
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw(`drop collation "natural";
      drop table import_mends, import_layouts;
      alter table imports drop column novelties, drop column remembered_from, drop column width;
      alter table findings add column says text not null default '';
      alter table products drop column shelf_order, drop column sku_fold;
      alter table products add column sku_fold text generated always as (regexp_replace(lower(sku), '[^a-z0-9]', '', 'g')) stored;
      create index products_sku_fold on products (sku_fold)`);
  },
};
