// Sending and waiting. Each step is recorded before the next, so that a crash at any point ends in one submission
// and one receipt: the submission carries the dispatch's key, and the market knows a key it has seen.
import { z } from 'zod';
import { type Db, rowOf, type Write } from '../database';
import { announce } from '../events';
import { readWhole } from '../files';
import { AppError } from '../http';
import { defineJob, enqueue, hurry } from '../jobs';
import { loadMarketById, loadMarkets, openGate, openMarketPort, paceOf } from '../markets';
import { formOf, isUnderway, loadDispatch, loadDispatchesByKey, submissionKey } from './queries';
import { receiveReceipt } from './receive';
import { applyShelf } from './standings';

const pollSeconds = 1,
  reviewSeconds = 1.5,
  watchSeconds = 15,
  awaySeconds = 30,
  longestPauseSeconds = 300,
  longestAskedSeconds = 3600;

export const sendDispatchJob = defineJob({
  kind: 'send-dispatch',
  payload: z.strictObject({ dispatch: z.int() }),
  attempts: 8,
  mostSeconds: 1800,
  run: async ({ dispatch: id }, { db, progress, write }) => {
    const dispatch = await loadDispatch(db, id);
    if (!dispatch || !isUnderway(dispatch.state)) return 'done';
    const market = await loadMarketById(db, dispatch.market_id);
    // A paused market is left alone; what waits for it goes when it is resumed.
    if (market.isPaused) return { again: awaySeconds };
    const port = openMarketPort(market, openGate(db, market));
    try {
      if (dispatch.ticket === null) {
        // Files of one sending go one after the other: a later one may hold the variants of a family in an earlier one.
        const before = dispatch.parts > 1 ? await loadDispatchesByKey(db, dispatch.key) : [];
        if (before.some((d) => d.part < dispatch.part && isUnderway(d.state))) return { again: pollSeconds };
        await progress(0, dispatch.total, 'handing the file over');
        // From here on it may have left: it cannot be stopped any more, and its key makes a second try the same submission.
        const isOurs = await write((tx) =>
          rowOf(
            tx,
            `update dispatches set attempts = attempts + 1, left_at = coalesce(left_at, now())
              where id = ? and state = 'sending' returning id`,
            [id],
          ),
        );
        if (!isOurs) return 'done';
        const ticket = await port.submit({
          name: dispatch.file_name,
          operation: dispatch.operation,
          form: formOf(market, dispatch)?.key ?? '',
          key: submissionKey(dispatch),
          bytes: await readWhole(db, dispatch.file_id),
          records: await countRecords(db, id),
        });
        await write(async (tx) => {
          await tx.raw(
            `update dispatches
              set ticket = ?, state = 'sent', sent_at = coalesce(sent_at, now()), fault = null, trouble = 0
              where id = ? and state = 'sending'`,
            [ticket, id],
          );
          await announce(tx, { topic: 'dispatches', id: String(id) });
        });
        return { again: pollSeconds };
      }
      const receipt = await port.fetchReceipt(dispatch.ticket, formOf(market, dispatch)?.key ?? '');
      if (receipt === undefined) {
        await progress(Math.round(dispatch.total / 2), dispatch.total, 'waiting for the receipt');
        if (dispatch.trouble > 0) await noteTrouble(write, id, { tries: 0, fault: null, pauseSeconds: 0 });
        return { again: Math.max(pollSeconds, paceOf(market)) };
      }
      await progress(Math.round(dispatch.total / 2), dispatch.total, 'reading the receipt');
      await receiveReceipt(write, market, dispatch, receipt);
      // It has been read, whatever becomes of the file.
      await port.putAside?.(dispatch.ticket).catch(() => undefined);
      await progress(dispatch.total, dispatch.total);
      await write((tx) => watchShelf(tx, market.key));
      return 'done';
    } catch (error) {
      if (!(error instanceof AppError) || error.code !== 'market-unreachable') throw error;
      // A market that is away, busy or odd only delays: the dispatch goes on trying for as long as it takes.
      const trouble = dispatch.trouble + 1;
      const pause = pauseAfter(trouble, error.retryAfterSeconds);
      await noteTrouble(write, id, {
        tries: trouble,
        fault: error.message,
        pauseSeconds: pause,
        isHome: error.about.notTaken === true && dispatch.left_at === null,
      });
      return { again: pause };
    }
  },
  onFailed: async ({ dispatch: id }, db, reason) => {
    await db.raw(
      `update dispatches set state = 'failed', fault = ? where id = ? and state in ('built', 'sending', 'sent')`,
      [reason, id],
    );
    await announce(db, { topic: 'dispatches', id: String(id) });
  },
});

