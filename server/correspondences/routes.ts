import { listFieldMap, listValueMap, putFieldMap, putValueMap } from '@basileus/contract';
import type { Router } from 'express';
import type { Db } from '../database';
import { route } from '../http';
import { loadMarket } from '../markets';
import { loadFieldMap, loadValueMap, putFieldSource, putValueCode } from './correspondences';

export function addCorrespondenceRoutes(router: Router, db: Db): void {
  route(router, listFieldMap, async ({ params }) => loadFieldMap(db, await loadMarket(db, params.market)));
  route(router, putFieldMap, async ({ params, body }) =>
    putFieldSource(db, await loadMarket(db, params.market), params.attribute, body.source),
  );
  route(router, listValueMap, async ({ params, query }) =>
    loadValueMap(db, await loadMarket(db, params.market), query.attribute),
  );
  route(router, putValueMap, async ({ params, body }) =>
    putValueCode(db, await loadMarket(db, params.market), body.attribute, body.ours, body.theirs),
  );
}
