import { plural } from '@basileus/core/text';
import {
  abandonDispatch,
  askShelf,
  createDispatch,
  downloadDispatch,
  listDispatches,
  listDispatchLines,
  listPlanRows,
  listRefusals,
  mendRefusals,
  previewFile,
  readDispatch,
  readPlan,
  readShelf,
  releaseHold,
  resendMended,
  retryDispatch,
  stopDispatch,
  uploadReceipt,
} from '@basileus/contract';
import { createFeedWriter, delimiterSigns, findLayout } from '@basileus/core/feed';
import { readRows } from '@basileus/core/sheet';
import type { Router } from 'express';
import { type Db, rowOf, rowsOf, writeOn } from '../database';
import { announce } from '../events';
import { openFile } from '../files';
import type { Threads } from '../jobs';
import { AppError, route } from '../http';
import { receiveUpload } from '../http';
import { refreshListings } from '../listings';
import { loadCorrespondences, loadMarket, loadMarketById } from '../markets';
import { buildDispatch, type Built, enqueueSending, resendMendedLines } from './build';
import { abandonDispatch as abandon, settleByShelf, stopDispatch as stop } from './end';
import { countPlanned, loadPlan, loadPlannedIds, loadPlannedRows } from './plan';
import { countDispatches, loadDispatch, loadDispatches, toDispatchShape } from './queries';
import { receiveReceipt } from './receive';
import { loadDispatchLines } from './lines';
import { loadShelf } from './shelf';
import { loadRefusals, mendRefusals as mendAll } from './refusals';

const mostReceiptBytes = 50_000_000;

const toBuiltShape = ({ dispatches, heldBack }: Built) => {
  const shapes = dispatches.map(toDispatchShape);
  return { dispatch: shapes[0]!, dispatches: shapes, heldBack };
};

