// Keeping listings true: values resolved from product, correspondences and what was typed; checked; what must go out
// worked out. Only what a change touches is made anew: a product, its family, and those that share its barcode.
import type { Correspondences } from '@basileus/core/listing';
import { type Db, rowOf, rowsOf, type Write, writeOn } from '../database';
import { announce } from '../events';
import { loadCorrespondences, type Market } from '../markets/load';
import { judgeRows } from './judge';
import { type FullRow, loadFullRows } from './rows';
import { storeOutcomes } from './store';

/** Makes whole families anew in one market. `rows` must hold every member of each family it names. */
export async function refreshRows(db: Db, market: Market, c: Correspondences, rows: readonly FullRow[]): Promise<void> {
  await storeOutcomes(db, market, await judgeRows(db, market, c, rows));
}

const pageOfFamilies = 500,
  pagesAtOnce = 2;

/** Families checked anew in pages, each in a transaction of its own. */
export async function refreshFamilies(
  db: Db,
  market: Market,
  roots: readonly number[],
  told: (rows: number) => Promise<void>,
  write: Write = writeOn(db),
): Promise<void> {
  const c = await loadCorrespondences(db, market.id);
  let next = 0;
  /** Works through pages until none is left; while the database is busy with one, another is computed. */
  const work = async (): Promise<void> => {
    while (next < roots.length) {
      const page = roots.slice(next, (next += pageOfFamilies));
      const rows = await write(async (tx) => {
        const found = await loadFullRows(tx, market.id, 'coalesce(p.parent_id, p.id) = any(?)', [page], true);
        await refreshRows(tx, market, c, found);
        return found.length;
      });
      await told(rows);
    }
  };
  await Promise.all(Array.from({ length: pagesAtOnce }, work));
}

export type Progress = (done: number, total: number) => Promise<void>;

/** A whole market anew; `progress` is told after each page. */
export async function refreshMarket(db: Db, market: Market, progress: Progress): Promise<void> {
  const total =
    (await rowOf<{ n: number }>(db, 'select count(*) as n from listings where market_id = ?', [market.id]))?.n ?? 0;
  const roots = await rowsOf<{ id: number }>(db, 'select id from products where parent_id is null order by id');
  let done = 0;
  await refreshFamilies(
    db,
    market,
    roots.map((r) => r.id),
    async (rows) => {
      done += rows;
      await progress(Math.min(done, total), total);
    },
  );
  await announce(db, { topic: 'listings' });
}
