import type { Knex } from 'knex';

/** Business systems that items come from: how they are reached, the rows that came last, and what became of each time. */
export const sources = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(`
      create table sources (
        id bigint generated always as identity primary key,
        name text not null unique check (name <> ''),
        way text not null check (way in ('pages', 'file')),
        address text not null,
        decimal_sign text not null default '.' check (decimal_sign in ('.', ',')),
        since_param text not null default '',
        -- Null until its columns are known.
        rules jsonb check (jsonb_typeof(rules) = 'object'),
        mode text not null default 'both' check (mode in ('update', 'create', 'both')),
        schedule jsonb check (jsonb_typeof(schedule) = 'object'),
        next_at timestamptz,
        hold_percent int not null default 20 check (hold_percent between 0 and 100),
        columns jsonb not null default '[]' check (jsonb_typeof(columns) = 'array'),
        row_count int not null default 0,
        fetched_at timestamptz,
        -- From when on the next question about what has changed asks.
        asked_at timestamptz,
        actor text not null,
        at timestamptz not null default now(),
        check ((schedule is null) = (next_at is null))
      );
      create table source_keys (
        source_id bigint primary key references sources (id) on delete cascade,
        key text not null
      );
      create table source_rows (
        source_id bigint not null references sources (id) on delete cascade,
        n int not null,
        cells jsonb not null check (jsonb_typeof(cells) = 'object'),
        primary key (source_id, n)
      );
      create table source_runs (
        id bigint generated always as identity primary key,
        source_id bigint not null references sources (id) on delete cascade,
        at timestamptz not null default now(),
        actor text not null,
        how text not null check (how in ('hand', 'clock')),
        then_do text not null check (then_do in ('look', 'bring')),
        changed_only boolean not null default false,
        state text not null default 'fetching'
          check (state in ('fetching', 'forming', 'planning', 'planned', 'held', 'writing', 'done', 'failed')),
        counts jsonb not null default '{}',
        import_id bigint references imports (id) on delete set null,
        fault text
      );
      create index source_runs_source on source_runs (source_id, id desc);
      create index source_runs_import on source_runs (import_id);
    `);
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw('drop table source_runs; drop table source_rows; drop table source_keys; drop table sources');
  },
};
