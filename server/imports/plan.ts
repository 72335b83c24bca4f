// Planning an import as a job: every row compared with what we hold, the outcome stored, nothing else changed.
import type { ImportReadingShape, ImportShape } from '@basileus/contract';
import {
  classifyRow,
  findRowFaults,
  measureWidth,
  type ImportReading,
  type PlannedRow,
  planRow,
  type RowShape,
  sheetBounds,
} from '@basileus/core/sheet';
import { dropBroken } from '@basileus/core/text';
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
  sheets: ImportShape['sheets'];
  title_lines: string[];
  sample: string[][];
  counts: Partial<Counts>;
  fault: string | null;
  change_set_id: number | null;
  created_at: Date;
  size: number;
}
export type Counts = ImportShape['counts'];
export const noCounts: Counts = {
  lines: 0,
  above: 0,
  blank: 0,
  notes: 0,
  firstNote: 0,
  swallowed: 0,
  rows: 0,
  create: 0,
  update: 0,
  same: 0,
  refuse: 0,
  damaged: 0,
  applied: 0,
  conflicts: 0,
};
export const loadImport = (db: Db, id: number): Promise<ImportRow | undefined> =>
  rowOf<ImportRow>(db, 'select i.*, f.size from imports i join files f on f.id = i.file_id where i.id = ?', [id]);

const batch = 1000;
/** Lines under a table that may be notes; more of them are rows. */
const mostNotes = 20;

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
    const counts: Counts = { ...noCounts };
    const reading = toCoreReading(found.reading);
    const columns = Math.max(0, ...found.reading.columns.map((c) => c.index + 1));
    let header: string[] = [];
    const shape: RowShape = {
      delimiter: found.kind === 'text' ? found.reading.delimiter : undefined,
      // Measured when the first rows are there.
      width: 0,
      skuAt: reading.columns.find((c) => c.field === 'sku')?.index ?? -1,
      used: new Set(reading.columns.map((c) => c.index)),
    };
    const names = new Map(found.reading.columns.map((c) => [c.index, c.name]));
    const nameOf = (index: number): string => names.get(index) ?? `Column ${index + 1}`;
    const seen = new Map<string, number>();
    let waiting: SheetRow[] = [],
      notes: SheetRow[] = [];
    const flush = async () => {
      if (waiting.length === 0) return;
      const rows = waiting;
      waiting = [];
      if (shape.width === 0)
        shape.width = measureWidth(
          header,
          rows.map((r) => r.cells),
        );
      await storePlanned(write, id, await planRows(db, rows, reading, shape, nameOf, seen), counts);
      await progress(counts.rows, counts.rows, `row ${counts.lines}`);
    };
    for await (const rows of openRows(db, found.file_id, found.kind, found.reading)) {
      for (const cells of rows) {
        const row = ++counts.lines;
        if (row <= found.reading.headerRow + 1) {
          counts.above++;
          header = cells;
          continue;
        }
        const is = classifyRow(cells, columns);
        if (is === 'blank') counts.blank++;
        else if (is === 'note' && notes.length < mostNotes) notes.push({ row, cells });
        else {
          // What stands between items is no note under the table.
          waiting.push(...notes, { row, cells });
          notes = [];
          if (waiting.length >= batch) await flush();
        }
      }
    }
    await flush();
    counts.notes = notes.length;
    counts.firstNote = notes[0]?.row ?? 0;
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

interface SheetRow {
  row: number;
  cells: string[];
}
interface PlannedSheetRow extends SheetRow {
  planned: PlannedRow;
  swallowed: number;
}

async function planRows(
  db: Db,
  rows: readonly SheetRow[],
  reading: ImportReading,
  shape: RowShape,
  nameOf: (index: number) => string,
  seen: Map<string, number>,
): Promise<PlannedSheetRow[]> {
  // A database text holds no zero character; a SKU with one is refused, and not looked for.
  const skuOf = (cells: readonly string[]): string => (cells[shape.skuAt] ?? '').trim();
  const skus = rows.map((r) => skuOf(r.cells)).filter((s) => s !== '' && s.length < 1000 && dropBroken(s) === s);
  const held = new Map((await loadProductRows(db, 'p.sku = any(?)', [skus])).map((r) => [r.sku, r]));
  return rows.map(({ row, cells }) => {
    const { problems: faults, swallowed } = findRowFaults(cells, shape, nameOf);
    const product = held.get(skuOf(cells));
    const planned = planRow(cells, reading, product && toFields(product), {
      seen,
      faults,
      keepsNoStock: product?.kind === 'family' || product?.kind === 'bundle',
    });
    if (planned.sku && !seen.has(planned.sku)) seen.set(planned.sku, row);
    return { row, cells, planned, swallowed };
  });
}

/** A refused cell as it is kept for the file of refused rows: whole characters, no more than a sheet's cell holds. */
const keepCell = (cell: string): string => dropBroken(cell.slice(0, sheetBounds.cellCharacters));

async function storePlanned(
  write: Write,
  importId: number,
  rows: readonly PlannedSheetRow[],
  counts: Counts,
): Promise<void> {
  for (const { planned, swallowed } of rows) {
    counts.rows++;
    counts.swallowed += swallowed;
    counts[planned.action]++;
    if (planned.problems.some((p) => p.kind === 'damage')) counts.damaged++;
  }
  const records = rows.map(({ row, cells, planned }) => ({
    row,
    sku: keepCell(planned.sku).slice(0, 200),
    action: planned.action,
    changes: planned.changes,
    problems: planned.problems.map((p) => ({
      ...p,
      value: keepCell(p.value).slice(0, 500),
      says: dropBroken(p.says.slice(0, 2000)),
      ...(p.mended === undefined ? {} : { mended: keepCell(p.mended) }),
    })),
    cells: planned.action === 'refuse' ? cells.map(keepCell) : null,
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
