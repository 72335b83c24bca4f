// Building a dispatch: recorded with its lines and its file in one transaction, before anything leaves the house.
// The key makes it exactly once in effect: building twice under one key gives the same dispatch, sending twice one submission.
import { createFeedWriter, findLayout } from '@basileus/core/feed';
import type { Operation } from '@basileus/core/rulebook';
import { type Db, rowOf, rowsOf } from '../database';
import { announce } from '../events';
import { storeFile } from '../files';
import { AppError } from '../http';
import { enqueue } from '../jobs/enqueue';
import { loadCorrespondences, type Market } from '../markets/load';
import { recordHistory } from '../products/change-sets';
import { createFeedEncoder } from './encode';
import { countPlanned, loadPlannedIds, loadPlannedRows, type PlannedRow } from './plan';
import { type DispatchRow, loadDispatch, loadDispatchByKey } from './queries';

const batch = 500;

export interface BuildRequest {
  operation: Operation;
  ids?: readonly number[] | undefined;
  by: 'wire' | 'hand';
  key: string;
}

/** Builds a dispatch of what is planned and not held, and hands it to the sender. */
export async function buildDispatch(
  db: Db,
  market: Market,
  request: BuildRequest,
  actor: string,
): Promise<{ dispatch: DispatchRow; heldBack: number }> {
  const { operation } = request;
  const layout = findLayout(market.rulebook, operation);
  if (!layout)
    throw new AppError('bad-input', `${market.name} takes no file for “${operation}”.`, { field: 'operation' });
  const existing = await loadDispatchByKey(db, request.key);
  if (existing) return { dispatch: existing, heldBack: 0 };
  const heldBack = await countPlanned(db, market, operation, 'yes');
  const id = await db.transaction(async (tx) => {
    // One builder per market at a time, so that no row goes out twice.
    await tx.raw('select pg_advisory_xact_lock(4107, ?)', [market.id]);
    // Whoever held the lock before may have built under this very key.
    const built = await loadDispatchByKey(tx, request.key);
    if (built) return built.id;
    const ids = await loadPlannedIds(tx, market, operation, 'no', request.ids);
    if (ids.length === 0)
      throw new AppError('not-now', 'There is nothing to send: no row of this kind is ready.', {
        remedy: 'Mend what is held back under Check, then come back.',
      });
    if (ids.length > layout.maxRows)
      throw new AppError(
        'not-now',
        `${market.name} takes ${layout.maxRows} rows in one file; ${ids.length} are ready.`,
        { remedy: 'Send them in parts, for example category by category.' },
      );
    const stamp = new Date().toISOString().replace(/[-:]/g, '').slice(0, 15);
    const name = layout.fileName
      .replace('{market}', market.key)
      .replace('{operation}', operation)
      .replace('{stamp}', stamp);
    const dispatch = (await rowOf<{ id: number }>(
      tx,
      `insert into dispatches (market_id, operation, state, key, file_name, by_whom)
        values (?, ?, 'built', ?, ?, ?)
        returning id`,
      [market.id, operation, request.key, name, actor],
    ))!;
    const c = await loadCorrespondences(tx, market.id);
    let line = 0;
    const rowsOut = async function* (): AsyncGenerator<Uint8Array> {
      const writer = createFeedWriter(market.rulebook, layout),
        encoder = createFeedEncoder(layout.encoding);
      yield encoder.mark;
      yield encoder.encode(writer.header());
      for (let i = 0; i < ids.length; i += batch) {
        const planned = await loadPlannedRows(tx, market, operation, c, ids.slice(i, i + batch));
        // What changed since the ids were read has not been checked as it is now: it goes another time.
        const rows = planned.filter((r) => r.held === null);
        await storeLines(tx, dispatch.id, rows, line);
        line += rows.length;
        yield encoder.encode(writer.rows(rows.map((r) => r.feed)));
      }
    };
    const file = await storeFile(tx, name, rowsOut());
    if (line === 0)
      throw new AppError('not-now', 'What was ready has just changed and is being checked anew.', {
        remedy: 'Send again in a moment.',
      });
    await tx.raw(`update dispatches set file_id = ?, total = ?, state = ? where id = ?`, [
      file.id,
      line,
      request.by === 'hand' ? 'by hand' : 'sending',
      dispatch.id,
    ]);
    await tx.raw(
      'update listings set in_flight = in_flight + 1 where id in (select listing_id from dispatch_lines where dispatch_id = ?)',
      [dispatch.id],
    );
    await recordHistory(
      tx,
      actor,
      request.by === 'hand' ? 'built' : 'sent',
      `${operation}: ${line} rows to ${market.name}`,
      name,
    );
    if (request.by === 'wire') await enqueueSending(tx, dispatch.id, `Sending ${line} rows to ${market.name}`, market);
    await announce(tx, { topic: 'dispatches', id: String(dispatch.id) }, { topic: 'listings' });
    return dispatch.id;
  });
  return { dispatch: (await loadDispatch(db, id))!, heldBack };
}

export const enqueueSending = (db: Db, dispatchId: number, title: string, market: Market): Promise<string> =>
  enqueue(db, {
    kind: 'send-dispatch',
    title,
    payload: { dispatch: dispatchId },
    once: `send-${dispatchId}`,
    link: `/${market.key}/settle/${dispatchId}`,
  });

async function storeLines(db: Db, dispatchId: number, rows: readonly PlannedRow[], before: number): Promise<void> {
  await db.raw(
    `insert into dispatch_lines (dispatch_id, line, listing_id, sku, differences)
      select ?, r.line, r.listing_id, r.sku, r.differences
      from jsonb_to_recordset(?::jsonb) as r(line int, listing_id bigint, sku text, differences jsonb)`,
    [
      dispatchId,
      JSON.stringify(
        rows.map((r, i) => ({
          line: before + i + 1,
          listing_id: r.full.listing_id,
          sku: r.full.sku,
          differences: r.differences,
        })),
      ),
    ],
  );
}

/** Builds a dispatch of the refused lines of another that have been mended since. */
export async function resendMendedLines(
  db: Db,
  market: Market,
  original: DispatchRow,
  key: string,
  actor: string,
): Promise<{ dispatch: DispatchRow; heldBack: number }> {
  const rows = await rowsOf<{ listing_id: number }>(
    db,
    `select listing_id from dispatch_lines where dispatch_id = ? and state = 'refused' and mended and not resent`,
    [original.id],
  );
  if (rows.length === 0)
    throw new AppError('not-now', 'No refused line of this dispatch has been mended yet.', {
      remedy: 'Mend the fields that are lit, then send again.',
    });
  const ids = rows.map((r) => r.listing_id);
  const built = await buildDispatch(db, market, { operation: original.operation, ids, by: 'wire', key }, actor);
  await db.raw(
    `update dispatch_lines
      set resent = true
      where dispatch_id = ? and state = 'refused'
        and listing_id in (select listing_id from dispatch_lines where dispatch_id = ?)`,
    [original.id, built.dispatch.id],
  );
  return built;
}
