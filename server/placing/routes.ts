import { listPlacing, lookForLeaves, readPlacing, takePlacing } from '@basileus/contract';
import type { Router } from 'express';
import type { Db } from '../database';
import { route } from '../http';
import { enqueue } from '../jobs';
import { loadMarket } from '../markets';
import { listPlacing as listItems, onceOf, readPlacing as read } from './read';
import { takePlacing as take } from './take';

export function addPlacingRoutes(router: Router, db: Db): void {
  route(router, readPlacing, async ({ params, query }) => read(db, await loadMarket(db, params.market), query.own));
  route(router, listPlacing, async ({ params, query }) => listItems(db, await loadMarket(db, params.market), query));
  route(router, lookForLeaves, async ({ params }) => {
    const market = await loadMarket(db, params.market);
    const job = await enqueue(db, {
      kind: 'look-for-leaves',
      title: `Looking for categories on ${market.name}`,
      payload: { market: market.key },
      once: onceOf(market),
      link: `/${market.key}/prepare?view=categories&by=item`,
      cancellable: true,
    });
    return { job };
  });
  route(router, takePlacing, async ({ params, body, actor }) =>
    take(db, await loadMarket(db, params.market), body, actor),
  );
}
