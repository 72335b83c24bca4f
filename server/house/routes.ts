import { buildOpenApi, listClockWork, readHealth, readOpenApi, readOverview, streamEvents } from '@basileus/contract';
import type { Router } from 'express';
import type { Db } from '../database';
import type { EventHub } from '../events';
import { route, shareRuns } from '../http';
import { loadClockWork } from './clock-work';
import { loadOverview } from './overview';

export function addHouseRoutes(router: Router, db: Db, hub: EventHub): void {
  route(router, readHealth, async ({ response }) => {
    const database = await db.raw('select 1').then(
      () => true,
      () => false,
    );
    if (!database) response.status(503);
    return { ready: database, database, version: '0.1.0' };
  });
  // Every open page asks after every event; one answer takes a dozen sessions of the database.
  const overviewOf = shareRuns((market) => loadOverview(db, market));
  route(router, readOverview, ({ query }) => overviewOf(query.market));
  route(router, listClockWork, async () => ({ rows: await loadClockWork(db) }));
  route(router, streamEvents, ({ request, response }) => {
    hub.attach(request, response);
    return Promise.resolve(undefined);
  });
  const document = buildOpenApi();
  route(router, readOpenApi, () => Promise.resolve(document));
}
