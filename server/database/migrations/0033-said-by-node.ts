import type { Knex } from 'knex';

const allow = (kinds: string): string =>
  `alter table correspondences drop constraint correspondences_kind_check, add constraint correspondences_kind_check check (kind in (${kinds}));`;
const others = `'category', 'value', 'unwanted'`;

/**
 * What feeds an attribute of a market is data of its own kinds (a field, a text, a formula, nothing), and both it and the
 * codes of our values may be said for a node of the market's tree; an empty node is the whole of it.
 */
export const saidByNode = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(
      `create table attribute_sources (market_id smallint not null references markets (id), node text not null default '', attribute text not null, source jsonb not null, updated_at timestamptz not null default now(), primary key (market_id, node, attribute))`,
    );
    await db.raw(
      `insert into attribute_sources (market_id, attribute, source, updated_at)
        select market_id, attribute,
          case when trim(ours) in ('', '=') then jsonb_build_object('is', 'nothing')
            when starts_with(ours, '=') then jsonb_build_object('is', 'text', 'text', substr(ours, 2))
            else jsonb_build_object('is', 'field', 'field', ours) end,
          updated_at
        from correspondences where kind = 'field'`,
    );
    await db.raw(`delete from correspondences where kind = 'field'`);
    await db.raw(allow(others));
    await db.raw(
      `alter table correspondences add column node text not null default '' check (node = '' or kind = 'value'), drop constraint correspondences_pkey, add primary key (market_id, kind, attribute, ours, node)`,
    );
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw(`delete from correspondences where node <> ''`);
    await db.raw(
      `alter table correspondences drop constraint correspondences_pkey, add primary key (market_id, kind, attribute, ours), drop column node`,
    );
    await db.raw(allow(`${others}, 'field'`));
    await db.raw(
      `insert into correspondences (market_id, kind, attribute, ours, theirs, updated_at)
        select market_id, 'field', attribute,
          case source ->> 'is' when 'nothing' then '' when 'text' then '=' || (source ->> 'text') else source ->> 'field' end,
          attribute, updated_at
        from attribute_sources where node = '' and source ->> 'is' <> 'formula'`,
    );
    await db.raw('drop table attribute_sources');
  },
};
