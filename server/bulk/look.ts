// What a bulk change would do, before anything is written: counted over all items, and shown row by row.
import type { BulkCounts, BulkShape, lookAtBulk } from '@basileus/contract';
import type { RowProblem } from '@basileus/core/change';
import { toText } from '@basileus/core/listing';
import { canonicalNumber, exact, type Exact, toDay } from '@basileus/core/quantity';
import type { z } from 'zod';
import { loadWideFields } from '../choose';
import type { Db } from '../database';
import { loadMeant, lookAt, readySteps } from './meant';

/** Rows that are loaded at once: some megabytes. */
const rowsAtOnce = 5000;
const mostProblems = 50;

/** What is wrong with rows, by kind and field, with the first row of each. */
class Problems {
  readonly #byKind = new Map<string, { count: number; sku: string; problem: RowProblem }>();
  note(sku: string, problem: RowProblem): void {
    const key = `${problem.field} ${problem.fault.kind}`;
    const known = this.#byKind.get(key);
    if (known) known.count++;
    else this.#byKind.set(key, { count: 1, sku, problem });
  }
  list(): { count: number; sku: string; problem: RowProblem }[] {
    return [...this.#byKind.values()].sort((a, b) => b.count - a.count).slice(0, mostProblems);
  }
}

/** Counts what a change would do to all items. Heavy: asked of a worker thread. */
export async function countBulkNow(db: Db, { which, steps }: BulkShape): Promise<BulkCounts> {
  const book = await loadWideFields(db);
  const change = readySteps(steps, book),
    today = toDay(new Date());
  const ids = await loadMeant(db, which, book);
  const counts: BulkCounts = { total: ids.length, changed: 0, cells: 0, same: 0, wrong: 0, problems: [], sums: [] };
  const problems = new Problems();
  const sums = new Map<string, { rows: number; before: Exact; after: Exact }>();
  for (let i = 0; i < ids.length; i += rowsAtOnce)
    for (const { row, changes, problem } of await lookAt(db, change, ids.slice(i, i + rowsAtOnce), today, i)) {
      if (problem) {
        counts.wrong++;
        problems.note(row.sku, problem);
      } else if (changes.length === 0) counts.same++;
      else {
        counts.changed++;
        counts.cells += changes.length;
      }
      for (const { field, before, after } of changes) {
        const [b, a] = [toText(before ?? ''), toText(after ?? '')];
        if (!isNumber(book.get(field)?.kind) || !canonicalNumber.test(b) || !canonicalNumber.test(a)) continue;
        const sum = sums.get(field) ?? { rows: 0, before: exact('0'), after: exact('0') };
        sums.set(field, { rows: sum.rows + 1, before: sum.before.plus(b), after: sum.after.plus(a) });
      }
    }
  counts.problems = problems.list();
  counts.sums = [...sums].map(([field, s]) => ({
    field,
    rows: s.rows,
    before: s.before.toFixed(),
    after: s.after.toFixed(),
  }));
  return counts;
}
const isNumber = (kind: string | undefined): boolean => kind === 'money' || kind === 'number' || kind === 'integer';

type Page = z.output<typeof lookAtBulk.response>;

/** A page of rows of one sort, from a place among all that are meant on. */
export async function loadBulkRows(
  db: Db,
  { which, steps, only, from, limit }: z.output<typeof lookAtBulk.body>,
): Promise<Page> {
  const book = await loadWideFields(db);
  const change = readySteps(steps, book),
    today = toDay(new Date());
  const ids = await loadMeant(db, which, book, from);
  const rows: Page['rows'] = [];
  for (let i = 0; i < ids.length; i += limit) {
    const looked = await lookAt(db, change, ids.slice(i, i + limit), today, from + i);
    for (const [n, { row, changes, problem }] of looked.entries()) {
      const is = problem ? 'wrong' : changes.length > 0 ? 'changed' : 'same';
      if (is !== only) continue;
      if (rows.length === limit) return { rows, next: from + i + n };
      rows.push({ id: row.id, sku: row.sku, kind: row.kind, title: row.title, changes, problem });
    }
  }
  return { rows, next: null };
}
