// Several items made one, and one item made several.
import type { Value } from '@basileus/core/listing';
import { plural, say } from '@basileus/core/text';
import { patchProductCells } from '../catalog';
import { everyItem } from '@basileus/core/choose';
import { wordCellFault } from '@basileus/core/product';
import type { Db } from '../database';
import { announce } from '../events';
import { loadFields } from '../fields';
import { recordHistory } from '../history';
import { AppError } from '../http';
import { refreshProducts } from '../listings';
import { insertProducts, loadProductRows, openChangeSet, recordAdded, toFields } from '../products';
import { lookAtRemovalOf } from './remove';
import { takeOut } from './take-out';

/** Why an item cannot be joined to another. */
const whyStays = {
  sent: 'it stands on a market or is on its way there; withdraw it there first',
  part: 'a bundle holds it; put the other item into the bundle first',
  family: 'it is a family; join its variants one by one',
} as const;

/** One item stays, with the values that are given; the others are taken out. All in one transaction, or nothing. */
export async function joinToOne(
  db: Db,
  { keep, others, values }: { keep: number; others: readonly number[]; values: Record<string, Value | null> },
  actor: string,
): Promise<{ changeSet: number }> {
  const ids = [keep, ...others];
  if (new Set(ids).size < ids.length)
    throw new AppError('bad-input', say`An item cannot be joined to itself.`, { field: 'others' });
  return db.transaction(async (tx) => {
    await tx.raw('select id from products where id = any(?) order by id for update', [ids]);
    const rows = await loadProductRows(tx, 'p.id = any(?)', [ids]);
    const kept = rows.find((r) => r.id === keep);
    if (!kept || rows.length < ids.length)
      throw new AppError('not-found', say`One of the items is not in the catalog any more.`, {
        remedy: say`Look at the rows again.`,
      });
    const odd = rows.find((r) => r.kind === 'family' || r.kind === 'bundle');
    if (odd)
      throw new AppError('bad-input', say`${odd.sku} is a ${odd.kind}; singles and variants are joined.`, {
        field: 'others',
        remedy: say`Leave it out.`,
      });
    const looked = await lookAtRemovalOf(tx, { ...everyItem, ids: [...others] });
    const [stays] = looked.stays;
    if (stays)
      throw new AppError('not-now', say`${stays.skus[0] ?? ''} cannot be joined: ${whyStays[stays.why]}.`, {
        field: 'others',
        remedy: say`Keep that one, and join the others to it.`,
      });
    const gone = rows.filter((r) => r.id !== keep).map((r) => r.sku);
    const title = `${gone.length === 1 ? gone[0]! : plural(gone.length, 'item', 'items')} joined to ${kept.sku}`;
    const set = await openChangeSet(tx, { title, actor, target: 'products', marketId: null });
    if ((await takeOut(tx, others, set)).length < others.length)
      throw new AppError('not-now', say`One of them was put into a file for a market just now; ${whyStays.sent}.`, {
        field: 'others',
        remedy: say`Keep that one, and join the others to it.`,
      });
    const held = toFields(kept);
    const outcome = await patchProductCells(
      tx,
      Object.entries(values).map(([field, after]) => ({ id: keep, field, before: held[field] ?? null, after })),
      title,
      actor,
      set,
    );
    const [refused] = outcome.refused;
    if (refused) {
      const book = await loadFields(tx);
      const after = values[refused.field] ?? null;
      throw new AppError('bad-input', wordCellFault(refused.fault, book.labelOf(refused.field), after), {
        field: refused.field,
      });
    }
    await tx.raw('update change_sets set is_done = true where id = ?', [set]);
    await recordHistory(tx, actor, { is: 'changed', title, cells: outcome.applied, removed: others.length });
    await refreshProducts(tx, [keep]);
    await announce(tx, { topic: 'products' });
    return { changeSet: set };
  });
}

/** What a copy does not take along: what is one item's alone, and what is counted. */
const notCopied = new Set(['sku', 'parent_sku', 'title', 'gtin', 'mpn', 'stock']);

/** Adds items that are as another one but for SKU, title, numbers and stock. */
export async function copyTo(
  db: Db,
  { from, items }: { from: number; items: readonly { sku: string; title: string }[] },
  actor: string,
): Promise<{ changeSet: number; ids: number[] }> {
  return db.transaction(async (tx) => {
    const row = (await loadProductRows(tx, 'p.id = ?', [from]))[0];
    if (!row) throw new AppError('not-found', say`There is no item ${from}.`);
    if (row.kind === 'family' || row.kind === 'bundle')
      throw new AppError('bad-input', say`${row.sku} is a ${row.kind}; singles and variants are copied.`, {
        field: 'from',
        remedy: say`Copy one of its items.`,
      });
    const fields = Object.fromEntries(Object.entries(toFields(row)).filter(([f]) => !notCopied.has(f)));
    const added = await insertProducts(
      tx,
      items.map(({ sku, title }) => ({
        sku,
        kind: row.kind,
        parentSku: row.parent_sku,
        axes: row.axes,
        fields: { ...fields, title },
      })),
    );
    const taken = items.find((i) => !added.some((a) => a.sku === i.sku));
    if (taken)
      throw new AppError('conflict', say`SKU ${taken.sku} is already in the catalog, or stands here twice.`, {
        field: 'sku',
        remedy: say`Give another SKU.`,
      });
    const title = `${row.sku} copied to ${added.length === 1 ? added[0]!.sku : plural(added.length, 'item', 'items')}`;
    const set = await openChangeSet(tx, { title, actor, target: 'products', marketId: null });
    await recordAdded(tx, set, added);
    await tx.raw('update change_sets set is_done = true where id = ?', [set]);
    await refreshProducts(
      tx,
      added.map((a) => a.id),
    );
    await recordHistory(tx, actor, { is: 'changed', title, cells: 0 });
    await announce(tx, { topic: 'products' });
    return { changeSet: set, ids: added.map((a) => a.id) };
  });
}
