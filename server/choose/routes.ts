import { listChoices, makeChoice, nameChoice, readChoice } from '@basileus/contract';
import type { Router } from 'express';
import type { Db } from '../database';
import { route } from '../http';
import { keepChoice, loadNamedChoices, nameChoiceAs, readChoiceNow } from './choices';

export function addChoiceRoutes(router: Router, db: Db): void {
  route(router, makeChoice, ({ body, actor }) => keepChoice(db, body.which, actor));
  route(router, listChoices, async () => ({ rows: await loadNamedChoices(db) }));
  route(router, readChoice, ({ params }) => readChoiceNow(db, params.id));
  route(router, nameChoice, ({ params, body }) => nameChoiceAs(db, params.id, body.name));
}