/** Looks at the market's shelf while anything is in review, and again later for what changes by itself. */
export const watchShelfJob = defineJob({
  kind: 'watch-shelf',
  payload: z.strictObject({ market: z.string() }),
  attempts: 1000,
  mostSeconds: 600,
  run: async ({ market: key }, { db, write }) => {
    const market = (await loadMarkets(db)).find((m) => m.key === key);
    if (!market) return 'done';
    if (!market.connection.url || market.isPaused) return { again: awaySeconds };
    const { cursor, quiet } = (await rowOf<{ cursor: string | null; quiet: number }>(
      db,
      'select shelf_cursor as cursor, quiet_looks as quiet from markets where id = ?',
      [market.id],
    ))!;
    let shelf;
    try {
      shelf = await openMarketPort(market, openGate(db, market)).readShelf(cursor);
    } catch (error) {
      if (error instanceof AppError && error.code === 'market-unreachable') return { again: watchSeconds };
      throw error;
    }
    const isNew = shelf.cursor !== cursor;
    if (isNew) await applyShelf(write, market, shelf.lines, shelf.cursor);
    await write((tx) => tx.raw('update markets set quiet_looks = ? where id = ?', [isNew ? 0 : quiet + 1, market.id]));
    const waiting =
      (
        await rowOf<{ n: number }>(
          db,
          `select count(*) as n from listings where market_id = ? and market_state = 'in review'`,
          [market.id],
        )
      )?.n ?? 0;
    return {
      again: pauseBetweenLooks(waiting > 0 ? Math.max(reviewSeconds, paceOf(market)) : watchSeconds, isNew ? 0 : quiet),
    };
  },
});

/** Looks at the usual pace before a market counts as quiet, and the longest pause of one that is. */
const looksBeforeQuiet = 20,
  longestQuietSeconds = 300;
/**
 * Seconds to the next look at a market's shelf: the usual ones, and twice as many with each look past the twentieth at which
 * nothing was new, up to five minutes. People there take days over an entry, and are not asked every second of them.
 */
export const pauseBetweenLooks = (usual: number, quiet: number): number =>
  Math.max(usual, Math.min(longestQuietSeconds, usual * 2 ** Math.min(16, Math.max(0, quiet - looksBeforeQuiet))));

/** Looks at a market's shelf within a second, whenever the next look was meant to be. */
export async function watchShelf(db: Db, market: string): Promise<void> {
  const once = `shelf-${market}`;
  await db.raw('update markets set quiet_looks = 0 where key = ? and quiet_looks > 0', [market]);
  await enqueue(db, { kind: 'watch-shelf', title: '', payload: { market }, once, attempts: watchShelfJob.attempts });
  await hurry(db, 'watch-shelf', once);
}

/** Records of a file, each of which may carry several rows. */
const countRecords = async (db: Db, dispatchId: number): Promise<number> =>
  (await rowOf<{ n: number | null }>(db, 'select max(record) as n from dispatch_lines where dispatch_id = ?', [
    dispatchId,
  ]))!.n ?? 0;

/** `isHome` says that the market has surely not taken the file: it can still be stopped. */
const noteTrouble = (
  write: Write,
  id: number,
  {
    tries,
    fault,
    pauseSeconds,
    isHome = false,
  }: { tries: number; fault: string | null; pauseSeconds: number; isHome?: boolean },
): Promise<void> =>
  write(async (tx) => {
    await tx.raw(
      `update dispatches set trouble = ?, fault = ?, retry_at = now() + make_interval(secs => ?), left_at = case when ? and state = 'sending' then null else left_at end
        where id = ?`,
      [tries, fault, pauseSeconds, isHome, id],
    );
    await announce(tx, { topic: 'dispatches', id: String(id) });
  });

/** Seconds until the next try: what the market asks for, else a pause that doubles up to five minutes. */
export const pauseAfter = (trouble: number, askedSeconds: number | undefined): number =>
  askedSeconds === undefined
    ? Math.min(longestPauseSeconds, 2 ** Math.min(trouble, 16) / 2)
    : Math.min(longestAskedSeconds, Math.max(1, askedSeconds));
