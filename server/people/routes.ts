import { addPerson, listPeople, removePerson } from '@basileus/contract';
import type { Router } from 'express';
import type { Db } from '../database';
import { route } from '../http';
import { addPersonNamed, loadPeople, removePersonOf } from './store';

export function addPeopleRoutes(router: Router, db: Db): void {
  route(router, listPeople, async () => ({ rows: await loadPeople(db) }));
  route(router, addPerson, ({ body, actor }) => addPersonNamed(db, body.name, actor));
  route(router, removePerson, async ({ params, actor }) => {
    await removePersonOf(db, params.id, actor);
    return { ok: true as const };
  });
}
