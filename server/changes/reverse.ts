// Taking a change set back, of any size, as a job in steps: each marks what it has done in the transaction that did it, so
// that a crash loses nothing and a repeated run doubles nothing. What it does is a change set itself and can be taken back.
import type { CellPatchInput, ReversalCounts } from '@basileus/contract';
import { reverseChanges } from '@basileus/core/change';
import { z } from 'zod';
import { type Db, rowOf, rowsOf } from '../database';
import { announce } from '../events';
import { AppError } from '../http';
import { plural, say } from '@basileus/core/text';
import { defineJob, enqueue, type JobContext } from '../jobs';
import { patchListingCells } from '../listings';
import { type ChangeSetRow, type LeftAs, loadChangeSet, loadSameDeed, shareDeed } from '../products';
import { createJudge, type JudgedCell, loadOpenItems, noCounts, type SetItem } from './reversal';
import { addStep, keepTheRest, removeStep } from './reverse-items';
import { patchProductCells } from '../catalog';
import { recordHistory } from '../history';

const itemStep = 400;

/**
 * Begins to take a set back, or some items of it, or others of its deed with it. A set can be taken back once; what took it
 * back can be taken back in turn, as one deed again.
 */
export async function startReversal(
  db: Db,
  id: number,
  actor: string,
  { skus = [], others = [] }: { skus?: readonly string[]; others?: readonly number[] } = {},
): Promise<{ changeSet: number; job: string }> {
  const same = new Set((await loadSameDeed(db, id)).map((s) => s.id));
  const odd = others.find((o) => !same.has(o));
  if (odd !== undefined)
    throw new AppError('bad-input', say`Change set ${odd} is not of the same deed, or has been taken back already.`, {
      field: 'others',
      remedy: say`Look at the change again.`,
    });
  const { into, title } = await openReversal(db, id, actor, skus);
  const then: { set: number; into: number }[] = [];
  for (const other of new Set(others)) then.push({ set: other, into: (await openReversal(db, other, actor, [])).into });
  await shareDeed(db, [into, ...then.map((t) => t.into)]);
  const job = await enqueue(db, {
    kind: 'reverse-change-set',
    title,
    payload: { set: id, into, actor, skus: [...skus], then },
    once: `reverse-${id}-${into}`,
    link: '/all/history',
  });
  return { changeSet: into, job };
}

/** Opens the change set that is to take a set back. */
async function openReversal(
  db: Db,
  id: number,
  actor: string,
  skus: readonly string[],
): Promise<{ into: number; title: string }> {
  const set = await rowOf<ChangeSetRow>(db, 'select * from change_sets where id = ? for update', [id]);
  if (!set) throw new AppError('not-found', say`There is no change set ${id}.`);
  if (set.reversed_by !== null)
    throw new AppError('not-now', say`This change set has been taken back already.`, {
      remedy: say`Take back its reversal to have it again.`,
    });
  const isWriting =
    !set.is_done ||
    // A part of it is on its way back.
    (await rowOf(db, 'select 1 as x from change_sets where reverses = ? and not is_done', [id])) !== undefined ||
    (await rowOf(db, `select 1 as x from imports where change_set_id = ? and state = 'applying'`, [id])) !== undefined;
  if (isWriting)
    throw new AppError('not-now', say`This change is still being written.`, {
      remedy: say`Wait until it is done, or stop it; then take it back.`,
    });
  if (skus.length > 0 && (await loadOpenItems(db, id, 0, 1, skus)).length === 0)
    throw new AppError(
      'bad-input',
      say`None of these items has anything in this change that is still to be taken back.`,
      {
        field: 'skus',
        remedy: say`Choose others of its items.`,
      },
    );
  const part = skus.length === 0 ? '' : ` (${plural(skus.length, 'item', 'items')} of it)`;
  const title =
    (set.reverses === null ? `Taken back: ${set.title}` : `Brought back: ${set.title.replace(/^\w+ back: /, '')}`) +
    part;
  const into = (await rowOf<{ id: number }>(
    db,
    `insert into change_sets (title, actor, target, market_id, reverses, is_done) values (?, ?, ?, ?, ?, false) returning id`,
    [title, actor, set.target, set.market_id, id],
  ))!.id;
  if (skus.length === 0) await db.raw('update change_sets set reversed_by = ? where id = ?', [into, id]);
  return { into, title };
}

