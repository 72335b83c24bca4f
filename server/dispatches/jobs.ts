// Sending and waiting. Each step is recorded before the next, so that a crash at any point ends in one submission
// and one receipt: the submission carries the dispatch's key, and the market knows a key it has seen.
import { type Db, rowOf } from '../database';
import { announce } from '../events';
import { openFile } from '../files';
import { AppError } from '../http';
import { enqueue, type JobKind } from '../jobs/queue';
import { loadMarketById, loadMarkets } from '../markets/load';
import { openMarketPort } from '../markets/port';
import { loadDispatch } from './queries';
import { applyShelf, receiveReceipt } from './receive';

const pollSeconds = 0.7;

export const sendDispatchJob: JobKind<{ dispatch: number }> = {
  kind: 'send-dispatch',
  attempts: 8,
  run: async ({ dispatch: id }, { db, progress, attempt }) => {
    const dispatch = await loadDispatch(db, id);
    if (!dispatch || dispatch.state === 'answered') return 'done';
    const market = await loadMarketById(db, dispatch.market_id);
    const port = openMarketPort(market);
    try {
      if (dispatch.ticket === null) {
        await progress(0, dispatch.total);
        await db.raw('update dispatches set attempts = attempts + 1 where id = ?', [id]);
        const chunks: Uint8Array[] = [];
        for await (const chunk of openFile(db, dispatch.file_id)()) chunks.push(chunk);
        const ticket = await port.submit({
          name: dispatch.file_name,
          operation: dispatch.operation,
          key: dispatch.key,
          bytes: Buffer.concat(chunks),
        });
        await db.raw(
          `update dispatches
            set ticket = ?, state = 'sent', sent_at = coalesce(sent_at, now()), fault = null
            where id = ?`,
          [ticket, id],
        );
        await announce(db, { topic: 'dispatches', id: String(id) });
        return { again: pollSeconds };
      }
      const receipt = await port.fetchReceipt(dispatch.ticket);
      if (receipt === undefined) {
        await progress(Math.round(dispatch.total / 2), dispatch.total);
        return { again: pollSeconds };
      }
      await receiveReceipt(db, market, dispatch, receipt);
      await progress(dispatch.total, dispatch.total);
      await watchShelf(db, market.key);
      return 'done';
    } catch (error) {
      if (error instanceof AppError && error.code === 'market-unreachable') {
        await db.raw('update dispatches set fault = ? where id = ?', [
          `${error.message} Try ${attempt}; it is tried again.`,
          id,
        ]);
        await announce(db, { topic: 'dispatches', id: String(id) });
      }
      throw error;
    }
  },
  onFailed: async ({ dispatch: id }, db, reason) => {
    await db.raw(`update dispatches set state = 'failed', fault = ? where id = ? and state <> 'answered'`, [
      reason,
      id,
    ]);
    await announce(db, { topic: 'dispatches', id: String(id) });
  },
};

/** Looks at the market's shelf while anything is in review, and again later for what changes by itself. */
export const watchShelfJob: JobKind<{ market: string }> = {
  kind: 'watch-shelf',
  attempts: 1_000_000,
  run: async ({ market: key }, { db }) => {
    const market = (await loadMarkets(db)).find((m) => m.key === key);
    if (!market?.connection.url) return { again: 30 };
    const cursor =
      (await rowOf<{ c: string | null }>(db, 'select shelf_cursor as c from markets where id = ?', [market.id]))?.c ??
      null;
    const shelf = await openMarketPort(market).readShelf(cursor);
    if (shelf.cursor !== cursor) await applyShelf(db, market, shelf.lines, shelf.cursor);
    const waiting =
      (
        await rowOf<{ n: number }>(
          db,
          `select count(*) as n from listings where market_id = ? and market_state = 'in review'`,
          [market.id],
        )
      )?.n ?? 0;
    return { again: waiting > 0 ? 1.5 : 15 };
  },
};

export async function watchShelf(db: Db, market: string): Promise<void> {
  await enqueue(db, { kind: 'watch-shelf', title: '', payload: { market }, once: `shelf-${market}` });
  await db.raw(
    `update jobs set run_at = least(run_at, now() + interval '1 second') where once = ? and state = 'queued'`,
    [`shelf-${market}`],
  );
}
