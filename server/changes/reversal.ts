// What taking a change set back would do with each cell and each item: read, judged, nothing written.
import type { ReversalCounts, ReversalLook } from '@basileus/contract';
import type { FieldChange, ItemChange } from '@basileus/core/change';
import { isSameValue, type Value } from '@basileus/core/listing';
import { axesField, isSameField, partsField } from '@basileus/core/product';
import { type Db, rowsOf } from '../database';
import { loadFields } from '../fields';
import { AppError } from '../http';
import { loadMarketById } from '../markets';
import { type LeftAs, loadChangeSet, loadParts, loadProductRows, loadSameDeed, standsSql, toFields } from '../products';
import { say } from '@basileus/core/text';

/** What a set changed of one item, as it stands in the set. */
export interface SetItem extends ItemChange {
  target_id: number;
}
export const noCounts: ReversalCounts = {
  restored: 0,
  changed: 0,
  stock: 0,
  gone: 0,
  refused: 0,
  removed: 0,
  keptSent: 0,
  keptChanged: 0,
  keptFamily: 0,
  keptPart: 0,
  recreated: 0,
  keptTaken: 0,
};

/** Items of a set that its take-back has still to judge; the cells of those that it added go or stay with them. */
export const loadOpenItems = (
  db: Db,
  set: number,
  after: number,
  limit: number,
  skus: readonly string[] = [],
): Promise<SetItem[]> =>
  rowsOf<SetItem>(
    db,
    `select id, target_id, sku, changes from change_items i
      where change_set_id = ? and not reversed and id > ?${skus.length > 0 ? ' and sku = any(?)' : ''}
        and not exists (select 1 from change_products a where a.change_set_id = i.change_set_id and a.action = 'added' and a.product_id = i.target_id)
      order by id limit ?`,
    [set, after, ...(skus.length > 0 ? [[...skus]] : []), limit],
  );

/**
 * What becomes of a cell whose item shows `now` (undefined where the item is gone). Stock is never put back: what was
 * on the shelf then says nothing of what is there now.
 */
export function judgeCell(
  cell: FieldChange,
  now: { value: Value | null } | undefined,
  isStock: boolean,
  isSame: (field: string, a: Value | null, b: Value | null) => boolean,
): 'restore' | 'nothing' | LeftAs {
  if (isSame(cell.field, cell.before, cell.after)) return 'nothing';
  if (now === undefined) return 'gone';
  if (isSame(cell.field, now.value, cell.before)) return 'nothing';
  if (isStock) return 'stock';
  return isSame(cell.field, now.value, cell.after) ? 'restore' : 'changed';
}

/** A cell of an item of a set, and what is to become of it. */
export interface JudgedCell {
  item: SetItem;
  change: FieldChange;
  is: ReturnType<typeof judgeCell>;
}
export type Judge = (db: Db, items: readonly SetItem[]) => Promise<JudgedCell[]>;

const judgeItems = (
  items: readonly SetItem[],
  nowOf: (item: SetItem, field: string) => { value: Value | null } | undefined,
  isStock: (field: string) => boolean,
  isSame: (field: string, a: Value | null, b: Value | null) => boolean,
): JudgedCell[] =>
  items.flatMap((item) =>
    item.changes.map((change) => ({
      item,
      change,
      is: judgeCell(change, nowOf(item, change.field), isStock(change.field), isSame),
    })),
  );

/** Judges cells of products, or of the listings of a market, against how they stand now. */
export async function createJudge(db: Db, marketId: number | null): Promise<Judge> {
  const targets = (items: readonly SetItem[]): number[] => [...new Set(items.map((i) => i.target_id))];
  if (marketId === null) {
    const fields = await loadFields(db);
    return async (tx, items) => {
      const rows = await loadProductRows(tx, 'p.id = any(?)', [targets(items)]);
      const parts = await loadParts(
        tx,
        rows.filter((r) => r.kind === 'bundle').map((r) => r.id),
      );
      const now = new Map(
        rows.map((r) => {
          const made = parts.get(r.id);
          return [
            r.id,
            {
              ...toFields(r),
              ...(r.axes.length > 0 ? { [axesField]: r.axes } : {}),
              ...(made ? { [partsField]: made } : {}),
            },
          ];
        }),
      );
      const nowOf = (item: SetItem, field: string) => {
        const fields: Record<string, Value> | undefined = now.get(item.target_id);
        return fields && { value: fields[field] ?? null };
      };
      return judgeItems(
        items,
        nowOf,
        (field) => field === 'stock',
        (field, a, b) => isSameField(fields, field, a, b),
      );
    };
  }
  const market = await loadMarketById(db, marketId);
  const stock = new Set(market.rulebook.attributes.filter((a) => a.part === 'stock').map((a) => a.key));
  return async (tx, items) => {
    const rows = await rowsOf<{ id: number; category: string | null; values: Record<string, Value> }>(
      tx,
      'select id, category, "values" from listings where id = any(?)',
      [targets(items)],
    );
    const now = new Map(rows.map((r) => [r.id, r]));
    const nowOf = (item: SetItem, field: string) => {
      const row = now.get(item.target_id);
      return row && { value: field === 'category' ? row.category : (row.values[field] ?? null) };
    };
    return judgeItems(
      items,
      nowOf,
      (field) => stock.has(field),
      (_, a, b) => isSameValue(a ?? undefined, b ?? undefined),
    );
  };
}

