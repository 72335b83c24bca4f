import { applyFill, applyRemedies, previewFill, previewRemedies } from '@basileus/contract';
import type { Router } from 'express';
import type { Db } from '../database';
import { route } from '../http';
import type { Threads } from '../jobs';
import { applyFillTo, applyRemediesOf, previewFillOf, previewRemediesOf } from './remedies';

export function addRemedyRoutes(router: Router, db: Db, threads: Threads): void {
  route(router, previewRemedies, ({ params, body }) => previewRemediesOf(threads, params.market, body));
  route(router, applyRemedies, ({ params, body, actor }) => applyRemediesOf(db, threads, params.market, body, actor));
  route(router, previewFill, ({ params, body }) => previewFillOf(threads, params.market, body));
  route(router, applyFill, ({ params, body, actor }) => applyFillTo(db, threads, params.market, body, actor));
}
