import { listHistory } from '@basileus/contract';
import type { Router } from 'express';
import type { Db } from '../database';
import { route } from '../http';
import { loadHistory } from './record';

export function addHistoryRoutes(router: Router, db: Db): void {
  route(router, listHistory, ({ query }) => loadHistory(db, query));
}
