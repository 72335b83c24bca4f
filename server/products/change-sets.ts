// Bulk changes kept with before and after for every cell, so that each can be read later and taken back.
import { plural } from '@basileus/core/text';
import type { ReversalCounts } from '@basileus/contract';
import type { Value } from '@basileus/core/listing';
import { type Db, rowOf, rowsOf } from '../database';

export interface ChangedCell {
  targetId: number;
  sku: string;
  field: string;
  before: Value | null;
  after: Value | null;
}
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

/** Records a change set and its cells, and one line of history. Answers undefined where nothing changed. */
export async function recordChangeSet(
  db: Db,
  set: { title: string; actor: string; target: 'products' | 'listings'; marketId: number | null; id?: number },
  cells: readonly ChangedCell[],
): Promise<number | null> {
  if (cells.length === 0 && set.id === undefined) return null;
  const id =
    set.id ??
    (await rowOf<{ id: number }>(
      db,
      'insert into change_sets (title, actor, target, market_id) values (?, ?, ?, ?) returning id',
      [set.title, set.actor, set.target, set.marketId],
    ))!.id;
  await db.raw(
    `insert into change_cells (change_set_id, target_id, sku, field, before, after)
      select ?, r.target_id, r.sku, r.field, nullif(r.before, 'null'), nullif(r.after, 'null')
      from jsonb_to_recordset(?::jsonb) as r(target_id bigint, sku text, field text, before jsonb, after jsonb)`,
    [
      id,
      JSON.stringify(
        cells.map((c) => ({ target_id: c.targetId, sku: c.sku, field: c.field, before: c.before, after: c.after })),
      ),
    ],
  );
  await db.raw('update change_sets set cells = cells + ? where id = ?', [cells.length, id]);
  if (set.id === undefined)
    await recordHistory(db, set.actor, 'changed', set.title, plural(cells.length, 'cell', 'cells'));
  return id;
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

/** Items that taking a set back left as they are, each with the reason. */
export const loadKept = (
  db: Db,
  id: number,
): Promise<{ sku: string; leftAs: 'changed' | 'sent' | 'family' | 'part' | 'taken' }[]> =>
  rowsOf(
    db,
    'select sku, left_as as "leftAs" from change_products where change_set_id = ? and left_as is not null order by sku limit 200',
    [id],
  );

export const loadChangeSet = (db: Db, id: number): Promise<ChangeSetRow | undefined> =>
  rowOf<ChangeSetRow>(db, `select ${setSelect} from change_sets s where id = ?`, [id]);
export const loadChangeSets = (db: Db, offset: number, limit: number): Promise<ChangeSetRow[]> =>
  rowsOf<ChangeSetRow>(db, `select ${setSelect} from change_sets s order by id desc offset ? limit ?`, [offset, limit]);
export const countChangeSets = async (db: Db): Promise<number> =>
  (await rowOf<{ n: number }>(db, 'select count(*) as n from change_sets'))!.n;
export const loadChangeCells = (
  db: Db,
  id: number,
  offset: number,
  limit: number,
): Promise<
  {
    target_id: number;
    sku: string;
    field: string;
    before: Value | null;
    after: Value | null;
    left_as: 'changed' | 'stock' | 'gone' | 'refused' | null;
  }[]
> =>
  rowsOf(
    db,
    'select * from change_cells where change_set_id = ? order by left_as is null, sku, field offset ? limit ?',
    [id, offset, limit],
  );

/** One line of the append-only history. */
export const recordHistory = async (
  db: Db,
  actor: string,
  action: string,
  subject: string,
  detail = '',
): Promise<void> => {
  await db.raw('insert into history (actor, action, subject, detail) values (?, ?, ?, ?)', [
    actor,
    action,
    subject,
    detail,
  ]);
};
