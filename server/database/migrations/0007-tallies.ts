import type { Knex } from 'knex';

// Counters that screens show are kept, not counted. Every statement that changes listings or findings adds, by a trigger
// and in its own transaction, how far it moved each count; the count is the sum of what was added. Nothing is updated in
// place, so that two who write at once never wait for each other; now and then the sums are put in the place of their parts.
const state = `
create function listing_state(in_flight int, market_state text, refusal_open boolean, category text, blockers int) returns text
  language sql immutable as $$ select case when in_flight > 0 then 'sent'
    when market_state in ('live', 'in review', 'withdrawn') then market_state
    when refusal_open then 'refused' when category is null then 'draft' when blockers > 0 then 'blocked' else 'ready' end $$;
create table tallies (
  id bigint generated always as identity primary key, market_id smallint not null references markets (id) on delete cascade,
  kind text not null check (kind in ('state', 'unplaced', 'level', 'plan', 'cause', 'safe', 'likely')), key text not null, n bigint not null
);
create index tallies_kind on tallies (market_id, kind, key) include (n);
`;

const listingParts = (table: string, sign: string): string =>
  [
    `select market_id, 'state' as kind, listing_state(in_flight, market_state, refusal_open, category, blockers) as key, ${sign}1 as d from ${table}`,
    `select market_id, 'unplaced', '', ${sign}1 from ${table} where category is null`,
    `select market_id, 'plan', (e ->> 'operation') || E'\\t' || coalesce(e ->> 'held', ''), ${sign}1
      from ${table} cross join jsonb_array_elements(planned) e where in_flight = 0`,
    ...['blocker', 'caution', 'tip'].map(
      (level) => `select market_id, 'level', '${level}', ${sign}${level}s from ${table} where ${level}s <> 0`,
    ),
  ].join(' union all ');
const causeKey = `"check" || E'\\t' || message || E'\\t' || field || E'\\t' || level`;
/** Listings, not findings, are counted: a list of several wrong values is one listing that has the cause. */
const findingParts = (table: string, sign: string): string =>
  [
    ['cause', 'true'],
    ['safe', `remedies -> 0 ->> 'safe' = 'true'`],
    ['likely', `remedies -> 0 ->> 'safe' = 'false'`],
  ]
    .map(
      ([kind, where]) =>
        `select market_id, '${kind}' as kind, ${causeKey} as key, ${sign}count(distinct listing_id) as d from ${table} where ${where} group by 1, 3`,
    )
    .join(' union all ');

function makeTriggers(table: string, parts: (from: string, sign: string) => string): string {
  const sources = {
    insert: { tables: 'new table as added', sql: parts('added', '') },
    delete: { tables: 'old table as gone', sql: parts('gone', '-') },
    update: {
      tables: 'old table as gone new table as added',
      sql: `${parts('gone', '-')} union all ${parts('added', '')}`,
    },
  };
  return Object.entries(sources)
    .map(
      ([event, { tables, sql }]) => `
create function tally_${table}_${event}() returns trigger language plpgsql as $$ begin
  insert into tallies (market_id, kind, key, n)
    select market_id, kind, key, sum(d) from (${sql}) x group by 1, 2, 3 having sum(d) <> 0;
  return null; end $$;
create trigger tally_${event} after ${event} on ${table} referencing ${tables}
  for each statement execute function tally_${table}_${event}();`,
    )
    .join('');
}

/** Puts the functions that count listings back to how they were made here. */
export const listingTriggersOf0007 = (): string => makeTriggers('listings', listingParts).replaceAll('?', '\\?');

const countedNow = `
insert into tallies (market_id, kind, key, n)
  select market_id, kind, key, sum(d) from (${listingParts('listings', '')}) x group by 1, 2, 3;
insert into tallies (market_id, kind, key, n)
  select market_id, kind, key, sum(d) from (${findingParts('findings', '')}) x group by 1, 2, 3;
`;

// What an import writes next is found by an index: families before their variants, which name their parent.
const importsDue = `
alter table import_rows add column parent_sku text generated always as (jsonb_path_query_first(changes, '$[*] ? (@.field == "parent_sku").after') #>> '{}') stored;
create index import_rows_due on import_rows (import_id, (parent_sku is not null), "row") where not applied and action in ('create', 'update');
create index import_rows_parent on import_rows (import_id, parent_sku) where parent_sku is not null;
`;

export const tallies = {
  up: async (db: Knex): Promise<void> => {
    // One example of each cause is looked up by the first finding of it.
    await db.raw(
      `drop index findings_cause; create index findings_cause on findings (market_id, "check", message, field, id)`,
    );
    await db.raw(state);
    await db.raw(makeTriggers('listings', listingParts).replaceAll('?', '\\?'));
    await db.raw(makeTriggers('findings', findingParts).replaceAll('?', '\\?'));
    await db.raw(countedNow);
    await db.raw(importsDue.replaceAll('?', '\\?'));
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw(
      ['listings', 'findings']
        .flatMap((t) =>
          ['insert', 'delete', 'update'].map((e) => `drop trigger tally_${e} on ${t}; drop function tally_${t}_${e}()`),
        )
        .join('; '),
    );
    await db.raw(`alter table import_rows drop column parent_sku;
      drop table tallies; drop function listing_state;
      drop index findings_cause; create index findings_cause on findings (market_id, "check", message, field)`);
  },
};
