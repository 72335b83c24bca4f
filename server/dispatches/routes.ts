import {
  abandonDispatch,
  askShelf,
  changeSending,
  createDispatch,
  createSending,
  downloadDispatch,
  listDispatches,
  listDispatchLines,
  listDrift,
  listPlanRows,
  listRefusals,
  listSendings,
  mendRefusals,
  previewFile,
  readDispatch,
  readPlan,
  readShelf,
  releaseHold,
  removeSending,
  resendMended,
  retryDispatch,
  runSending,
  settleDrift,
  stopDispatch,
  uploadReceipt,
} from '@basileus/contract';
import { findAnswerDecoding } from '@basileus/core/answers';
import type { Container } from '@basileus/core/rulebook';
import type { Router } from 'express';
import { type Db, writeOn } from '../database';
import { openFile } from '../files';
import type { Threads } from '../jobs';
import { AppError, route } from '../http';
import { receiveUpload } from '../http';
import { decodeText, loadMarket, loadMarketById } from '../markets';
import type { Built } from './build';
import { loadDrift, settleDrift as settle } from './drift';
import { beginNow, wakeSendingClock } from './by-clock';
import { orderDispatch, resendMendedLines } from './order';
import { abandonDispatch as abandon, settleByShelf, stopDispatch as stop } from './end';
import { loadPlan } from './plan';
import { countDispatches, formOf, loadDispatch, loadDispatches, toDispatchShape } from './queries';
import { receiveReceipt } from './receive';
import { addSending, changeSending as sayAnew, dropSending, loadSendings } from './sendings';
import { listPlanned, lookAtFile, refuseReceipt, releaseHolds, tryAgain } from './service';
import { loadDispatchLines } from './lines';
import { loadShelf } from './shelf';
import { loadRefusals, mendRefusals as mendAll } from './refusals';
import { say } from '@basileus/core/text';

const mostReceiptBytes = 50_000_000;

/** The media type of a file, with the encoding of its text. */
function nameType({ kind, encoding }: Container): string {
  if (kind === 'workbook') return 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';
  const type = { delimited: 'text/csv', xml: 'application/xml', json: 'application/json', 'json-lines': 'text/plain' }[
    kind
  ];
  return `${type}; charset=${encoding === 'utf-8-mark' ? 'utf-8' : encoding}`;
}

const toBuiltShape = ({ dispatches, heldBack }: Built) => {
  const shapes = dispatches.map(toDispatchShape);
  return { dispatch: shapes[0]!, dispatches: shapes, heldBack };
};

/** What goes by the clock. */
function addSendingRoutes(router: Router, db: Db): void {
  route(router, listSendings, async ({ query }) => ({ rows: await loadSendings(db, query.market) }));
  route(router, createSending, async ({ params, body, actor }) => {
    const market = await loadMarket(db, params.market);
    return db.transaction(async (tx) => {
      const sending = await addSending(tx, market, body, actor);
      await wakeSendingClock(tx);
      return sending;
    });
  });
  route(router, changeSending, ({ params, body, actor }) =>
    db.transaction(async (tx) => {
      const sending = await sayAnew(tx, params.id, body, actor);
      await wakeSendingClock(tx);
      return sending;
    }),
  );
  route(router, removeSending, async ({ params, actor }) => {
    await db.transaction((tx) => dropSending(tx, params.id, actor));
    return { ok: true as const };
  });
  route(router, runSending, async ({ params }) => ({ job: await db.transaction((tx) => beginNow(tx, params.id)) }));
}

export function addDispatchRoutes(router: Router, db: Db, threads: Threads): void {
  const mustLoad = async (id: number) => {
    const d = await loadDispatch(db, id);
    if (!d) throw new AppError('not-found', say`There is no dispatch ${id}.`);
    return d;
  };

  route(router, readPlan, async ({ params, query }) => loadPlan(db, await loadMarket(db, params.market), query));
  route(router, listPlanRows, async ({ params, query }) =>
    listPlanned(db, await loadMarket(db, params.market), params.operation, query),
  );
  route(router, previewFile, async ({ params, query }) =>
    lookAtFile(db, await loadMarket(db, params.market), params.operation, query),
  );
  route(router, releaseHold, async ({ params, body }) => ({
    released: await releaseHolds(db, await loadMarket(db, params.market), body.ids),
  }));
  route(router, createDispatch, async ({ params, body, actor }) => {
    const { underway, ...built } = await orderDispatch(db, await loadMarket(db, params.market), body, actor);
    return { ...toBuiltShape(built), dispatch: built.dispatches.map(toDispatchShape)[0] ?? null, underway };
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
    const container = formOf(await loadMarketById(db, dispatch.market_id), dispatch)?.container;
    response.attachment(dispatch.file_name).type(container ? nameType(container) : 'application/octet-stream');
    for await (const chunk of openFile(db, dispatch.file_id)()) response.write(chunk);
    response.end();
    return undefined;
  });
  route(router, uploadReceipt, async ({ params, request, response }) => {
    const dispatch = await mustLoad(params.id);
    refuseReceipt(dispatch);
    const market = await loadMarketById(db, dispatch.market_id);
    const text = await receiveUpload({ request, response }, mostReceiptBytes, async ({ bytes }) => {
      const chunks: Uint8Array[] = [];
      for await (const c of bytes) chunks.push(c);
      return decodeText(
        Buffer.concat(chunks),
        findAnswerDecoding(market.rulebook, formOf(market, dispatch)?.key ?? ''),
      );
    });
    await receiveReceipt(writeOn(db), market, dispatch, text, true);
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
    await tryAgain(db, dispatch);
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
    await settleByShelf(db, writeOn(db), await loadMarketById(db, d.market_id), d, actor);
    return toDispatchShape(await mustLoad(params.id));
  });
  addSendingRoutes(router, db);
  route(router, listDrift, async ({ params, query }) => loadDrift(db, await loadMarket(db, params.market), query));
  route(router, settleDrift, async ({ params, body, actor }) => {
    const market = await loadMarket(db, params.market);
    return db.transaction((tx) => settle(tx, market, body, actor));
  });
  route(router, readShelf, async ({ params, query }) => loadShelf(db, await loadMarket(db, params.market), query));
}
