import {
  copyItem,
  findFamiliesAmong,
  joinItems,
  lookAtFamily,
  lookAtRemoval,
  makeFamilies,
  putIntoFamily,
  readParts,
  removeItems,
  setAxes,
  wantItems,
} from '@basileus/contract';
import type { Router } from 'express';
import { toWhichSql } from '../choose';
import { type Db, rowsOf } from '../database';
import { loadFields } from '../fields';
import { route } from '../http';
import { setWanted } from '../listings';
import { loadMarket } from '../markets';
import { loadBundlesOf, loadParts } from '../products';
import { changeAxes, findAmong, lookAtMove, makeAll, moveItems } from './family';
import { copyTo, joinToOne } from './join';
import { lookAtRemovalOf, startRemoval } from './remove';

export function addReshapeRoutes(router: Router, db: Db): void {
  route(router, lookAtRemoval, ({ body }) => lookAtRemovalOf(db, body.which));
  route(router, removeItems, ({ body, actor }) => db.transaction((tx) => startRemoval(tx, body.which, actor)));
  route(router, lookAtFamily, ({ body }) => lookAtMove(db, body));
  route(router, putIntoFamily, ({ body, actor }) => moveItems(db, body, actor));
  route(router, findFamiliesAmong, ({ body }) => findAmong(db, body.ids));
  route(router, makeFamilies, ({ body, actor }) => makeAll(db, body.families, actor));
  route(router, setAxes, ({ params, body, actor }) => changeAxes(db, params.id, body.axes, actor));
  route(router, readParts, async ({ params: { id } }) => ({
    parts: (await loadParts(db, [id])).get(id) ?? [],
    partOf: await loadBundlesOf(db, id),
  }));
  route(router, joinItems, ({ body, actor }) => joinToOne(db, body, actor));
  route(router, copyItem, ({ body, actor }) => copyTo(db, body, actor));
  route(router, wantItems, async ({ body, actor }) => {
    const market = await loadMarket(db, body.market);
    const { sql, bindings } = await toWhichSql(db, body.which, await loadFields(db));
    const products = (await rowsOf<{ id: number }>(db, `select p.id from products p where ${sql}`, bindings)).map(
      (p) => p.id,
    );
    return setWanted(db, market, { ids: [], products, own: null, wanted: body.wanted, sites: body.sites }, actor);
  });
}
