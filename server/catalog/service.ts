// Editing the catalog: cells changed, items added; what follows on markets is followed up in the same transaction.
import type { CellPatchInput, Product, productQuery } from '@basileus/contract';
import { type FieldChange, mergeValue, nameChange } from '@basileus/core/change';
import type { Value } from '@basileus/core/listing';
import {
  axesField,
  type CellFault,
  type FieldBook,
  findCellFault,
  isSameField,
  partsField,
  readParts,
  toKept,
  writeParts,
} from '@basileus/core/product';
import type { z } from 'zod';
import type { Db } from '../database';
import { loadChoice, toWhichSql } from '../choose';
import { announce } from '../events';
import { loadFields } from '../fields';
import { recordHistory } from '../history';
import { AppError } from '../http';
import { listFedFields, refreshProducts, toStandingSql } from '../listings';
import {
  groupByItem,
  findPartsFault,
  loadFamilies,
  loadParts,
  insertProducts,
  loadProduct,
  loadProductRows,
  moveToFamilies,
  type ProductRow,
  type ProductFilter,
  recordChangeSet,
  setFamilyAxes,
  setParts,
  toFields,
  updateProducts,
} from '../products';
import { say } from '@basileus/core/text';

export interface PatchOutcome<Fault = CellFault> {
  changeSet: number | null;
  applied: number;
  conflicts: { id: number; field: string; now: Value | null }[];
  refused: { id: number; sku: string; field: string; fault: Fault }[];
}

/** The fields by which the variants of a family differ, as a value; null where none is said. */
const toAxes = ({ axes }: ProductRow): Value | null => (axes.length === 0 ? null : axes);

/** Parts as they are kept, however they were written; what is none stays as it is, to be refused. */
const toWrittenParts = (value: Value | null): Value | null => {
  const read = readParts(value);
  return read.ok ? (read.parts.length === 0 ? null : writeParts(read.parts)) : value;
};

/** Cells that are judged in one go: some milliseconds. */
const cellsAtOnce = 2000;

