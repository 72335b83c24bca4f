// The flat fields of ours against the columns that hold them. The one place that knows both.
import { padGtin, parseGtin } from '@basileus/core/identifiers';
import type { Value } from '@basileus/core/listing';
import { padMoney } from '@basileus/core/quantity';

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
  variants?: number;
}

export const textColumns = [
  'title',
  'brand',
  'category',
  'gtin',
  'mpn',
  'sale_start',
  'sale_end',
  'description',
] as const;
export const moneyColumns = ['cost', 'price', 'sale_price'] as const;
export const listColumns = ['highlights', 'pictures'] as const;

/** Select list of a product with its parent's SKU and its stock. A bundle's stock is derived from its parts. */
export const productSelect = `p.*, parent.sku as parent_sku, s.on_hand, s.reserved`;
export const productFrom = `products p left join products parent on parent.id = p.parent_id
  left join lateral (select case when p.kind = 'bundle' then (select min(greatest(0, coalesce(ps.free, 0)) / bp.count)::int from bundle_parts bp left join lateral (select sum(on_hand - reserved)::int as free from stock where product_id = bp.part_id) ps on true where bp.bundle_id = p.id)
    else (select sum(on_hand)::int from stock where product_id = p.id) end as on_hand, (select coalesce(sum(reserved), 0)::int from stock where product_id = p.id) as reserved) s on true`;

/** A product's fields, flat; empty ones are left out. */
export function toFields(row: ProductRow): Record<string, Value> {
  const fields: Record<string, Value> = { sku: row.sku };
  if (row.parent_sku) fields['parent_sku'] = row.parent_sku;
  for (const c of textColumns) {
    const v = row[c];
    if (v !== null && v !== '') fields[c] = v;
  }
  for (const c of moneyColumns) {
    const v = row[c];
    if (v !== null) fields[c] = padMoney(v);
  }
  for (const c of listColumns) {
    const v = row[c];
    if (v && v.length) fields[c] = v;
  }
  if (row.on_hand !== null && row.kind !== 'family') fields['stock'] = String(row.on_hand);
  for (const [k, v] of Object.entries(row.facts)) fields[`fact.${k}`] = v;
  return fields;
}

/** The 14-place form of a typed number, where it is one; what is not a GTIN is compared with nothing. */
export function toGtin14(gtin: string | null): string | null {
  if (gtin === null) return null;
  const read = parseGtin(gtin);
  return read.ok ? padGtin(read.digits) : null;
}
