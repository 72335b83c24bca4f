// Adding the rows of an import that are new: which are families, and by what their variants differ, is told by the whole file.
import type { FieldChange } from '@basileus/core/change';
import { type Db, rowsOf } from '../database';
import { loadFields } from '../fields';
import { insertProducts } from '../products';
import { divideChanges } from './listed';

export interface PlannedRow {
  row: number;
  sku: string;
  action: 'create' | 'update';
  changes: FieldChange[];
  /** The version of the item with which it was compared. */
  compared_with: number | null;
}

const parentOf = (r: PlannedRow): string | undefined => {
  const p = r.changes.find((c) => c.field === 'parent_sku')?.after;
  return typeof p === 'string' && p !== '' && p !== r.sku ? p : undefined;
};

/** Adds new rows: families and singles first, then the variants whose family is there by then. */
export async function insertNew(
  db: Db,
  importId: number,
  creates: readonly PlannedRow[],
): Promise<{ id: number; sku: string }[]> {
  if (creates.length === 0) return [];
  const named = [...new Set(creates.flatMap((r) => [r.sku, parentOf(r) ?? r.sku]))];
  // How the variants of each family differ, over the whole file: they may come in a later step than their family row.
  const spread = await rowsOf<{ parent: string; field: string; n: number }>(
    db,
    `select r.parent_sku as parent, c ->> 'field' as field, count(distinct c ->> 'after') as n
      from import_rows r
      cross join jsonb_array_elements(r.changes) c
      where r.import_id = ? and r.parent_sku = any(?)
      group by 1, 2`,
    [importId, named],
  );
  const { axes } = await loadFields(db);
  const families = new Set(spread.map((s) => s.parent));
  const axesOf = (sku: string) =>
    axes.filter((f) => spread.some((s) => s.parent === sku && s.field === f && s.n > 1)).slice(0, 2);
  const fieldsOf = (r: PlannedRow) =>
    Object.fromEntries(
      divideChanges(r.changes)
        .items.filter((c) => c.field !== 'parent_sku')
        .map((c) => [c.field, c.after]),
    );
  const roots = await insertProducts(
    db,
    creates
      .filter((r) => parentOf(r) === undefined)
      .map((r) => ({
        sku: r.sku,
        kind: families.has(r.sku) ? ('family' as const) : ('single' as const),
        parentSku: null,
        axes: families.has(r.sku) ? axesOf(r.sku) : [],
        fields: fieldsOf(r),
      })),
  );
  const children = creates.filter((r) => parentOf(r) !== undefined);
  const there = new Map(
    (
      await rowsOf<{ sku: string; axes: string[] }>(
        db,
        `select sku, axes from products where kind = 'family' and sku = any(?)`,
        [children.map((r) => parentOf(r)!)],
      )
    ).map((p) => [p.sku, p.axes]),
  );
  const variants = await insertProducts(
    db,
    children.map((r) => {
      const parent = parentOf(r)!,
        kept = there.get(parent);
      return {
        sku: r.sku,
        kind: kept ? ('variant' as const) : ('single' as const),
        parentSku: kept ? parent : null,
        axes: kept ?? [],
        fields: fieldsOf(r),
      };
    }),
  );
  return [...roots, ...variants];
}
