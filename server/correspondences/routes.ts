import { listFieldMap, listValueMap, putFieldMap, putValueMap, readValueMap, trySource } from '@basileus/contract';
import type { Router } from 'express';
import type { Db } from '../database';
import { route } from '../http';
import { loadMarket } from '../markets';
import { loadValueMap, putCodes, readValueTable } from './codes';
import { loadFieldMap, putSource, tryFormula } from './sources';

export function addCorrespondenceRoutes(router: Router, db: Db): void {
  route(router, listFieldMap, async ({ params, query }) =>
    loadFieldMap(db, await loadMarket(db, params.market), query.node),
  );
  route(router, putFieldMap, async ({ params, body, actor }) =>
    putSource(
      db,
      await loadMarket(db, params.market),
      { attribute: params.attribute, node: body.node },
      body.source,
      actor,
    ),
  );
  route(router, trySource, async ({ params, body }) =>
    tryFormula(db, await loadMarket(db, params.market), { attribute: params.attribute, node: body.node }, body.formula),
  );
  route(router, listValueMap, async ({ params, query }) =>
    loadValueMap(db, await loadMarket(db, params.market), query),
  );
  route(router, putValueMap, async ({ params, body, actor }) =>
    putCodes(db, await loadMarket(db, params.market), body.node, body.codes, actor),
  );
  route(router, readValueMap, async ({ params, body }) =>
    readValueTable(db, await loadMarket(db, params.market), body.node, body.rows),
  );
}
