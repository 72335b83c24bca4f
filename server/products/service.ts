import type { CellPatchInput } from '@basileus/contract';
import { mergeValue } from '@basileus/core/change';
import type { Value } from '@basileus/core/listing';
import { findValueFault, getFieldLabel, getProductField, isSameField } from '@basileus/core/sheet';
import type { Db } from '../database';
import { announce } from '../events';
import { refreshProducts } from '../listings/follow-up';
import { type ChangedCell, recordChangeSet } from './change-sets';
import { toFields } from './fields';
import { loadProductRows } from './queries';
import { updateProducts } from './write';

export interface PatchOutcome {
  changeSet: number | null;
  applied: number;
  conflicts: { id: number; field: string; now: Value | null }[];
  refused: { id: number; field: string; says: string }[];
}

/** Cells that are judged in one go: some milliseconds. */
const cellsAtOnce = 2000;

/** Why a cell cannot be changed to a value, or undefined. */
export function refuseValue(field: string, after: Value | null): string | undefined {
  if (!getProductField(field) || field === 'sku' || field === 'parent_sku')
    return `${getFieldLabel(field)} cannot be changed here.`;
  if (after === null || after === '' || after.length === 0)
    return field === 'title' ? 'A product keeps its title; give another one.' : undefined;
  return findValueFault(field, after);
}

/** Changes cells of products in one transaction; a cell that was changed by someone else meanwhile stays and is named. */
export async function patchProductCells(
  db: Db,
  cells: readonly CellPatchInput[],
  title: string,
  actor: string,
  into?: number,
): Promise<PatchOutcome> {
  const refused: PatchOutcome['refused'] = [],
    good: CellPatchInput[] = [];
  for (const [i, c] of cells.entries()) {
    // Others have their turn while tens of thousands are judged.
    if (i % cellsAtOnce === cellsAtOnce - 1) await new Promise((r) => setImmediate(r));
    const says = refuseValue(c.field, c.after);
    if (says) refused.push({ id: c.id, field: c.field, says });
    else good.push(c);
  }
  const outcome: PatchOutcome = { changeSet: null, applied: 0, conflicts: [], refused };
  if (good.length === 0) return outcome;
  await db.transaction(async (tx) => {
    const ids = [...new Set(good.map((c) => c.id))];
    await tx.raw('select id from products where id = any(?) order by id for update', [ids]);
    const held = new Map(
      (await loadProductRows(tx, 'p.id = any(?)', [ids])).map((r) => [r.id, { row: r, fields: toFields(r) }]),
    );
    const changes = new Map<number, Record<string, Value | null>>();
    const changed: ChangedCell[] = [];
    for (const c of good) {
      const product = held.get(c.id);
      if (!product) continue;
      const now = product.fields[c.field] ?? null;
      const after = c.after === '' ? null : c.after;
      const merge = mergeValue(c.before, now, after, (a, b) => isSameField(c.field, a, b));
      if (merge === 'conflict') outcome.conflicts.push({ id: c.id, field: c.field, now });
      // A change that is sent twice, because its answer was lost, has been made.
      if (merge !== 'apply') continue;
      (changes.get(c.id) ?? changes.set(c.id, {}).get(c.id)!)[c.field] = after;
      changed.push({ targetId: c.id, sku: product.row.sku, field: c.field, before: now, after });
    }
    await updateProducts(
      tx,
      [...changes].map(([id, fields]) => ({ id, fields })),
    );
    outcome.changeSet = await recordChangeSet(
      tx,
      { title, actor, target: 'products', marketId: null, ...(into === undefined ? {} : { id: into }) },
      changed,
    );
    outcome.applied = changed.length;
    const formerGtins = [...changes].flatMap(([id, fields]) =>
      'gtin' in fields ? (held.get(id)?.row.gtin14 ?? []) : [],
    );
    await refreshProducts(tx, [...changes.keys()], formerGtins);
    await announce(tx, { topic: 'products' });
  });
  return outcome;
}
