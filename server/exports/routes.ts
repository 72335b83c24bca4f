import { once } from 'node:events';
import {
  downloadExport,
  keepExportSet,
  listExports,
  listExportSets,
  removeExport,
  removeExportSet,
  startExport,
} from '@basileus/contract';
import type { Router } from 'express';
import type { Db } from '../database';
import { announce } from '../events';
import { dropFile, openFile } from '../files';
import { AppError, route } from '../http';
import { wakeExportClock } from './clock';
import { beginExport, nameExportFile } from './make';
import { dropSet, keepSet, loadExports, loadSets, mustLoadExport } from './queries';
import { say } from '@basileus/core/text';

const types = {
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  csv: 'text/csv; charset=utf-8',
  tsv: 'text/tab-separated-values; charset=utf-8',
} as const;

export function addExportRoutes(router: Router, db: Db): void {
  route(router, listExports, async () => ({ rows: await loadExports(db) }));
  route(router, startExport, ({ body, actor }) => beginExport(db, body, actor));
  route(router, removeExport, async ({ params }) => {
    const found = await mustLoadExport(db, params.id);
    await db.raw('delete from exports where id = ?', [found.id]);
    if (found.file_id !== null) await dropFile(db, found.file_id);
    await announce(db, { topic: 'exports' });
    return {};
  });
  route(router, downloadExport, async ({ params, response }) => {
    const found = await mustLoadExport(db, params.id);
    if (found.state !== 'ready' || found.file_id === null)
      throw new AppError('not-now', say`This file is not made yet, or could not be made.`, {
        remedy: say`Wait until it is ready, or take it out again.`,
      });
    response.attachment(nameExportFile(found)).type(types[found.format]);
    for await (const chunk of openFile(db, found.file_id)()) if (!response.write(chunk)) await once(response, 'drain');
    response.end();
    return undefined;
  });
  route(router, listExportSets, async () => ({ rows: await loadSets(db) }));
  route(router, keepExportSet, ({ body, actor }) =>
    db.transaction(async (tx) => {
      const set = await keepSet(tx, body, actor);
      if (set.schedule !== null) await wakeExportClock(tx);
      return set;
    }),
  );
  route(router, removeExportSet, async ({ params }) => {
    await dropSet(db, params.id);
    return {};
  });
}
