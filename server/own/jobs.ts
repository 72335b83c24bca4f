// Changes of many items that follow from what is said of our fields and categories: in pages, each in a transaction of its
// own, all kept as one change that can be read and taken back. Safe to repeat: what is changed already is found no more.
import type { CellPatchInput } from '@basileus/contract';
import type { Value } from '@basileus/core/listing';
import { z } from 'zod';
import { patchProductCells } from '../catalog';
import { type Db, rowsOf } from '../database';
import { announce } from '../events';
import { loadOwnFields } from '../fields';
import { defineJob, type JobContext } from '../jobs';
import { closeChangeSet } from '../products';
import { endCategory } from './categories';
import { endField, listFacts } from './fields';

/** So many that markets follow by a job each, and not within every step. */
const itemsAtOnce = 2000;

/** Changes page after page until nothing is found; answers false where cells that are found cannot be changed. */
async function changePages(
  { db, progress, write }: JobContext,
  { title, actor, changeSet }: { title: string; actor: string; changeSet: number },
  find: (tx: Db) => Promise<CellPatchInput[]>,
  total: number,
): Promise<boolean> {
  for (let done = 0; ;) {
    const step = await write(async (tx) => {
      const cells = await find(tx);
      return cells.length === 0 ? undefined : patchProductCells(tx, cells, title, actor, changeSet);
    });
    await announce(db, { topic: 'products' });
    if (!step) return true;
    // One that somebody changes meanwhile is found again with what it is now.
    if (step.applied === 0 && step.conflicts.length === 0) return false;
    done += step.applied;
    await progress(Math.min(done, total), total);
  }
}

const payload = z.strictObject({ key: z.string(), label: z.string(), changeSet: z.int(), actor: z.string() });

export const emptyFieldJob = defineJob({
  kind: 'empty-field',
  payload,
  attempts: 5,
  mostSeconds: 3600,
  run: async ({ key, label, changeSet, actor }, context) => {
    const { db, write } = context;
    const own = await loadOwnFields(db);
    const field = own.fields.find((f) => f.key === key);
    if (!field) return 'done';
    const facts = listFacts(own, field);
    const holds = `exists (select 1 from unnest(?::text[]) k where p.facts -> k is not null)`;
    const [held] = await rowsOf<{ n: number }>(db, `select count(*)::int as n from products p where ${holds}`, [facts]);
    let after = 0;
    const isEmpty = await changePages(
      context,
      { title: `Emptied: ${label}`, actor, changeSet },
      async (tx) => {
        const rows = await rowsOf<{ id: number; facts: Record<string, Value> }>(
          tx,
          `select id, facts from products p where id >= ? and ${holds} order by id limit ?`,
          [after, facts, itemsAtOnce],
        );
        after = rows[0]?.id ?? after;
        return rows.flatMap((r) =>
          facts.flatMap((name) => {
            const before = r.facts[name];
            return before === undefined ? [] : [{ id: r.id, field: `fact.${name}`, before, after: null }];
          }),
        );
      },
      held?.n ?? 0,
    );
    await write(async (tx) => {
      await closeChangeSet(tx, changeSet);
      if (isEmpty) await endField(tx, key, label, actor);
    });
    return 'done';
  },
  onFailed: ({ changeSet }, db) => closeChangeSet(db, changeSet),
  onCancelled: ({ changeSet }, db) => closeChangeSet(db, changeSet),
});

export const moveCategoryJob = defineJob({
  kind: 'move-category',
  payload: z.strictObject({ from: z.string(), to: z.string(), changeSet: z.int(), actor: z.string() }),
  attempts: 5,
  mostSeconds: 3600,
  run: async ({ from, to, changeSet, actor }, context) => {
    const { db, write } = context;
    const [held] = await rowsOf<{ n: number }>(db, 'select count(*)::int as n from products where category = ?', [
      from,
    ]);
    const isMoved = await changePages(
      context,
      { title: `Own category, ${from} becomes ${to}`, actor, changeSet },
      async (tx) =>
        (
          await rowsOf<{ id: number }>(tx, 'select id from products where category = ? order by id limit ?', [
            from,
            itemsAtOnce,
          ])
        ).map(({ id }) => ({ id, field: 'category', before: from, after: to })),
      held?.n ?? 0,
    );
    await write(async (tx) => {
      await closeChangeSet(tx, changeSet);
      if (isMoved) await endCategory(tx, from);
      await announce(tx, { topic: 'own' });
    });
    return 'done';
  },
  onFailed: ({ changeSet }, db) => closeChangeSet(db, changeSet),
});
