// Taking a file in, correcting how it is read, mending its cells, letting it be written or dropping it.
import { keepKnownBy, readSku } from '@basileus/core/sheet';
import type { ImportReadingShape } from '@basileus/contract';
import type { FieldBook } from '@basileus/core/product';
import { type Db, rowOf } from '../database';
import { announce } from '../events';
import { loadWideFields } from '../choose';
import { nameListed } from './listed';
import { type Incoming, recogniseExport } from '../exports';
import { dropFile } from '../files';
import { AppError } from '../http';
import type { Threads } from '../jobs';
import { claimWriting, startPlan } from './begin';
import { mustBeClear } from './timed';
import { recallLayout, rememberLayout } from './layouts';
import { type ImportRow, mustLoadImport } from './queries';
import type { readColumns, Understood } from './read';
import { say } from '@basileus/core/text';

const mostUnderstandSeconds = 30;

/** Understands a stored file and begins to plan it. What cannot be read is dropped again. */
export async function takeIn(db: Db, threads: Threads, file: { id: number; name: string }): Promise<ImportRow> {
  try {
    const u = await threads.ask<Understood>(
      'understand-file',
      { file: file.id, name: file.name },
      mostUnderstandSeconds,
    );
    const fields = await loadWideFields(db);
    const { reading, from } = await recallLayout(db, nameListed(u.reading, fields), fields);
    const baseline = await recogniseExport(db, toIncoming(file.name, u.mark, reading, u.sample));
    const id = await db.transaction(async (tx) => {
      const row = (await rowOf<{ id: number }>(
        tx,
        `insert into imports (file_id, name, kind, state, reading, sheets, title_lines, sample, remembered_from, baseline_id)
          values (?, ?, ?, 'planning', ?, ?, ?, ?, ?, ?)
          returning id`,
        [
          file.id,
          file.name,
          u.kind,
          JSON.stringify(reading),
          JSON.stringify(u.sheets),
          JSON.stringify(u.titleLines),
          JSON.stringify(u.sample),
          from,
          baseline ?? null,
        ],
      ))!;
      await startPlan(tx, row.id, 1, file.name);
      await announce(tx, { topic: 'imports', id: String(row.id) });
      return row.id;
    });
    return await mustLoadImport(db, id);
  } catch (error) {
    await dropFile(db, file.id);
    throw error;
  }
}

/** How a file is read that was made here: what its columns are is said beside it. */
export const ownReading: Omit<ImportReadingShape, 'columns' | 'mode' | 'listSeparator'> = {
  encoding: 'utf-8',
  delimiter: ',',
  wrapped: false,
  sheet: null,
  alsoSheets: [],
  hiddenRows: 'read',
  headerRow: 0,
  decimalSign: '.',
  dateOrder: 'day-first',
  blankClears: false,
  acceptMended: true,
  knownBy: 'sku',
  makesSkus: false,
  asTwins: false,
  replacements: [],
};

/** Takes a file in of which it is known how it is read, in the caller's transaction, and begins to plan it. */
export async function takePrepared(
  tx: Db,
  file: { id: number; name: string },
  reading: ImportReadingShape,
  sample: readonly string[][],
): Promise<number> {
  const row = (await rowOf<{ id: number }>(
    tx,
    `insert into imports (file_id, name, kind, state, reading, sheets, title_lines, sample)
      values (?, ?, 'text', 'planning', ?, '[]', '[]', ?) returning id`,
    [file.id, file.name, JSON.stringify(reading), JSON.stringify(sample)],
  ))!;
  await startPlan(tx, row.id, 1, file.name);
  await announce(tx, { topic: 'imports', id: String(row.id) });
  return row.id;
}

/** A file as those that went out are compared with it. */
const toIncoming = (
  name: string,
  mark: string | null,
  reading: ImportReadingShape,
  sample: readonly string[][],
): Incoming => {
  const skuAt = reading.columns.find((c) => c.field === 'sku')?.index ?? -1;
  return {
    name,
    mark,
    fields: reading.columns.flatMap((c) => c.field ?? []),
    skus: sample
      .slice(reading.headerRow + 1)
      .map((cells) => readSku(cells[skuAt] ?? ''))
      .filter((sku) => sku !== ''),
  };
};

/** Takes a file that comes back as one that is new, and plans it anew. */
export async function forgetBaseline(db: Db, id: number): Promise<ImportRow> {
  const found = await mustLoadImport(db, id);
  if (found.state === 'applying' || found.state === 'applied')
    throw new AppError('not-now', say`This import has been written already.`, {
      remedy: say`Drop the file again to read it another way.`,
    });
  await db.transaction(async (tx) => {
    const { plan_no: plan } = (await rowOf<{ plan_no: number }>(
      tx,
      `update imports set baseline_id = null, shuffled = '[]', state = 'planning', plan_no = plan_no + 1, fault = null where id = ? returning plan_no`,
      [id],
    ))!;
    await startPlan(tx, id, plan, found.name);
    await announce(tx, { topic: 'imports', id: String(id) });
  });
  return mustLoadImport(db, id);
}

