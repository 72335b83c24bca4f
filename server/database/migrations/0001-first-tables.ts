import type { Knex } from 'knex';

const sql = `
create extension if not exists pg_trgm;

create table products (
  id bigint generated always as identity primary key,
  sku text not null unique check (sku <> ''),
  sku_fold text generated always as (regexp_replace(lower(sku), '[^a-z0-9]', '', 'g')) stored,
  kind text not null check (kind in ('single', 'family', 'variant', 'bundle')),
  parent_id bigint references products (id),
  title text not null default '', brand text, category text, gtin text, gtin14 text, mpn text,
  cost numeric(14, 4), price numeric(14, 4), sale_price numeric(14, 4), sale_start text, sale_end text,
  description text, highlights jsonb, pictures jsonb,
  facts jsonb not null default '{}', axes jsonb not null default '[]',
  search text generated always as (lower(sku || ' ' || title || ' ' || coalesce(brand, '') || ' ' || coalesce(gtin, '') || ' ' || coalesce(mpn, ''))) stored,
  version int not null default 1, updated_at timestamptz not null default now(),
  check ((kind = 'variant') = (parent_id is not null))
);
create index products_parent on products (parent_id);
create index products_gtin14 on products (gtin14) where gtin14 is not null;
create index products_sku_fold on products (sku_fold);
create index products_category on products (category);
create index products_brand on products (brand);
create index products_search on products using gin (search gin_trgm_ops);
create index products_root on products (coalesce(parent_id, id), id);

create table stock (product_id bigint not null references products (id) on delete cascade, location text not null default 'main', on_hand int not null check (on_hand >= 0), reserved int not null default 0 check (reserved >= 0), primary key (product_id, location));
create table bundle_parts (bundle_id bigint not null references products (id) on delete cascade, part_id bigint not null references products (id), count int not null check (count > 0), primary key (bundle_id, part_id));

create table markets (id smallint generated always as identity primary key, key text not null unique, name text not null, rulebook_id bigint, settings jsonb not null default '{}', connection jsonb not null default '{}', shelf_cursor text);
create table rulebooks (id bigint generated always as identity primary key, market_key text not null, version text not null, document jsonb not null, created_at timestamptz not null default now(), unique (market_key, version));
alter table markets add foreign key (rulebook_id) references rulebooks (id);
create table correspondences (market_id smallint not null references markets (id), kind text not null check (kind in ('category', 'field', 'value')), attribute text not null default '', ours text not null, theirs text not null, updated_at timestamptz not null default now(), primary key (market_id, kind, attribute, ours));

create table listings (
  id bigint generated always as identity primary key,
  product_id bigint not null references products (id) on delete cascade,
  market_id smallint not null references markets (id),
  category text, overrides jsonb not null default '{}', "values" jsonb not null default '{}', origins jsonb not null default '{}',
  market_state text not null default 'none' check (market_state in ('none', 'in review', 'live', 'refused', 'withdrawn')),
  wish text not null default 'keep' check (wish in ('keep', 'withdraw', 'restore')),
  number text, number_since timestamptz,
  accepted_details jsonb, accepted_price jsonb, accepted_stock jsonb,
  refusal_open boolean not null default false, released_price text,
  blockers int not null default 0, cautions int not null default 0, tips int not null default 0,
  planned jsonb not null default '[]', held text, in_flight int not null default 0,
  version int not null default 1, checked_at timestamptz, updated_at timestamptz not null default now(),
  unique (product_id, market_id)
);
create index listings_market_category on listings (market_id, category);
create index listings_planned on listings using gin (planned jsonb_path_ops);

create table findings (
  id bigint generated always as identity primary key,
  listing_id bigint not null references listings (id) on delete cascade, market_id smallint not null,
  "check" text not null, message text not null, level text not null check (level in ('blocker', 'caution', 'tip')), field text not null, value text not null, params jsonb not null, remedies jsonb not null, says text not null
);
create index findings_listing on findings (listing_id);
create index findings_cause on findings (market_id, "check", message, field);

create table files (id bigint generated always as identity primary key, name text not null, size bigint not null default 0, hash text, created_at timestamptz not null default now());
create table file_chunks (file_id bigint not null references files (id) on delete cascade, seq int not null, bytes bytea not null, primary key (file_id, seq));

create table imports (
  id bigint generated always as identity primary key, file_id bigint not null references files (id), name text not null, kind text not null check (kind in ('text', 'workbook')),
  state text not null check (state in ('planning', 'planned', 'applying', 'applied', 'failed', 'cancelled')), plan_no int not null default 1,
  reading jsonb not null, sheets jsonb not null default '[]', title_lines jsonb not null default '[]', sample jsonb not null default '[]', counts jsonb not null default '{}', fault text, change_set_id bigint, created_at timestamptz not null default now()
);
create table import_rows (import_id bigint not null references imports (id) on delete cascade, "row" int not null, sku text not null, action text not null check (action in ('create', 'update', 'same', 'refuse')), changes jsonb not null, problems jsonb not null, cells jsonb, applied boolean not null default false, primary key (import_id, "row"));
create index import_rows_action on import_rows (import_id, action);

create table dispatches (
  id bigint generated always as identity primary key, market_id smallint not null references markets (id), operation text not null, state text not null check (state in ('built', 'by hand', 'sending', 'sent', 'answered', 'failed')),
  key text not null unique, file_id bigint references files (id), file_name text not null, receipt_file_id bigint references files (id), ticket text, total int not null default 0, accepted int not null default 0, remarked int not null default 0, refused int not null default 0,
  attempts int not null default 0, fault text, by_whom text not null, created_at timestamptz not null default now(), sent_at timestamptz, answered_at timestamptz
);
create table dispatch_lines (
  dispatch_id bigint not null references dispatches (id) on delete cascade, line int not null, listing_id bigint not null references listings (id), sku text not null, differences jsonb not null,
  state text not null default 'waiting' check (state in ('waiting', 'accepted', 'remarked', 'refused', 'lost')), code text not null default '', field text not null default '', says text not null default '', remedy text not null default '', number text, mended boolean not null default false, resent boolean not null default false, primary key (dispatch_id, line)
);
create index dispatch_lines_listing on dispatch_lines (listing_id);
create index dispatch_lines_open on dispatch_lines (state) where state in ('waiting', 'refused');

create table change_sets (id bigint generated always as identity primary key, title text not null, actor text not null, target text not null check (target in ('products', 'listings')), market_id smallint, cells int not null default 0, reversed_by bigint, at timestamptz not null default now());
create table change_cells (change_set_id bigint not null references change_sets (id) on delete cascade, target_id bigint not null, sku text not null, field text not null, before jsonb, after jsonb);
create index change_cells_set on change_cells (change_set_id);
create table history (id bigint generated always as identity primary key, at timestamptz not null default now(), actor text not null, action text not null, subject text not null, detail text not null default '');

create table jobs (
  id uuid primary key, kind text not null, title text not null, payload jsonb not null, state text not null default 'queued' check (state in ('queued', 'running', 'done', 'failed', 'cancelled')),
  done int not null default 0, total int not null default 0, attempts int not null default 0, error text, link text, once text, cancellable boolean not null default false, cancel_wanted boolean not null default false,
  worker text, heartbeat_at timestamptz, run_at timestamptz not null default now(), created_at timestamptz not null default now(), updated_at timestamptz not null default now()
);
create unique index jobs_once on jobs (once) where once is not null and state in ('queued', 'running');
create index jobs_state on jobs (state, created_at);
`;

const tables = [
  'jobs',
  'history',
  'change_cells',
  'change_sets',
  'dispatch_lines',
  'dispatches',
  'import_rows',
  'imports',
  'file_chunks',
  'files',
  'findings',
  'listings',
  'correspondences',
  'stock',
  'bundle_parts',
  'products',
];

export const firstTables = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(sql);
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw(`drop table if exists ${tables.join(', ')}, rulebooks, markets cascade`);
  },
};
