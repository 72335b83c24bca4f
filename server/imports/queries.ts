import {
  importReading,
  type ImportReadingShape,
  type ImportRowShape,
  importShape,
  type ImportShape,
} from '@basileus/contract';
import { type Db, parseColumn, rowOf, rowsOf } from '../database';
import { nameLine, type Problem, type ProblemFact, type Unread, wordProblem } from '@basileus/core/sheet';
import { loadFieldsOfImport, loadImportFields } from './listed';
import { AppError } from '../http';
import type { FieldBook } from '@basileus/core/product';
import { say } from '@basileus/core/text';
import { z } from 'zod';

export type Counts = ImportShape['counts'];
export interface ImportRow {
  id: number;
  file_id: number;
  name: string;
  kind: 'text' | 'workbook';
  state: ImportShape['state'];
  plan_no: number;
  reading: ImportReadingShape;
  sheets: ImportShape['sheets'];
  title_lines: string[];
  sample: string[][];
  counts: Partial<Counts>;
  novelties: ImportShape['novelties'];
  unread: Unread[];
  cut_texts: ImportShape['cutTexts'];
  starts: ImportShape['starts'];
  remembered_from: string | null;
  width: number;
  fault: string | null;
  change_set_id: number | null;
  baseline_id: number | null;
  baseline: { id: number; name: string; at: string } | null;
  shuffled: string[];
  created_at: Date;
  due_at: Date | null;
  due_by: string | null;
  size: number;
}
export const noCounts: Counts = {
  lines: 0,
  above: 0,
  headings: 0,
  sums: 0,
  blank: 0,
  notes: 0,
  hidden: 0,
  firstNote: 0,
  swallowed: 0,
  rows: 0,
  create: 0,
  update: 0,
  same: 0,
  refuse: 0,
  damaged: 0,
  mistyped: 0,
  barcodes: 0,
  applied: 0,
  conflicts: 0,
  otherSign: 0,
  eitherSign: 0,
  merged: 0,
};

const select = `select i.*, f.size,
    (select jsonb_build_object('id', e.id, 'name', e.name, 'at', e.at) from exports e where e.id = i.baseline_id) as baseline
  from imports i join files f on f.id = i.file_id`;
const stored = importShape.pick({
  sheets: true,
  titleLines: true,
  sample: true,
  novelties: true,
  cutTexts: true,
  starts: true,
  shuffled: true,
}).shape;
const storedUnread = z.array(
  z.object({
    field: z.string(),
    value: z.string(),
    as: z.string().optional(),
    fact: z.custom<ProblemFact>((f) => typeof f === 'object' && f !== null && 'is' in f),
    rows: z.number(),
    first: z.number(),
  }),
);
const storedCounts = importShape.shape.counts.partial();

const fromRow = (r: ImportRow): ImportRow => ({
  ...r,
  reading: parseColumn('imports.reading', importReading, r.reading),
  sheets: parseColumn('imports.sheets', stored.sheets, r.sheets),
  title_lines: parseColumn('imports.title_lines', stored.titleLines, r.title_lines),
  sample: parseColumn('imports.sample', stored.sample, r.sample),
  novelties: parseColumn('imports.novelties', stored.novelties, r.novelties),
  unread: parseColumn('imports.unread', storedUnread, r.unread) as Unread[],
  starts: parseColumn('imports.starts', stored.starts, r.starts),
  cut_texts: parseColumn('imports.cut_texts', stored.cutTexts, r.cut_texts),
  shuffled: parseColumn('imports.shuffled', stored.shuffled, r.shuffled),
  counts: parseColumn('imports.counts', storedCounts, r.counts) as Partial<Counts>,
});

export async function loadImport(db: Db, id: number): Promise<ImportRow | undefined> {
  const row = await rowOf<ImportRow>(db, `${select} where i.id = ?`, [id]);
  return row && fromRow(row);
}

/** The import, or a refusal where there is none. */
export async function mustLoadImport(db: Db, id: number): Promise<ImportRow> {
  const found = await loadImport(db, id);
  if (!found) throw new AppError('not-found', say`There is no import ${id}.`);
  return found;
}

type Listed = 'id' | 'name' | 'size' | 'state' | 'counts' | 'createdAt' | 'fault' | 'due';
const toDue = ({ due_at: at, due_by: by }: ImportRow): ImportShape['due'] =>
  at === null || by === null ? null : { at: at.toISOString(), by };
