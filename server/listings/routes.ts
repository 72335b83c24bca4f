import {
  applyRemedies,
  assignCategory,
  listCategoryGroups,
  listCauses,
  listListings,
  patchListings,
  readListing,
  setWish,
} from '@basileus/contract';
import type { Router } from 'express';
import { type Db, rowsOf } from '../database';
import { AppError, route } from '../http';
import { loadMarket } from '../markets/load';
import { recordHistory } from '../products/change-sets';
import { loadCategoryGroups } from './categories';
import { loadCauses, remedyCause } from './causes';
import { loadListing, loadListings } from './queries';
import { refreshListings } from './follow-up';
import { assignToCategory, patchListingCells } from './service';

export function addListingRoutes(router: Router, db: Db): void {
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
  route(router, setWish, async ({ params, body, actor }) => {
    const market = await loadMarket(db, params.market);
    const changed = await db.transaction(async (tx) => {
      const rows = await rowsOf<{ id: number }>(
        tx,
        'update listings set wish = ?, updated_at = now() where id = any(?) and market_id = ? and wish <> ? returning id',
        [body.wish, body.ids, market.id, body.wish],
      );
      await refreshListings(
        tx,
        market,
        rows.map((r) => r.id),
      );
      if (rows.length) await recordHistory(tx, actor, 'wished', `${rows.length} listings: ${body.wish}`, market.name);
      return rows.length;
    });
    return { changed };
  });
  route(router, listCategoryGroups, async ({ params }) => loadCategoryGroups(db, await loadMarket(db, params.market)));
  route(router, assignCategory, async ({ params, body, actor }) =>
    assignToCategory(db, await loadMarket(db, params.market), body, actor),
  );
  route(router, listCauses, async ({ params, query }) =>
    loadCauses(db, await loadMarket(db, params.market), query.search),
  );
  route(router, applyRemedies, async ({ params, body, actor }) =>
    remedyCause(db, await loadMarket(db, params.market), body, actor),
  );
}
