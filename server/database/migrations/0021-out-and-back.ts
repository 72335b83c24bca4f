import type { Knex } from 'knex';

/**
 * Files of the catalog that went out, with what each row held, so that one that comes back is compared with that; sets of
 * columns and items that are kept under a name; and which of them an import is the return of.
 */
export const outAndBack = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(`
      create table exports (
        id bigint generated always as identity primary key,
        name text not null check (name <> ''),
        which jsonb not null check (jsonb_typeof(which) = 'object'),
        columns jsonb not null check (jsonb_typeof(columns) = 'array'),
        format text not null check (format in ('xlsx', 'csv', 'tsv')),
        mark text not null unique,
        file_id bigint references files (id) on delete set null,
        rows int not null default 0,
        state text not null default 'making' check (state in ('making', 'ready', 'failed')),
        actor text not null,
        at timestamptz not null default now()
      );
      create index exports_file on exports (file_id);
      create table export_rows (
        export_id bigint not null references exports (id) on delete cascade,
        sku text not null,
        "values" jsonb not null check (jsonb_typeof("values") = 'object'),
        primary key (export_id, sku)
      );
      create table export_sets (
        id bigint generated always as identity primary key,
        name text not null unique check (name <> ''),
        which jsonb not null check (jsonb_typeof(which) = 'object'),
        columns jsonb not null check (jsonb_typeof(columns) = 'array'),
        format text not null check (format in ('xlsx', 'csv', 'tsv')),
        actor text not null,
        at timestamptz not null default now()
      );
      alter table imports
        add column baseline_id bigint references exports (id) on delete set null,
        add column shuffled jsonb not null default '[]' check (jsonb_typeof(shuffled) = 'array');
      create index imports_baseline on imports (baseline_id);
    `);
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw(`alter table imports drop column baseline_id, drop column shuffled;
      drop table export_sets; drop table export_rows; drop table exports;`);
  },
};
