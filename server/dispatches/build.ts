// Building a dispatch: recorded with its lines and its file in one transaction, before anything leaves the house.
// The key makes it exactly once in effect: building twice under one key gives the same dispatch, sending twice one submission.
import { plural, say } from '@basileus/core/text';
import type { z } from 'zod';
import { createDispatch, type PlanChoice } from '@basileus/contract';
import { createFormWriter, type FeedRecord, findForm, toRecords } from '@basileus/core/forms';
import type { Operation } from '@basileus/core/rulebook';
import { type Db, rowOf } from '../database';
import { announce } from '../events';
import { storeFile } from '../files';
import { AppError } from '../http';
import { enqueue } from '../jobs';
import { loadCorrespondences, type Market, openTemplate } from '../markets';
import { recordHistory } from '../history';
import { divide, type FilePart } from './divide';
import { createFeedEncoder, createTemplateEncoder } from './encode';
import { countPlanned, loadPlannedIds, loadSurprises } from './plan';
import { loadPlannedRows, type PlannedRow } from './planned-rows';
import { type DispatchRow, loadDispatchesByKey } from './queries';
import { leaveHeld, splitByFamily } from './split';

const batch = 500;

/** What is asked to be sent; kept with the job that builds it. */
export const buildRequest = createDispatch.body;
export type BuildRequest = z.output<typeof buildRequest>;

export interface Built {
  /** One for each file, those of the first operation first. */
  dispatches: DispatchRow[];
  heldBack: number;
}

/** Operations that are asked for; refuses what the market does not take, or not now. */
export function readAsked(market: Market, request: BuildRequest): Operation[] {
  const asked = [request.operation, ...(request.also && request.also !== request.operation ? [request.also] : [])];
  for (const operation of asked)
    if (!findForm(market.rulebook, operation))
      throw new AppError('bad-input', say`${market.name} takes no file for “${operation}”.`, { field: 'operation' });
  if (request.by === 'wire' && market.rulebook.transport.kind === 'by-hand')
    throw new AppError('not-now', say`${market.name} takes files by hand only.`, {
      remedy: say`Download the file and bring it to the market; give its answer back here.`,
    });
  if (request.by === 'wire' && market.isPaused)
    throw new AppError('not-now', say`${market.name} is paused; nothing is sent there.`, {
      remedy: say`Resume it under Connection, or make the file by hand.`,
    });
  if (asked.length > 1 && asked.some((o) => o !== 'price' && o !== 'stock'))
    throw new AppError('bad-input', say`Only prices and stock go at the same time; the others follow one another.`, {
      field: 'also',
      remedy: say`Send one after the other.`,
    });
  return asked;
}

export const countAll = async (
  db: Db,
  market: Market,
  asked: readonly Operation[],
  held: 'yes' | 'no',
  choice: PlanChoice,
): Promise<number> => {
  let n = 0;
  for (const operation of asked) n += await countPlanned(db, market, operation, held, choice);
  return n;
};

/** Builds dispatches of what is planned and not held, as many as the forms need, and hands them to the sender. */
export async function buildDispatch(db: Db, market: Market, request: BuildRequest, actor: string): Promise<Built> {
  const asked = readAsked(market, request);
  const existing = await loadDispatchesByKey(db, request.key);
  if (existing.length) return { dispatches: existing, heldBack: 0 };
  const heldBack = await countAll(db, market, asked, 'yes', request);
  await db.transaction(async (tx) => {
    await buildWithin(tx, market, request, asked, actor, () => Promise.resolve());
    await announce(tx, { topic: 'dispatches' }, { topic: 'listings' });
  });
  return { dispatches: await loadDispatchesByKey(db, request.key), heldBack };
}

/** Told how many rows are in files by now, and which file of how many is written. */
type Tell = (rows: number, part: number, parts: number) => Promise<void>;

export async function buildWithin(
  tx: Db,
  market: Market,
  request: BuildRequest,
  asked: readonly Operation[],
  actor: string,
  tell: Tell,
): Promise<void> {
  // One builder per market at a time, so that no row goes out twice.
  await tx.raw('select pg_advisory_xact_lock(4107, ?)', [market.id]);
  // Whoever held the lock before may have built under this very key.
  if ((await loadDispatchesByKey(tx, request.key)).length) return;
  if (!request.looked) await refuseSurprises(tx, market, request, asked);
  // All are chosen before any is marked as on its way: a row whose price and stock differ goes in both files.
  const files: (FilePart & { operation: Operation })[] = [];
  for (const operation of asked) {
    const ids = await loadPlannedIds(tx, market, operation, 'no', request);
    for (const part of await divide(tx, market, operation, ids)) files.push({ operation, ...part });
  }
  if (files.length === 0)
    throw new AppError('not-now', say`There is nothing to send: no row of this kind is ready.`, {
      remedy: say`Mend what is held back under Check, then come back.`,
    });
  let built = 0,
    rows = 0;
  for (const [i, file] of files.entries()) {
    const of = { part: i + 1, parts: files.length };
    const dispatch = await buildFile(tx, market, file, { ...request, ...of }, actor, (n) =>
      tell(rows + n, of.part, of.parts),
    );
    rows += file.ids.length;
    if (dispatch !== undefined) built++;
  }
  if (built === 0)
    throw new AppError('not-now', say`What was ready has just changed and is being checked anew.`, {
      remedy: say`Send again in a moment.`,
    });
}

