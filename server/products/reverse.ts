import { isSameValue } from '@basileus/core/listing';
import { type Db, rowOf } from '../database';
import { AppError } from '../http';
import { patchListingCells } from '../listings/service';
import { loadChangeCells, loadChangeSet } from './change-sets';
import { patchProductCells } from './service';

/** Takes a change set back, cell by cell: what was changed again since stays as it is. A set can be taken back once. */
export const reverseSet = (
  db: Db,
  id: number,
  actor: string,
): Promise<{ changeSet: number | null; restored: number; kept: number }> =>
  db.transaction((tx) => reverseWithin(tx, id, actor));

async function reverseWithin(
  db: Db,
  id: number,
  actor: string,
): Promise<{ changeSet: number | null; restored: number; kept: number }> {
  const claimed = await rowOf(
    db,
    'update change_sets set reversed_by = id where id = ? and reversed_by is null returning id',
    [id],
  );
  const set = await loadChangeSet(db, id);
  if (!set) throw new AppError('not-found', `There is no change set ${id}.`);
  if (!claimed)
    throw new AppError('not-now', 'This change set has been taken back already.', {
      remedy: 'Take back its reversal to have it again.',
    });
  const cells = (await loadChangeCells(db, id, 0, 1_000_000)).filter(
    (c) => !isSameValue(c.before ?? undefined, c.after ?? undefined),
  );
  const patch = cells.map((c) => ({ id: c.target_id, field: c.field, before: c.after, after: c.before }));
  const title = `Taken back: ${set.title}`;
  if (patch.length === 0) return { changeSet: null, restored: 0, kept: 0 };
  const outcome =
    set.target === 'products'
      ? await patchProductCells(db, patch, title, actor)
      : await patchListingCells(db, set.market_id!, patch, title, actor);
  if (outcome.changeSet !== null)
    await db.raw('update change_sets set reversed_by = ? where id = ?', [outcome.changeSet, id]);
  return { changeSet: outcome.changeSet, restored: outcome.applied, kept: patch.length - outcome.applied };
}
