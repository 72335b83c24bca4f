// The items that a bulk change is about, in the order of the catalog, and what it would make of each. Preview and change go
// through here.
import {
  type ChangeStep,
  type PreparedChange,
  prepareChange,
  type RowOutcome,
  wordStepProblem,
} from '@basileus/core/change';
import type { Which } from '@basileus/core/choose';
import type { FieldBook } from '@basileus/core/product';
import { loadListedValues, toWhichSql } from '../choose';
import { type Db, rowsOf } from '../database';
import { AppError } from '../http';
import { loadProductsWith, type ProductRow, toFields } from '../products';
import { loadListed } from './listed';

/** Order of the catalog: families with their variants behind them, as people count. */
export const orderSql = 'p.shelf_order, p.parent_id is not null, p.id';

/** Makes steps ready, or refuses them in words with the number of the step that is wrong. */
export function readySteps(steps: readonly ChangeStep[], book: FieldBook): PreparedChange {
  const made = prepareChange(steps, book);
  if (made.ok) return made.change;
  const { problem } = made;
  throw new AppError('bad-input', wordStepProblem(problem), {
    field: `steps.${made.step}`,
    ...(problem.is === 'formula' ? { value: `${problem.at.from}-${problem.at.to}` } : {}),
  });
}

export interface Looked extends RowOutcome {
  row: ProductRow;
  /** Its listing on the market whose listings are changed; null where items are, or it has none there. */
  listing: number | null;
}

const notThere = { refuse: () => ({ kind: 'not-on-market' as const }) };

/** What a change would make of items, named by id, the first of which has this place among all that are meant. */
export async function lookAt(
  db: Db,
  change: PreparedChange,
  ids: readonly number[],
  today: string,
  first: number,
): Promise<Looked[]> {
  const rows = new Map((await loadProductsWith(db, change.reads, ids)).map((r) => [r.id, r]));
  const read = await loadListedValues(db, change.reads, ids);
  const listed = change.market === null ? undefined : await loadListed(db, change, rows);
  const looked: Looked[] = [];
  for (const [i, id] of ids.entries()) {
    const row = rows.get(id);
    // Removed since it was counted.
    if (!row) continue;
    const listing = listed?.get(id);
    const item = {
      kind: row.kind,
      values: { ...toFields(row), ...read.get(id) },
      ...(listed ? { listing: listing?.item ?? notThere } : {}),
    };
    looked.push({ row, listing: listing?.id ?? null, ...change.run(item, { today, index: first + i }) });
  }
  return looked;
}

/** Ids of all that is meant, in the order of the catalog, from a place on. */
export async function loadMeant(db: Db, which: Which, book: FieldBook, from = 0): Promise<number[]> {
  const { sql, bindings } = await toWhichSql(db, which, book);
  return (
    await rowsOf<{ id: number }>(db, `select p.id from products p where ${sql} order by ${orderSql} offset ?`, [
      ...bindings,
      from,
    ])
  ).map((r) => r.id);
}
