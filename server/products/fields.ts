// The flat fields of ours against the columns that hold them. The one place that knows both.
import { padGtin, parseGtin } from '@basileus/core/identifiers';
import type { Value } from '@basileus/core/listing';
import { padMoney } from '@basileus/core/quantity';
import { computeBundleStock } from '@basileus/core/stock';

export interface ProductRow {
  id: number;
  sku: string;
  kind: 'single' | 'family' | 'variant' | 'bundle';
  parent_id: number | null;
  parent_sku: string | null;
  title: string;
  brand: string | null;
  category: string | null;
  gtin: string | null;
  gtin14: string | null;
  mpn: string | null;
  cost: string | null;
  price: string | null;
  sale_price: string | null;
  sale_start: string | null;
  sale_end: string | null;
  description: string | null;
  highlights: string[] | null;
  pictures: string[] | null;
  facts: Record<string, Value>;
  axes: string[];
  version: number;
  on_hand: number | null;
  reserved: number | null;
  parts: { stock: number; count: number }[] | null;
  variants?: number;
}

export const textColumns = ['title', 'brand', 'category', 'gtin', 'mpn', 'description'] as const;
export const dayColumns = ['sale_start', 'sale_end'] as const;
/** The margin of a listing l in percent, as text. */
export const marginSql = 'round(l.margin / 10.0, 1)::text';

export const moneyColumns = ['cost', 'price', 'sale_price'] as const;
export const listColumns = ['highlights', 'pictures'] as const;

const stockSelect = `s.on_hand, s.reserved,
  case when p.kind = 'bundle' then (
    select jsonb_agg(jsonb_build_object('count', b.count, 'stock', (select coalesce(sum(on_hand - reserved), 0) from stock where product_id = b.part_id)))
    from bundle_parts b where b.bundle_id = p.id) end as parts`;
const stockFrom = `left join lateral (
  select sum(on_hand)::int as on_hand, sum(reserved)::int as reserved from stock where product_id = p.id) s on true`;

/** Select list of a product with its parent's SKU and its stock; of a bundle, what is free of each of its parts. `facts` are those that are wanted. */
export const selectProduct = (
  facts: string,
): string => `p.id, p.sku, p.kind, p.parent_id, p.title, p.brand, p.category, p.gtin, p.gtin14, p.mpn, p.cost, p.price,
  p.sale_price, p.sale_start, p.sale_end, p.description, p.highlights, p.pictures, ${facts} as facts, p.axes, p.version,
  parent.sku as parent_sku, ${stockSelect}`;
export const productSelect = selectProduct('p.facts');
export const productFrom = `products p left join products parent on parent.id = p.parent_id ${stockFrom}`;

/** A function of PostgreSQL takes a hundred arguments, two a fact. */
const mostPicked = 50;

const quote = (name: string): string => `'${name.replaceAll("'", "''").replaceAll('?', '\\?')}'`;

/**
 * The same with no more than some fields, for going through many items: what is left out is null, which a field that is
 * asked for may be as well. Names of fields are those of our own book.
 */
export function selectFields(keys: readonly string[]): { select: string; from: string } {
  const facts = keys.filter((k) => k.startsWith('fact.')).map((k) => k.slice('fact.'.length));
  const wanted = new Set(keys);
  const columns = [...textColumns, ...dayColumns, ...moneyColumns, ...listColumns].filter(
    (c) => wanted.has(c) || c === 'title',
  );
  const select = [
    'p.id, p.sku, p.kind, p.parent_id, p.gtin14, p.version',
    ...columns.map((c) => `p.${c}`),
    wanted.has('parent_sku')
      ? '(select q.sku from products q where q.id = p.parent_id) as parent_sku'
      : 'null as parent_sku',
    facts.length > mostPicked
      ? 'p.facts'
      : facts.length === 0
        ? `'{}'::jsonb as facts`
        : `jsonb_strip_nulls(jsonb_build_object(${facts.map((f) => `${quote(f)}, p.facts -> ${quote(f)}`).join(', ')})) as facts`,
    ...(wanted.has('stock') ? [stockSelect] : ['null as on_hand, null as reserved, null as parts']),
  ];
  return { select: select.join(', '), from: wanted.has('stock') ? `products p ${stockFrom}` : 'products p' };
}

/** What is on hand of a product and what of it is promised; of a bundle, how many can be put together. */
export function getStock(row: ProductRow): { onHand: number; reserved: number } | undefined {
  if (row.kind === 'family') return undefined;
  if (row.kind === 'bundle') return row.parts ? { onHand: computeBundleStock(row.parts), reserved: 0 } : undefined;
  return row.on_hand === null ? undefined : { onHand: row.on_hand, reserved: row.reserved ?? 0 };
}

const factFields = new Map<string, string>();
/** `fact.` and the name of a fact: made once for each, since a name that is put together anew costs more than the value. */
function toFactField(name: string): string {
  const known = factFields.get(name);
  if (known !== undefined) return known;
  const made = `fact.${name}`;
  if (factFields.size < mostFactNames) factFields.set(name, made);
  return made;
}
const mostFactNames = 1000;

/** A product's fields, flat; empty ones are left out. */
export function toFields(row: ProductRow): Record<string, Value> {
  const fields: Record<string, Value> = { sku: row.sku };
  if (row.parent_sku) fields['parent_sku'] = row.parent_sku;
  for (const c of [...textColumns, ...dayColumns]) {
    const v = row[c];
    if (v) fields[c] = v;
  }
  for (const c of moneyColumns) {
    const v = row[c];
    if (v) fields[c] = padMoney(v);
  }
  for (const c of listColumns) {
    const v = row[c];
    if (v && v.length) fields[c] = v;
  }
  const stock = getStock(row);
  if (stock) fields['stock'] = String(stock.onHand);
  for (const k in row.facts) fields[toFactField(k)] = row.facts[k]!;
  return fields;
}

/** The 14-place form of a typed number, where it is one; what is not a GTIN is compared with nothing. */
export function toGtin14(gtin: string | null): string | null {
  if (gtin === null) return null;
  const read = parseGtin(gtin);
  return read.ok ? padGtin(read.digits) : null;
}
