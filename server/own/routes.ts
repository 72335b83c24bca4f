import {
  addFacet,
  changeField,
  changeOwnCategory,
  createField,
  createOwnCategory,
  listOwnCategories,
  orderFields as orderEndpoint,
  readFields,
  readFieldUse,
  removeFacet,
  removeField,
  removeOwnCategory,
} from '@basileus/contract';
import type { Router } from 'express';
import type { Db } from '../database';
import { loadOwnFields } from '../fields';
import { AppError, route } from '../http';
import { addCategory, loadCategories, moveCategory, removeCategory, renameCategory } from './categories';
import { addField, addOwnFacet, dropFacet, dropField, loadUse, orderFields, putField } from './fields';
import { say } from '@basileus/core/text';

export function addOwnRoutes(router: Router, db: Db): void {
  route(router, readFields, () => loadOwnFields(db));
  route(router, readFieldUse, ({ params }) => loadUse(db, params.key));
  route(router, createField, ({ body, actor }) => addField(db, body, actor));
  route(router, changeField, ({ params, body, actor }) => putField(db, params.key, body, actor));
  route(router, orderEndpoint, async ({ body }) => {
    await orderFields(db, body.keys);
    return {};
  });
  route(router, removeField, ({ params, actor }) => dropField(db, params.key, actor));
  route(router, addFacet, ({ body, actor }) => addOwnFacet(db, body, actor));
  route(router, removeFacet, async ({ params, actor }) => {
    await dropFacet(db, params, actor);
    return {};
  });
  route(router, listOwnCategories, async () => ({ rows: await loadCategories(db) }));
  route(router, createOwnCategory, async ({ body, actor }) => {
    await addCategory(db, body, actor);
    return {};
  });
  route(router, changeOwnCategory, async ({ body: { name, parent, rename }, actor }) => {
    if ((parent === undefined) === (rename === undefined))
      throw new AppError('bad-input', say`Say either where it is to stand, or what it is to be called.`, {
        field: 'parent',
      });
    if (rename !== undefined) return renameCategory(db, name, rename, actor);
    await moveCategory(db, name, parent ?? null, actor);
    return { job: null, items: 0 };
  });
  route(router, removeOwnCategory, async ({ body, actor }) => {
    await removeCategory(db, body.name, actor);
    return {};
  });
}
