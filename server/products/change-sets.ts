// Bulk changes kept with before and after for every cell, so that each can be read later and taken back.
import type { ReversalCounts } from '@basileus/contract';
import type { FieldChange, ItemChange } from '@basileus/core/change';
import { copyInto, type Db, rowOf, rowsOf, toJson } from '../database';
import { recordHistory } from '../history';

/** Why taking a cell back left it as it was. */
export type LeftAs = 'changed' | 'stock' | 'gone' | 'refused';

export interface ChangeSetRow {
  id: number;
  title: string;
  actor: string;
  at: Date;
  cells: number;
  reversed_by: number | null;
  target: 'products' | 'listings';
  market_id: number | null;
  reverses: number | null;
  is_done: boolean;
  outcome: ReversalCounts | null;
  added: number;
}

const setSelect = `s.*, (select count(*) from change_products a where a.change_set_id = s.id and a.action = 'added') as added`;

interface SetHead {
  title: string;
  actor: string;
  target: 'products' | 'listings';
  marketId: number | null;
}

/** Opens a change set that is written in several steps; it is not done before it is closed. */
export const openChangeSet = async (db: Db, { title, actor, target, marketId }: SetHead): Promise<number> =>
  (await rowOf<{ id: number }>(
    db,
    'insert into change_sets (title, actor, target, market_id, is_done) values (?, ?, ?, ?, false) returning id',
    [title, actor, target, marketId],
  ))!.id;

/** Nothing more is written into a change set; one that changed nothing is forgotten. */
export const closeChangeSet = async (db: Db, id: number): Promise<void> => {
  await db.raw('update change_sets set is_done = true where id = ?', [id]);
  await db.raw('delete from change_sets where id = ? and cells = 0', [id]);
};

/** Several change sets are one deed: what wrote into items and into listings of markets is taken back together. */
export const shareDeed = async (db: Db, sets: readonly number[]): Promise<void> => {
  if (new Set(sets).size < 2) return;
  await db.raw(
    `update change_sets set deed = (select min(coalesce(d.deed, d.id)) from change_sets d where d.id = any(?)) where id = any(?)`,
    [[...sets], [...sets]],
  );
};

/** The other change sets of the same deed that are not taken back yet. */
export const loadSameDeed = (db: Db, id: number): Promise<ChangeSetRow[]> =>
  rowsOf<ChangeSetRow>(
    db,
    `select ${setSelect} from change_sets s join change_sets o on o.deed = s.deed
      where o.id = ? and s.id <> o.id and s.reversed_by is null order by s.id`,
    [id],
  );

/** Records a change set and what it changed, and one line of history. Answers null where nothing changed. */
export async function recordChangeSet(
  db: Db,
  set: SetHead & { id?: number },
  items: readonly ItemChange[],
): Promise<number | null> {
  const cells = items.reduce((n, i) => n + i.changes.length, 0);
  if (cells === 0 && set.id === undefined) return null;
  const id =
    set.id ??
    (await rowOf<{ id: number }>(
      db,
      'insert into change_sets (title, actor, target, market_id) values (?, ?, ?, ?) returning id',
      [set.title, set.actor, set.target, set.marketId],
    ))!.id;
  // One that is written in several steps side by side is waited for: what adds nothing to it does not touch it.
  if (cells === 0) return id;
  await copyInto(
    db,
    'change_items (change_set_id, target_id, sku, changes)',
    items.filter((i) => i.changes.length > 0).map((i) => [id, i.id, i.sku, toJson(i.changes)]),
  );
  await db.raw('update change_sets set cells = cells + ? where id = ?', [cells, id]);
  if (set.id === undefined) await recordHistory(db, set.actor, { is: 'changed', title: set.title, cells });
  return id;
}

/**
 * Adds to a change set, of `cells` cells in all, what the statement `from` answers (as `source`): `select` makes of it the item,
 * its SKU and its changes.
 */
export async function recordSelected(
  db: Db,
  id: number,
  cells: number,
  from: { sql: string; bindings: readonly unknown[] },
  select: { sql: string; bindings: readonly unknown[] },
): Promise<void> {
  if (cells === 0) return;
  await db.raw(
    `with source as (${from.sql}) insert into change_items (change_set_id, target_id, sku, changes) select ?, ${select.sql}`,
    [...from.bindings, id, ...select.bindings] as never,
  );
  await db.raw('update change_sets set cells = cells + ? where id = ?', [cells, id]);
}

