import type { Knex } from 'knex';

/**
 * Links to pictures, and what was found behind them. `picture_hosts` are those that a person lets us ask; `picture_seen` says
 * of which version of a product the links are known.
 */
export const pictures = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(`
      create table picture_hosts (
        host text primary key check (host <> ''),
        address text,
        by_whom text not null,
        at timestamptz not null default now()
      );
      create table pictures (
        url text primary key,
        host text not null,
        state text not null default 'waiting' check (state in ('waiting', 'there', 'missing', 'strange', 'unreachable')),
        status int,
        width int check (width > 0),
        height int check (height > 0),
        kind text,
        bytes int check (bytes > 0),
        on_white boolean,
        thumb bytea,
        tries int not null default 0,
        looked_at timestamptz,
        due_at timestamptz not null default now(),
        check (state <> 'there' or num_nonnulls(width, height, kind, bytes, on_white) = 5)
      );
      create index pictures_due on pictures (host, due_at);
      create table picture_uses (
        product_id bigint not null references products (id) on delete cascade,
        url text not null references pictures (url) on delete cascade,
        primary key (product_id, url)
      );
      create index picture_uses_url on picture_uses (url);
      create table picture_seen (
        product_id bigint primary key references products (id) on delete cascade,
        version int not null
      )`);
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw('drop table picture_seen, picture_uses, pictures, picture_hosts');
  },
};
