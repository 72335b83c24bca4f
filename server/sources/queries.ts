// Business systems as they are kept: how they are reached, their rules, the rows that came last, their runs.
import type { SourceRun, SourceShape } from '@basileus/contract';
import { scheduleSchema } from '@basileus/core/change';
import { type SourceRow, type SourceRules, sourceRules } from '@basileus/core/source';
import { z } from 'zod';
import { copyInto, type Db, parseColumn, rowOf, rowsOf, toJson } from '../database';
import { AppError } from '../http';
import { say } from '@basileus/core/text';

export interface StoredSource {
  id: number;
  name: string;
  way: 'pages' | 'file';
  address: string;
  decimal_sign: '.' | ',';
  since_param: string;
  rules: unknown;
  mode: 'update' | 'create' | 'both';
  schedule: unknown;
  next_at: Date | null;
  hold_percent: number;
  columns: unknown;
  row_count: number;
  fetched_at: Date | null;
  asked_at: Date | null;
  actor: string;
  has_key: boolean;
}
const selected = `s.*, exists (select 1 from source_keys k where k.source_id = s.id) as has_key`;
const names = z.array(z.string());
/** Rules before anything is known of the columns. */
export const noRules: SourceRules = { sku: '[SKU]', family: '', only: '', fields: [] };

export const readRules = (s: Pick<StoredSource, 'rules'>): SourceRules =>
  s.rules === null ? noRules : parseColumn('sources.rules', sourceRules, s.rules);
export const readColumns = (s: Pick<StoredSource, 'columns'>): string[] =>
  parseColumn('sources.columns', names, s.columns);

export async function mustLoadSource(db: Db, id: number, lock = ''): Promise<StoredSource> {
  const row = await rowOf<StoredSource>(db, `select ${selected} from sources s where s.id = ? ${lock}`, [id]);
  if (!row) throw new AppError('not-found', say`There is no business system ${id}.`);
  return row;
}
export const loadSources = (db: Db): Promise<StoredSource[]> =>
  rowsOf<StoredSource>(db, `select ${selected} from sources s order by lower(s.name)`);
export const loadKey = async (db: Db, id: number): Promise<string | undefined> =>
  (await rowOf<{ key: string }>(db, 'select key from source_keys where source_id = ?', [id]))?.key;

export const noRunCounts = { rows: 0, formed: 0, leftOut: 0, noSku: 0, clashes: 0, faults: 0 };
export type RunCounts = typeof noRunCounts;
export interface StoredRun {
  id: number;
  source_id: number;
  at: Date;
  actor: string;
  how: 'hand' | 'clock';
  then_do: 'look' | 'bring';
  changed_only: boolean;
  state: SourceRun['state'];
  counts: Partial<RunCounts>;
  import_id: number | null;
  fault: string | null;
  import_counts: { create?: number; update?: number; refuse?: number } | null;
}
const runSelected = `r.*, (select i.counts from imports i where i.id = r.import_id) as import_counts`;
export const loadRun = (db: Db, id: number): Promise<StoredRun | undefined> =>
  rowOf<StoredRun>(db, `select ${runSelected} from source_runs r where r.id = ?`, [id]);
export const loadRuns = (db: Db, source: number, most: number): Promise<StoredRun[]> =>
  rowsOf<StoredRun>(db, `select ${runSelected} from source_runs r where r.source_id = ? order by r.id desc limit ?`, [
    source,
    most,
  ]);

export const toRun = (r: StoredRun): SourceRun => ({
  id: r.id,
  at: r.at.toISOString(),
  actor: r.actor,
  how: r.how,
  state: r.state,
  ...noRunCounts,
  ...r.counts,
  import: r.import_id,
  created: r.import_counts?.create ?? 0,
  updated: r.import_counts?.update ?? 0,
  refused: r.import_counts?.refuse ?? 0,
  fault: r.fault,
});
export const toShape = (s: StoredSource, lastRun: StoredRun | undefined): SourceShape => ({
  id: s.id,
  name: s.name,
  way: s.way,
  address: s.address,
  decimalSign: s.decimal_sign,
  sinceParam: s.since_param,
  rules: readRules(s),
  mode: s.mode,
  schedule: scheduleSchema.nullable().parse(s.schedule),
  holdPercent: s.hold_percent,
  hasKey: s.has_key,
  columns: readColumns(s),
  rows: s.row_count,
  fetchedAt: s.fetched_at?.toISOString() ?? null,
  nextAt: s.next_at?.toISOString() ?? null,
  actor: s.actor,
  lastRun: lastRun ? toRun(lastRun) : null,
});

/** Puts rows behind those that are here, counted from 1. */
export const stageRows = (db: Db, source: number, from: number, rows: readonly SourceRow[]): Promise<unknown> =>
  copyInto(
    db,
    'source_rows (source_id, n, cells)',
    rows.map((r, i) => [source, from + i + 1, toJson(r)]),
  );

const rowsAtOnce = 1000;
/** The rows that are here, in stretches, with the number of each. */
export async function* openRows(db: Db, source: number): AsyncGenerator<{ n: number; cells: SourceRow }[]> {
  for (let after = 0; ;) {
    const rows = await rowsOf<{ n: number; cells: SourceRow }>(
      db,
      'select n, cells from source_rows where source_id = ? and n > ? order by n limit ?',
      [source, after, rowsAtOnce],
    );
    if (rows.length === 0) return;
    yield rows;
    after = rows.at(-1)!.n;
  }
}
