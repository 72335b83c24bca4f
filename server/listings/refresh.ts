// Keeping listings true: values resolved from product, correspondences and what was typed; checked; what must go out
// worked out. Only what a change touches is made anew: a product, its family, and those that share its barcode.
import type { Correspondences } from '@basileus/core/listing';
import { type Db, rowsOf, type Write, writeOn } from '../database';
import { announce } from '../events';
import { loadCorrespondences, type Market } from '../markets';
import { refreshUsual } from './usual';
import { judgeRows } from './judge';
import { type FullRow, loadRowsToCheck, lockRowsToCheck } from './rows';
import type { Outcome } from './outcome';
import { storeOutcomes } from './store';
import { loadStateCounts } from './tallies';

const ofFamilies = 'coalesce(p.parent_id, p.id) = any(?)';

/** Makes whole families anew in one market. `rows`, locked, must hold every member of each family it names. */
export async function refreshRows(db: Db, market: Market, c: Correspondences, rows: readonly FullRow[]): Promise<void> {
  await storeOutcomes(db, market, await judgeRows(db, market, c, rows));
}

const pageOfFamilies = 500,
  pagesAtOnce = 2;

/** Works through families in pages; while the database is busy with one, another is computed. */
async function eachPage(roots: readonly number[], work: (page: readonly number[]) => Promise<void>): Promise<void> {
  let next = 0;
  const run = async (): Promise<void> => {
    while (next < roots.length) await work(roots.slice(next, (next += pageOfFamilies)));
  };
  await Promise.all(Array.from({ length: pagesAtOnce }, run));
}

/** Families checked anew in pages, each in a transaction of its own. */
export async function refreshFamilies(
  db: Db,
  market: Market,
  roots: readonly number[],
  told: (rows: number) => Promise<void>,
  write: Write = writeOn(db),
): Promise<void> {
  const c = await loadCorrespondences(db, market.id);
  await eachPage(roots, async (page) => {
    const rows = await write(async (tx) => {
      const found = await lockRowsToCheck(tx, market.id, ofFamilies, [page]);
      await refreshRows(tx, market, c, found);
      return found.length;
    });
    await told(rows);
  });
}

export type Progress = (done: number, total: number) => Promise<void>;

/** Where more than this share of a page was new, the next is locked at once: looking first costs more than it saves. */
const mostNew = 0.5;

const isNew = (o: Outcome): boolean =>
  o.isRowNew || o.areFindingsNew || o.before.productVersion !== o.productVersion || o.before.revision === 0;

/** Judges a page of families; those of which something is new are locked, judged again and written. */
async function refreshPage(
  db: Db,
  market: Market,
  c: Correspondences,
  page: readonly number[],
  isLockedFirst: boolean,
  write: Write,
): Promise<{ rows: number; newShare: number }> {
  const judge = async (tx: Db, rows: FullRow[]) => {
    const outcomes = await judgeRows(tx, market, c, rows);
    const rootOf = new Map(rows.map((r) => [r.listing_id, r.root_id]));
    return { rows: rows.length, outcomes, families: new Set(outcomes.filter(isNew).map((o) => rootOf.get(o.id)!)) };
  };
  const seen = isLockedFirst ? undefined : await judge(db, await loadRowsToCheck(db, market.id, ofFamilies, [page]));
  const families = seen ? [...seen.families] : page;
  const share = (n: number): number => n / page.length;
  if (seen && families.length === 0) return { rows: seen.rows, newShare: 0 };
  return write(async (tx) => {
    const found = await judge(tx, await lockRowsToCheck(tx, market.id, ofFamilies, [families]));
    await storeOutcomes(tx, market, found.outcomes, 1);
    return { rows: seen?.rows ?? found.rows, newShare: share(found.families.size) };
  });
}

/**
 * A whole market anew; `progress` is told after each page. Listings are read and judged without a lock, and only what is
 * new is written: most changes of a rulebook touch few of its listings. Where the market was not changed meanwhile,
 * everything in it has then been checked against what it is.
 */
export async function refreshMarket(
  db: Db,
  market: Market,
  progress: Progress,
  write: Write = writeOn(db),
): Promise<void> {
  await refreshUsual(db, write);
  const c = await loadCorrespondences(db, market.id);
  const total = (await loadStateCounts(db, [market.id])).reduce((n, s) => n + s.n, 0);
  const marks = await rowsOf<{ id: number }>(db, 'select id from unchecked where market_id = ?', [market.id]);
  const roots = await rowsOf<{ id: number }>(db, 'select id from products where parent_id is null order by id');
  let done = 0,
    isLockedFirst = false;
  await eachPage(
    roots.map((r) => r.id),
    async (page) => {
      const { rows, newShare } = await refreshPage(db, market, c, page, isLockedFirst, write);
      isLockedFirst = newShare > mostNew;
      done += rows;
      await progress(Math.min(done, total), total);
    },
  );
  await write(async (tx) => {
    await tx.raw('update markets set checks_from = 1 where id = ? and revision = ?', [market.id, market.revision]);
    await tx.raw('delete from unchecked where id = any(?)', [marks.map((m) => m.id)]);
  });
  await announce(db, { topic: 'listings' });
}
