// Making a file of the catalog, as a job: streamed into the store of files, and what each row held kept beside it, so that the
// file is known when it comes back.
import { randomBytes } from 'node:crypto';
import type { ExportWanted } from '@basileus/contract';
import type { Value, Values } from '@basileus/core/listing';
import { createExportWriter } from '@basileus/core/sheet';
import type { FieldBook, ProductField } from '@basileus/core/product';
import { z } from 'zod';
import { loadListedValues, loadWideFields, toWhichSql } from '../choose';
import { copyInto, type Db, rowOf, rowsOf, toJson } from '../database';
import { announce } from '../events';
import { deflatePiece, dropFile, storeFile } from '../files';
import { AppError } from '../http';
import { defineJob, enqueue } from '../jobs';
import { loadProductsWith, toFields } from '../products';
import { mustLoadExport, readWhich } from './queries';
import { say } from '@basileus/core/text';

const rowsAtOnce = 2000;

/** Columns of a file: fields that there are, each once, the SKU first. Refuses a field that is not known. */
export function toColumns(keys: readonly string[], book: FieldBook): ProductField[] {
  const wanted = ['sku', ...keys.filter((k) => k !== 'sku')];
  return [...new Set(wanted)].map((key) => {
    const field = book.get(key);
    if (!field)
      throw new AppError('bad-input', say`There is no field “${key}”.`, {
        field: 'columns',
        remedy: say`Choose the columns anew.`,
      });
    return field;
  });
}

/** Begins to make a file. Refuses what cannot be asked, and fields that are not known. */
export const beginExport = (
  db: Db,
  wanted: ExportWanted & { name: string },
  actor: string,
): Promise<{ id: number; job: string }> =>
  db.transaction(async (tx) => {
    const book = await loadWideFields(tx);
    const columns = toColumns(wanted.columns, book).map((c) => c.key);
    await toWhichSql(tx, wanted.which, book);
    const { id } = (await rowOf<{ id: number }>(
      tx,
      `insert into exports (name, which, columns, format, mark, actor) values (?, ?::jsonb, ?::jsonb, ?, ?, ?) returning id`,
      [
        wanted.name,
        JSON.stringify(wanted.which),
        JSON.stringify(columns),
        wanted.format,
        randomBytes(12).toString('hex'),
        actor,
      ],
    ))!;
    const job = await enqueue(tx, {
      kind: 'make-export',
      title: `File ${wanted.name}`,
      payload: { export: id },
      link: '/all/gather/exports',
      cancellable: true,
    });
    await announce(tx, { topic: 'exports' });
    return { id, job };
  });

const toFile = ({ id, name, format }: { id: number; name: string; format: string }): string =>
  `${name.replace(/[^\p{L}\p{N} ._-]+/gu, ' ').trim() || 'Catalog'} ${id}.${format}`;
export { toFile as nameExportFile };

const fail = async (id: number, db: Db): Promise<void> => {
  await db.raw(`update exports set state = 'failed' where id = ? and state = 'making'`, [id]);
  await announce(db, { topic: 'exports' });
};

export const makeExportJob = defineJob({
  kind: 'make-export',
  payload: z.strictObject({ export: z.int() }),
  attempts: 3,
  mostSeconds: 3600,
  run: async ({ export: id }, { db, progress, write }) => {
    const found = await mustLoadExport(db, id);
    if (found.state !== 'making') return 'done';
    const book = await loadWideFields(db);
    const columns = toColumns(found.columns, book),
      keys = columns.map((c) => c.key);
    const { sql, bindings } = await toWhichSql(db, readWhich(found), book);
    const ids = (
      await rowsOf<{ id: number }>(
        db,
        `select p.id from products p where ${sql} order by p.shelf_order, p.parent_id is not null, p.id`,
        bindings,
      )
    ).map((r) => r.id);
    const writer = createExportWriter(found.format, columns, found.mark, deflatePiece);
    // What a run before this one has left is made anew.
    await write((tx) => tx.raw('delete from export_rows where export_id = ?', [id]));
    let rows = 0;
    const bytes = async function* (): AsyncGenerator<Uint8Array> {
      yield writer.head();
      for (let i = 0; i < ids.length; i += rowsAtOnce) {
        const page = await loadPage(db, keys, ids.slice(i, i + rowsAtOnce));
        rows += page.length;
        await write((tx) =>
          copyInto(
            tx,
            'export_rows (export_id, sku, "values")',
            page.map((values) => [id, values['sku'] as string, toJson(values)]),
          ),
        );
        yield writer.rows(page);
        await progress(rows, ids.length);
      }
      yield writer.end();
    };
    const file = await storeFile(db, toFile(found), bytes());
    const isKept = await write(async (tx) => {
      const kept = await rowOf(
        tx,
        `update exports set file_id = ?, rows = ?, state = 'ready' where id = ? and state = 'making' returning id`,
        [file.id, rows, id],
      );
      await announce(tx, { topic: 'exports' });
      return kept !== undefined;
    });
    if (!isKept) await dropFile(db, file.id);
    return 'done';
  },
  onFailed: ({ export: id }, db) => fail(id, db),
  onCancelled: ({ export: id }, db) => fail(id, db),
});

/** Items by id, in that order, with the fields of the file alone. */
async function loadPage(db: Db, keys: readonly string[], ids: readonly number[]): Promise<Values[]> {
  const held = new Map((await loadProductsWith(db, keys, ids)).map((r) => [r.id, r]));
  const wanted = new Set(keys),
    listed = await loadListedValues(db, keys, ids);
  return ids.flatMap((id): Values[] => {
    const row = held.get(id);
    if (!row) return [];
    const fields = toFields(row),
      values: Record<string, Value> = {};
    for (const key in fields) if (wanted.has(key)) values[key] = fields[key]!;
    return [{ ...values, ...listed.get(id) }];
  });
}