export const reverseSetJob = defineJob({
  kind: 'reverse-change-set',
  payload: z.strictObject({
    set: z.int(),
    into: z.int(),
    actor: z.string(),
    skus: z.array(z.string()).default([]),
    // Those of the same deed come after the items: what goes with its item keeps what was written into its listings, and
    // what comes again has it.
    then: z.array(z.strictObject({ set: z.int(), into: z.int() })).default([]),
  }),
  attempts: 10,
  mostSeconds: 3600,
  run: async ({ set, into, actor, skus, then }, context) => {
    for (const one of [{ set, into }, ...then]) await takeBackOne(one, actor, skus, context);
    return 'done';
  },
  onFailed: async ({ into, then }, db) => {
    // What was done stays done and is listed; the rest can be seen, and taken back by what is left of it.
    await db.raw('update change_sets set is_done = true where id = any(?)', [[into, ...then.map((t) => t.into)]]);
    await announce(db, { topic: 'products' });
  },
});

async function takeBackOne(
  { set: id, into }: { set: number; into: number },
  actor: string,
  skus: readonly string[],
  { db, progress, write }: JobContext,
): Promise<void> {
  const set = await loadChangeSet(db, id),
    reversal = await loadChangeSet(db, into);
  if (!set || !reversal || reversal.is_done) return;
  const total = set.cells;
  let done = 0;
  const tell = async (n: number, what: string): Promise<void> => {
    done += n;
    await progress(Math.min(done, total), total, what);
  };
  await tell(0, 'looking at the items that it removed');
  // A family that comes back is there before its variants go into it, and one that goes is left by them first.
  for (; skus.length === 0;) {
    const added = await write((tx) => addStep(tx, id, into));
    if (added === 0) break;
    await tell(added, 'adding items that it had removed');
  }
  for (;;) {
    const cells = await write((tx) => itemsStep(tx, set, reversal, actor, skus));
    if (cells === 0) break;
    await tell(cells, 'putting cells back');
  }
  for (; skus.length === 0;) {
    const removed = await write((tx) => removeStep(tx, id, into));
    if (removed === 0) break;
    await tell(removed, 'removing items that it had added');
  }
  if (skus.length === 0) await write((tx) => keepTheRest(tx, id));
  await write((tx) => finish(tx, set, reversal, actor, skus));
}

/** Puts cells of some items back that stand as the set left them. Answers how many cells it went through. */
async function itemsStep(
  db: Db,
  set: ChangeSetRow,
  reversal: ChangeSetRow,
  actor: string,
  skus: readonly string[],
): Promise<number> {
  const items = await loadOpenItems(db, set.id, 0, itemStep, skus);
  if (items.length === 0) return 0;
  const table = set.target === 'products' ? 'products' : 'listings';
  await db.raw(`select id from ${table} where id = any(?) order by id for update`, [
    [...new Set(items.map((i) => i.target_id))].sort((a, b) => a - b),
  ]);
  const judge = await createJudge(db, set.market_id);
  const left = new LeftCells();
  const restore: JudgedCell[] = [];
  for (const cell of await judge(db, items)) {
    if (cell.is === 'restore') restore.push(cell);
    else if (cell.is !== 'nothing') left.note(cell.item.target_id, cell.change.field, cell.is);
  }
  await putBack(db, set, reversal, actor, restore, left);
  await db.raw(
    `update change_items i
      set reversed = true, left_as = r.left_as
      from jsonb_to_recordset(?::jsonb) as r(id bigint, left_as jsonb)
      where i.id = r.id`,
    [JSON.stringify(items.map((i) => ({ id: i.id, left_as: left.of(i) })))],
  );
  return items.reduce((n, i) => n + i.changes.length, 0);
}

