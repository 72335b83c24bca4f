// Sending by the clock: what is due is built like what a person sends, but that nobody has looked. So what is surprising stays,
// and is said.
import { fewestSurprising, listOrders, listUnseen, type Order } from '@basileus/core/feed';
import { findNextTime } from '@basileus/core/change';
import type { Operation } from '@basileus/core/rulebook';
import { sendingOutcome, type SendingOutcome } from '@basileus/contract';
import { z } from 'zod';
import { type Db, parseColumn, rowOf } from '../database';
import { announce } from '../events';
import { AppError } from '../http';
import { defineClock, defineJob, enqueue, type JobContext } from '../jobs';
import { loadMarketById, type Market } from '../markets';
import { buildWithin, readAsked } from './build';
import { countPlanned, everyRow, loadSurprises } from './plan';
import { loadDispatchesByKey } from './queries';
import { lockMarket, mustLoadSending, nameSending, readLast, readSchedule, type SendingRow } from './sendings';
import { countTimed, liftTimed } from './timed';

/** How long a time that was set is tried for again while rows of it are on their way or being checked, and how often. */
const triesForMs = 2 * 3_600_000,
  pauseMs = 30_000;
/** A sending that went once is shown so long after. */
const shownDays = 7;

/** Sends what is due next, and says when it is due again; answers false where nothing is. */
async function runDue(tx: Db, now: Date): Promise<boolean> {
  const due = await rowOf<SendingRow>(
    tx,
    'select * from sendings where next_at <= ? order by next_at, id limit 1 for update skip locked',
    [now],
  );
  if (!due) {
    await tx.raw(
      `delete from sendings where next_at is null and (last ->> 'at')::timestamptz < ?::timestamptz - make_interval(days => ?)`,
      [now, shownDays],
    );
    return false;
  }
  await begin(tx, due, now);
  return true;
}

/** Hands a sending to its job, and says when it is due again. */
async function begin(tx: Db, row: SendingRow, now: Date): Promise<string> {
  const schedule = readSchedule(row);
  const market = await loadMarketById(tx, row.market_id);
  const due = row.due_at ?? row.next_at ?? now;
  await tx.raw('update sendings set next_at = ?, due_at = ? where id = ?', [
    schedule === null ? null : findNextTime(schedule, now),
    schedule === null ? due : null,
    row.id,
  ]);
  return enqueue(tx, {
    kind: 'send-by-clock',
    title: nameSending(row, market),
    payload: { sending: row.id, due: due.toISOString(), at: now.toISOString() },
    once: `clock-${row.id}`,
    link: `/${market.key}/send`,
  });
}

/** Sends now what would go by the clock; a schedule goes on as it was. */
export async function beginNow(tx: Db, id: number): Promise<string> {
  const row = await mustLoadSending(tx, id, 'for update of s');
  if (readSchedule(row) === null) {
    if (row.next_at === null) throw new AppError('not-now', 'This sending is over.');
    return begin(tx, { ...row, next_at: new Date(), due_at: null }, new Date());
  }
  const job = await begin(tx, { ...row, next_at: new Date() }, new Date());
  await tx.raw('update sendings set next_at = ? where id = ?', [row.next_at, id]);
  return job;
}

const seenSchema = z.array(sendingOutcome.shape.surprises.element);

/** Sends what one order of a sending holds but for what is surprising; answers the keys under which it went and what stayed. */
async function sendOrder(
  tx: Db,
  market: Market,
  row: SendingRow,
  order: Order,
  ids: readonly number[] | undefined,
  run: string,
  tell: JobContext['progress'],
): Promise<{ key: string | null; surprises: SendingOutcome['surprises'] }> {
  const choice = { ...everyRow, ids };
  const asked: Operation[] = [order.operation, ...(order.also ? [order.also] : [])];
  const ready: { operation: Operation; rows: number }[] = [];
  for (const o of asked) {
    const rows = await countPlanned(tx, market, o, 'no', choice);
    if (rows > 0) ready.push({ operation: o, rows });
  }
  // What is few surprises nobody: then no live entry need be looked at.
  const found = ready.some((r) => r.rows >= fewestSurprising) ? await loadSurprises(tx, market, choice) : [];
  const surprises = listUnseen(
    found.filter((s) => asked.includes(s.operation)),
    parseColumn('sendings.seen', seenSchema, row.seen),
  );
  const [operation, also] = ready.map((r) => r.operation).filter((o) => !surprises.some((s) => s.operation === o));
  if (operation === undefined) return { key: null, surprises };
  const key = `clock-${row.id}-${run}-${operation}`;
  const request = {
    ...choice,
    ids: ids === undefined ? undefined : [...ids],
    operation,
    also: also === 'stock' ? also : undefined,
    looked: true,
    by: market.rulebook.transport.kind === 'by-hand' ? ('hand' as const) : ('wire' as const),
    key,
  };
  try {
    await tx.transaction((inner) =>
      buildWithin(inner, market, request, readAsked(market, request), row.actor, (rows) => tell(rows, row.rows)),
    );
    await tx.raw('update dispatches set by_clock = true where key = ?', [key]);
  } catch (e) {
    // All of it has just changed and is being checked anew.
    if (e instanceof AppError && e.code === 'not-now') return { key: null, surprises };
    throw e;
  }
  return { key, surprises };
}

