// Puts items into the categories they are thought to belong to, as one change that can be taken back as one: a few at once,
// many by a job that goes on when the window closes.
import type { Sureness } from '@basileus/contract';
import { say } from '@basileus/core/text';
import { type Db, rowOf } from '../database';
import { announce } from '../events';
import { recordHistory } from '../history';
import { AppError } from '../http';
import { enqueue, type JobContext } from '../jobs';
import { patchListingCells } from '../listings';
import type { Market } from '../markets';
import { closeChangeSet, openChangeSet } from '../products';
import { loadTaken } from './read';

export interface Taken {
  own?: string | undefined;
  leaves: string[];
  least: Sureness;
  except: number[];
}

const mostAtOnce = 2000;
const titleOn = (market: Market): string => `Categories item by item on ${market.name}`;

const place = (
  db: Db,
  market: Market,
  rows: readonly { id: number; leaf: string }[],
  actor: string,
  changeSet?: number,
) =>
  patchListingCells(
    db,
    market.id,
    rows.map((r) => ({ id: r.id, field: 'category', before: null, after: r.leaf })),
    titleOn(market),
    actor,
    changeSet,
  );

/**
 * Places what is thought to belong to these leaves, and surely enough. What somebody placed meanwhile stays as it is. Refused
 * where a leaf is not one of the market. Answers how many are placed, or the job that places them.
 */
export async function takePlacing(
  db: Db,
  market: Market,
  taken: Taken,
  actor: string,
): Promise<{ items: number; leaves: number; changeSet: number | null; job: string | null }> {
  const strange = taken.leaves.find((leaf) => !market.category(leaf));
  if (strange !== undefined)
    throw new AppError('bad-input', say`“${strange}” is not a category of ${market.name} that takes items.`, {
      field: 'leaves',
      remedy: say`Let the items be looked at again.`,
    });
  const rows = await loadTaken(db, market, taken);
  const leaves = new Set(rows.map((r) => r.leaf)).size;
  if (rows.length <= mostAtOnce) {
    const outcome = await place(db, market, rows, actor);
    await announce(db, { topic: 'listings' });
    return { items: outcome.applied, leaves, changeSet: outcome.changeSet, job: null };
  }
  return db.transaction(async (tx) => {
    const changeSet = await openChangeSet(tx, {
      title: titleOn(market),
      actor,
      target: 'listings',
      marketId: market.id,
    });
    const job = await enqueue(tx, {
      kind: 'place-items',
      title: titleOn(market),
      payload: { market: market.key, taken, changeSet, actor },
      link: `/${market.key}/prepare?view=categories&by=item`,
      cancellable: true,
    });
    return { items: rows.length, leaves, changeSet, job };
  });
}

/** Places page after page until nothing waits any more that was meant. Safe to repeat: what is placed waits no more. */
export async function placeAll(
  market: Market,
  { taken, changeSet, actor }: { taken: Taken; changeSet: number; actor: string },
  { db, write, progress }: Pick<JobContext, 'db' | 'write' | 'progress'>,
): Promise<void> {
  const total = (await loadTaken(db, market, taken)).length;
  for (let done = 0; ;) {
    const placed = await write(async (tx) => {
      const rows = await loadTaken(tx, market, taken, mostAtOnce);
      return rows.length === 0 ? 0 : (await place(tx, market, rows, actor, changeSet)).applied;
    });
    if (placed === 0) break;
    done += placed;
    await progress(done, Math.max(done, total));
  }
  await write((tx) => endPlacing(tx, { changeSet, actor }));
}

/** Nothing more is placed: what was is one change, told in the history by whoever asked for it. */
export async function endPlacing(db: Db, { changeSet, actor }: { changeSet: number; actor: string }): Promise<void> {
  const set = await rowOf<{ title: string; cells: number }>(
    db,
    'select title, cells from change_sets where id = ? and not is_done',
    [changeSet],
  );
  if (set && set.cells > 0) await recordHistory(db, actor, { is: 'changed', title: set.title, cells: set.cells });
  await closeChangeSet(db, changeSet);
  await announce(db, { topic: 'listings' });
}
