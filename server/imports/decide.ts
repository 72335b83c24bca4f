// Rows that somebody else changed while a file waited: what a person decides about them.
import type { Conflict } from '@basileus/core/change';
import { type Db, rowOf, rowsOf } from '../database';
import { announce } from '../events';
import { AppError } from '../http';
import { startApply } from './begin';
import type { ImportRow } from './queries';
import { say } from '@basileus/core/text';

/**
 * Decides rows that wait, all or the named ones. `ours` keeps what stands there. `file` plans them anew against it and
 * writes them: where it has changed once more, they wait again. A removed item cannot be written over.
 */
export async function decideRows(
  db: Db,
  found: ImportRow,
  take: 'file' | 'ours',
  rows: readonly number[] | undefined,
  actor: string,
): Promise<{ decided: number; job: string | null }> {
  const state = (await rowOf<{ state: string }>(db, 'select state from imports where id = ? for update', [found.id]))
    ?.state;
  if (state !== 'applied')
    throw new AppError('not-now', say`This import is being written; its rows can be decided when that is done.`, {
      remedy: say`Wait until it is written.`,
    });
  const isTakenBack = await rowOf(db, 'select 1 as x from change_sets where id = ? and reversed_by is not null', [
    found.change_set_id ?? 0,
  ]);
  if (take === 'file' && isTakenBack)
    throw new AppError('not-now', say`This import was taken back; nothing more of it is written.`, {
      remedy: say`Drop the file again, or bring the import back first.`,
    });
  const waiting = await rowsOf<{ row: number; clash: string; conflicts: Conflict[] }>(
    db,
    `select "row", clash, conflicts from import_rows
      where import_id = ? and clash is not null ${rows ? 'and "row" = any(?)' : ''} for update`,
    rows ? [found.id, rows] : [found.id],
  );
  const decided = take === 'ours' ? waiting : waiting.filter((r) => r.clash !== 'removed');
  if (waiting.length > 0 && decided.length === 0)
    throw new AppError(
      'conflict',
      say`These items were removed since; there is nothing to write the file’s values into.`,
      {
        remedy: say`Drop the file again to add them anew, or keep it as it is.`,
      },
    );
  await db.raw(
    `update import_rows i
      set clash = null, conflicts = '[]', applied = ?, action = 'update',
        changes = case when ? then coalesce(r.changes, '[]') else i.changes end
      from jsonb_to_recordset(?::jsonb) as r("row" int, changes jsonb)
      where i.import_id = ? and i."row" = r."row"`,
    [
      take === 'ours',
      take === 'file',
      JSON.stringify(
        decided.map((r) => ({
          row: r.row,
          changes: r.conflicts.map((c) => ({ field: c.field, before: c.theirs, after: c.ours })),
        })),
      ),
      found.id,
    ],
  );
  await db.raw(
    `update imports set state = ?, counts = counts || (select jsonb_build_object(
        'conflicts', count(*) filter (where clash is not null), 'create', count(*) filter (where action = 'create'),
        'update', count(*) filter (where action = 'update')) from import_rows where import_id = ?) where id = ?`,
    [take === 'file' && decided.length ? 'applying' : 'applied', found.id, found.id],
  );
  const job = take === 'file' && decided.length ? await startApply(db, found.id, found.name, actor) : null;
  await announce(db, { topic: 'imports', id: String(found.id) });
  return { decided: decided.length, job };
}
