// Reading a market's answer back: every line judged, every listing brought to its new state, in one transaction.
import type { FieldChange } from '@basileus/core/change';
import { type AnswerLine, readAnswer, type ShelfLine } from '@basileus/core/answers';
import { type Accepted, applyAccepted } from '@basileus/core/feed';
import { findForm } from '@basileus/core/forms';
import type { Values } from '@basileus/core/listing';
import type { Operation } from '@basileus/core/rulebook';
import { type Db, rowOf, rowsOf, type Write } from '../database';
import { announce } from '../events';
import { storeFile } from '../files';
import { AppError } from '../http';
import { refreshListings } from '../listings';
import type { Market } from '../markets';
import type { DispatchRow } from './queries';

/**
 * Applies a receipt. Answered already, or given up: does nothing. Garbage, and one that speaks of none of the rows: a
 * refusal that changes nothing. `byHand` says that a person gave it.
 */
export async function receiveReceipt(
  write: Write,
  market: Market,
  dispatch: DispatchRow,
  text: string,
  byHand = false,
): Promise<void> {
  const disbelieve = (says: string, remedy: string): never => {
    throw new AppError(byHand ? 'unreadable-file' : 'market-unreachable', says, {
      remedy: byHand ? remedy : 'It is fetched again by itself.',
      field: byHand ? 'file' : null,
    });
  };
  const form = findForm(market.rulebook, dispatch.operation);
  const reading = readAnswer(market.rulebook, form?.key ?? '', text);
  if (!reading.ok)
    return disbelieve(
      byHand
        ? `This is no receipt of ${market.name}: ${reading.reason}`
        : `${market.name} answered with a receipt that cannot be read: ${reading.reason}`,
      'Fetch the receipt of this dispatch from the market, and give that.',
    );
  await write(async (tx) => {
    const open = await rowOf<{ id: number }>(
      tx,
      `select id from dispatches where id = ? and state not in ('answered', 'stopped', 'abandoned') for update`,
      [dispatch.id],
    );
    if (!open) return;
    const sent = new Map(
      (
        await rowsOf<{ line: number; sku: string }>(tx, 'select line, sku from dispatch_lines where dispatch_id = ?', [
          dispatch.id,
        ])
      ).map((l) => [l.line, l.sku]),
    );
    // A line that names no SKU is placed by its number alone.
    const strange = reading.lines.find((l) => (l.sku === '' ? !sent.has(l.line) : sent.get(l.line) !== l.sku));
    if (strange)
      disbelieve(
        `Line ${strange.line} of the receipt speaks of ${strange.sku.slice(0, 60) || 'a row'}, which is not what was sent there; the receipt is not believed.`,
        'Ask the market for the receipt of this dispatch.',
      );
    if (reading.lines.length === 0 && sent.size > 0 && reading.unnamed === 'lost')
      disbelieve(
        `The receipt speaks of none of the ${sent.size} rows that were sent; it is not believed.`,
        'Look whether it is the receipt of another dispatch, or whether it is still being written.',
      );
    const answers = new Map(reading.lines.map((l) => [l.line, l]));
    const keyBySlot = listKeysBySlot(market);
    await settleLines(tx, market, dispatch, ({ line }) => {
      const a = answers.get(line);
      if (a) return toLineAnswer(a, keyBySlot);
      return reading.unnamed === 'accepted'
        ? { verdict: 'accepted', number: '' }
        : { verdict: 'lost', number: '', says: 'The receipt does not speak of this line.' };
    });
    const file = await storeFile(
      tx,
      `receipt-${dispatch.id}.txt`,
      (async function* () {
        yield Buffer.from(text, 'utf8');
      })(),
    );
    await tx.raw(`update dispatches set fault = null, receipt_file_id = ? where id = ?`, [file.id, dispatch.id]);
  });
}

/** Attributes by the slot of a form that holds them: an answer names slots. */
const listKeysBySlot = (market: Market): ReadonlyMap<string, string> =>
  new Map(
    market.rulebook.forms.flatMap((f) =>
      f.slots.flatMap(({ key, holds }) =>
        'attribute' in holds
          ? [[key, holds.attribute] as const]
          : holds.what === 'sku'
            ? [[key, 'sku'] as const]
            : holds.what === 'category'
              ? [[key, 'category'] as const]
              : [],
      ),
    ),
  );

/** The first fault of a line with its field as ours. */
function toLineAnswer(a: AnswerLine, keyBySlot: ReadonlyMap<string, string>): LineAnswer {
  const fault = a.faults[0];
  return {
    verdict: a.verdict,
    number: a.number,
    code: fault?.code ?? '',
    field: keyBySlot.get(fault?.field ?? '') ?? '',
    says: fault?.says ?? '',
    remedy: fault?.remedy ?? '',
  };
}

/** What became of a line. */
export interface LineAnswer {
  verdict: 'accepted' | 'remarked' | 'refused' | 'lost';
  code?: string;
  field?: string;
  number: string;
  says?: string;
  remedy?: string;
}

