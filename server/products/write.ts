// Set-based writing of products: a batch of flat changes becomes a handful of statements.
import { foldSku } from '@basileus/core/identifiers';
import { toNaturalKey } from '@basileus/core/text';
import type { Value } from '@basileus/core/listing';
import { toText } from '@basileus/core/listing';
import { type Db, rowsOf } from '../database';
import { dayColumns, listColumns, moneyColumns, textColumns, toGtin14 } from './fields';
import { recallEntries } from './left-entries';

export interface ProductChange {
  id: number;
  fields: Record<string, Value | null>;
}
const plain = [...textColumns, ...dayColumns, ...moneyColumns] as const;

/** Flat fields sorted by where they are kept: columns, lists, facts, and facts that are taken away. */
function sortFields(fields: Record<string, Value | null>) {
  const set: Record<string, string | null> = {},
    lists: Record<string, unknown> = {},
    facts: Record<string, Value> = {};
  const dropped: string[] = [];
  for (const [key, value] of Object.entries(fields)) {
    if ((plain as readonly string[]).includes(key)) set[key] = value === null ? null : toText(value);
    else if ((listColumns as readonly string[]).includes(key))
      lists[key] = value === null ? [] : typeof value === 'string' ? [value] : value;
    else if (key.startsWith('fact.')) {
      if (value === null) dropped.push(key.slice(5));
      else facts[key.slice(5)] = value;
    }
  }
  if ('gtin' in set) set['gtin14'] = toGtin14(set['gtin'] ?? null);
  if (set['title'] === null) set['title'] = '';
  return { set, lists, facts, dropped };
}

/** The columns of a row that is handed over as JSON: what is not named in it is null. */
const changedTypes = [
  'id bigint',
  ...[...textColumns, 'gtin14'].map((c) => `${c} text`),
  ...moneyColumns.map((c) => `${c} numeric`),
  ...dayColumns.map((c) => `${c} date`),
  ...listColumns.map((c) => `${c} jsonb`),
  'facts jsonb',
  'dropped text[]',
  'emptied text[]',
].join(', ');

/** Applies changed fields to existing products. Stock goes to its own table, facts into the facts column. */
export async function updateProducts(db: Db, changes: readonly ProductChange[]): Promise<void> {
  if (changes.length === 0) return;
  // Columns that no item of the batch changes are not named: what is worked out of them is not worked out anew.
  const named = new Set<string>(),
    canBeEmptied = new Set<string>();
  let hasFacts = false,
    hasDropped = false;
  const records = changes.map(({ id, fields }) => {
    const { set, lists, facts, dropped } = sortFields(fields);
    const emptied: string[] = [];
    for (const column in set) {
      named.add(column);
      if (set[column] !== null) continue;
      emptied.push(column);
      canBeEmptied.add(column);
    }
    for (const column in lists) named.add(column);
    hasDropped ||= dropped.length > 0;
    const isFilling = Object.keys(facts).length > 0;
    hasFacts ||= isFilling;
    return {
      id,
      ...set,
      ...lists,
      ...(isFilling ? { facts } : {}),
      ...(dropped.length > 0 ? { dropped } : {}),
      ...(emptied.length > 0 ? { emptied } : {}),
    };
  });
  const kept = hasDropped ? `(p.facts - coalesce(r.dropped, '{}'))` : 'p.facts';
  const assign = [
    ...[...named].map((c) =>
      canBeEmptied.has(c)
        ? `${c} = case when '${c}' = any(r.emptied) then null else coalesce(r.${c}, p.${c}) end`
        : `${c} = coalesce(r.${c}, p.${c})`,
    ),
    ...(hasFacts ? [`facts = ${kept} || coalesce(r.facts, '{}')`] : hasDropped ? [`facts = ${kept}`] : []),
    'version = p.version + 1',
    'updated_at = now()',
  ];
  await db.raw(
    `update products p set ${assign.join(', ')}
      from jsonb_to_recordset(?::jsonb) as r(${changedTypes}) where p.id = r.id`,
    [JSON.stringify(records)],
  );
  const stock = changes
    .filter((c) => 'stock' in c.fields)
    .map((c) => ({ id: c.id, on_hand: Number(c.fields['stock'] ?? 0) }));
  await setStock(db, stock);
}

