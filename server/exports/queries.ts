import { type ExportSet, type ExportShape, type ExportWanted } from '@basileus/contract';
import { findNextTime, type Schedule, scheduleSchema } from '@basileus/core/change';
import { whichSchema } from '@basileus/core/choose';
import { exportFormats } from '@basileus/core/sheet';
import { z } from 'zod';
import { type Db, parseColumn, rowOf, rowsOf } from '../database';
import { announce } from '../events';
import { AppError } from '../http';
import { say } from '@basileus/core/text';

export interface ExportRow {
  id: number;
  name: string;
  which: unknown;
  columns: string[];
  format: (typeof exportFormats)[number];
  mark: string;
  file_id: number | null;
  rows: number;
  state: 'making' | 'ready' | 'failed';
  actor: string;
  at: Date;
}
const columns = z.array(z.string());
const fromRow = (r: ExportRow): ExportRow => ({ ...r, columns: parseColumn('exports.columns', columns, r.columns) });
export const readWhich = (r: { which: unknown }) => whichSchema.parse(r.which);

const mostListed = 100;
export const loadExports = async (db: Db): Promise<ExportShape[]> =>
  (
    await rowsOf<ExportRow & { size: number | null; came_back: { id: number; name: string; at: string }[] | null }>(
      db,
      `select e.*, f.size, (
          select jsonb_agg(jsonb_build_object('id', i.id, 'name', i.name, 'at', i.created_at) order by i.id desc)
          from imports i where i.baseline_id = e.id) as came_back
        from exports e left join files f on f.id = e.file_id order by e.id desc limit ?`,
      [mostListed],
    )
  ).map((r) => ({
    ...toWanted(fromRow(r)),
    id: r.id,
    name: r.name,
    rows: r.rows,
    size: r.size ?? 0,
    state: r.state,
    actor: r.actor,
    at: r.at.toISOString(),
    cameBack: r.came_back ?? [],
  }));
const toWanted = (r: ExportRow): ExportWanted => ({ which: readWhich(r), columns: r.columns, format: r.format });

export async function mustLoadExport(db: Db, id: number): Promise<ExportRow> {
  const row = await rowOf<ExportRow>(db, 'select * from exports where id = ?', [id]);
  if (!row) throw new AppError('not-found', say`There is no export ${id}.`);
  return fromRow(row);
}

export const loadSets = async (db: Db): Promise<ExportSet[]> =>
  (await rowsOf<ExportRow & SetTimes>(db, 'select * from export_sets order by lower(name)')).map((r) => ({
    ...toWanted(fromRow(r)),
    id: r.id,
    name: r.name,
    schedule: scheduleSchema.nullable().parse(r.schedule),
    nextAt: r.next_at?.toISOString() ?? null,
  }));
interface SetTimes {
  schedule: unknown;
  next_at: Date | null;
}

/** Keeps a set under its name; one of that name is replaced. */
export async function keepSet(
  db: Db,
  set: ExportWanted & { name: string; schedule: Schedule | null },
  actor: string,
): Promise<ExportSet> {
  const next = set.schedule === null ? null : findNextTime(set.schedule, new Date());
  const { id } = (await rowOf<{ id: number }>(
    db,
    `insert into export_sets (name, which, columns, format, actor, schedule, next_at) values (?, ?::jsonb, ?::jsonb, ?, ?, ?::jsonb, ?)
      on conflict (name) do update set which = excluded.which, columns = excluded.columns, format = excluded.format, actor = excluded.actor, at = now(),
        schedule = excluded.schedule, next_at = excluded.next_at
      returning id`,
    [
      set.name,
      JSON.stringify(set.which),
      JSON.stringify(set.columns),
      set.format,
      actor,
      set.schedule === null ? null : JSON.stringify(set.schedule),
      next,
    ],
  ))!;
  await announce(db, { topic: 'exports' });
  return { ...set, id, nextAt: next?.toISOString() ?? null };
}
export async function dropSet(db: Db, id: number): Promise<void> {
  await db.raw('delete from export_sets where id = ?', [id]);
  await announce(db, { topic: 'exports' });
}