/** Refuses a reading by which rows could not be matched, or in which two columns would write one field. */
function judgeReading(reading: ImportReadingShape, fields: FieldBook): void {
  const taken = new Set<string>();
  for (const { field, name } of reading.columns.flatMap((c) =>
    (c.parts ?? [c.field]).map((f) => ({ ...c, field: f })),
  )) {
    if (field === null) continue;
    const known = fields.get(field);
    if (!known)
      throw new AppError('bad-input', say`We have no field “${field}”, which “${name}” is to fill.`, {
        field: 'columns',
        remedy: say`Choose a field of ours, or leave the column out.`,
      });
    if (known.kind === 'list') continue;
    if (taken.has(field))
      throw new AppError('bad-input', say`Two columns hold ${known.label}; “${name}” is one of them.`, {
        field: 'columns',
        remedy: say`Give one of them another field, or none.`,
      });
    taken.add(field);
  }
  if (!taken.has(reading.knownBy)) {
    const label = fields.labelOf(reading.knownBy);
    throw new AppError('bad-input', say`No column holds the ${label}, so rows cannot be matched.`, {
      field: 'columns',
      remedy: say`Choose the column that holds the ${label}.`,
    });
  }
}

/** Corrects how a file is read, keeps that for the next file of its kind, and plans anew. */
export async function changeReading(
  db: Db,
  threads: Threads,
  id: number,
  wanted: ImportReadingShape,
): Promise<ImportRow> {
  const found = await mustLoadImport(db, id);
  if (found.state === 'applying' || found.state === 'applied')
    throw new AppError('not-now', say`This import has been written already.`, {
      remedy: say`Drop the file again to read it another way.`,
    });
  const isAnew = hasOtherColumns(found.reading, wanted);
  // Fields of columns that will not be there any more are no fault.
  if (!isAnew) judgeReading(wanted, await loadWideFields(db));
  const reading = isAnew ? await withColumnsAnew(db, threads, found, wanted) : wanted;
  await db.transaction(async (tx) => {
    await rememberLayout(tx, found.name, reading);
    const plan = (await rowOf<{ plan_no: number }>(
      tx,
      `update imports
        set reading = ?, state = 'planning', plan_no = plan_no + 1, fault = null
        where id = ?
        returning plan_no`,
      [JSON.stringify(reading), id],
    ))!.plan_no;
    await startPlan(tx, id, plan, found.name);
    await announce(tx, { topic: 'imports', id: String(id) });
  });
  return mustLoadImport(db, id);
}

/** A changed header row, encoding, delimiter or sheet makes other columns. */
const hasOtherColumns = (was: ImportReadingShape, wanted: ImportReadingShape): boolean =>
  (['headerRow', 'encoding', 'delimiter', 'sheet'] as const).some((part) => was[part] !== wanted[part]);

/** The columns of a file under another reading; their fields are guessed anew. */
async function withColumnsAnew(
  db: Db,
  threads: Threads,
  { id, file_id, kind }: ImportRow,
  wanted: ImportReadingShape,
): Promise<ImportReadingShape> {
  const anew = await threads.ask<Awaited<ReturnType<typeof readColumns>>>(
    'read-columns',
    { file: file_id, kind, reading: wanted },
    mostUnderstandSeconds,
  );
  await db.raw('update imports set sample = ?, title_lines = ?, sheets = ? where id = ?', [
    JSON.stringify(anew.sample),
    JSON.stringify(anew.titleLines),
    JSON.stringify(anew.sheets),
    id,
  ]);
  const knownBy = keepKnownBy(wanted.knownBy, anew.columns);
  return nameListed({ ...wanted, columns: anew.columns, knownBy, alsoSheets: [] }, await loadWideFields(db));
}

/** Lets a planned import be written. */
export async function startWriting(db: Db, id: number, actor: string): Promise<string> {
  const found = await mustLoadImport(db, id);
  mustBeClear(found);
  const job = await db.transaction((tx) => claimWriting(tx, id, found.name, actor));
  if (job === undefined)
    throw new AppError(
      'not-now',
      found.state === 'applying' || found.state === 'applied'
        ? say`This import is being written or has been written already.`
        : say`This import is not planned yet.`,
      { remedy: say`Wait until it has been read.` },
    );
  await announce(db, { topic: 'imports', id: String(id) });
  return job;
}

/** Drops an import that was not written, with its file. */
export async function discard(db: Db, id: number): Promise<void> {
  const found = await mustLoadImport(db, id);
  if (found.state === 'applying' || found.state === 'applied')
    throw new AppError('not-now', say`This import has been written; take it back in the change history.`);
  await db.raw('delete from imports where id = ?', [id]);
  await dropFile(db, found.file_id);
  await announce(db, { topic: 'imports' });
}