/** Gives every line of a dispatch its answer, brings the listings to their new state, and marks it as answered. */
export async function settleLines(
  tx: Db,
  market: Market,
  dispatch: DispatchRow,
  judge: (line: { line: number; sku: string }) => LineAnswer,
): Promise<void> {
  // The price and the stock of one entry may be answered at the same time: what is accepted is read under the lock.
  await tx.raw(
    `select id from listings where id in (select listing_id from dispatch_lines where dispatch_id = ?) order by id for update`,
    [dispatch.id],
  );
  const lines = await rowsOf<{
    line: number;
    listing_id: number;
    sku: string;
    differences: FieldChange[];
    accepted_details: Values | null;
    accepted_price: Values | null;
    accepted_stock: Values | null;
    market_state: string;
    number: string | null;
  }>(
    tx,
    `select d.line, d.listing_id, d.sku, d.differences, l.accepted_details, l.accepted_price, l.accepted_stock,
        l.market_state, l.number
      from dispatch_lines d
      join listings l on l.id = d.listing_id
      where d.dispatch_id = ?
      order by d.line`,
    [dispatch.id],
  );
  const records = lines.map((l) => {
    const a = judge(l);
    const isTaken = a.verdict === 'accepted' || a.verdict === 'remarked';
    const before: Accepted = {
      details: l.accepted_details ?? undefined,
      price: l.accepted_price ?? undefined,
      stock: l.accepted_stock ?? undefined,
    };
    const after = isTaken ? applyAccepted(market.rulebook, before, dispatch.operation, l.differences) : before;
    return {
      line: l.line,
      listing_id: l.listing_id,
      state: a.verdict,
      code: a.code ?? '',
      field: a.field ?? '',
      says: a.says ?? '',
      remedy: a.remedy ?? '',
      number: a.number || l.number,
      market_state: isTaken
        ? stateAfter(dispatch.operation, l.market_state)
        : a.verdict === 'refused' && dispatch.operation === 'create'
          ? 'refused'
          : l.market_state,
      is_taken: isTaken,
      refused: a.verdict === 'refused',
      details: after.details ?? null,
      price: after.price ?? null,
      stock: after.stock ?? null,
    };
  });
  await storeAnswers(tx, dispatch, records);
  const count = (state: string) => records.filter((r) => r.state === state).length;
  await tx.raw(
    `update dispatches
      set state = 'answered', answered_at = now(), accepted = ?, remarked = ?, refused = ?
      where id = ?`,
    [count('accepted'), count('remarked'), count('refused') + count('lost'), dispatch.id],
  );
  await refreshListings(
    tx,
    market,
    records.map((r) => r.listing_id),
  );
  await announce(tx, { topic: 'dispatches', id: String(dispatch.id) });
}

const stateAfter = (operation: Operation, before: string): string =>
  operation === 'create'
    ? 'in review'
    : operation === 'withdraw'
      ? 'withdrawn'
      : operation === 'restore'
        ? 'in review'
        : before;

async function storeAnswers(db: Db, dispatch: DispatchRow, records: readonly Record<string, unknown>[]): Promise<void> {
  const json = JSON.stringify(records);
  await db.raw(
    `update dispatch_lines d
      set state = r.state, code = r.code, field = r.field, says = r.says, remedy = r.remedy, number = r.number
      from jsonb_to_recordset(?::jsonb) as r(line int, state text, code text, field text, says text, remedy text, number text)
      where d.dispatch_id = ? and d.line = r.line`,
    [json, dispatch.id],
  );
  await db.raw(
    `update listings l set in_flight = greatest(0, l.in_flight - 1), market_state = r.market_state,
        number = coalesce(r.number, l.number),
        number_since = case when r.market_state <> l.market_state then now() else l.number_since end,
      accepted_details = case when r.is_taken then nullif(r.details, 'null') else l.accepted_details end,
        accepted_price = case when r.is_taken then nullif(r.price, 'null') else l.accepted_price end,
        accepted_stock = case when r.is_taken then nullif(r.stock, 'null') else l.accepted_stock end,
      refusal_open = r.refused or (l.refusal_open and not r.is_taken), wish = case when r.is_taken
        and ? in ('withdraw', 'restore') then 'keep' else l.wish end, updated_at = now()
    from jsonb_to_recordset(?::jsonb) as r(listing_id bigint, market_state text, number text, is_taken boolean, refused boolean, details jsonb, price jsonb, stock jsonb) where l.id = r.listing_id`,
    [dispatch.operation, json],
  );
}

/** Takes what the market's shelf list says of states into the listings. */
export async function applyShelf(
  write: Write,
  market: Market,
  lines: readonly ShelfLine[],
  cursor: string,
): Promise<number> {
  return write(async (tx) => {
    const records = lines.flatMap((l) => {
      const state = market.rulebook.states[l.state]?.is;
      return state === 'live' || state === 'in review' || state === 'refused' || state === 'withdrawn'
        ? [{ sku: l.sku, number: l.number, state }]
        : [];
    });
    const changed = await rowsOf<{ id: number }>(
      tx,
      `update listings l set market_state = r.state, number = coalesce(nullif(r.number, ''), l.number),
          number_since = now(), refusal_open = r.state = 'refused' or l.refusal_open,
        accepted_details = case when r.state = 'refused' then null else l.accepted_details end,
          accepted_price = case when r.state = 'refused' then null else l.accepted_price end,
          accepted_stock = case when r.state = 'refused' then null else l.accepted_stock end
      from jsonb_to_recordset(?::jsonb) as r(sku text, number text, state text) join products p on p.sku = r.sku where l.product_id = p.id
        and l.market_id = ? and l.in_flight = 0 and l.market_state <> 'none'
        and l.market_state <> r.state returning l.id`,
      [JSON.stringify(records), market.id],
    );
    // A line about a row that is still on its way would be lost if the cursor moved past it: the list is read again instead.
    const waiting = await rowOf<{ n: number }>(
      tx,
      'select count(*) as n from listings l join products p on p.id = l.product_id where l.market_id = ? and l.in_flight > 0 and p.sku = any(?)',
      [market.id, records.map((r) => r.sku)],
    );
    if (!waiting?.n) await tx.raw('update markets set shelf_cursor = ? where id = ?', [cursor, market.id]);
    await refreshListings(
      tx,
      market,
      changed.map((c) => c.id),
    );
    if (changed.length) await announce(tx, { topic: 'dispatches' }, { topic: 'listings' });
    return changed.length;
  });
}