/** Sets the stock on hand; what is reserved stays. Families and bundles hold none of their own. */
export async function setStock(
  db: Db,
  stock: readonly { id: number; on_hand: number; reserved?: number }[],
): Promise<void> {
  if (stock.length === 0) return;
  await db.raw(
    `insert into stock (product_id, on_hand, reserved)
      select r.id, r.on_hand, coalesce(r.reserved, 0)
      from jsonb_to_recordset(?::jsonb) as r(id bigint, on_hand int, reserved int)
      join products p on p.id = r.id and p.kind in ('single', 'variant')
      on conflict (product_id, location) do update set on_hand = excluded.on_hand`,
    [JSON.stringify(stock)],
  );
}

export interface NewProduct {
  sku: string;
  kind: 'single' | 'family' | 'variant' | 'bundle';
  parentSku: string | null;
  axes: readonly string[];
  fields: Record<string, Value | null>;
}

/** Columns that are filled as they are named; the title, which is never null, stands beside them. */
const insertedColumns = [
  ...textColumns.filter((c) => c !== 'title'),
  'gtin14',
  ...dayColumns,
  ...moneyColumns,
  ...listColumns,
];
const insertedTypes = [
  ...[...textColumns.filter((c) => c !== 'title'), 'gtin14'].map((c) => `${c} text`),
  ...dayColumns.map((c) => `${c} date`),
  ...moneyColumns.map((c) => `${c} numeric`),
  ...listColumns.map((c) => `${c} jsonb`),
].join(', ');

/**
 * Adds products; a SKU that is there already is left alone. Parents must be in an earlier call or stand in the table.
 * Answers the ids of what was added.
 */
export async function insertProducts(db: Db, items: readonly NewProduct[]): Promise<{ id: number; sku: string }[]> {
  if (items.length === 0) return [];
  const records = items.map((p) => {
    const { set, lists, facts } = sortFields(p.fields);
    return {
      sku: p.sku,
      sku_fold: foldSku(p.sku),
      shelf_order: toNaturalKey(p.parentSku ?? p.sku),
      kind: p.kind,
      parent_sku: p.parentSku,
      axes: p.axes,
      ...set,
      ...lists,
      facts,
    };
  });
  const added = await rowsOf<{ id: number; sku: string }>(
    db,
    `insert into products (sku, sku_fold, shelf_order, kind, parent_id, axes, facts, title, ${insertedColumns.join(', ')})
      select r.sku, r.sku_fold, r.shelf_order, r.kind, parent.id, r.axes, r.facts, coalesce(r.title, ''), ${insertedColumns.map((c) => `r.${c}`).join(', ')}
      from rows from (jsonb_to_recordset(?::jsonb) as (sku text, sku_fold text, shelf_order text, kind text, parent_sku text, axes jsonb, facts jsonb, title text, ${insertedTypes}))
        with ordinality as r(sku, sku_fold, shelf_order, kind, parent_sku, axes, facts, title, ${insertedColumns.join(', ')}, n)
      left join products parent on parent.sku = r.parent_sku
      order by n
      on conflict (sku) do nothing
      returning id, sku`,
    [JSON.stringify(records)],
  );
  const ids = new Map(added.map((a) => [a.sku, a.id]));
  await setStock(
    db,
    items.flatMap(({ sku, fields }) => {
      const id = ids.get(sku);
      return id === undefined || !('stock' in fields) ? [] : [{ id, on_hand: Number(fields['stock'] ?? 0) }];
    }),
  );
  await db.raw(
    `insert into listings (product_id, market_id, own_category, market_state)
      select p.id, m.id, coalesce(p.category, ''), case when c.kind is null then 'none' else 'left out' end
      from products p
      cross join markets m
      left join correspondences c on c.market_id = m.id and c.kind = 'unwanted' and c.attribute = '' and c.ours = coalesce(p.category, '')
      where p.id = any(?) and (m.family_rows or p.kind <> 'family')
      on conflict do nothing`,
    [added.map((a) => a.id)],
  );
  await recallEntries(
    db,
    added.map((a) => a.id),
  );
  return added;
}
