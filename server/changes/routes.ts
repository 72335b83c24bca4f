import {
  listChangeSets,
  lookAtPart,
  readChangeSet,
  readItemHistory,
  readReversal,
  type ReversalLook,
  reverseChangeSet,
} from '@basileus/contract';
import type { Value } from '@basileus/core/listing';
import { axesField } from '@basileus/core/product';
import type { Router } from 'express';
import type { Db } from '../database';
import { loadFields } from '../fields';
import { AppError, route } from '../http';
import type { Threads } from '../jobs';
import { loadMarketById } from '../markets';
import {
  type ChangeSetRow,
  countChangeSets,
  loadChangeCells,
  loadChangeSet,
  loadChangeSets,
  loadKept,
  loadSetItems,
} from '../products';
import { loadItemHistory } from './item-history';
import { startReversal } from './reverse';
import { say } from '@basileus/core/text';

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

/** A value as it is read: fields by which variants differ are told by their labels. */
const toRead = (field: string, value: Value | null, labelOf: (key: string) => string): Value | null =>
  field === axesField && value !== null ? [value].flat().map(labelOf) : value;

const mostLookSeconds = 60;

export function addChangeRoutes(router: Router, db: Db, threads: Threads): void {
  route(router, listChangeSets, async ({ query }) => ({
    total: await countChangeSets(db, query.by),
    rows: (await loadChangeSets(db, query)).map(toShape),
  }));
  route(router, readChangeSet, async ({ params, query }) => {
    const set = await loadChangeSet(db, params.id);
    if (!set) throw new AppError('not-found', say`There is no change set ${params.id}.`);
    const labelOf = (set.market_id === null ? await loadFields(db) : await loadMarketById(db, set.market_id)).labelOf;
    return {
      set: toShape(set),
      cells: (await loadChangeCells(db, params.id, query.offset, query.limit)).map((c) => ({
        sku: c.sku,
        field: c.field,
        label: labelOf(c.field),
        before: toRead(c.field, c.before, labelOf),
        after: toRead(c.field, c.after, labelOf),
        leftAs: c.left_as,
      })),
      items: await loadSetItems(db, params.id),
      kept: await loadKept(db, params.id),
    };
  });
  route(router, readItemHistory, ({ params, query }) => loadItemHistory(db, params.id, query));
  route(router, readReversal, ({ params }) =>
    threads.ask<ReversalLook>('look-at-reversal', { set: params.id }, mostLookSeconds),
  );
  route(router, lookAtPart, ({ params, body }) =>
    threads.ask<ReversalLook>('look-at-reversal', { set: params.id, skus: body.skus }, mostLookSeconds),
  );
  route(router, reverseChangeSet, ({ params, body, actor }) =>
    db.transaction((tx) => startReversal(tx, params.id, actor, body)),
  );
}
