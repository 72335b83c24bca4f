import {
  applyImport,
  changeImport,
  decideImport,
  discardImport,
  downloadRefused,
  type ImportRowShape,
  type ImportShape,
  listImportRows,
  listImports,
  readImport,
  uploadImport,
} from '@basileus/contract';
import { writeRows } from '@basileus/core/sheet';
import type { Router } from 'express';
import { type Db, rowOf, rowsOf } from '../database';
import { announce } from '../events';
import { dropFile, storeFile } from '../files';
import { AppError, route } from '../http';
import { receiveUpload } from '../http/upload';
import { enqueue, type Threads } from '../jobs';
import { type ImportRow, loadImport, noCounts } from './plan';
import { decideRows, startApply } from './decide';
import type { readColumns, Understood } from './read';

/** Bytes of an uploaded sheet at the most. */
export const mostUploadBytes = 250_000_000;

const toShape = (r: ImportRow): ImportShape => ({
  id: r.id,
  name: r.name,
  size: r.size,
  state: r.state as ImportShape['state'],
  kind: r.kind,
  sheets: r.sheets,
  titleLines: r.title_lines,
  sample: r.sample,
  reading: r.reading,
  counts: { ...noCounts, ...r.counts },
  fault: r.fault,
  createdAt: r.created_at.toISOString(),
});

const startPlan = (db: Db, id: number, plan: number, name: string): Promise<string> =>
  enqueue(db, {
    kind: 'plan-import',
    title: `Reading ${name}`,
    payload: { import: id, plan },
    once: `plan-${id}-${plan}`,
    link: `/all/gather/imports/${id}`,
    cancellable: true,
  });

const mostUnderstandSeconds = 30;