/** What touches a large share of the live entries goes only after a look. */
export async function refuseSurprises(
  db: Db,
  market: Market,
  choice: PlanChoice,
  asked: readonly Operation[],
): Promise<void> {
  const [first] = (await loadSurprises(db, market, choice)).filter((s) => asked.includes(s.operation));
  if (!first) return;
  const words = {
    'stock-gone': 'fall to no stock',
    'stock-falls': 'lose more than half of their stock',
    'prices-move': 'change their price',
  };
  throw new AppError(
    'needs-look',
    say`${first.rows} of ${first.live} live entries would ${words[first.kind]} at once; nothing was sent.`,
    { field: 'looked', remedy: say`Look at the rows, and send again if it is meant.` },
  );
}

async function buildFile(
  tx: Db,
  market: Market,
  { operation, form, ids }: FilePart & { operation: Operation },
  request: BuildRequest & { part: number; parts: number },
  actor: string,
  tell: (rows: number) => Promise<void>,
): Promise<number | undefined> {
  const stamp = new Date().toISOString().replace(/[-:]/g, '').slice(0, 15);
  const dispatch = (await rowOf<{ id: number }>(
    tx,
    `insert into dispatches (market_id, operation, form, state, key, part, parts, file_name, by_whom)
      values (?, ?, ?, 'built', ?, ?, ?, ?, ?)
      returning id`,
    [market.id, operation, form.key, request.key, request.part, request.parts, '', actor],
  ))!;
  const template = await openTemplate(tx, market, form);
  const plain = form.fileName
    .replace('{market}', market.key)
    .replace('{operation}', operation)
    .replace('{stamp}', stamp)
    .replace('{id}', String(dispatch.id))
    .replace(/\.xlsx$/, template?.ending ?? '.xlsx');
  const name =
    request.parts > 1 ? plain.replace(/(\.[^.]*)?$/, (end) => `-${request.part}-of-${request.parts}${end}`) : plain;
  const c = await loadCorrespondences(tx, market.id);
  let line = 0,
    records = 0,
    gone = 0;
  const rowsOut = async function* (): AsyncGenerator<Uint8Array> {
    const writer = createFormWriter(market.rulebook, form),
      encoder = template ? createTemplateEncoder(template.fill) : createFeedEncoder(form.container);
    yield encoder.mark;
    yield encoder.encode(writer.header());
    for (const some of splitByFamily(ids, batch)) {
      const planned = await loadPlannedRows(
        tx,
        market,
        operation,
        c,
        some.map((x) => x.id),
      );
      // What changed since the ids were read has not been checked as it is now: it goes another time.
      const rows = leaveHeld(market, operation, planned, some.length);
      const made = toRecords(
        market.rulebook,
        form,
        rows.map((r) => r.feed),
      );
      await storeLines(tx, dispatch.id, rows, made, { line, records });
      line += made.reduce((n, r) => n + r.rows.length, 0);
      records += made.length;
      gone += some.length;
      await tell(gone);
      yield encoder.encode(writer.records(made));
    }
    yield encoder.encode(writer.footer());
    yield encoder.end();
  };
  const file = await storeFile(tx, name, rowsOut());
  if (line === 0) {
    await tx.raw('delete from dispatches where id = ?', [dispatch.id]);
    await tx.raw('delete from files where id = ?', [file.id]);
    return undefined;
  }
  await tx.raw(`update dispatches set file_id = ?, file_name = ?, total = ?, state = ? where id = ?`, [
    file.id,
    name,
    line,
    request.by === 'hand' ? 'by hand' : 'sending',
    dispatch.id,
  ]);
  await tx.raw(
    'update listings set in_flight = in_flight + 1 where id in (select listing_id from dispatch_lines where dispatch_id = ?)',
    [dispatch.id],
  );
  await recordHistory(tx, actor, {
    is: request.by === 'hand' ? 'built' : 'sent',
    rows: line,
    market: market.name,
    operation,
    file: name,
  });
  if (request.by === 'wire')
    await enqueueSending(tx, dispatch.id, `Sending ${plural(line, 'row', 'rows')} to ${market.name}`, market);
  await announce(tx, { topic: 'dispatches', id: String(dispatch.id) });
  return dispatch.id;
}

export const enqueueSending = (db: Db, dispatchId: number, title: string, market: Market): Promise<string> =>
  enqueue(db, {
    kind: 'send-dispatch',
    title,
    payload: { dispatch: dispatchId },
    once: `send-${dispatchId}`,
    link: `/${market.key}/settle/${dispatchId}`,
  });

/** One line for each row in each record of the file, in its order. A record about one site says which. */
async function storeLines(
  db: Db,
  dispatchId: number,
  rows: readonly PlannedRow[],
  records: readonly FeedRecord[],
  before: { line: number; records: number },
): Promise<void> {
  const byFeed = new Map(rows.map((r) => [r.feed, r]));
  await db.raw(
    `insert into dispatch_lines (dispatch_id, line, record, listing_id, sku, differences, site)
      select ?, ? + r.line, r.record, r.listing_id, r.sku, r.differences, r.site
      from jsonb_to_recordset(?::jsonb) as r(line int, record int, listing_id bigint, sku text, differences jsonb, site text)`,
    [
      dispatchId,
      before.line,
      JSON.stringify(
        records
          .flatMap((record, i) => record.rows.map((row) => ({ record, row, at: before.records + i + 1 })))
          .map(({ record, row, at }, i) => {
            const { full, differences } = byFeed.get(row)!;
            return {
              line: i + 1,
              record: at,
              listing_id: full.listing_id,
              sku: full.sku,
              differences: record.isOfSite
                ? differences.filter((d) => isOfSite(d.field, record.site.key))
                : differences,
              site: record.isOfSite ? record.site.key : '',
            };
          }),
      ),
    ],
  );
}

/** True for a field that a record of a site is about: one of that site, or of no site. */
const isOfSite = (field: string, site: string): boolean => !field.includes('@') || field.endsWith(`@${site}`);