/** Changes cell by cell as one change an item. */
export function groupByItem(cells: readonly (FieldChange & { id: number; sku: string })[]): ItemChange[] {
  const items = new Map<number, ItemChange>();
  for (const { id, sku, ...change } of cells) {
    const item = items.get(id) ?? { id, sku, changes: [] };
    items.set(id, item);
    item.changes.push(change);
  }
  return [...items.values()];
}

/** Notes which items a change set added, so that taking it back can remove them again. */
export const recordAdded = async (
  db: Db,
  changeSetId: number,
  products: readonly { id: number; sku: string }[],
): Promise<void> => {
  if (products.length === 0) return;
  await db.raw(
    `insert into change_products (change_set_id, product_id, sku, action)
      select ?, r.id, r.sku, 'added' from jsonb_to_recordset(?::jsonb) as r(id bigint, sku text)
      on conflict do nothing`,
    [changeSetId, JSON.stringify(products)],
  );
};

/** Items that a set added or removed, as they are read. */
export const loadSetItems = (db: Db, id: number): Promise<{ sku: string; action: 'added' | 'removed' }[]> =>
  rowsOf(db, 'select sku, action from change_products where change_set_id = ? order by action, sku limit 200', [id]);

/** Items that taking a set back left as they are, each with the reason. */
export const loadKept = (
  db: Db,
  id: number,
): Promise<{ sku: string; leftAs: 'changed' | 'sent' | 'family' | 'part' | 'taken' }[]> =>
  rowsOf(
    db,
    // What a job was to take out and left stands in its own list.
    `select sku, left_as as "leftAs" from change_products where change_set_id = ? and left_as is not null
      union all select sku, left_as from removals where change_set_id = ? and left_as is not null
      order by 1 limit 200`,
    [id, id],
  );

export const loadChangeSet = (db: Db, id: number): Promise<ChangeSetRow | undefined> =>
  rowOf<ChangeSetRow>(db, `select ${setSelect} from change_sets s where id = ?`, [id]);
/** A page of them, newest first; of one person, or of all where `by` is ''. */
export const loadChangeSets = (
  db: Db,
  { by, offset, limit }: { by: string; offset: number; limit: number },
): Promise<ChangeSetRow[]> =>
  rowsOf<ChangeSetRow>(
    db,
    `select ${setSelect} from change_sets s ${by === '' ? '' : 'where actor = ?'} order by id desc offset ? limit ?`,
    [...(by === '' ? [] : [by]), offset, limit],
  );
export const countChangeSets = async (db: Db, by: string): Promise<number> =>
  (await rowOf<{ n: number }>(
    db,
    `select count(*) as n from change_sets ${by === '' ? '' : 'where actor = ?'}`,
    by === '' ? [] : [by],
  ))!.n;
export interface ChangedCell extends FieldChange {
  sku: string;
  left_as: LeftAs | null;
}
/** A page of the cells of a set, those first that its take-back left; it is counted by items, which are fewer. */
export const loadChangeCells = (db: Db, id: number, offset: number, limit: number): Promise<ChangedCell[]> =>
  rowsOf<ChangedCell>(
    db,
    `with item as (
        select i.id, sku, changes, left_as, left_as = '{}' as is_done, jsonb_array_length(changes) as n,
          sum(jsonb_array_length(changes)) over (order by left_as = '{}', sku, i.id) as upto
        from change_items i where change_set_id = ?),
      page as (select * from item where upto > ? and upto - n < ?),
      cell as (
        select p.sku, c.field, c.before, c.after, p.left_as ->> c.field as left_as,
          p.upto - p.n + row_number() over (partition by p.id order by p.left_as ->> c.field is null, c.field) as place
        from page p cross join lateral jsonb_to_recordset(p.changes) as c (field text, before jsonb, after jsonb))
      select sku, field, before, after, left_as from cell where place > ? order by place limit ?`,
    [id, offset, offset + limit, offset, limit],
  );
