// Planning an import as a job: every row compared with what we hold, the outcome stored, nothing else changed.
import type { ImportReadingShape } from '@basileus/contract';
import { type ImportReading, isTrailingNote, type PlannedRow, planRow } from '@basileus/core/sheet';
import { z } from 'zod';
import { type Db, rowOf, type Write } from '../database';
import { announce } from '../events';
import { defineJob } from '../jobs/kind';
import { toFields } from '../products/fields';
import { loadProductRows } from '../products/queries';
import { openRows } from './read';

export interface ImportRow {
  id: number;
  file_id: number;
  name: string;
  kind: 'text' | 'workbook';
  state: string;
  plan_no: number;
  reading: ImportReadingShape;
  sheets: string[];
  title_lines: string[];
  sample: string[][];
  counts: Partial<Counts>;
  fault: string | null;
  change_set_id: number | null;
  created_at: Date;
  size: number;
}
export interface Counts {
  rows: number;
  create: number;
  update: number;
  same: number;
  refuse: number;
  damaged: number;
  applied: number;
}
export const loadImport = (db: Db, id: number): Promise<ImportRow | undefined> =>
  rowOf<ImportRow>(db, 'select i.*, f.size from imports i join files f on f.id = i.file_id where i.id = ?', [id]);

const batch = 1000;

export const planImportJob = defineJob({
  kind: 'plan-import',
  payload: z.strictObject({ import: z.int(), plan: z.int() }),
  attempts: 5,
  mostSeconds: 900,
  run: async ({ import: id, plan }, { db, progress, write }) => {
    const found = await loadImport(db, id);
    // A newer reading has its own job; this one has nothing left to do.
    if (!found || found.state !== 'planning' || found.plan_no !== plan) return 'done';
    await write((tx) => tx.raw('delete from import_rows where import_id = ?', [id]));
    const counts: Counts = { rows: 0, create: 0, update: 0, same: 0, refuse: 0, damaged: 0, applied: 0 };
    const reading = toCoreReading(found.reading);
    const seen = new Map<string, number>();
    let rowNo = 0,
      waiting: { row: number; cells: string[] }[] = [];
    const flush = async () => {
      if (waiting.length === 0) return;
      const rows = waiting;
      waiting = [];
      await storePlanned(write, id, await planRows(db, rows, reading, seen), counts);
      await progress(counts.rows, counts.rows);
    };
    const width = found.reading.columns.length;
    for await (const rows of openRows(db, found.file_id, found.kind, found.reading)) {
      for (const cells of rows) {
        rowNo++;
        if (rowNo <= found.reading.headerRow + 1 || isTrailingNote(cells, width)) continue;
        waiting.push({ row: rowNo, cells });
        if (waiting.length >= batch) await flush();
      }
    }
    await flush();
    await write(async (tx) => {
      await tx.raw(
        `update imports set state = 'planned', counts = ?, fault = null
          where id = ? and plan_no = ? and state = 'planning'`,
        [JSON.stringify(counts), id, plan],
      );
      await announce(tx, { topic: 'imports', id: String(id) });
    });
    return 'done';
  },
  onFailed: async ({ import: id, plan }, db, reason) => {
    await db.raw(`update imports set state = 'failed', fault = ? where id = ? and plan_no = ? and state = 'planning'`, [
      reason,
      id,
      plan,
    ]);
    await announce(db, { topic: 'imports', id: String(id) });
  },
  onCancelled: async ({ import: id }, db) => {
    await db.raw(`update imports set state = 'cancelled' where id = ? and state = 'planning'`, [id]);
    await announce(db, { topic: 'imports', id: String(id) });
  },
});

const toCoreReading = (r: ImportReadingShape): ImportReading => ({
  columns: r.columns.flatMap((c) => (c.field === null ? [] : [{ index: c.index, field: c.field }])),
  decimalSign: r.decimalSign === ',' ? ',' : '.',
  listSeparator: r.listSeparator,
  mode: r.mode,
  blankClears: r.blankClears,
  acceptMended: r.acceptMended,
});

async function planRows(
  db: Db,
  rows: readonly { row: number; cells: string[] }[],
  reading: ImportReading,
  seen: Map<string, number>,
): Promise<{ row: number; cells: string[]; planned: PlannedRow }[]> {
  const skuAt = reading.columns.find((c) => c.field === 'sku')?.index ?? -1;
  const skus = rows.map((r) => (r.cells[skuAt] ?? '').trim()).filter(Boolean);
  const held = new Map((await loadProductRows(db, 'p.sku = any(?)', [skus])).map((r) => [r.sku, toFields(r)]));
  return rows.map(({ row, cells }) => {
    const planned = planRow(cells, reading, held.get((cells[skuAt] ?? '').trim()), seen);
    if (planned.sku && !seen.has(planned.sku)) seen.set(planned.sku, row);
    return { row, cells, planned };
  });
}

async function storePlanned(
  write: Write,
  importId: number,
  rows: readonly { row: number; cells: string[]; planned: PlannedRow }[],
  counts: Counts,
): Promise<void> {
  for (const { planned } of rows) {
    counts.rows++;
    counts[planned.action]++;
    if (planned.problems.some((p) => p.mended !== undefined || p.says.includes('spreadsheet'))) counts.damaged++;
  }
  const records = rows.map(({ row, cells, planned }) => ({
    row,
    sku: planned.sku,
    action: planned.action,
    changes: planned.changes,
    problems: planned.problems,
    cells: planned.action === 'refuse' ? cells : null,
  }));
  const json = JSON.stringify(records);
  await write((tx) =>
    tx.raw(
      `insert into import_rows (import_id, "row", sku, action, changes, problems, cells)
      select ?, r."row", r.sku, r.action, r.changes, r.problems, r.cells
      from jsonb_to_recordset(?::jsonb) as r("row" int, sku text, action text, changes jsonb, problems jsonb, cells jsonb)
      on conflict do nothing`,
      [importId, json],
    ),
  );
}
