import {
  changeSource,
  createSource,
  fetchSource,
  listSources,
  readSource,
  removeSource,
  type RulesTried,
  tryRules,
} from '@basileus/contract';
import type { Router } from 'express';
import type { Db } from '../database';
import { route } from '../http';
import type { Threads } from '../jobs';
import { loadRuns, mustLoadSource, toRun } from './queries';
import { startRun } from './run';
import { addSource, dropSource, loadShape, loadShapes, putSource } from './service';

const mostTrySeconds = 60;
const runsShown = 20;

export function addSourceRoutes(router: Router, db: Db, threads: Threads): void {
  route(router, listSources, async () => ({ rows: await loadShapes(db) }));
  route(router, readSource, async ({ params }) => ({
    source: await loadShape(db, params.id),
    runs: (await loadRuns(db, params.id, runsShown)).map(toRun),
  }));
  route(router, createSource, ({ body, actor }) => addSource(db, body, actor));
  route(router, changeSource, ({ params, body }) => putSource(db, params.id, body));
  route(router, removeSource, async ({ params }) => {
    await dropSource(db, params.id);
    return {};
  });
  route(router, fetchSource, ({ params, body, actor }) =>
    db.transaction(async (tx) =>
      startRun(tx, await mustLoadSource(tx, params.id, 'for update'), { ...body, how: 'hand' }, actor),
    ),
  );
  route(router, tryRules, ({ params, body }) =>
    threads.ask<RulesTried>('try-rules', { source: params.id, ...body }, mostTrySeconds),
  );
}
