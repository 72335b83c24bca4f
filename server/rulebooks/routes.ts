import {
  compareRulebook,
  putRulebook,
  readCategorySchema,
  readRulebook,
  readRulebookDocument,
  readRulebookSchema,
} from '@basileus/contract';
import { makeFormatSchema } from '@basileus/core/rulebook';
import type { Router } from 'express';
import type { Db } from '../database';
import { route } from '../http';
import { loadMarket } from '../markets';
import { compareWithForce, describeCategory, loadDocument, putInForce } from './service';

export function addRulebookRoutes(router: Router, db: Db): void {
  route(
    router,
    readRulebook,
    async ({ params }) => (await loadMarket(db, params.market)).rulebook as unknown as Record<string, unknown>,
  );
  route(router, readRulebookDocument, async ({ params }) => loadDocument(db, await loadMarket(db, params.market)));
  route(router, readRulebookSchema, () => Promise.resolve(makeFormatSchema()));
  route(router, readCategorySchema, async ({ params }) =>
    describeCategory(await loadMarket(db, params.market), params.category),
  );
  route(router, putRulebook, async ({ params, body, actor }) =>
    putInForce(db, await loadMarket(db, params.market), body, actor),
  );
  route(router, compareRulebook, async ({ params, body }) =>
    compareWithForce(await loadMarket(db, params.market), body),
  );
}