const isLeftAlone = ({ isPaused, rulebook }: Market): boolean => isPaused && rulebook.transport.kind !== 'by-hand';

/**
 * Frees the rows that waited for a time, in a transaction of its own: making their files takes long, and what locks them would
 * keep people from changing them. Which they are is kept, so that a run that ends here is taken up by the next.
 */
async function freeDue(tx: Db, id: number): Promise<void> {
  const row = await lockSending(tx, id);
  if (!row || readSchedule(row) !== null || row.freed !== null) return;
  const market = await loadMarketById(tx, row.market_id);
  if (isLeftAlone(market)) return;
  await lockMarket(tx, market);
  await tx.raw('update sendings set freed = ? where id = ?', [await liftTimed(tx, market, id, true), id]);
}

const lockSending = (tx: Db, id: number): Promise<SendingRow | undefined> =>
  rowOf<SendingRow>(tx, 'select * from sendings where id = ? for update', [id]);

/** Sends what is due of a sending, in one transaction with what is kept of how it went. */
async function sendDue(tx: Db, row: SendingRow, due: string, at: string, tell: JobContext['progress']): Promise<void> {
  const market = await loadMarketById(tx, row.market_id);
  const before = readLast(row);
  const isAgain = before?.due === due && row.next_at === null;
  const isOnce = readSchedule(row) === null;
  const keys: string[] = [];
  const outcome: SendingOutcome = {
    due,
    at: new Date().toISOString(),
    rows: isAgain ? before.rows : 0,
    dispatches: isAgain ? before.dispatches : [],
    surprises: [],
    busy: 0,
    isPaused: isLeftAlone(market),
    fault: null,
  };
  if (!outcome.isPaused) {
    await lockMarket(tx, market);
    const ids = isOnce ? (row.freed ?? []).map(Number) : undefined;
    for (const order of listOrders(row.operations)) {
      const sent = await sendOrder(tx, market, row, order, ids, runName(at), tell);
      outcome.surprises.push(...sent.surprises);
      if (sent.key) keys.push(sent.key);
    }
  }
  for (const key of keys)
    for (const d of await loadDispatchesByKey(tx, key)) {
      outcome.rows += d.total;
      outcome.dispatches = [...outcome.dispatches, d.id];
    }
  if (isOnce) {
    outcome.busy = await countTimed(tx, market, row.id);
    const isTriedAgain = outcome.busy > 0 && Date.now() < Date.parse(due) + triesForMs;
    // What could not go in all that time is as ready as anything else, and is said.
    if (outcome.busy > 0 && !isTriedAgain) await liftTimed(tx, market, row.id, false);
    await tx.raw('update sendings set next_at = ? where id = ?', [
      isTriedAgain ? new Date(Date.now() + pauseMs) : null,
      row.id,
    ]);
    if (isTriedAgain) await wakeSendingClock(tx);
  }
  await tx.raw('update sendings set last = ?::jsonb, freed = null where id = ?', [JSON.stringify(outcome), row.id]);
  await announce(tx, { topic: 'dispatches' }, { topic: 'listings' });
}

/** One run of a sending, named in the key of its dispatches: `20261130T090000`. */
const runName = (at: string): string => at.replace(/[-:]/g, '').slice(0, 15);

export const sendByClockJob = defineJob({
  kind: 'send-by-clock',
  payload: z.strictObject({ sending: z.int(), due: z.iso.datetime(), at: z.iso.datetime() }),
  attempts: 5,
  mostSeconds: 3600,
  run: async ({ sending, due, at }, { write, progress }) => {
    await write((tx) => freeDue(tx, sending));
    await write(async (tx) => {
      const row = await lockSending(tx, sending);
      // Called off meanwhile.
      if (row) await sendDue(tx, row, due, at, progress);
    });
    return 'done';
  },
  onFailed: async ({ sending, due }, db, reason) => {
    const row = await lockSending(db, sending);
    if (!row) return;
    if (readSchedule(row) === null) await liftTimed(db, await loadMarketById(db, row.market_id), sending, false);
    const outcome: SendingOutcome = {
      due,
      at: new Date().toISOString(),
      rows: 0,
      dispatches: [],
      surprises: [],
      busy: 0,
      isPaused: false,
      fault: reason,
    };
    await db.raw('update sendings set last = ?::jsonb, freed = null where id = ?', [JSON.stringify(outcome), sending]);
    await announce(db, { topic: 'dispatches' });
  },
});

const clock = defineClock('sending-clock', 'sendings', runDue);
export const sendingClockJob = clock.job;
/** The clock looks when the next sending is due. */
export const wakeSendingClock = clock.wake;
