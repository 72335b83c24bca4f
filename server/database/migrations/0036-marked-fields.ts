import type { Knex } from 'knex';

/** Columns of items that are fields of ours by the same name. */
const columns = [
  ...['sku', 'title', 'brand', 'category', 'gtin', 'mpn', 'cost', 'price', 'sale_price', 'sale_start', 'sale_end'],
  ...['description', 'highlights', 'pictures', 'axes', 'kind'],
];
const changed = (column: string, field = column): string =>
  `case when bool_or(n.${column} is distinct from o.${column}) then '${field}' end`;
const isAlike = (column: string): string => `n.${column} is not distinct from o.${column}`;

const mark = (select: string): string => `
  create or replace function mark_unchecked() returns trigger language plpgsql set enable_nestloop = off as $$ begin
    ${select}
    return null; end $$`;

const ofProducts = mark(`insert into unchecked (market_id, products)
      select m.id, c.products from markets m cross join
        (select array_agg(n.id) as products from added n join gone o using (id) where n.version <> o.version) c
      where c.products is not null;`);

// Where an item has another version and is the same in all of these, something beside it has changed, such as its stock.
const withFields = mark(`insert into unchecked (market_id, products, fields)
      select m.id, c.products, case when not c.is_beside then c.fields || coalesce(f.fields, '{}') end
        from markets m cross join
          (select array_agg(n.id) as products,
              bool_or(${[...columns, 'parent_id', 'facts'].map(isAlike).join(' and ')}) as is_beside,
              array_remove(array[${[...columns.map((c) => changed(c)), changed('parent_id', 'parent_sku')].join(', ')}]::text[], null) as fields
            from added n join gone o using (id) where n.version <> o.version) c
        cross join
          (select array_agg(distinct 'fact.' || k) as fields
            from (select n.facts as now, o.facts as was from added n join gone o using (id)
                where n.version <> o.version and n.facts <> o.facts) p
              cross join lateral (
                select k from jsonb_each(now) a (k, v) where was -> k is distinct from v
                union all select k from jsonb_object_keys(was) b (k) where now -> k is null) d) f
      where c.products is not null;`);

/**
 * What of items was changed is said where they are marked to be checked again, so that a market that reads none of it need not
 * look at them. Nothing is said where it is not known.
 */
export const markedFields = {
  up: async (db: Knex): Promise<void> => {
    await db.raw('alter table unchecked add column fields text[]');
    await db.raw(withFields);
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw(ofProducts);
    await db.raw('alter table unchecked drop column fields');
  },
};
