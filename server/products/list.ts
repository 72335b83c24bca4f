// The rows of the catalog that are asked for, in their order, as statements.
import type { productLacks } from '@basileus/contract';
import { type FieldBook, type ProductField, readMarketKey } from '@basileus/core/product';
import { categoryAttribute, marginAttribute } from '@basileus/core/rulebook';
import { type Db, rowsOf } from '../database';
import { AppError } from '../http';
import { dayColumns, listColumns, marginSql, moneyColumns, textColumns } from './fields';
import { say } from '@basileus/core/text';

export interface ProductFilter {
  /** The house's fields, by one of which the catalog is put in order. */
  fields: FieldBook;
  search: string;
  category: string;
  brand: string;
  kind: string;
  lacks: '' | (typeof productLacks)[number];
  sort: string;
  import: number;
  /** Items with a finding of this kind in one of these fields of markets. */
  found?: { check: string; message: string; fields: readonly { market_id: number; field: string }[] } | undefined;
  /** A condition on products p: how they stand on markets, what a choice means. */
  also?: readonly { sql: string; bindings: readonly unknown[] }[];
  direction: 'up' | 'down';
  open: string;
  offset: number;
  limit: number;
}

/** What rows are put in order by, of a row by its alias. */
interface Order {
  of: (row: string) => string;
  /** What has to stand beside the row for it. */
  beside: (row: string) => string;
}
/** By numbers by their size, by texts as people count, KET-2 before KET-10. */
function toOrder(sort: string, fields: FieldBook): Order {
  const plain = (of: (row: string) => string): Order => ({ of, beside: () => '' });
  if (sort === 'updated') return plain((r) => `${r}.updated_at`);
  if (sort === 'stock') return plain((r) => `(select sum(x.on_hand) from stock x where x.product_id = ${r}.id)`);
  if (isOf(moneyColumns, sort) || isOf(dayColumns, sort)) return plain((r) => `${r}.${sort}`);
  if (isOf(listColumns, sort)) return plain((r) => `jsonb_array_length(${r}.${sort})`);
  if (isOf(textColumns, sort)) return plain((r) => `${r}.${sort} collate "natural"`);
  const field = fields.get(sort);
  if (field?.market) return toListedOrder(field);
  if (!field?.fact) throw new AppError('bad-input', say`The catalog has no field “${sort}”.`, { field: 'sort' });
  const fact = (r: string): string => `${r}.facts ->> '${sort.slice('fact.'.length)}'`;
  // Whole numbers and amounts stand as text among the facts.
  return plain((r) =>
    field.kind === 'integer' || field.kind === 'money' ? toSizeSql(fact(r)) : `(${fact(r)}) collate "natural"`,
  );
}
const isOf = (columns: readonly string[], key: string): boolean => columns.includes(key);
const toSizeSql = (text: string): string =>
  `case when ${text} ~ '^-{0,1}[0-9]{1,12}(\\.[0-9]+){0,1}$' then (${text})::numeric end`;

const quote = (text: string): string => `'${text.replaceAll("'", "''").replaceAll('?', '\\?')}'`;
/** By what listings hold in a field of a market, in the words that people read. */
function toListedOrder({ key, kind, market, words }: ProductField): Order {
  const { attribute } = readMarketKey(key)!;
  const value =
    attribute === categoryAttribute
      ? 'l.category'
      : attribute === marginAttribute
        ? marginSql
        : `l."values" ->> ${quote(attribute)}`;
  const isSize = kind === 'integer' || kind === 'money' || kind === 'number';
  return {
    of: (r) => {
      const held = `${r}_listed.held`;
      if (isSize) return toSizeSql(held);
      return `(${words ? `coalesce(${quote(JSON.stringify(words))}::jsonb ->> ${held}, ${held})` : held}) collate "natural"`;
    },
    // Behind an offset the values of a listing are unpacked once, not each time that they are looked at: half of the time.
    beside: (r) => `left join (select l.product_id, ${value} as held from listings l
      where l.market_state <> 'left out' and l.market_id = (select id from markets where key = ${quote(market!)}) offset 0) ${r}_listed
      on ${r}_listed.product_id = ${r}.id`,
  };
}

/**
 * The rows p of a condition in their order. Variants stay with their family; of what only its variants have a family counts as
 * the one of them that would come first. Where no families are shown each row counts for itself.
 */
