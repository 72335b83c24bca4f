// Items put into a family, out of one, or into a new one that is made of them.
import type { FamilyCounts, FamilyWanted, findFamiliesAmong } from '@basileus/contract';
import type { z } from 'zod';
import type { CellPatchInput } from '@basileus/contract';
import { axesField, type FieldBook } from '@basileus/core/product';
import { toText, type Value } from '@basileus/core/listing';
import { findFamilies } from '@basileus/core/suggest';
import { plural, say } from '@basileus/core/text';
import { patchProductCells } from '../catalog';
import { type Db, rowOf, rowsOf } from '../database';
import { loadFields } from '../fields';
import { recordHistory } from '../history';
import { AppError } from '../http';
import { refreshProducts } from '../listings';
import { insertProducts, loadProductRows, type NewProduct, openChangeSet, recordAdded, toFields } from '../products';

type FoundFamilies = z.output<typeof findFamiliesAmong.response>;
interface Moved {
  ids: readonly number[];
  family: FamilyWanted;
}

/** The family that is meant, where it is there. Throws where it should be and is not, or should not and is. */
async function findFamily(db: Db, family: FamilyWanted): Promise<{ id: number; axes: string[] } | undefined> {
  if (family.is === 'none') return undefined;
  const found = await rowOf<{ id: number; kind: string; axes: string[] }>(
    db,
    'select id, kind, axes from products where sku = ?',
    [family.sku],
  );
  if (family.is === 'new') {
    if (found)
      throw new AppError('conflict', say`SKU ${family.sku} is already in the catalog.`, {
        field: 'sku',
        remedy: say`Give another SKU, or put the items into that family if it is one.`,
      });
    return undefined;
  }
  if (found?.kind !== 'family')
    throw new AppError('bad-input', say`There is no family ${family.sku}.`, {
      field: 'sku',
      remedy: say`Name a family that there is, or make a new one.`,
    });
  return found;
}

/** What a move would do: who moves, who cannot, which families lose whom, and who would be the same as another. */
export async function lookAtMove(db: Db, { ids, family }: Moved): Promise<FamilyCounts> {
  const target = await findFamily(db, family);
  const axes = family.is === 'new' ? family.axes : (target?.axes ?? []);
  const rows = await loadProductRows(db, 'p.id = any(?)', [[...ids]]);
  const can = rows.filter((r) => r.kind === 'single' || r.kind === 'variant');
  const moving = can.filter((r) => (family.is === 'new' ? true : r.parent_id !== (target?.id ?? null)));
  const from = await rowsOf<{ sku: string; left: number }>(
    db,
    `select f.sku, (select count(*)::int from products v where v.parent_id = f.id and not v.id = any(?)) as left
      from products f where f.id in (select parent_id from products where id = any(?)) order by f.sku limit 200`,
    [moving.map((r) => r.id), moving.map((r) => r.id)],
  );
  const { live } = (await rowOf<{ live: number }>(
    db,
    `select count(*)::int as live from listings where product_id = any(?) and market_state in ('live', 'in review')`,
    [moving.map((r) => r.id)],
  ))!;
  const stays =
    target === undefined
      ? []
      : await loadProductRows(db, 'p.parent_id = ? and not p.id = any(?)', [target.id, moving.map((r) => r.id)]);
  const placeOf = (r: (typeof rows)[number]): string => {
    const fields = toFields(r);
    return axes.map((a) => toText(fields[a] ?? '').toLowerCase()).join('\n');
  };
  const seen = new Map(stays.map((r) => [placeOf(r), r.sku]));
  const alike: string[] = [];
  if (axes.length > 0)
    for (const r of moving) {
      const place = placeOf(r);
      if (seen.has(place)) alike.push(r.sku);
      else seen.set(place, r.sku);
    }
  return {
    moved: moving.length,
    same: can.length - moving.length,
    families: rows.filter((r) => r.kind === 'family').length,
    bundles: rows.filter((r) => r.kind === 'bundle').length,
    from,
    live,
    axes: [...axes],
    alike: alike.slice(0, 200),
  };
}

/** What all of some items have the same, of what a family row can hold: what a new family begins with. */
function findShared(rows: readonly Record<string, Value>[], can: (field: string) => boolean): Record<string, Value> {
  const [first, ...rest] = rows;
  return Object.fromEntries(
    Object.entries(first ?? {}).filter(
      ([field, value]) => can(field) && rest.every((r) => JSON.stringify(r[field]) === JSON.stringify(value)),
    ),
  );
}

/** The row of a new family, with what all of its variants have the same. */
function toFamilyRow(
  { sku, title, axes }: { sku: string; title: string; axes: readonly string[] },
  variants: readonly Record<string, Value>[],
  book: FieldBook,
): NewProduct {
  const unknown = axes.find((a) => !book.axes.includes(a));
  if (unknown !== undefined)
    throw new AppError('bad-input', say`Variants do not differ by ${book.labelOf(unknown)} here.`, {
      field: 'axes',
      remedy: say`Choose another field, or say of that one that variants may differ by it, under Our catalog.`,
    });
  const shared = findShared(
    variants,
    (f) => !['sku', 'parent_sku', 'title', ...axes].includes(f) && !book.isOfSellable(f),
  );
  return { sku, kind: 'family', parentSku: null, axes: [...axes], fields: { ...shared, title } };
}

