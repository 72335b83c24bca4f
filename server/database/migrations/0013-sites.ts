import type { Knex } from 'knex';

/**
 * One entry may stand in several places: lines of a dispatch name the site that they are about, how an entry stands is
 * kept for each site, and a line may have several faults. Markets whose families have no row of their own hold none; a
 * market can be paused. Rates say what the house currency buys of others.
 */
export const sites = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(`
alter table markets add column family_rows boolean not null default true, add column paused boolean not null default false;
alter table dispatch_lines add column site text not null default '';
create table standings (
  listing_id bigint not null references listings (id) on delete cascade, site text not null,
  market_state text not null check (market_state in ('in review', 'live', 'refused', 'withdrawn')),
  number text, reason text not null default '', since timestamptz not null default now(),
  primary key (listing_id, site)
);
create index standings_refused on standings (listing_id) where market_state = 'refused';
create table rates (
  currency text primary key check (currency ~ '^[A-Z]{3}$'), rate numeric not null check (rate > 0),
  by_whom text not null, at timestamptz not null default now()
);
create table dispatch_faults (
  dispatch_id bigint not null, line int not null, place smallint not null,
  code text not null, field text not null, says text not null, remedy text not null,
  primary key (dispatch_id, line, place),
  foreign key (dispatch_id, line) references dispatch_lines (dispatch_id, line) on delete cascade
);`);
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw(`
drop table standings, dispatch_faults, rates;
alter table dispatch_lines drop column site;
alter table markets drop column family_rows, drop column paused;`);
  },
};
