// What goes by the clock: said, changed, called off.
import type { SendingOutcome, SendingShape } from '@basileus/contract';
import { type createSending, sendingOutcome } from '@basileus/contract';
import { findNextTime, type Schedule, scheduleSchema } from '@basileus/core/change';
import { isFirst, type Operation } from '@basileus/core/rulebook';
import { findForm } from '@basileus/core/forms';
import { plural, say } from '@basileus/core/text';
import type { z } from 'zod';
import { type Db, parseColumn, rowOf, rowsOf } from '../database';
import { announce } from '../events';
import { recordHistory } from '../history';
import { AppError } from '../http';
import { loadMarketById, type Market } from '../markets';
import { readAsked, refuseSurprises } from './build';
import { loadPlannedIds, loadSurprises } from './plan';
import { liftTimed, markTimed } from './timed';

export interface SendingRow {
  id: number;
  market_id: number;
  market_key: string;
  operations: Operation[];
  schedule: unknown;
  next_at: Date | null;
  due_at: Date | null;
  actor: string;
  rows: number;
  /** Of one whose time has come: listings that were freed for it and are about to go. */
  freed: (string | number)[] | null;
  seen: unknown;
  last: unknown;
}

const select = 'select s.*, m.key as market_key from sendings s join markets m on m.id = s.market_id';

export const readSchedule = (row: Pick<SendingRow, 'schedule'>): Schedule | null =>
  parseColumn('sendings.schedule', scheduleSchema.nullable(), row.schedule);

export const readLast = (row: Pick<SendingRow, 'last'>): SendingOutcome | null =>
  parseColumn('sendings.last', sendingOutcome.nullable(), row.last);

const toShape = (row: SendingRow): SendingShape => ({
  id: row.id,
  market: row.market_key,
  operations: row.operations,
  schedule: readSchedule(row),
  at: row.next_at?.toISOString() ?? null,
  rows: row.rows,
  by: row.actor,
  last: readLast(row),
});

/** What goes by the clock, to one market or all: that first which is due next, what is over at the end. */
export const loadSendings = async (db: Db, market: string): Promise<SendingShape[]> =>
  (
    await rowsOf<SendingRow>(
      db,
      `${select} where ? = '' or m.key = ? order by m.id, s.next_at nulls last, s.id desc limit 500`,
      [market, market],
    )
  ).map(toShape);

export async function mustLoadSending(db: Db, id: number, lock = ''): Promise<SendingRow> {
  const row = await rowOf<SendingRow>(db, `${select} where s.id = ? ${lock}`, [id]);
  if (!row) throw new AppError('not-found', say`There is no sending ${id} by the clock; it may have been called off.`);
  return row;
}

/** One day more than a year ahead: what is further away is a slip of the year. */
const furthestMs = 367 * 86_400_000;

/** A moment that a person has set. Throws where it has passed, or is more than a year ahead. */
function readMoment(at: string, now: Date): Date {
  const moment = new Date(at);
  if (moment <= now)
    throw new AppError('bad-input', say`That time has passed.`, {
      field: 'at',
      remedy: say`Set one that is to come, or send now.`,
    });
  if (moment.getTime() - now.getTime() > furthestMs)
    throw new AppError('bad-input', say`That time is more than a year ahead.`, { field: 'at' });
  return moment;
}

/** Refuses operations that the market does not take, or that go by the clock already. */
async function refuseTwice(tx: Db, market: Market, operations: readonly Operation[], but: number): Promise<void> {
  const strange = operations.find((o) => !findForm(market.rulebook, o));
  if (strange)
    throw new AppError('bad-input', say`${market.name} takes no file for “${strange}”.`, { field: 'operations' });
  const others = await rowsOf<{ operations: Operation[] }>(
    tx,
    'select operations from sendings where market_id = ? and schedule is not null and id <> ?',
    [market.id, but],
  );
  const twice = operations.find((o) => others.some((s) => s.operations.includes(o)));
  if (twice)
    throw new AppError('bad-input', say`“${twice}” goes to ${market.name} by the clock already.`, {
      field: 'operations',
      remedy: say`Change that one.`,
    });
}

type Said = z.output<typeof createSending.body>;

/** Keeps what goes again and again, or sets rows aside for a time. Wakes nothing: the caller does. */
export async function addSending(
  tx: Db,
  market: Market,
  said: Said,
  actor: string,
  now = new Date(),
): Promise<SendingShape> {
  const id =
    said.is === 'again' ? await addAgain(tx, market, said, actor, now) : await addOnce(tx, market, said, actor, now);
  const row = await mustLoadSending(tx, id);
  await tell(tx, market, row, 'set', actor);
  return toShape(row);
}

async function addAgain(
  tx: Db,
  market: Market,
  { operations, schedule }: Extract<Said, { is: 'again' }>,
  actor: string,
  now: Date,
): Promise<number> {
  const once = [...new Set(operations)];
  await lockMarket(tx, market);
  await refuseTwice(tx, market, once, 0);
  return insert(
    tx,
    market,
    { operations: once, schedule, next: findNextTime(schedule, now), rows: 0, seen: [] },
    actor,
  );
}