/** Families among items that are in none; see `findFamilies`. */
export async function findAmong(db: Db, ids: readonly number[]): Promise<FoundFamilies> {
  const { axes } = await loadFields(db);
  const rows = (await loadProductRows(db, `p.id = any(?) and p.kind = 'single'`, [[...ids]])).sort(
    (a, b) => ids.indexOf(a.id) - ids.indexOf(b.id),
  );
  const find = (taken: ReadonlySet<string>) =>
    findFamilies(
      rows.map((r) => ({ id: r.id, sku: r.sku, fields: toFields(r) })),
      axes,
      (sku) => taken.has(sku),
    );
  // Only SKUs that families would have need to be looked for; what is proposed in their place may be there as well.
  const taken = new Set<string>();
  for (;;) {
    const families = find(taken);
    const there = await rowsOf<{ sku: string }>(db, 'select sku from products where sku = any(?)', [
      families.map((f) => f.sku),
    ]);
    for (const { sku } of there) taken.add(sku);
    if (there.length === 0)
      return {
        families: families.map(({ members, ...f }) => ({
          ...f,
          ids: members.map((m) => m.id),
          variants: members.map(({ sku, says }) => ({ sku, says })),
        })),
        left: rows.length - families.reduce((n, f) => n + f.members.length, 0),
      };
  }
}

/** Makes several new families in one transaction and one change set. */
export async function makeAll(
  db: Db,
  families: readonly { sku: string; title: string; axes: readonly string[]; ids: readonly number[] }[],
  actor: string,
): Promise<{ changeSet: number; moved: number }> {
  const ids = families.flatMap((f) => f.ids);
  return db.transaction(async (tx) => {
    const book = await loadFields(tx),
      rows = new Map((await loadProductRows(tx, `p.id = any(?)`, [ids])).map((r) => [r.id, r]));
    const stranger = ids.map((id) => rows.get(id)).find((r) => r?.kind !== 'single' && r?.kind !== 'variant');
    if (stranger || rows.size < ids.length)
      throw new AppError(
        'bad-input',
        say`${stranger?.sku ?? 'An item'} cannot be put into a family, or is in two of these.`,
        {
          field: 'families',
          remedy: say`Look for families among the items once more.`,
        },
      );
    const skus = families.map((f) => f.sku);
    const taken =
      families.find((f, i) => skus.indexOf(f.sku) < i) ??
      (await rowOf<{ sku: string }>(tx, 'select sku from products where sku = any(?) limit 1', [skus]));
    if (taken)
      throw new AppError('conflict', say`SKU ${taken.sku} is already in the catalog.`, {
        field: 'families',
        remedy: say`Give another SKU.`,
      });
    const title = `${plural(ids.length, 'item', 'items')} into ${plural(families.length, 'new family', 'new families')}`;
    const set = await openChangeSet(tx, { title, actor, target: 'products', marketId: null });
    const made = families.map((f) =>
      toFamilyRow(
        f,
        f.ids.map((id) => toFields(rows.get(id)!)),
        book,
      ),
    );
    await recordAdded(tx, set, await insertProducts(tx, made));
    const cells = families.flatMap((f) =>
      f.ids.map((id) => ({ id, field: 'parent_sku', before: rows.get(id)!.parent_sku, after: f.sku })),
    );
    const outcome = await patchProductCells(tx, cells, title, actor, set);
    await tx.raw('update change_sets set is_done = true where id = ?', [set]);
    await recordHistory(tx, actor, { is: 'changed', title, cells: outcome.applied });
    return { changeSet: set, moved: outcome.applied };
  });
}

/** Makes the move in one transaction; answers its change set, or null where nothing moved. */
export async function moveItems(
  db: Db,
  { ids, family }: Moved,
  actor: string,
): Promise<{ changeSet: number | null; moved: number }> {
  return db.transaction(async (tx) => {
    const looked = await lookAtMove(tx, { ids, family });
    if (looked.moved === 0) return { changeSet: null, moved: 0 };
    const book = await loadFields(tx);
    const rows = (await loadProductRows(tx, 'p.id = any(?)', [[...ids]])).filter(
      (r) => r.kind === 'single' || r.kind === 'variant',
    );
    const called = rows.length === 1 ? rows[0]!.sku : plural(looked.moved, 'item', 'items');
    const title = family.is === 'none' ? `${called} out of the family` : `${called} into the family ${family.sku}`;
    const set = await openChangeSet(tx, { title, actor, target: 'products', marketId: null });
    if (family.is === 'new')
      await recordAdded(tx, set, await insertProducts(tx, [toFamilyRow(family, rows.map(toFields), book)]));
    const cells: CellPatchInput[] = rows.map((r) => ({
      id: r.id,
      field: 'parent_sku',
      before: r.parent_sku,
      after: family.is === 'none' ? null : family.sku,
    }));
    const outcome = await patchProductCells(tx, cells, title, actor, set);
    await tx.raw('update change_sets set is_done = true where id = ?', [set]);
    await recordHistory(tx, actor, { is: 'changed', title, cells: outcome.applied });
    return { changeSet: set, moved: outcome.applied };
  });
}

/** Says by which fields the variants of a family differ. */
export async function changeAxes(
  db: Db,
  id: number,
  axes: readonly string[],
  actor: string,
): Promise<{ changeSet: number | null }> {
  const row = (await loadProductRows(db, 'p.id = ?', [id]))[0];
  if (row?.kind !== 'family')
    throw new AppError('bad-input', say`Only a family says by what its variants differ.`, { field: 'axes' });
  const outcome = await patchProductCells(
    db,
    [
      {
        id,
        field: axesField,
        before: row.axes.length === 0 ? null : row.axes,
        after: axes.length === 0 ? null : [...axes],
      },
    ],
    `Variants of ${row.sku} differ anew`,
    actor,
  );
  const [refused] = outcome.refused;
  if (refused)
    throw new AppError('bad-input', say`Variants do not differ by one of these fields here.`, {
      field: 'axes',
      remedy: say`Say of the field that variants may differ by it, under Our catalog.`,
    });
  if (outcome.changeSet !== null) await refreshProducts(db, [id]);
  return { changeSet: outcome.changeSet };
}