export function addDispatchRoutes(router: Router, db: Db, threads: Threads): void {
  const mustLoad = async (id: number) => {
    const d = await loadDispatch(db, id);
    if (!d) throw new AppError('not-found', `There is no dispatch ${id}.`);
    return d;
  };

  route(router, readPlan, async ({ params, query }) => loadPlan(db, await loadMarket(db, params.market), query));
  route(router, listPlanRows, async ({ params, query }) => {
    const market = await loadMarket(db, params.market);
    const total = await countPlanned(db, market, params.operation, query.held, query);
    const ids = await loadPlannedIds(db, market, params.operation, query.held, query, query.offset, query.limit);
    const rows = await loadPlannedRows(
      db,
      market,
      params.operation,
      await loadCorrespondences(db, market.id),
      ids.map((i) => i.id),
    );
    return {
      total,
      rows: rows.map((r) => ({
        listingId: r.full.listing_id,
        sku: r.full.sku,
        title: r.full.title,
        role: r.feed.role,
        category: r.full.market_category,
        held: r.held,
        differences: r.differences.map((d) => ({ ...d, label: market.labelOf(d.field) })),
      })),
    };
  });
  route(router, previewFile, async ({ params, query }) => {
    const market = await loadMarket(db, params.market);
    const layout = findLayout(market.rulebook, params.operation);
    if (!layout) throw new AppError('not-found', `${market.name} takes no file for “${params.operation}”.`);
    const total = await countPlanned(db, market, params.operation, 'no', query);
    const rows = await loadPlannedRows(
      db,
      market,
      params.operation,
      await loadCorrespondences(db, market.id),
      (await loadPlannedIds(db, market, params.operation, 'no', query, 0, 50)).map((i) => i.id),
    );
    const writer = createFeedWriter(market.rulebook, layout);
    const text = writer.header() + writer.rows(rows.map((r) => r.feed));
    return {
      name: layout.fileName
        .replace('{market}', market.key)
        .replace('{operation}', params.operation)
        .replace('{stamp}', '…'),
      text,
      rows: readRows(text, delimiterSigns[layout.delimiter]),
      total,
    };
  });
  route(router, releaseHold, async ({ params, body }) => {
    const market = await loadMarket(db, params.market);
    const released = await db.transaction(async (tx) => {
      const rows = await rowsOf<{ id: number }>(
        tx,
        `update listings set released_price = "values" ->> ? where id = any(?) and market_id = ? returning id`,
        [market.rulebook.roles.price, body.ids, market.id],
      );
      await refreshListings(
        tx,
        market,
        rows.map((r) => r.id),
      );
      return rows.length;
    });
    return { released };
  });
  route(router, createDispatch, async ({ params, body, actor }) => {
    return toBuiltShape(await buildDispatch(db, await loadMarket(db, params.market), body, actor));
  });
  route(router, listDispatches, async ({ query }) => ({
    total: await countDispatches(db, query.market),
    rows: (await loadDispatches(db, query.market, query.offset, query.limit)).map(toDispatchShape),
  }));
  route(router, readDispatch, async ({ params }) => toDispatchShape(await mustLoad(params.id)));
  route(router, listDispatchLines, async ({ params, query }) => {
    const dispatch = await mustLoad(params.id);
    return loadDispatchLines(db, await loadMarketById(db, dispatch.market_id), params.id, query);
  });
  route(router, listRefusals, async ({ params }) => {
    const dispatch = await mustLoad(params.id);
    return { rows: await loadRefusals(db, await loadMarketById(db, dispatch.market_id), params.id) };
  });
  route(router, mendRefusals, async ({ params, body, actor }) => {
    const dispatch = await mustLoad(params.id);
    return mendAll(db, threads, await loadMarketById(db, dispatch.market_id), dispatch, body, actor);
  });
  route(router, downloadDispatch, async ({ params, response }) => {
    const dispatch = await mustLoad(params.id);
    // RFC 6266: a name from a rulebook may hold anything, quotes and line breaks too.
    response.attachment(dispatch.file_name).type('text/tab-separated-values; charset=utf-8');
    for await (const chunk of openFile(db, dispatch.file_id)()) response.write(chunk);
    response.end();
    return undefined;
  });
  route(router, uploadReceipt, async ({ params, request, response }) => {
    const dispatch = await mustLoad(params.id);
    if (dispatch.state === 'answered') throw new AppError('not-now', 'This dispatch has its receipt already.');
    if (dispatch.state === 'stopped' || dispatch.state === 'abandoned')
      throw new AppError('not-now', 'This dispatch was given up; its rows do not wait for a receipt.', {
        remedy: 'Send the rows again; what the market has taken already, it will say.',
      });
    const text = await receiveUpload({ request, response }, mostReceiptBytes, async ({ bytes }) => {
      const chunks: Uint8Array[] = [];
      for await (const c of bytes) chunks.push(c);
      return Buffer.concat(chunks).toString('utf8');
    });
    await receiveReceipt(writeOn(db), await loadMarketById(db, dispatch.market_id), dispatch, text, true);
    return toDispatchShape(await mustLoad(params.id));
  });
  route(router, resendMended, async ({ params, body, actor }) => {
    const original = await mustLoad(params.id);
    return toBuiltShape(
      await resendMendedLines(db, await loadMarketById(db, original.market_id), original, body.key, actor),
    );
  });
  route(router, retryDispatch, async ({ params }) => {
    const dispatch = await mustLoad(params.id);
    if (dispatch.state !== 'failed') throw new AppError('not-now', 'Only a failed dispatch can be tried again.');
    await db.transaction(async (tx) => {
      const again = await rowOf(
        tx,
        `update dispatches set state = 'sending', fault = null where id = ? and state = 'failed' returning id`,
        [params.id],
      );
      if (!again) throw new AppError('not-now', 'Only a failed dispatch can be tried again.');
      await enqueueSending(
        tx,
        params.id,
        `Sending ${plural(dispatch.total, 'row', 'rows')} again`,
        await loadMarketById(tx, dispatch.market_id),
      );
      await announce(tx, { topic: 'dispatches', id: String(params.id) });
    });
    return toDispatchShape(await mustLoad(params.id));
  });
  route(router, stopDispatch, async ({ params, actor }) => {
    const d = await mustLoad(params.id);
    await stop(db, await loadMarketById(db, d.market_id), d, actor);
    return toDispatchShape(await mustLoad(params.id));
  });
  route(router, abandonDispatch, async ({ params, actor }) => {
    const d = await mustLoad(params.id);
    await abandon(db, await loadMarketById(db, d.market_id), d, actor);
    return toDispatchShape(await mustLoad(params.id));
  });
  route(router, askShelf, async ({ params, actor }) => {
    const d = await mustLoad(params.id);
    await settleByShelf(writeOn(db), await loadMarketById(db, d.market_id), d, actor);
    return toDispatchShape(await mustLoad(params.id));
  });
  route(router, readShelf, async ({ params, query }) => loadShelf(db, await loadMarket(db, params.market), query));
}
