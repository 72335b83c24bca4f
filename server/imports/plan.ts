// Planning an import as a job: every row compared with what we hold, the outcome stored, nothing else changed.
import {
  classifyRow,
  createCutJudge,
  createNoveltyJudge,
  createSheetNotes,
  createShuffleJudge,
  createUnreadJudge,
  holdsEitherWay,
  type ImportReading,
  keepMerged,
  measureWidth,
  writeNumbersAsTexts,
} from '@basileus/core/sheet';
import type { FieldBook } from '@basileus/core/product';
import { z } from 'zod';
import { copyInto, toJson, type Write } from '../database';
import { announce } from '../events';
import { loadImportFields } from './listed';
import { defineJob } from '../jobs';
import { trimNewFamilies } from './new-families';
import { loadKnownNames, readByMarkets } from './novelties';
import {
  createNamer,
  isMistyped,
  loadBaseline,
  type PlannedSheetRow,
  planRows,
  type SheetRow,
  toCoreReading,
  toRecord,
  toRowShape,
} from './plan-rows';
import { type Counts, loadImport, loadMends, noCounts } from './queries';
import { openRows } from './read';
import { leaveTime, writeIfDue } from './timed';

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
    const fields = await loadImportFields(db, found.reading);
    const reading = toCoreReading(found.reading);
    const columns = Math.max(0, ...found.reading.columns.map((c) => c.index + 1));
    let header: string[] = [];
    const shape = toRowShape({ ...found, width: 0 });
    const nameOf = createNamer(found.reading),
      mends = await loadMends(db, id),
      novelties = createNoveltyJudge(fields),
      unread = createUnreadJudge(reading, fields),
      shuffles = createShuffleJudge(),
      cuts = createCutJudge(fields);
    const baseline = await loadBaseline(db, found);
    const seen = new Map<string, number>(),
      spelled = new Map<string, string>();
    let waiting: SheetRow[] = [],
      notes: SheetRow[] = [],
      storing = Promise.resolve();
    const flush = async () => {
      if (waiting.length === 0) return;
      const rows = waiting;
      waiting = [];
      if (shape.width === 0)
        shape.width = measureWidth(
          header,
          rows.map((r) => r.cells),
        );
      const planned = await planRows(db, rows, { reading, shape, nameOf, seen, spelled, fields, baseline });
      for (const p of planned) if (p.went) shuffles.note(p.cells, reading, p.went);
      for (const p of planned) if (p.planned.action !== 'refuse') novelties.note(p.row, p.planned.changes);
      for (const p of planned) if (p.planned.action === 'refuse') unread.note(p.row, p.cells, p.planned.problems);
      for (const p of planned) if (p.planned.action === 'update') cuts.note(p.planned.changes);
      for (const p of planned) countSigns(p, reading, fields, counts);
      await storing;
      // The next rows are read and compared meanwhile.
      storing = storePlanned(write, id, planned, counts);
      storing.catch(() => undefined);
      await progress(counts.rows, counts.rows, `row ${counts.lines}`);
    };
    const sheet = createSheetNotes();
    const endTable = (): void => {
      counts.notes += notes.length;
      if (counts.firstNote === 0) counts.firstNote = notes[0]?.row ?? 0;
      notes = [];
    };
    for await (const rows of openRows(db, found.file_id, found.kind, found.reading, sheet)) {
      for (const cells of rows) {
        const row = ++counts.lines;
        if (sheet.over.has(cells)) {
          endTable();
          counts.above++;
          continue;
        }
        if (row <= found.reading.headerRow + 1) {
          counts.above++;
          header = cells;
          continue;
        }
        const is = classifyRow(cells, columns, header);
        if (is === 'blank') counts.blank++;
        else if (is === 'header') counts.headings++;
        else if (is === 'sums') counts.sums++;
        else if (is === 'note' && notes.length < mostNotes) notes.push({ row, cells });
        else {
          if (sheet.hidden.has(cells)) {
            counts.hidden++;
            if (found.reading.hiddenRows === 'left-out') continue;
          }
          // What stands between items is no note under the table.
          counts.merged += Number(keepMerged(cells, sheet, reading.columns));
          waiting.push(...notes, {
            row,
            cells: withMends(writeNumbersAsTexts(cells, sheet, reading, fields), mends.get(row)),
          });
          notes = [];
          if (waiting.length >= batch) await flush();
        }
      }
    }
    await flush();
    await storing;
    // The rows of this file are new to the planner of the database, which took them for none and went through all for each.
    await db.raw('analyze import_rows');
    await trimNewFamilies(write, id, fields);
    endTable();
    const known = await loadKnownNames(db, novelties.fields()),
      fresh = await readByMarkets(db, novelties.list(known), known);
    await write(async (tx) => {
      await tx.raw(
        `update imports set state = 'planned', counts = ?, novelties = ?, unread = ?, shuffled = ?, cut_texts = ?, starts = ?, width = ?, fault = null
          where id = ? and plan_no = ? and state = 'planning'`,
        [
          JSON.stringify(counts),
          JSON.stringify(fresh),
          toJson(unread.list()),
          JSON.stringify(shuffles.list()),
          JSON.stringify(cuts.list()),
          JSON.stringify(sheet.starts),
          shape.width,
          id,
          plan,
        ],
      );
      await writeIfDue(tx, id);
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
    await leaveTime(db, id);
    await announce(db, { topic: 'imports', id: String(id) });
  },
  onCancelled: async ({ import: id }, db) => {
    await db.raw(
      `update imports set state = 'cancelled', due_at = null, due_by = null, next_at = null where id = ? and state = 'planning'`,
      [id],
    );
    await announce(db, { topic: 'imports', id: String(id) });
  },
});

function countSigns(
  { cells, planned }: PlannedSheetRow,
  reading: ImportReading,
  fields: FieldBook,
  counts: Counts,
): void {
  counts.otherSign += Number(
    planned.problems.some(({ fact }) => fact.is === 'damaged' && fact.damage.kind === 'other-sign'),
  );
  counts.eitherSign += Number(holdsEitherWay(cells, reading, fields));
}

/** A row's cells with those that a person has mended in the place of the file's. */
export function withMends(cells: string[], mends: ReadonlyMap<number, string> | undefined): string[] {
  if (!mends) return cells;
  const mended = [...cells];
  for (const [column, text] of mends) {
    while (mended.length <= column) mended.push('');
    mended[column] = text;
  }
  return mended;
}

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
    if (isMistyped(planned.problems)) counts.mistyped++;
    if (planned.problems.some((p) => p.fact.is === 'barcode-of')) counts.barcodes++;
  }
  await write((tx) =>
    copyInto(
      tx,
      'import_rows (import_id, "row", sku, action, changes, problems, cells, compared_with)',
      rows.map((r) => {
        const { row, sku, action, changes, problems, cells, comparedWith } = toRecord(r);
        return [
          importId,
          row,
          sku,
          action,
          toJson(changes),
          toJson(problems),
          cells === null ? null : toJson(cells),
          comparedWith,
        ];
      }),
    ),
  );
}
