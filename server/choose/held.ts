// What a field holds, as it stands in columns of products p, in their JSON, or in that of listings l.
import { type ProductField, readMarketKey } from '@basileus/core/product';
import { categoryAttribute, marginAttribute } from '@basileus/core/rulebook';
import { dayColumns, listColumns, marginSql, moneyColumns, textColumns } from '../products';

const isOf = (columns: readonly string[], key: string): boolean => columns.includes(key);

/** Of a bundle so many as its scarcest part is there for. */
export const bundleStockSql = `(select min(floor((select coalesce(sum(s.on_hand - s.reserved), 0) from stock s where s.product_id = b.part_id)::numeric / b.count))
    from bundle_parts b where b.bundle_id = p.id)`;
/** How many there are of an item; of a family nothing. */
const stockSql = `case when p.kind = 'bundle' then ${bundleStockSql}
  else (select sum(s.on_hand) from stock s where s.product_id = p.id) end`;

/** What a listing l holds in a field; keys of attributes are letters, digits and signs that mean nothing here. */
const listedSql = (field: ProductField, arrow: '->' | '->>'): string | undefined => {
  const attribute = readMarketKey(field.key)?.attribute;
  if (attribute === categoryAttribute) return 'l.category';
  if (attribute === marginAttribute) return marginSql;
  return attribute && `l."values" ${arrow} '${attribute.replaceAll("'", "''")}'`;
};

/** Joins the listings l of items p on a market that is bound; nothing where none is meant. Those that are left out hold nothing. */
export const listingsSql = (market: string | undefined): string =>
  market === undefined
    ? ''
    : `join listings l on l.product_id = p.id and l.market_state <> 'left out' and l.market_id = (select id from markets where key = ?)`;

/** A field as text as it is kept, which may be empty. Names of facts are those of our own book, so that they may stand in the statement. */
export function toHeldTextSql(field: ProductField): string {
  const { key } = field;
  if (key === 'parent_sku') return '(select q.sku from products q where q.id = p.parent_id)';
  const inJson = listedSql(field, '->>') ?? (field.fact ? `p.facts ->> '${key.slice('fact.'.length)}'` : undefined);
  return inJson ?? (key === 'sku' || isOf(textColumns, key) ? `p.${key}` : `p.${key}::text`);
}

/** A field as text, or null where it is empty. */
export const toTextSql = (field: ProductField): string => `nullif(${toHeldTextSql(field)}, '')`;

export function toNumberSql(field: ProductField): string {
  if (field.key === 'stock') return stockSql;
  if (isOf(moneyColumns, field.key)) return `p.${field.key}`;
  const text = toHeldTextSql(field);
  // A bound on the figures would take longer than all the rest; bytes are compared faster than letters.
  return `case when (${text}) collate "C" ~ '^-{0,1}[0-9]+(\\.[0-9]+){0,1}$' then (${text})::numeric end`;
}
export const toDaySql = (field: ProductField): string => {
  if (isOf(dayColumns, field.key)) return `p.${field.key}`;
  // A moment counts as its day where it is said.
  const text = field.moment ? `substring(${toTextSql(field)} for 10)` : toTextSql(field);
  return `case when ${text} ~ '^[0-9]{4}-[0-9]{2}-[0-9]{2}$' then (${text})::date end`;
};
/** The JSON of a list as it is kept: entries, or a single text. */
export const toHeldSql = (field: ProductField): string => {
  const { key } = field;
  return listedSql(field, '->') ?? (isOf(listColumns, key) ? `p.${key}` : `p.facts -> '${key.slice('fact.'.length)}'`);
};
export const toListSql = (field: ProductField): string => {
  const held = toHeldSql(field);
  return `case jsonb_typeof(${held}) when 'array' then ${held} when 'string' then jsonb_build_array(${held}) else '[]' end`;
};