/** Changes cells of products in one transaction; a cell that was changed by someone else meanwhile stays and is named. */
export async function patchProductCells(
  db: Db,
  cells: readonly CellPatchInput[],
  title: string,
  actor: string,
  into?: number,
): Promise<PatchOutcome> {
  const outcome: PatchOutcome = { changeSet: null, applied: 0, conflicts: [], refused: [] };
  await db.transaction(async (tx) => {
    const ids = [...new Set(cells.map((c) => c.id))];
    await tx.raw('select id from products where id = any(?) order by id for update', [ids]);
    const held = new Map(
      (await loadProductRows(tx, 'p.id = any(?)', [ids])).map((r) => [r.id, { row: r, fields: toFields(r) }]),
    );
    const fields = await loadFields(tx);
    const families = await loadFamilies(
      tx,
      cells.flatMap((c) => (c.field === 'parent_sku' && typeof c.after === 'string' ? c.after : [])),
    );
    const parts = await loadParts(
      tx,
      cells.filter((c) => c.field === partsField).map((c) => c.id),
    );
    const changes = new Map<number, Record<string, Value | null>>();
    const changed: (FieldChange & { id: number; sku: string })[] = [];
    for (const [i, c] of cells.entries()) {
      // Others have their turn while tens of thousands are judged.
      if (i % cellsAtOnce === cellsAtOnce - 1) await new Promise((r) => setImmediate(r));
      const product = held.get(c.id);
      if (!product) continue;
      const known = fields.get(c.field);
      const given = c.after === '' || c.after === null ? null : known ? toKept(known, c.after) : c.after;
      const after = c.field === partsField ? toWrittenParts(given) : given;
      const fault =
        findCellFault(fields, c.field, after, product.row) ??
        (c.field === 'parent_sku' && typeof after === 'string' && !families.has(after)
          ? { kind: 'no-such-family' as const, sku: after }
          : c.field === partsField
            ? await findPartsFault(tx, product.row, after)
            : undefined);
      if (fault) {
        outcome.refused.push({ id: c.id, sku: product.row.sku, field: c.field, fault });
        continue;
      }
      const now =
        c.field === axesField
          ? toAxes(product.row)
          : c.field === partsField
            ? (parts.get(c.id) ?? null)
            : (product.fields[c.field] ?? null);
      const merge = mergeValue(c.before, now, after, (a, b) => isSameField(fields, c.field, a, b));
      if (merge === 'conflict') outcome.conflicts.push({ id: c.id, field: c.field, now });
      // A change that is sent twice, because its answer was lost, has been made.
      if (merge !== 'apply') continue;
      (changes.get(c.id) ?? changes.set(c.id, {}).get(c.id)!)[c.field] = after;
      changed.push({ id: c.id, sku: product.row.sku, field: c.field, before: now, after });
    }
    if (changed.length === 0 && into === undefined) return;
    await updateProducts(
      tx,
      [...changes].map(([id, fields]) => ({ id, fields })),
    );
    const leftFamilies = await moveToFamilies(
      tx,
      changed.flatMap(({ id, sku, field, after }) =>
        field === 'parent_sku' ? [{ id, sku, family: typeof after === 'string' ? after : null }] : [],
      ),
    );
    const axes = changed.flatMap(({ id, field, after }) =>
      field === axesField ? [{ id, axes: after === null ? [] : [after].flat() }] : [],
    );
    if (axes.length > 0) await setFamilyAxes(tx, axes);
    await setParts(
      tx,
      changed.filter((c) => c.field === partsField).map(({ id, after }) => ({ id, value: after })),
    );
    const brands = [...new Set(changed.map((c) => c.id))].map((id) => held.get(id)?.row.brand ?? null);
    outcome.changeSet = await recordChangeSet(
      tx,
      {
        title: title || nameChange(changed, fields.labelOf, brands),
        actor,
        target: 'products',
        marketId: null,
        ...(into === undefined ? {} : { id: into }),
      },
      groupByItem(changed),
    );
    outcome.applied = changed.length;
    const formerGtins = [...changes].flatMap(([id, fields]) =>
      'gtin' in fields ? (held.get(id)?.row.gtin14 ?? []) : [],
    );
    await refreshProducts(tx, [...new Set([...changes.keys(), ...leftFamilies])], {
      fields: new Set(changed.map((c) => c.field)),
      formerGtins,
    });
    await announce(tx, { topic: 'products' });
  });
  return outcome;
}

/** Adds one item with a title; its other fields are filled in the table. */
export async function addProduct(db: Db, item: { sku: string; title: string }, actor: string): Promise<Product> {
  const id = await db.transaction(async (tx) => {
    const [added] = await insertProducts(tx, [
      { sku: item.sku, kind: 'single', parentSku: null, axes: [], fields: { title: item.title } },
    ]);
    if (!added)
      throw new AppError('conflict', say`SKU ${item.sku} is already in the catalog.`, {
        field: 'sku',
        remedy: say`Give another SKU, or change the item that has it.`,
      });
    await refreshProducts(tx, [added.id]);
    await recordHistory(tx, actor, { is: 'added', sku: item.sku, title: item.title });
    await announce(tx, { topic: 'products' });
    return added.id;
  });
  return (await loadProduct(db, id))!;
}

/** What is asked of the catalog, as it is looked up: by a choice, by what markets find of a field of ours, by how items stand there. */
export async function toFilter(
  db: Db,
  { finding, on, state, choice, ...filter }: z.output<typeof productQuery>,
  fields: FieldBook,
): Promise<ProductFilter> {
  const [check = '', message = '', ...source] = finding.split('.');
  const standing = await toStandingSql(db, { on, state });
  const chosen = choice === 0 ? undefined : await toWhichSql(db, (await loadChoice(db, choice)).which, fields);
  return {
    ...filter,
    fields,
    also: [standing, chosen].flatMap((c) => c ?? []),
    found: finding === '' ? undefined : { check, message, fields: await listFedFields(db, source.join('.')) },
  };
}