/** A set is of another deed than the one that added an item, and took back nothing of that one either. */
const isOtherDeed = `not exists (
  select 1 from change_sets mine join change_sets one on one.deed = mine.deed
  where mine.id = a.change_set_id and one.id in (s.id, s.reverses))`;

/**
 * Items that a set added, each with the reason for which it stays, or null where it can go: nothing of it stands on a market, it
 * was not changed by another set, no bundle holds it, and all of its variants go with it.
 */
export const keepSql = `select a.product_id, a.sku, p.kind,
    case
      when p.id is null then 'gone'
      when ${standsSql('p.id')}
        then 'sent'
      when exists (select 1 from change_items c join change_sets s on s.id = c.change_set_id
          where s.target = 'products' and c.target_id = p.id and s.id <> a.change_set_id and ${isOtherDeed})
        or exists (select 1 from change_items c join change_sets s on s.id = c.change_set_id join listings l on l.id = c.target_id
          where s.target = 'listings' and l.product_id = p.id and ${isOtherDeed})
        then 'changed'
      when exists (select 1 from bundle_parts b where b.part_id = p.id) then 'part'
    end as reason
  from change_products a
  left join products p on p.id = a.product_id
  where a.change_set_id = ? and a.action = 'added' and not a.reversed`;

const previewBatch = 1000;

/** Counts what taking a set back would do, or the cells of some of its items, by SKU. */
async function lookAtReversal(db: Db, setId: number, skus: readonly string[] = []): Promise<ReversalCounts> {
  const set = await loadChangeSet(db, setId);
  if (!set) throw new AppError('not-found', say`There is no change set ${setId}.`);
  const counts: ReversalCounts = { ...noCounts };
  if (skus.length === 0) await countItems(db, setId, counts);
  const judge = await createJudge(db, set.market_id);
  for (let after = 0; ;) {
    const items = await loadOpenItems(db, setId, after, previewBatch, skus);
    if (items.length === 0) return counts;
    after = items.at(-1)!.id;
    for (const { is } of await judge(db, items))
      if (is === 'restore') counts.restored++;
      else if (is !== 'nothing') counts[is]++;
  }
}

/** The same, and beside it what taking back the others of its deed would do. */
export async function lookAtDeed(db: Db, setId: number, skus: readonly string[] = []): Promise<ReversalLook> {
  const counts = await lookAtReversal(db, setId, skus);
  const others: ReversalLook['others'] = [];
  if (skus.length === 0)
    for (const { id, title } of await loadSameDeed(db, setId))
      others.push({ id, title, counts: await lookAtReversal(db, id) });
  return { ...counts, others };
}

/** Counts what becomes of the items that a set added or removed. */
async function countItems(db: Db, setId: number, counts: ReversalCounts): Promise<void> {
  const items = await rowsOf<{ reason: string | null; n: number }>(
    db,
    `with judged as (${keepSql}),
      final as (select case when j.reason is null and exists (
          select 1 from products v left join judged k on k.product_id = v.id
          where v.parent_id = j.product_id and (k.product_id is null or k.reason is not null)
            -- What the set had put into the family goes out of it first.
            and not exists (select 1 from change_items c
              where c.change_set_id = ? and c.target_id = v.id and c.changes @> '[{"field": "parent_sku"}]')) then 'family' else j.reason end as reason
        from judged j)
    select reason, count(*) as n from final group by 1`,
    [setId, setId],
  );
  const keys = { sent: 'keptSent', changed: 'keptChanged', family: 'keptFamily', part: 'keptPart' } as const;
  for (const { reason, n } of items) {
    if (reason === null) counts.removed = n;
    else if (reason in keys) counts[keys[reason as keyof typeof keys]] = n;
  }
  const again = await rowsOf<{ taken: boolean; n: number }>(
    db,
    `select exists (select 1 from products p where p.sku = r.sku) as taken, count(*) as n
      from change_products r where r.change_set_id = ? and r.action = 'removed' and not r.reversed group by 1`,
    [setId],
  );
  for (const { taken, n } of again) counts[taken ? 'keptTaken' : 'recreated'] = n;
}
