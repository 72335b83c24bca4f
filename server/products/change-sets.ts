// Bulk changes kept with before and after for every cell, so that each can be read later and taken back.
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
}

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
    await recordHistory(
      db,
      set.actor,
      'changed',
      set.title,
      `${cells.length} ${cells.length === 1 ? 'cell' : 'cells'}`,
    );
  return id;
}

export const loadChangeSet = (db: Db, id: number): Promise<ChangeSetRow | undefined> =>
  rowOf<ChangeSetRow>(db, 'select * from change_sets where id = ?', [id]);
export const loadChangeSets = (db: Db, offset: number, limit: number): Promise<ChangeSetRow[]> =>
  rowsOf<ChangeSetRow>(db, 'select * from change_sets order by id desc offset ? limit ?', [offset, limit]);
export const countChangeSets = async (db: Db): Promise<number> =>
  (await rowOf<{ n: number }>(db, 'select count(*) as n from change_sets'))!.n;
export const loadChangeCells = (
  db: Db,
  id: number,
  offset: number,
  limit: number,
): Promise<{ target_id: number; sku: string; field: string; before: Value | null; after: Value | null }[]> =>
  rowsOf(db, 'select * from change_cells where change_set_id = ? order by sku, field offset ? limit ?', [
    id,
    offset,
    limit,
  ]);

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