function orderRows(f: Pick<ProductFilter, 'sort' | 'direction' | 'kind' | 'fields'>, condition: string): string {
  const isDown = f.direction === 'down',
    direction = isDown ? 'desc nulls last' : 'asc nulls last';
  const hasFamilies = f.kind === '' || f.kind === 'family';
  // By SKU the page is read off an index; any other order is made.
  if (f.sort === 'sku')
    return `from products p ${condition}
      order by p.shelf_order ${isDown ? 'desc' : 'asc'}, p.parent_id is not null, p.id`;
  const { of, beside } = toOrder(f.sort, f.fields);
  if (!hasFamilies) return `from products p ${beside('p')} ${condition} order by ${of('p')} ${direction}, p.id`;
  const withRoot = 'from products p join products root on root.id = coalesce(p.parent_id, p.id)',
    rest = `root.id, p.parent_id is not null, ${of('p')} ${direction}, p.id`;
  if (!f.fields.isOfSellable(f.sort))
    return `${withRoot} ${beside('p')} ${beside('root')} ${condition} order by ${of('root')} ${direction}, ${rest}`;
  return `${withRoot} ${beside('p')}
    left join (select coalesce(v.parent_id, v.id) as root_id, ${isDown ? 'max' : 'min'}(${of('v')}) as held
      from products v ${beside('v')} where v.kind <> 'family' group by 1) first_of on first_of.root_id = root.id
    ${condition} order by first_of.held ${direction}, ${rest}`;
}

const lackable: Readonly<Record<(typeof productLacks)[number], string>> = {
  gtin: 'p.gtin is null',
  brand: 'p.brand is null',
  pictures: `coalesce(jsonb_array_length(p.pictures), 0) = 0`,
  cost: 'p.cost is null',
  price: 'p.price is null',
  category: 'p.category is null',
  description: `coalesce(p.description, '') = ''`,
};

/** A category of ours and those under it. */
const loadBranch = async (db: Db, category: string): Promise<string[]> => [
  category,
  ...(
    await rowsOf<{ name: string }>(db, 'select name from own_lineage where ancestor = ? and depth > 0', [category])
  ).map((r) => r.name),
];

export interface ListedRows {
  /** A statement for how many there are, and one for the ids of a page of them as `id` and `n`. */
  count: string;
  page: string;
  /** What both bind; the page binds offset and limit behind it. */
  bindings: unknown[];
}

/**
 * The rows that the catalog shows. Without a search, families are closed unless named in `open`; with one, every hit is
 * shown where it stands in its family.
 */
export async function listRows(db: Db, f: Omit<ProductFilter, 'offset' | 'limit'>): Promise<ListedRows> {
  const where: string[] = [],
    bind: unknown[] = [];
  for (const word of f.search.toLowerCase().split(/\s+/).filter(Boolean)) {
    where.push('p.search like ?');
    bind.push(`%${word.replace(/[\\%_]/g, '\\$&')}%`);
  }
  if (f.category) {
    where.push('p.category = any(?)');
    bind.push(await loadBranch(db, f.category));
  }
  if (f.brand) {
    where.push('p.brand = ?');
    bind.push(f.brand);
  }
  if (f.kind) {
    where.push('p.kind = ?');
    bind.push(f.kind);
  }
  if (f.import) {
    where.push('p.sku in (select r.sku from import_rows r where r.import_id = ? and r.applied)');
    bind.push(f.import);
  }
  if (f.found) {
    where.push(`p.id in (
      select l.product_id from jsonb_to_recordset(?::jsonb) as r(market_id bigint, field text)
        join findings f on f.market_id = r.market_id and f."check" = ? and f.message = ? and f.field = r.field
        join listings l on l.id = f.listing_id)`);
    bind.push(JSON.stringify(f.found.fields), f.found.check, f.found.message);
  }
  for (const { sql, bindings } of f.also ?? []) {
    where.push(sql);
    bind.push(...bindings);
  }
  if (f.lacks) where.push(`(${lackable[f.lacks]}) and p.kind <> 'family'`);
  const isNarrowed =
    f.search !== '' ||
    f.kind !== '' ||
    f.lacks !== '' ||
    f.import !== 0 ||
    f.found !== undefined ||
    (f.also ?? []).length > 0;
  if (!isNarrowed && f.open !== 'all') {
    where.push('(p.parent_id is null or p.parent_id = any(?))');
    bind.push(
      f.open
        .split(',')
        .map(Number)
        .filter((n) => Number.isSafeInteger(n) && n > 0),
    );
  }
  const condition = where.length ? `where ${where.join(' and ')}` : '';
  // Numbered once they are a page: of all others only as much is sorted as that takes.
  const page = `select id, row_number() over () as n from (select p.id ${orderRows(f, condition)} offset ? limit ?) x`;
  return { count: `select count(*) as n from products p ${condition}`, page, bindings: bind };
}
