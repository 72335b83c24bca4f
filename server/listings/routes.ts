import {
  applyFill,
  applyRemedies,
  assignCategory,
  listCategoryGroups,
  listCauses,
  listListings,
  patchListings,
  previewFill,
  previewRemedies,
  readListing,
  setWish,
} from '@basileus/contract';
import type { Router } from 'express';
import { type Db } from '../database';
import { AppError, route } from '../http';
import type { Threads } from '../jobs';
import { loadMarket } from '../markets/load';
import { loadCategoryGroups } from './categories';
import { loadCauses } from './causes';
import { loadListing, loadListings } from './queries';
import { applyFillTo, applyRemediesOf, previewFillOf, previewRemediesOf } from './remedies';
import { assignToCategory, patchListingCells } from './service';
import { wishFor } from './wish';

export function addListingRoutes(router: Router, db: Db, threads: Threads): void {
  route(router, listListings, async ({ params, query }) =>
    loadListings(db, await loadMarket(db, params.market), query),
  );
  route(router, readListing, async ({ params }) => {
    const found = await loadListing(db, await loadMarket(db, params.market), params.id);
    if (!found) throw new AppError('not-found', `There is no listing ${params.id} on this market.`);
    return found;
  });
  route(router, patchListings, async ({ params, body, actor }) =>
    patchListingCells(db, (await loadMarket(db, params.market)).id, body.cells, body.title, actor),
  );
  route(router, setWish, async ({ params, body, actor }) =>
    wishFor(db, await loadMarket(db, params.market), body.ids, body.wish, actor),
  );
  route(router, listCategoryGroups, async ({ params }) => loadCategoryGroups(db, await loadMarket(db, params.market)));
  route(router, assignCategory, async ({ params, body, actor }) =>
    assignToCategory(db, await loadMarket(db, params.market), body, actor),
  );
  route(router, listCauses, async ({ params, query }) => loadCauses(db, await loadMarket(db, params.market), query));
  route(router, previewRemedies, ({ params, body }) => previewRemediesOf(threads, params.market, body));
  route(router, applyRemedies, ({ params, body, actor }) => applyRemediesOf(db, threads, params.market, body, actor));
  route(router, previewFill, ({ params, body }) => previewFillOf(threads, params.market, body));
  route(router, applyFill, ({ params, body, actor }) => applyFillTo(db, threads, params.market, body, actor));
}