/** The newest imports, and how each stands. */
export async function loadImports(db: Db): Promise<Pick<ImportShape, Listed>[]> {
  const rows = await rowsOf<ImportRow>(db, `${select} order by i.id desc limit 50`);
  return rows.map(fromRow).map((r) => ({
    ...{ id: r.id, name: r.name, size: r.size, state: r.state, fault: r.fault, due: toDue(r) },
    counts: { ...noCounts, ...r.counts },
    createdAt: r.created_at.toISOString(),
  }));
}

const toShape = (r: ImportRow, fields: Pick<FieldBook, 'labelOf'>): ImportShape => ({
  id: r.id,
  name: r.name,
  size: r.size,
  state: r.state,
  kind: r.kind,
  sheets: r.sheets,
  titleLines: r.title_lines,
  sample: r.sample,
  reading: r.reading,
  counts: { ...noCounts, ...r.counts },
  novelties: r.novelties,
  unread: r.unread.map(({ field, value, as, fact, rows, first }) => ({
    ...{ field, value, rows, first },
    says: wordProblem({ field, value: as ?? value, fact }, fields, (n) => nameLine(n, r.starts)),
  })),
  cutTexts: r.cut_texts,
  starts: r.starts,
  rememberedFrom: r.remembered_from,
  fault: r.fault,
  baseline: r.baseline,
  shuffled: r.shuffled,
  due: toDue(r),
  createdAt: r.created_at.toISOString(),
});

/** An import as it is shown, what is wrong with its cells in words. */
export const showImport = async (db: Db, row: ImportRow): Promise<ImportShape> =>
  toShape(row, await loadImportFields(db, row.reading));

/** A planned row as it is kept: its problems are facts, worded where they are shown. */
type StoredRow = Omit<ImportRowShape, 'problems'> & { problems: Problem[] };

/** Planned rows of one kind: an action, those with remarks, those that wait for a decision, or all. */
export type RowView = '' | 'create' | 'update' | 'same' | 'refuse' | 'damaged' | 'conflict';
const viewSql: Readonly<Record<RowView, string>> = {
  '': 'true',
  create: `action = 'create'`,
  update: `action = 'update'`,
  same: `action = 'same'`,
  refuse: `action = 'refuse'`,
  damaged: 'jsonb_array_length(problems) > 0',
  conflict: 'clash is not null',
};

export async function loadImportRows(
  db: Db,
  id: number,
  { action, offset, limit }: { action: RowView; offset: number; limit: number },
): Promise<{ total: number; rows: ImportRowShape[] }> {
  const where = `import_id = ? and ${viewSql[action]}`;
  const fields = await loadFieldsOfImport(db, id),
    { starts } = await mustLoadImport(db, id);
  return {
    total: (await rowOf<{ n: number }>(db, `select count(*) as n from import_rows where ${where}`, [id]))!.n,
    rows: (
      await rowsOf<StoredRow>(
        db,
        `select "row", sku, action, changes, problems, applied, cells, clash, conflicts
          from import_rows
          where ${where}
          order by "row" offset ? limit ?`,
        [id, offset, limit],
      )
    ).map((r) => ({
      ...r,
      problems: r.problems.map(({ field, value, kind, level, mended, fact }) => ({
        field,
        value,
        kind,
        level,
        says: wordProblem({ field, value, fact }, fields, (n) => nameLine(n, starts)),
        ...(mended === undefined ? {} : { mended }),
      })),
    })),
  };
}

export const loadRefusedRows = (
  db: Db,
  id: number,
): Promise<{ row: number; cells: string[] | null; problems: Problem[] }[]> =>
  rowsOf(
    db,
    `select "row", cells, problems from import_rows where import_id = ? and action = 'refuse' order by "row"`,
    [id],
  );

/** Cells that a person has mended, by row and column. */
export async function loadMends(db: Db, id: number): Promise<Map<number, Map<number, string>>> {
  const mends = new Map<number, Map<number, string>>();
  for (const m of await rowsOf<{ row: number; col: number; text: string }>(
    db,
    'select "row", col, text from import_mends where import_id = ?',
    [id],
  ))
    (mends.get(m.row) ?? mends.set(m.row, new Map()).get(m.row)!).set(m.col, m.text);
  return mends;
}
