import { createProduct, listProductFacets, listProducts, listStandings, patchProducts } from '@basileus/contract';
import type { Router } from 'express';
import type { Db } from '../database';
import { route } from '../http';
import { loadStandings } from '../listings';
import { loadFacets } from '../products';
import { addProduct, listCatalog, patchProductCells } from './service';

export function addCatalogRoutes(router: Router, db: Db): void {
  route(router, listProductFacets, () => loadFacets(db));
  route(router, listStandings, async ({ query }) => ({ rows: await loadStandings(db, query.ids) }));
  route(router, listProducts, ({ query }) => listCatalog(db, query));
  route(router, patchProducts, ({ body, actor }) => patchProductCells(db, body.cells, body.title, actor));
  route(router, createProduct, ({ body, actor }) => addProduct(db, body, actor));
}
