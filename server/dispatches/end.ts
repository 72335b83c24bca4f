// Ends of a dispatch that no receipt makes: stopped before it left, abandoned when nobody will ever answer, or settled by
// what the market shows on its shelf. Its rows are free again afterwards.
import type { HistoryFact } from '@basileus/contract';
import type { ShelfLine } from '@basileus/core/answers';
import type { Operation } from '@basileus/core/rulebook';
import { type Db, rowOf, rowsOf, type Write } from '../database';
import { announce } from '../events';
import { AppError } from '../http';
import { refreshListings } from '../listings';
import { type Market, openGate, openMarketPort, readWholeShelf } from '../markets';
import { recordHistory } from '../history';
import type { DispatchRow } from './queries';
import { lostLine } from './receive';
import { type LineAnswer, settleLines } from './settle';
import { say } from '@basileus/core/text';

const tellOf = (
  is: 'stopped' | 'abandoned' | 'settled-by-shelf',
  market: Market,
  dispatch: DispatchRow,
  rows: number,
): HistoryFact => ({ is, rows, market: market.name, operation: dispatch.operation, file: dispatch.file_name });

/** Frees the rows of a dispatch that wait for an answer. */
async function freeLines(db: Db, market: Market, id: number, state: 'stopped' | 'abandoned'): Promise<number> {
  const freed = await rowsOf<{ listing_id: number }>(
    db,
    `update dispatch_lines set state = ? where dispatch_id = ? and state = 'waiting' returning listing_id`,
    [state, id],
  );
  const ids = freed.map((f) => f.listing_id);
  await db.raw('update listings set in_flight = greatest(0, in_flight - 1), updated_at = now() where id = any(?)', [
    ids,
  ]);
  await refreshListings(db, market, ids);
  await announce(db, { topic: 'dispatches', id: String(id) }, { topic: 'listings' });
  return ids.length;
}

/** Stops a dispatch that has not left. Throws where it has. */
export async function stopDispatch(db: Db, market: Market, dispatch: DispatchRow, actor: string): Promise<void> {
  await db.transaction(async (tx) => {
    const stopped = await rowOf(
      tx,
      `update dispatches set state = 'stopped', fault = null
        where id = ? and state in ('built', 'sending') and left_at is null returning id`,
      [dispatch.id],
    );
    if (!stopped)
      throw new AppError('not-now', say`This dispatch has left the house; it can no longer be stopped.`, {
        remedy: say`Wait for its receipt, or send what puts it right.`,
      });
    const rows = await freeLines(tx, market, dispatch.id, 'stopped');
    await recordHistory(tx, actor, tellOf('stopped', market, dispatch, rows));
  });
}

/** Gives up waiting for an answer: the rows are as if they had not been sent. */
export async function abandonDispatch(db: Db, market: Market, dispatch: DispatchRow, actor: string): Promise<void> {
  await db.transaction(async (tx) => {
    const abandoned = await rowOf(
      tx,
      `update dispatches set state = 'abandoned', fault = null
        where id = ? and state in ('by hand', 'sending', 'sent', 'failed') returning id`,
      [dispatch.id],
    );
    if (!abandoned)
      throw new AppError('not-now', say`This dispatch has ended already; nothing of it waits.`, {
        remedy: say`Look at its lines.`,
      });
    const rows = await freeLines(tx, market, dispatch.id, 'abandoned');
    await recordHistory(tx, actor, tellOf('abandoned', market, dispatch, rows));
  });
}

/** Operations whose outcome the shelf shows: whether an entry is there, and how it stands. */
const shownOnShelf: readonly Operation[] = ['create', 'offer', 'withdraw', 'restore'];

/** Asks the market's shelf what became of a dispatch that nobody has answered, and settles its lines by that. */
export async function settleByShelf(
  db: Db,
  write: Write,
  market: Market,
  dispatch: DispatchRow,
  actor: string,
): Promise<void> {
  if (!shownOnShelf.includes(dispatch.operation))
    throw new AppError(
      'not-now',
      say`The shelf of ${market.name} does not show whether a ${dispatch.operation} has arrived.`,
      {
        remedy: say`Abandon the dispatch: its rows go again with the next one, and sending the same twice does no harm.`,
      },
    );
  if (!['by hand', 'sent', 'failed', 'sending'].includes(dispatch.state))
    throw new AppError('not-now', say`This dispatch has ended already; nothing of it waits.`);
  const shelf = await readWholeShelf(openMarketPort(market, openGate(db, market)));
  // A line about one site is settled by how the entry stands there.
  const places = new Map(shelf.map((l) => [`${l.sku}/${l.site ?? ''}`, l]));
  const anywhere = new Map(shelf.map((l) => [l.sku, l]));
  await write(async (tx) => {
    const open = await rowOf(
      tx,
      `select id from dispatches where id = ? and state in ('by hand', 'sending', 'sent', 'failed') for update`,
      [dispatch.id],
    );
    if (!open) return;
    await settleLines(tx, market, dispatch, ({ sku, site }) =>
      judgeByShelf(market, dispatch.operation, site === '' ? anywhere.get(sku) : places.get(`${sku}/${site}`)),
    );
    await tx.raw(`update dispatches set fault = null where id = ?`, [dispatch.id]);
    await recordHistory(tx, actor, tellOf('settled-by-shelf', market, dispatch, dispatch.total));
  });
}

function judgeByShelf(market: Market, operation: Operation, line: ShelfLine | undefined): LineAnswer {
  const standing = line ? market.rulebook.states[line.state]?.is : undefined;
  const isThere = standing === 'live' || standing === 'in review';
  const arrived = operation === 'withdraw' ? standing === 'withdrawn' : isThere;
  return arrived && line
    ? { verdict: 'accepted', number: line.number, faults: [] }
    : lostLine('The market’s shelf shows nothing of this line.');
}
