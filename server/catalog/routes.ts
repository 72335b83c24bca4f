import {
  countValues,
  createProduct,
  keepView,
  listProductFacets,
  listProducts,
  listStandings,
  listViews,
  patchProducts,
  removeView,
  sumRows,
} from '@basileus/contract';
import type { Router } from 'express';
import { loadValues, loadWideFields } from '../choose';
import type { Db } from '../database';
import { route } from '../http';
import { loadStandings } from '../listings';
import { loadFacets } from '../products';
import { listCatalog, patchCatalogCells } from './listed';
import { addProduct } from './service';
import { loadSums } from './sums';
import { dropView, loadViews, putView } from './views';

export function addCatalogRoutes(router: Router, db: Db): void {
  route(router, listProductFacets, () => loadFacets(db));
  route(router, listStandings, async ({ query }) => ({ rows: await loadStandings(db, query.ids) }));
  route(router, listProducts, ({ query }) => listCatalog(db, query));
  route(router, patchProducts, ({ body, actor }) => patchCatalogCells(db, body.cells, body.title, actor));
  route(router, createProduct, ({ body, actor }) => addProduct(db, body, actor));
  route(router, countValues, async ({ body }) =>
    loadValues(db, body.which, body.field, body.search, await loadWideFields(db)),
  );
  route(router, sumRows, async ({ body }) => ({ fields: await loadSums(db, body) }));
  route(router, listViews, async () => ({ rows: await loadViews(db) }));
  route(router, keepView, ({ body, actor }) => putView(db, body, actor));
  route(router, removeView, async ({ params }) => {
    await dropView(db, params.id);
    return {};
  });
}
