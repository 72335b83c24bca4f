// Giving every line of a dispatch its answer and bringing the listings to their new state, in one transaction.
import type { AnswerFault } from '@basileus/core/answers';
import type { FieldChange } from '@basileus/core/change';
import { type Accepted, applyAccepted } from '@basileus/core/feed';
import type { Values } from '@basileus/core/listing';
import { isFirst, type Operation } from '@basileus/core/rulebook';
import { copyInto, type Db, rowsOf } from '../database';
import { announce } from '../events';
import { refreshListings } from '../listings';
import type { Market } from '../markets';
import type { DispatchRow } from './queries';

/** What became of a line; its faults name fields of ours. */
export interface LineAnswer {
  verdict: 'accepted' | 'remarked' | 'refused' | 'lost';
  number: string;
  faults: readonly AnswerFault[];
  /** True where the row has no fault of its own, and was refused with its family. */
  isWithFamily?: boolean;
}

interface OpenLine {
  line: number;
  record: number;
  listing_id: number;
  sku: string;
  site: string;
  differences: FieldChange[];
  accepted_details: Values | null;
  accepted_price: Values | null;
  accepted_stock: Values | null;
  market_state: string;
  number: string | null;
}
type Answered = OpenLine & { answer: LineAnswer };

/** Gives every line of a dispatch its answer, brings the listings to their new state, and marks it as answered. */
export async function settleLines(
  tx: Db,
  market: Market,
  dispatch: DispatchRow,
  judge: (line: { line: number; record: number; sku: string; site: string }) => LineAnswer,
): Promise<void> {
  // The price and the stock of one entry may be answered at the same time: what is accepted is read under the lock.
  await tx.raw(
    `select id from listings where id in (select listing_id from dispatch_lines where dispatch_id = ?) order by id for update`,
    [dispatch.id],
  );
  const lines = await rowsOf<OpenLine>(
    tx,
    `select d.line, d.record, d.listing_id, d.sku, d.site, d.differences, l.accepted_details, l.accepted_price, l.accepted_stock,
        l.market_state, l.number
      from dispatch_lines d
      join listings l on l.id = d.listing_id
      where d.dispatch_id = ?
      order by d.line`,
    [dispatch.id],
  );
  const answered = lines.map((l): Answered => ({ ...l, answer: judge(l) }));
  await storeLineAnswers(tx, dispatch.id, answered);
  const byListing = new Map<number, Answered[]>();
  for (const l of answered) (byListing.get(l.listing_id) ?? byListing.set(l.listing_id, []).get(l.listing_id)!).push(l);
  const outcomes = [...byListing.values()].map((own) => concludeListing(market, dispatch.operation, own));
  await storeOutcomes(tx, dispatch.operation, outcomes);
  const count = (...verdicts: string[]): number => answered.filter((l) => verdicts.includes(l.answer.verdict)).length;
  await tx.raw(
    `update dispatches
      set state = 'answered', answered_at = now(), accepted = ?, remarked = ?, refused = ?
      where id = ?`,
    [count('accepted'), count('remarked'), count('refused', 'lost'), dispatch.id],
  );
  await refreshListings(tx, market, [...byListing.keys()]);
  await announce(tx, { topic: 'dispatches', id: String(dispatch.id) });
}

const isTaken = (l: Answered): boolean => l.answer.verdict === 'accepted' || l.answer.verdict === 'remarked';

/** What a listing is after the answers to all of its lines: each site counts for its own fields. */
function concludeListing(market: Market, operation: Operation, lines: readonly Answered[]) {
  const first = lines[0]!,
    taken = lines.filter(isTaken);
  const before: Accepted = {
    details: first.accepted_details ?? undefined,
    price: first.accepted_price ?? undefined,
    stock: first.accepted_stock ?? undefined,
  };
  const after = taken.reduce((a, l) => applyAccepted(market.rulebook, a, operation, l.differences), before);
  const isRefused = lines.some((l) => l.answer.verdict === 'refused' && !l.answer.isWithFamily);
  return {
    listing_id: first.listing_id,
    number: taken.map((l) => l.answer.number).find((n) => n !== '') ?? first.number,
    market_state:
      taken.length > 0
        ? stateAfter(operation, first.market_state, taken.length === lines.length)
        : isRefused && isFirst(operation)
          ? 'refused'
          : first.market_state,
    is_taken: taken.length > 0,
    is_whole: taken.length === lines.length,
    refused: isRefused,
    details: after.details ?? null,
    price: after.price ?? null,
    stock: after.stock ?? null,
  };
}

/** Taken down is only what was taken down everywhere. */
const stateAfter = (operation: Operation, before: string, isWhole: boolean): string =>
  isFirst(operation) || operation === 'restore'
    ? 'in review'
    : operation === 'withdraw' && isWhole
      ? 'withdrawn'
      : before;

async function storeLineAnswers(db: Db, dispatchId: number, lines: readonly Answered[]): Promise<void> {
  await db.raw(
    `update dispatch_lines d
      set state = r.state, code = r.code, field = r.field, says = r.says, remedy = r.remedy, number = r.number,
        mended = r.mended
      from jsonb_to_recordset(?::jsonb) as r(line int, state text, code text, field text, says text, remedy text, number text,
        mended boolean)
      where d.dispatch_id = ? and d.line = r.line`,
    [
      JSON.stringify(
        lines.map(({ line, number, answer }) => {
          const { code = '', field = '', says = '', remedy = '' } = answer.faults[0] ?? {};
          return {
            line,
            state: answer.verdict,
            code,
            field,
            says,
            remedy,
            number: answer.number || number,
            mended: answer.isWithFamily ?? false,
          };
        }),
      ),
      dispatchId,
    ],
  );
  // The first fault stands on the line itself; most lines have no more.
  await copyInto(
    db,
    'dispatch_faults (dispatch_id, line, place, code, field, says, remedy)',
    lines.flatMap(({ line, answer }) =>
      answer.faults
        .slice(1, mostFaults)
        .map((f, i) => [dispatchId, line, i + 1, f.code, f.field, f.says, f.remedy] as const),
    ),
  );
}

/** Faults of one line that are kept. */
const mostFaults = 50;

async function storeOutcomes(
  db: Db,
  operation: Operation,
  outcomes: readonly ReturnType<typeof concludeListing>[],
): Promise<void> {
  await db.raw(
    `update listings l set in_flight = greatest(0, l.in_flight - 1), market_state = r.market_state,
        number = coalesce(r.number, l.number),
        number_since = case when r.market_state <> l.market_state then now() else l.number_since end,
      accepted_details = case when r.is_taken then nullif(r.details, 'null') else l.accepted_details end,
        accepted_price = case when r.is_taken then nullif(r.price, 'null') else l.accepted_price end,
        accepted_stock = case when r.is_taken then nullif(r.stock, 'null') else l.accepted_stock end,
        drift = case when r.is_taken then null else l.drift end, drift_at = case when r.is_taken then null else l.drift_at end,
      refusal_open = r.refused or (l.refusal_open and not r.is_taken), wish = case when r.is_whole
        and ? in ('withdraw', 'restore') then 'keep' else l.wish end, updated_at = now()
    from jsonb_to_recordset(?::jsonb) as r(listing_id bigint, market_state text, number text, is_taken boolean, is_whole boolean, refused boolean, details jsonb, price jsonb, stock jsonb)
    where l.id = r.listing_id`,
    [operation, JSON.stringify(outcomes)],
  );
}
