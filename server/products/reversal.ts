// What taking a change set back would do with each cell and each item: read, judged, nothing written.
import type { ReversalCounts } from '@basileus/contract';
import { isSameValue, type Value } from '@basileus/core/listing';
import { isSameField } from '@basileus/core/product';
import { type Db, rowsOf } from '../database';
import { AppError } from '../http';
import { loadMarketById } from '../markets/load';
import { loadChangeSet } from './change-sets';
import { toFields } from './fields';
import { loadProductRows } from './queries';

export interface SetCell {
  id: number;
  target_id: number;
  field: string;
  before: Value | null;
  after: Value | null;
}
export type LeftAs = 'changed' | 'stock' | 'gone' | 'refused';
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

/** Cells of a set that its take-back has still to judge; those of items that it added go or stay with their item. */
export const loadOpenCells = (db: Db, set: number, after: number, limit: number): Promise<SetCell[]> =>
  rowsOf<SetCell>(
    db,
    `select id, target_id, field, before, after from change_cells c
      where change_set_id = ? and not reversed and id > ?
        and not exists (select 1 from change_products a where a.change_set_id = c.change_set_id and a.action = 'added' and a.product_id = c.target_id)
      order by id limit ?`,
    [set, after, limit],
  );

/**
 * What becomes of a cell whose item shows `now` (undefined where the item is gone). Stock is never put back: what was
 * on the shelf then says nothing of what is there now.
 */
export function judgeCell(
  cell: SetCell,
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

export interface CellJudge {
  (db: Db, cells: readonly SetCell[]): Promise<{ cell: SetCell; is: ReturnType<typeof judgeCell> }[]>;
}

/** Judges cells of products, or of the listings of a market, against how they stand now. */
export async function createCellJudge(db: Db, marketId: number | null): Promise<CellJudge> {
  if (marketId === null)
    return async (tx, cells) => {
      const ids = [...new Set(cells.map((c) => c.target_id))];
      const now = new Map((await loadProductRows(tx, 'p.id = any(?)', [ids])).map((r) => [r.id, toFields(r)]));
      return cells.map((cell) => {
        const fields = now.get(cell.target_id);
        const value = fields && { value: fields[cell.field] ?? null };
        return { cell, is: judgeCell(cell, value, cell.field === 'stock', isSameField) };
      });
    };
  const market = await loadMarketById(db, marketId);
  const stock = new Set(market.rulebook.attributes.filter((a) => a.part === 'stock').map((a) => a.key));
  const isSame = (_: string, a: Value | null, b: Value | null): boolean => isSameValue(a ?? undefined, b ?? undefined);
  return async (tx, cells) => {
    const ids = [...new Set(cells.map((c) => c.target_id))];
    const now = new Map(
      (
        await rowsOf<{ id: number; category: string | null; values: Record<string, Value> }>(
          tx,
          'select id, category, "values" from listings where id = any(?)',
          [ids],
        )
      ).map((r) => [r.id, r]),
    );
    return cells.map((cell) => {
      const row = now.get(cell.target_id);
      const value = row && { value: cell.field === 'category' ? row.category : (row.values[cell.field] ?? null) };
      return { cell, is: judgeCell(cell, value, stock.has(cell.field), isSame) };
    });
  };
}

/**
 * Items that a set added, each with the reason for which it stays, or null where it can go: nothing of it was sent, it was
 * not changed by another set, no bundle holds it, and all of its variants go with it.
 */
export const keepSql = `select a.product_id, a.sku, p.kind,
    case
      when p.id is null then 'gone'
      when exists (select 1 from listings l where l.product_id = p.id
        and (l.market_state <> 'none' or l.in_flight > 0 or l.number is not null or exists (select 1 from dispatch_lines d where d.listing_id = l.id)))
        then 'sent'
      when exists (select 1 from change_cells c join change_sets s on s.id = c.change_set_id
          where s.target = 'products' and c.target_id = p.id and s.id <> a.change_set_id)
        or exists (select 1 from change_cells c join change_sets s on s.id = c.change_set_id join listings l on l.id = c.target_id
          where s.target = 'listings' and l.product_id = p.id)
        then 'changed'
      when exists (select 1 from bundle_parts b where b.part_id = p.id) then 'part'
    end as reason
  from change_products a
  left join products p on p.id = a.product_id
  where a.change_set_id = ? and a.action = 'added' and not a.reversed`;

const previewBatch = 5000;

/** Counts what taking a set back would do. */
export async function lookAtReversal(db: Db, setId: number): Promise<ReversalCounts> {
  const set = await loadChangeSet(db, setId);
  if (!set) throw new AppError('not-found', `There is no change set ${setId}.`);
  const counts: ReversalCounts = { ...noCounts };
  const items = await rowsOf<{ reason: string | null; n: number }>(
    db,
    `with judged as (${keepSql}),
      final as (select case when j.reason is null and exists (
          select 1 from products v left join judged k on k.product_id = v.id
          where v.parent_id = j.product_id and (k.product_id is null or k.reason is not null)) then 'family' else j.reason end as reason
        from judged j)
    select reason, count(*) as n from final group by 1`,
    [setId],
  );
  const keys = { sent: 'keptSent', changed: 'keptChanged', family: 'keptFamily', part: 'keptPart' } as const;
  for (const { reason, n } of items) {
    if (reason === null) counts.removed = n;
    else if (reason in keys) counts[keys[reason as keyof typeof keys]] = n;
  }
  const again = await rowsOf<{ taken: boolean; n: number; stock: number }>(
    db,
    `select exists (select 1 from products p where p.sku = r.sku) as taken, count(*) as n,
        count(*) filter (where r.record -> 'fields' -> 'stock' is not null) as stock
      from change_products r where r.change_set_id = ? and r.action = 'removed' and not r.reversed group by 1`,
    [setId],
  );
  for (const { taken, n, stock } of again) {
    if (taken) counts.keptTaken = n;
    else {
      counts.recreated = n;
      counts.stock += stock;
    }
  }
  const judge = await createCellJudge(db, set.market_id);
  for (let after = 0; ;) {
    const cells = await loadOpenCells(db, setId, after, previewBatch);
    if (cells.length === 0) return counts;
    after = cells.at(-1)!.id;
    for (const { is } of await judge(db, cells))
      if (is === 'restore') counts.restored++;
      else if (is !== 'nothing') counts[is]++;
  }
}
