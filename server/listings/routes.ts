import {
  assignCategory,
  judgeEntries,
  listCategoryGroups,
  listCauses,
  listListings,
  listSharedCauses,
  lookUp,
  patchListings,
  readListing,
  setWanted,
  setWish,
} from '@basileus/contract';
import type { Router } from 'express';
import { type Db } from '../database';
import { AppError, route } from '../http';
import { loadMarket } from '../markets';
import { loadCategoryGroups } from './categories';
import { loadCauses } from './causes';
import { judgeEntries as judge, requestLookUp } from './entries';
import { loadListing, loadListings } from './queries';
import { loadSharedCauses } from './shared-causes';
import { assignToCategory, patchListingCells } from './service';
import { setWanted as want } from './wanted';
import { wishFor } from './wish';
import { say } from '@basileus/core/text';

export function addListingRoutes(router: Router, db: Db): void {
  route(router, listListings, async ({ params, query }) =>
    loadListings(db, await loadMarket(db, params.market), query),
  );
  route(router, readListing, async ({ params }) => {
    const found = await loadListing(db, await loadMarket(db, params.market), params.id);
    if (!found) throw new AppError('not-found', say`There is no listing ${params.id} on this market.`);
    return found;
  });
  route(router, patchListings, async ({ params, body, actor }) =>
    patchListingCells(db, (await loadMarket(db, params.market)).id, body.cells, body.title, actor),
  );
  route(router, setWish, async ({ params, body, actor }) =>
    wishFor(db, await loadMarket(db, params.market), body.ids, body.wish, actor),
  );
  route(router, setWanted, async ({ params, body, actor }) =>
    want(db, await loadMarket(db, params.market), body, actor),
  );
  route(router, lookUp, async ({ params }) => requestLookUp(db, await loadMarket(db, params.market)));
  route(router, judgeEntries, async ({ params, body, actor }) =>
    judge(db, await loadMarket(db, params.market), body, actor),
  );
  route(router, listCategoryGroups, async ({ params }) => loadCategoryGroups(db, await loadMarket(db, params.market)));
  route(router, assignCategory, async ({ params, body, actor }) =>
    assignToCategory(db, await loadMarket(db, params.market), body, actor),
  );
  route(router, listSharedCauses, async () => ({ rows: await loadSharedCauses(db) }));
  route(router, listCauses, async ({ params, query }) => loadCauses(db, await loadMarket(db, params.market), query));
}
