// Files that are taken out by the clock.
import { exportFormats } from '@basileus/core/sheet';
import { findNextTime, scheduleSchema } from '@basileus/core/change';
import { z } from 'zod';
import { type Db, rowOf, rowsOf } from '../database';
import { dropFile } from '../files';
import { AppError } from '../http';
import { defineClock } from '../jobs';
import { beginExport } from './make';
import { readWhich } from './queries';

/** Files of one set that are kept; older ones go, but for those that came back. */
export const mostKept = 14;

const due = z.object({
  id: z.number(),
  name: z.string(),
  columns: z.array(z.string()),
  format: z.enum(exportFormats),
  actor: z.string(),
  schedule: scheduleSchema,
});

/** Takes one set out that is due, and says when it is due again; answers false where none is. */
async function runDue(tx: Db, now: Date): Promise<boolean> {
  const row = await rowOf<{ which: unknown }>(
    tx,
    'select id, name, which, columns, format, actor, schedule from export_sets where next_at <= ? order by next_at, id limit 1 for update skip locked',
    [now],
  );
  if (!row) return false;
  const set = due.parse(row);
  await tx.raw('update export_sets set next_at = ? where id = ?', [findNextTime(set.schedule, now), set.id]);
  try {
    const { id } = await tx.transaction((inner) => beginExport(inner, { ...set, which: readWhich(row) }, set.actor));
    await tx.raw('update exports set set_id = ? where id = ?', [set.id, id]);
  } catch (e) {
    // A field that is gone: it is said when the set is taken up again.
    if (!(e instanceof AppError)) throw e;
  }
  await dropOld(tx, set.id);
  return true;
}

async function dropOld(tx: Db, set: number): Promise<void> {
  const old = await rowsOf<{ file_id: number | null }>(
    tx,
    `delete from exports e
      where e.set_id = ? and e.state <> 'making'
        and e.id not in (select id from exports where set_id = ? order by id desc limit ?)
        and not exists (select 1 from imports i where i.baseline_id = e.id)
      returning file_id`,
    [set, set, mostKept],
  );
  for (const { file_id: file } of old) if (file !== null) await dropFile(tx, file);
}

const clock = defineClock('export-clock', 'export_sets', runDue);
export const exportClockJob = clock.job;
/** The clock looks when the next set is due. */
export const wakeExportClock = clock.wake;
