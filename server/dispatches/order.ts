// What is asked to be sent: built at once, or by a job where there are many rows.
import { plural, say } from '@basileus/core/text';
import { z } from 'zod';
import { type Db, rowsOf } from '../database';
import { announce } from '../events';
import { AppError } from '../http';
import { defineJob, enqueue } from '../jobs';
import { loadMarket, type Market } from '../markets';
import {
  buildDispatch,
  type BuildRequest,
  buildRequest,
  type Built,
  buildWithin,
  countAll,
  readAsked,
  refuseSurprises,
} from './build';
import { everyRow } from './plan';
import { type DispatchRow, loadDispatchesByKey } from './queries';

/** What was ordered: built, or underway in a job. */
export interface Ordered extends Built {
  underway: { job: string; rows: number } | null;
}

/** Rows whose files are made while one waits; files of more are made by a job. */
export const mostWaitedFor = 5000;

/**
 * Builds dispatches of what is planned and not held, as many as the forms need, and hands them to the sender: at once, or by a
 * job where there are many rows.
 */
export async function orderDispatch(
  db: Db,
  market: Market,
  request: BuildRequest,
  actor: string,
  most = mostWaitedFor,
): Promise<Ordered> {
  const asked = readAsked(market, request);
  const existing = await loadDispatchesByKey(db, request.key);
  const rows = existing.length > 0 ? 0 : await countAll(db, market, asked, 'no', request);
  if (rows <= most) return { ...(await buildDispatch(db, market, request, actor)), underway: null };
  if (!request.looked) await refuseSurprises(db, market, request, asked);
  const heldBack = await countAll(db, market, asked, 'yes', request);
  const job = await db.transaction((tx) =>
    enqueue(tx, {
      kind: 'build-dispatch',
      title: `Making files of ${plural(rows, 'row', 'rows')} for ${market.name}`,
      // What is surprising was judged just now, by the one who asked.
      payload: { market: market.key, request: { ...request, looked: true }, actor },
      once: `build-${request.key}`,
      link: `/${market.key}/settle`,
      cancellable: true,
    }),
  );
  return { dispatches: [], heldBack, underway: { job, rows } };
}

export const buildDispatchJob = defineJob({
  kind: 'build-dispatch',
  payload: z.strictObject({ market: z.string(), request: buildRequest, actor: z.string() }),
  attempts: 5,
  mostSeconds: 3600,
  run: async ({ market: key, request, actor }, { db, write, progress }) => {
    const market = await loadMarket(db, key);
    const asked = readAsked(market, request);
    const total = await countAll(db, market, asked, 'no', request);
    await progress(0, total, 'choosing the rows');
    // All of them or none: a row is marked as on its way with the file that it is in.
    await write((tx) =>
      buildWithin(tx, market, request, asked, actor, (rows, part, parts) =>
        progress(Math.min(rows, total), total, parts === 1 ? 'writing the file' : `writing file ${part} of ${parts}`),
      ),
    );
    await announce(db, { topic: 'dispatches' }, { topic: 'listings' });
    return 'done';
  },
});

/** Builds a dispatch of the refused lines of another that have been mended since. */
export async function resendMendedLines(
  db: Db,
  market: Market,
  original: DispatchRow,
  key: string,
  actor: string,
): Promise<Built> {
  const rows = await rowsOf<{ listing_id: number }>(
    db,
    `select listing_id from dispatch_lines where dispatch_id = ? and state = 'refused' and mended and not resent`,
    [original.id],
  );
  if (rows.length === 0)
    throw new AppError('not-now', say`No refused line of this dispatch has been mended yet.`, {
      remedy: say`Mend the fields that are lit, then send again.`,
    });
  const ids = rows.map((r) => r.listing_id);
  const built = await buildDispatch(
    db,
    market,
    { ...everyRow, operation: original.operation, ids, looked: true, by: 'wire', key },
    actor,
  );
  await db.raw(
    `update dispatch_lines
      set resent = true
      where dispatch_id = ? and state = 'refused'
        and listing_id in (select listing_id from dispatch_lines where dispatch_id = any(?))`,
    [original.id, built.dispatches.map((d) => d.id)],
  );
  return built;
}
