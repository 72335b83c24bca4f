import { listPlacing, lookForLeaves, readPlacing, takePlacing } from '@basileus/contract';
import type { Router } from 'express';
import type { Db } from '../database';
import { route } from '../http';
import { loadMarket } from '../markets';
import { askForLook } from './ask';
import { listPlacing as listItems, readPlacing as read } from './read';
import { takePlacing as take } from './take';

export function addPlacingRoutes(router: Router, db: Db): void {
  route(router, readPlacing, async ({ params, query }) => read(db, await loadMarket(db, params.market), query.own));
  route(router, listPlacing, async ({ params, query }) => listItems(db, await loadMarket(db, params.market), query));
  route(router, lookForLeaves, async ({ params }) => ({
    job: await askForLook(db, await loadMarket(db, params.market)),
  }));
  route(router, takePlacing, async ({ params, body, actor }) =>
    take(db, await loadMarket(db, params.market), body, actor),
  );
}
