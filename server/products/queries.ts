import type { Product } from '@basileus/contract';
import { type Db, rowOf, rowsOf } from '../database';
import { type ProductRow, productFrom, productSelect, selectFields, toFields } from './fields';
import { listRows, type ProductFilter } from './list';
import { loadCatalogCounts } from './tallies';

const toProduct = (row: ProductRow): Product => ({
  id: row.id,
  sku: row.sku,
  kind: row.kind,
  parentId: row.parent_id,
  variants: row.variants ?? 0,
  version: row.version,
  axes: row.axes,
  fields: toFields(row),
});

/** A page of the catalog. */
export async function loadProducts(db: Db, f: ProductFilter): Promise<{ total: number; rows: Product[] }> {
  const listed = await listRows(db, f);
  const total = (await rowOf<{ n: number }>(db, listed.count, listed.bindings))!.n;
  const rows = await rowsOf<ProductRow>(
    db,
    `with page as materialized (${listed.page})
    select ${productSelect},
      (select count(*)::int from products v where v.parent_id = p.id) as variants
    from page join ${productFrom.replace('products p', 'products p on p.id = page.id')} order by page.n`,
    [...listed.bindings, f.offset, f.limit],
  );
  return { total, rows: rows.map(toProduct) };
}

/** Products by id, flat, for comparing and history. */
export async function loadProductRows(db: Db, where: string, bindings: readonly unknown[]): Promise<ProductRow[]> {
  return rowsOf<ProductRow>(db, `select ${productSelect} from ${productFrom} where ${where}`, bindings);
}

/** The same with no more than some fields filled: for going through many. */
export async function loadProductsWith(db: Db, keys: readonly string[], ids: readonly number[]): Promise<ProductRow[]> {
  const { select, from } = selectFields(keys);
  return rowsOf<ProductRow>(db, `select ${select} from ${from} where p.id = any(?)`, [ids]);
}

/** The same by SKU. */
export async function loadProductsOf(db: Db, keys: readonly string[], skus: readonly string[]): Promise<ProductRow[]> {
  const { select, from } = selectFields(keys);
  return rowsOf<ProductRow>(db, `select ${select} from ${from} where p.sku = any(?)`, [skus]);
}

/** Locks items until the transaction ends, in one order for all. Answers what stands of each once it is ours. */
export const lockProducts = (
  db: Db,
  skus: readonly string[],
): Promise<{ id: number; sku: string; kind: ProductRow['kind']; version: number }[]> =>
  rowsOf(db, 'select id, sku, kind, version from products where sku = any(?) order by id for update', [skus]);

export async function loadProduct(db: Db, id: number): Promise<Product | undefined> {
  const row = (await loadProductRows(db, 'p.id = ?', [id]))[0];
  return row && toProduct(row);
}

export async function loadFacets(db: Db): Promise<{
  categories: { name: string; count: number }[];
  brands: { name: string; count: number }[];
  products: number;
}> {
  const byName = async (kind: 'category' | 'brand') =>
    (await loadCatalogCounts(db, kind)).sort((a, b) => (a.name < b.name ? -1 : 1));
  const [categories, brands, kinds] = await Promise.all([
    byName('category'),
    byName('brand'),
    loadCatalogCounts(db, 'kind'),
  ]);
  return { categories, brands, products: kinds.reduce((n, k) => n + k.count, 0) };
}
