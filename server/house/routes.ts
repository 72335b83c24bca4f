import { buildOpenApi, listHistory, readHealth, readOpenApi, readOverview, streamEvents } from '@basileus/contract';
import type { Router } from 'express';
import { type Db, rowOf, rowsOf } from '../database';
import type { EventHub } from '../events';
import { route } from '../http';
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
  route(router, readOverview, ({ query }) => loadOverview(db, query.market));
  route(router, listHistory, async ({ query }) => ({
    total: (await rowOf<{ n: number }>(db, 'select count(*) as n from history'))!.n,
    rows: (
      await rowsOf<{ id: number; at: Date; actor: string; action: string; subject: string; detail: string }>(
        db,
        'select * from history order by id desc offset ? limit ?',
        [query.offset, query.limit],
      )
    ).map((r) => ({ ...r, at: r.at.toISOString() })),
  }));
  route(router, streamEvents, ({ request, response }) => {
    hub.attach(request, response);
    return Promise.resolve(undefined);
  });
  const document = buildOpenApi();
  route(router, readOpenApi, () => Promise.resolve(document));
}
