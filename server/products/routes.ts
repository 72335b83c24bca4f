import {
  createProduct,
  listChangeSets,
  listProductFacets,
  listProducts,
  patchProducts,
  readChangeSet,
  readReversal,
  type ReversalCounts,
  reverseChangeSet,
} from '@basileus/contract';
import { getFieldLabel } from '@basileus/core/product';
import type { Router } from 'express';
import type { Db } from '../database';
import { announce } from '../events';
import { AppError, route } from '../http';
import type { Threads } from '../jobs';
import { refreshProducts } from '../listings/follow-up';
import { loadMarketById } from '../markets/load';
import {
  type ChangeSetRow,
  countChangeSets,
  loadChangeCells,
  loadChangeSet,
  loadChangeSets,
  loadKept,
  recordHistory,
} from './change-sets';
import { loadFacets, loadProduct, loadProducts } from './queries';
import { startReversal } from './reverse';
import { patchProductCells } from './service';
import { insertProducts } from './write';

const toShape = (r: ChangeSetRow) => ({
  id: r.id,
  title: r.title,
  actor: r.actor,
  at: r.at.toISOString(),
  cells: r.cells,
  reversed: r.reversed_by !== null,
  target: r.target,
  added: r.added,
  isDone: r.is_done,
  reverses: r.reverses,
  outcome: r.outcome,
});

const mostLookSeconds = 60;

export function addProductRoutes(router: Router, db: Db, threads: Threads): void {
  route(router, listProductFacets, () => loadFacets(db));
  route(router, listProducts, ({ query }) => loadProducts(db, query));
  route(router, patchProducts, ({ body, actor }) => patchProductCells(db, body.cells, body.title, actor));
  route(router, createProduct, async ({ body, actor }) => {
    const id = await db.transaction(async (tx) => {
      const [added] = await insertProducts(tx, [
        { sku: body.sku, kind: 'single', parentSku: null, axes: [], fields: { title: body.title } },
      ]);
      if (!added)
        throw new AppError('conflict', `SKU ${body.sku} is already in the catalog.`, {
          field: 'sku',
          remedy: 'Give another SKU, or change the item that has it.',
        });
      await refreshProducts(tx, [added.id]);
      await recordHistory(tx, actor, 'added', body.sku, body.title);
      await announce(tx, { topic: 'products' });
      return added.id;
    });
    return (await loadProduct(db, id))!;
  });
  route(router, listChangeSets, async ({ query }) => ({
    total: await countChangeSets(db),
    rows: (await loadChangeSets(db, query.offset, query.limit)).map(toShape),
  }));
  route(router, readChangeSet, async ({ params, query }) => {
    const set = await loadChangeSet(db, params.id);
    if (!set) throw new AppError('not-found', `There is no change set ${params.id}.`);
    const labelOf = set.market_id === null ? getFieldLabel : (await loadMarketById(db, set.market_id)).labelOf;
    return {
      set: toShape(set),
      cells: (await loadChangeCells(db, params.id, query.offset, query.limit)).map((c) => ({
        sku: c.sku,
        field: c.field,
        label: labelOf(c.field),
        before: c.before,
        after: c.after,
        leftAs: c.left_as,
      })),
      kept: await loadKept(db, params.id),
    };
  });
  route(router, readReversal, ({ params }) =>
    threads.ask<ReversalCounts>('look-at-reversal', { set: params.id }, mostLookSeconds),
  );
  route(router, reverseChangeSet, ({ params, actor }) => db.transaction((tx) => startReversal(tx, params.id, actor)));
}
