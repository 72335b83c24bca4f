import {
  changeMarket,
  createMarket,
  listRates,
  makeKeyPair,
  putRate,
  readMarket,
  removeMarket,
  tryConnection,
} from '@basileus/contract';
import type { Router } from 'express';
import type { Db } from '../database';
import { route } from '../http';
import { loadMarket } from '../markets';
import { listKnownRates, sayRate } from './rates';
import { addMarket, dropMarket, giveKeyPair, loadConnection, putChange, tryMarket } from './service';

export function addConnectionRoutes(router: Router, db: Db): void {
  route(router, createMarket, ({ body, actor }) => addMarket(db, body, actor));
  route(router, listRates, () => listKnownRates(db));
  route(router, putRate, async ({ params, body, actor }) => {
    await sayRate(db, params.currency, body.rate, actor);
    return { ok: true as const };
  });
  route(router, readMarket, async ({ params }) => loadConnection(db, await loadMarket(db, params.market)));
  route(router, changeMarket, async ({ params, body, actor }) => {
    await putChange(db, await loadMarket(db, params.market), body, actor);
    return { ok: true as const };
  });
  route(router, makeKeyPair, async ({ params, actor }) => giveKeyPair(db, await loadMarket(db, params.market), actor));
  route(router, tryConnection, async ({ params, body }) => tryMarket(db, await loadMarket(db, params.market), body));
  route(router, removeMarket, async ({ params, query, actor }) => {
    await dropMarket(db, await loadMarket(db, params.market), query.name, actor);
    return { ok: true as const };
  });
}
