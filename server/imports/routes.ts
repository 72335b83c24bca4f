import {
  applyImport,
  changeImport,
  decideImport,
  discardImport,
  downloadRefused,
  listImportRows,
  listImports,
  mendImportRow,
  readImport,
  takeAsNew,
  timeImport,
  uploadImport,
} from '@basileus/contract';
import type { Router } from 'express';
import type { Db } from '../database';
import { storeFile } from '../files';
import { route } from '../http';
import { receiveUpload } from '../http';
import type { Threads } from '../jobs';
import { decideRows } from './decide';
import { mendRow } from './mend';
import { loadImportRows, loadImports, mustLoadImport, showImport } from './queries';
import { writeRefused } from './refused';
import { changeReading, discard, forgetBaseline, startWriting, takeIn } from './service';
import { timeWriting } from './timed';

/** Bytes of an uploaded sheet at the most. */
export const mostUploadBytes = 250_000_000;

export function addImportRoutes(router: Router, db: Db, threads: Threads): void {
  route(router, uploadImport, async ({ request, response }) => {
    const file = await receiveUpload({ request, response }, mostUploadBytes, async (f) => ({
      id: (await storeFile(db, f.name, f.bytes, mostUploadBytes)).id,
      name: f.name,
    }));
    return showImport(db, await takeIn(db, threads, file));
  });
  route(router, listImports, async () => ({ rows: await loadImports(db) }));
  route(router, readImport, async ({ params }) => showImport(db, await mustLoadImport(db, params.id)));
  route(router, changeImport, async ({ params, body }) =>
    showImport(db, await changeReading(db, threads, params.id, body)),
  );
  route(router, takeAsNew, async ({ params }) => showImport(db, await forgetBaseline(db, params.id)));
  route(router, listImportRows, ({ params, query }) => loadImportRows(db, params.id, query));
  route(router, mendImportRow, async ({ params, body }) => {
    await mendRow(db, params.id, params.row, body);
    return showImport(db, await mustLoadImport(db, params.id));
  });
  route(router, applyImport, async ({ params, actor }) => ({ job: await startWriting(db, params.id, actor) }));
  route(router, timeImport, async ({ params, body, actor }) =>
    showImport(db, await timeWriting(db, params.id, body.at === null ? null : new Date(body.at), actor)),
  );
  route(router, decideImport, async ({ params, body, actor }) => {
    const found = await mustLoadImport(db, params.id);
    return db.transaction((tx) => decideRows(tx, found, body.take, body.rows, actor));
  });
  route(router, discardImport, async ({ params }) => {
    await discard(db, params.id);
    return { ok: true as const };
  });
  route(router, downloadRefused, async ({ params, response }) => {
    const text = await writeRefused(db, await mustLoadImport(db, params.id));
    response
      .attachment(`refused-${params.id}.csv`)
      .type('text/csv; charset=utf-8')
      .send('\ufeff' + text);
    return undefined;
  });
}