export function addImportRoutes(router: Router, db: Db, threads: Threads): void {
  const mustLoad = async (id: number): Promise<ImportRow> => {
    const found = await loadImport(db, id);
    if (!found) throw new AppError('not-found', `There is no import ${id}.`);
    return found;
  };

  route(router, uploadImport, async ({ request, response }) => {
    const { file, name } = await receiveUpload({ request, response }, mostUploadBytes, async (f) => ({
      file: await storeFile(db, f.name, f.bytes, mostUploadBytes),
      name: f.name,
    }));
    try {
      const u = await threads.ask<Understood>('understand-file', { file: file.id, name }, mostUnderstandSeconds);
      const id = await db.transaction(async (tx) => {
        const row = (await rowOf<{ id: number }>(
          tx,
          `insert into imports (file_id, name, kind, state, reading, sheets, title_lines, sample)
            values (?, ?, ?, 'planning', ?, ?, ?, ?)
            returning id`,
          [
            file.id,
            name,
            u.kind,
            JSON.stringify(u.reading),
            JSON.stringify(u.sheets),
            JSON.stringify(u.titleLines),
            JSON.stringify(u.sample),
          ],
        ))!;
        await startPlan(tx, row.id, 1, name);
        await announce(tx, { topic: 'imports', id: String(row.id) });
        return row.id;
      });
      return toShape(await mustLoad(id));
    } catch (error) {
      await dropFile(db, file.id);
      throw error;
    }
  });
  route(router, listImports, async () => ({
    rows: (
      await rowsOf<ImportRow>(
        db,
        'select i.*, f.size from imports i join files f on f.id = i.file_id order by i.id desc limit 50',
      )
    ).map(toShape),
  }));
  route(router, readImport, async ({ params }) => toShape(await mustLoad(params.id)));
  route(router, changeImport, async ({ params, body }) => {
    const found = await mustLoad(params.id);
    if (found.state === 'applying' || found.state === 'applied')
      throw new AppError('not-now', 'This import has been written already.', {
        remedy: 'Drop the file again to read it another way.',
      });
    const taken = new Set<string>();
    const twice = body.columns.find((c) => {
      if (c.field === null) return false;
      const isTaken = taken.has(c.field);
      taken.add(c.field);
      return isTaken;
    });
    if (twice)
      throw new AppError('bad-input', `Two columns hold ${twice.field ?? ''}; “${twice.name}” is one of them.`, {
        field: 'columns',
        remedy: 'Give one of them another field, or none.',
      });
    if (!body.columns.some((c) => c.field === 'sku'))
      throw new AppError('bad-input', 'No column holds the SKU, so rows cannot be matched.', {
        field: 'columns',
        remedy: 'Choose the column that holds the SKU.',
      });
    const reading = await withColumnsAnew(found, body);
    await db.transaction(async (tx) => {
      const plan = (await rowOf<{ plan_no: number }>(
        tx,
        `update imports
          set reading = ?, state = 'planning', plan_no = plan_no + 1, fault = null
          where id = ?
          returning plan_no`,
        [JSON.stringify(reading), params.id],
      ))!.plan_no;
      await startPlan(tx, params.id, plan, found.name);
      await announce(tx, { topic: 'imports', id: String(params.id) });
    });
    return toShape(await mustLoad(params.id));
  });

  /** A changed header row, encoding, delimiter or sheet makes other columns; their fields are guessed anew. */
  async function withColumnsAnew(found: ImportRow, body: ImportShape['reading']): Promise<ImportShape['reading']> {
    const was = found.reading;
    if (
      was.headerRow === body.headerRow &&
      was.encoding === body.encoding &&
      was.delimiter === body.delimiter &&
      was.sheet === body.sheet
    )
      return body;
    const anew = await threads.ask<Awaited<ReturnType<typeof readColumns>>>(
      'read-columns',
      { file: found.file_id, kind: found.kind, reading: body },
      mostUnderstandSeconds,
    );
    await db.raw('update imports set sample = ?, title_lines = ? where id = ?', [
      JSON.stringify(anew.sample),
      JSON.stringify(anew.titleLines),
      found.id,
    ]);
    return { ...body, columns: anew.columns };
  }

  route(router, listImportRows, async ({ params, query }) => {
    const [where, bindings] =
      query.action === ''
        ? ['import_id = ?', [params.id]]
        : query.action === 'damaged'
          ? ['import_id = ? and jsonb_array_length(problems) > 0', [params.id]]
          : query.action === 'conflict'
            ? ['import_id = ? and clash is not null', [params.id]]
            : ['import_id = ? and action = ?', [params.id, query.action]];
    const total = (await rowOf<{ n: number }>(db, `select count(*) as n from import_rows where ${where}`, bindings))!.n;
    return {
      total,
      rows: await rowsOf<ImportRowShape>(
        db,
        `select "row", sku, action, changes, problems, applied, clash, conflicts
          from import_rows
          where ${where}
          order by "row" offset ? limit ?`,
        [...bindings, query.offset, query.limit],
      ),
    };
  });
  route(router, applyImport, async ({ params, actor }) => {
    const found = await mustLoad(params.id);
    if (found.reading.decimalSign === 'undetermined')
      throw new AppError(
        'bad-input',
        'The prices of this file can be read in two ways; say which decimal sign it uses.',
        { field: 'decimalSign', remedy: 'Choose point or comma.' },
      );
    const job = await db.transaction(async (tx) => {
      const claimed = await rowOf(
        tx,
        `update imports set state = 'applying' where id = ? and state = 'planned' returning id`,
        [params.id],
      );
      if (!claimed)
        throw new AppError(
          'not-now',
          found.state === 'applying' || found.state === 'applied'
            ? 'This import is being written or has been written already.'
            : 'This import is not planned yet.',
          { remedy: 'Wait until it has been read.' },
        );
      return startApply(tx, params.id, found.name, actor);
    });
    await announce(db, { topic: 'imports', id: String(params.id) });
    return { job };
  });
  route(router, decideImport, async ({ params, body, actor }) => {
    const found = await mustLoad(params.id);
    return db.transaction((tx) => decideRows(tx, found, body.take, body.rows, actor));
  });
  route(router, discardImport, async ({ params }) => {
    const found = await mustLoad(params.id);
    if (found.state === 'applying' || found.state === 'applied')
      throw new AppError('not-now', 'This import has been written; take it back in the change history.');
    await db.raw('delete from imports where id = ?', [params.id]);
    await dropFile(db, found.file_id);
    await announce(db, { topic: 'imports' });
    return { ok: true as const };
  });
  route(router, downloadRefused, async ({ params, response }) => {
    const found = await mustLoad(params.id);
    const rows = await rowsOf<{ row: number; cells: string[] | null; problems: { says: string }[] }>(
      db,
      `select "row", cells, problems from import_rows where import_id = ? and action = 'refuse' order by "row"`,
      [params.id],
    );
    const width = Math.max(0, ...found.reading.columns.map((c) => c.index + 1));
    const names = Array.from({ length: width }, (_, i) => found.reading.columns.find((c) => c.index === i)?.name ?? '');
    const text = writeRows(
      [
        [...names, 'Row', 'Why it was refused'],
        ...rows.map((r) => [
          ...Array.from({ length: width }, (_, i) => r.cells?.[i] ?? ''),
          String(r.row),
          r.problems.map((p) => p.says).join(' '),
        ]),
      ],
      {
        delimiter: found.reading.delimiter === '\t' ? '\t' : found.reading.delimiter,
        newline: '\r\n',
        forPeople: true,
      },
    );
    response
      .attachment(`refused-${params.id}.csv`)
      .type('text/csv; charset=utf-8')
      .send('\ufeff' + text);
    return undefined;
  });
}