/** Why cells were left, by what they are of and their field. */
class LeftCells {
  readonly #byTarget = new Map<number, Record<string, LeftAs>>();
  note(target: number, field: string, as: LeftAs): void {
    this.#byTarget.set(target, { ...this.#byTarget.get(target), [field]: as });
  }
  of(item: SetItem): Record<string, LeftAs> {
    const all = this.#byTarget.get(item.target_id) ?? {};
    return Object.fromEntries(item.changes.flatMap(({ field }) => (all[field] ? [[field, all[field]]] : [])));
  }
}

async function putBack(
  db: Db,
  set: ChangeSetRow,
  reversal: ChangeSetRow,
  actor: string,
  cells: readonly JudgedCell[],
  left: LeftCells,
): Promise<void> {
  if (cells.length === 0) return;
  const patch: CellPatchInput[] = reverseChanges(cells.map((c) => ({ id: c.item.target_id, ...c.change })));
  if (set.target === 'products') {
    const outcome = await patchProductCells(db, patch, reversal.title, actor, reversal.id);
    for (const c of outcome.conflicts) left.note(c.id, c.field, 'changed');
    for (const c of outcome.refused) left.note(c.id, c.field, 'refused');
    return;
  }
  try {
    const outcome = await patchListingCells(db, set.market_id!, patch, reversal.title, actor, reversal.id);
    for (const c of outcome.conflicts) left.note(c.id, c.field, 'changed');
  } catch (error) {
    if (!(error instanceof AppError)) throw error;
    // One value that the market no longer takes does not keep the others from going back.
    const [only] = cells;
    if (cells.length === 1) left.note(only!.item.target_id, only!.change.field, 'refused');
    else for (const cell of cells) await putBack(db, set, reversal, actor, [cell], left);
  }
}

async function finish(
  db: Db,
  set: ChangeSetRow,
  reversal: ChangeSetRow,
  actor: string,
  skus: readonly string[],
): Promise<void> {
  const isPart = skus.length > 0;
  const outcome: ReversalCounts = { ...noCounts };
  const cells = await rowsOf<{ left_as: LeftAs; n: number }>(
    db,
    `select x.left_as, count(*) as n from change_items i cross join jsonb_each_text(i.left_as) x (field, left_as)
      where change_set_id = ?${isPart ? ' and i.sku = any(?)' : ''} group by 1`,
    isPart ? [set.id, [...skus]] : [set.id],
  );
  for (const { left_as: as, n } of cells) outcome[as] = n;
  outcome.restored = (await loadChangeSet(db, reversal.id))!.cells;
  const items = isPart
    ? []
    : await rowsOf<{ action: string; left_as: string | null; n: number }>(
        db,
        `select action, left_as, count(*) as n
          from change_products where change_set_id = ? group by 1, 2`,
        [set.id],
      );
  const keys = {
    sent: 'keptSent',
    changed: 'keptChanged',
    family: 'keptFamily',
    part: 'keptPart',
    taken: 'keptTaken',
  } as const;
  for (const i of items) {
    if (i.left_as !== null) outcome[keys[i.left_as as keyof typeof keys]] += i.n;
    else if (i.action === 'removed') outcome.recreated += i.n;
  }
  outcome.removed = (await rowOf<{ n: number }>(
    db,
    `select count(*) as n from change_products where change_set_id = ? and action = 'removed'`,
    [reversal.id],
  ))!.n;
  await db.raw('update change_sets set is_done = true, outcome = ? where id = ?', [
    JSON.stringify(outcome),
    reversal.id,
  ]);
  await recordHistory(db, actor, {
    is: 'changed',
    title: reversal.title,
    cells: outcome.restored,
    removed: outcome.removed,
  });
  await announce(db, { topic: 'products' }, { topic: 'listings' });
}