async function addOnce(
  tx: Db,
  market: Market,
  said: Extract<Said, { is: 'once' }>,
  actor: string,
  now: Date,
): Promise<number> {
  const at = readMoment(said.at, now);
  const asked = readAsked({ ...market, isPaused: false }, { ...said, by: 'wire', key: 'at-a-time' });
  // What is new goes as an offer where the market turns out to have it: both wait.
  const operations = isFirst(said.operation)
    ? (['create', 'offer'] as const).filter((o) => findForm(market.rulebook, o))
    : asked;
  await lockMarket(tx, market);
  if (!said.looked) await refuseSurprises(tx, market, said, asked);
  const seen = (await loadSurprises(tx, market, said)).filter((s) => asked.includes(s.operation));
  const ids = new Set<number>();
  for (const operation of asked)
    for (const row of await loadPlannedIds(tx, market, operation, 'no', said)) ids.add(row.id);
  if (ids.size === 0)
    throw new AppError('not-now', say`There is nothing that could wait for a time: no row of this kind is ready.`, {
      remedy: say`Choose other rows, or mend what is held back.`,
    });
  const id = await insert(tx, market, { operations, schedule: null, next: at, rows: ids.size, seen }, actor);
  await markTimed(tx, market, id, operations, [...ids]);
  return id;
}

/** Whoever sends to a market holds this lock meanwhile. */
export const lockMarket = (tx: Db, market: Market): Promise<unknown> =>
  tx.raw('select pg_advisory_xact_lock(4107, ?)', [market.id]);

const insert = async (
  tx: Db,
  market: Market,
  s: { operations: readonly Operation[]; schedule: Schedule | null; next: Date; rows: number; seen: unknown },
  actor: string,
): Promise<number> =>
  (await rowOf<{ id: number }>(
    tx,
    `insert into sendings (market_id, operations, schedule, next_at, actor, rows, seen)
      values (?, ?, ?::jsonb, ?, ?, ?, ?::jsonb) returning id`,
    [
      market.id,
      [...s.operations],
      s.schedule === null ? null : JSON.stringify(s.schedule),
      s.next,
      actor,
      s.rows,
      JSON.stringify(s.seen),
    ],
  ))!.id;

/** Says anew when a sending goes, or what. What goes once stays with its rows. */
export async function changeSending(
  tx: Db,
  id: number,
  said: { operations?: readonly Operation[] | undefined; schedule?: Schedule | undefined; at?: string },
  actor: string,
  now = new Date(),
): Promise<SendingShape> {
  const row = await mustLoadSending(tx, id, 'for update of s');
  const market = await loadMarketById(tx, row.market_id);
  const isOnce = readSchedule(row) === null;
  if (row.next_at === null) throw new AppError('not-now', say`This sending is over.`);
  if (isOnce !== 'at' in said)
    throw new AppError(
      'bad-input',
      isOnce ? say`This sending goes once: set another time.` : say`This sending goes again and again: say how often.`,
      { field: isOnce ? 'at' : 'schedule' },
    );
  if (said.at !== undefined)
    await tx.raw('update sendings set next_at = ?, due_at = null where id = ?', [readMoment(said.at, now), id]);
  if (said.operations) {
    await lockMarket(tx, market);
    await refuseTwice(tx, market, said.operations, id);
    await tx.raw('update sendings set operations = ? where id = ?', [[...new Set(said.operations)], id]);
  }
  if (said.schedule)
    await tx.raw('update sendings set schedule = ?::jsonb, next_at = ?, due_at = null where id = ?', [
      JSON.stringify(said.schedule),
      findNextTime(said.schedule, now),
      id,
    ]);
  const after = await mustLoadSending(tx, id);
  await tell(tx, market, after, 'changed', actor);
  return toShape(after);
}

/** Calls a sending off; rows that wait for its time are free again. */
export async function dropSending(tx: Db, id: number, actor: string): Promise<void> {
  const row = await mustLoadSending(tx, id, 'for update of s');
  const market = await loadMarketById(tx, row.market_id);
  await liftTimed(tx, market, id, false);
  await tx.raw('delete from sendings where id = ?', [id]);
  // One that is over was not called off: it only leaves the list.
  if (row.next_at !== null) await tell(tx, market, row, 'called-off', actor);
  else await announce(tx, { topic: 'dispatches' });
}

async function tell(
  tx: Db,
  market: Market,
  row: SendingRow,
  how: 'set' | 'changed' | 'called-off',
  actor: string,
): Promise<void> {
  const schedule = readSchedule(row);
  await recordHistory(tx, actor, {
    is: 'sending-said',
    market: market.name,
    how,
    operations: row.operations,
    schedule,
    at: schedule === null ? (row.next_at?.toISOString() ?? null) : null,
    rows: row.rows,
  });
  await announce(tx, { topic: 'dispatches' }, { topic: 'listings' });
}

/** The title of the job that sends by the clock. */
export const nameSending = (row: Pick<SendingRow, 'rows'>, market: Market): string =>
  row.rows > 0 ? `Sending ${plural(row.rows, 'row', 'rows')} to ${market.name} at the time set` : '';
