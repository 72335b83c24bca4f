import {
  type BulkCounts,
  changeRecipe,
  countBulk,
  createRecipe,
  listRecipes,
  lookAtBulk,
  readTrial,
  removeRecipe,
  runRecipe,
  sampleItems,
  startBulk,
  startTrial,
  tryBulk,
} from '@basileus/contract';
import type { Router } from 'express';
import type { Db } from '../database';
import { route } from '../http';
import type { Threads } from '../jobs';
import { dropRecipe, loadRecipes, putRecipe, runRecipeNow, startLooked } from './recipes';
import type { loadBulkRows } from './look';
import { loadSamples } from './samples';
import { loadTrial, startTrialOf } from './trials';
import type { tryBulkNow } from './try';

const mostLookSeconds = 120;

export function addBulkRoutes(router: Router, db: Db, threads: Threads): void {
  route(router, countBulk, ({ body }) => threads.ask<BulkCounts>('count-bulk', body, mostLookSeconds));
  route(router, lookAtBulk, ({ body }) =>
    threads.ask<Awaited<ReturnType<typeof loadBulkRows>>>('look-at-bulk', body, mostLookSeconds),
  );
  route(router, sampleItems, async ({ body }) => ({ rows: await loadSamples(db, body.which, body.market) }));
  route(router, tryBulk, ({ body }) =>
    threads.ask<Awaited<ReturnType<typeof tryBulkNow>>>('try-bulk', body, mostLookSeconds),
  );
  route(router, startTrial, ({ body }) => startTrialOf(db, body));
  route(router, readTrial, ({ params }) => loadTrial(db, params.id));
  route(router, startBulk, ({ body, actor }) => db.transaction((tx) => startLooked(tx, body, actor)));
  route(router, listRecipes, async () => ({ rows: await loadRecipes(db) }));
  route(router, createRecipe, ({ body, actor }) => putRecipe(db, null, body, actor));
  route(router, changeRecipe, ({ params, body, actor }) => putRecipe(db, params.id, body, actor));
  route(router, removeRecipe, async ({ params }) => {
    await dropRecipe(db, params.id);
    return {};
  });
  route(router, runRecipe, ({ params, actor }) => runRecipeNow(db, params.id, actor));
}
