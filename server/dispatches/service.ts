// What is asked of planned rows and of dispatches beside building and receiving them.
import type { PlanChoice, PlannedListing } from '@basileus/contract';
import { createFormWriter, listForms, lookAtFile as look, toRecords } from '@basileus/core/forms';
import type { Form, Operation } from '@basileus/core/rulebook';
import { plural, say } from '@basileus/core/text';
import { type Db, rowOf, rowsOf } from '../database';
import { announce } from '../events';
import { AppError } from '../http';
import { pricesNowSql, refreshListings } from '../listings';
import { loadCorrespondences, loadMarketById, type Market } from '../markets';
import { enqueueSending } from './build';
import type { RowChoice } from './choose';
import { chooseForm, countPlanned, loadPlannedIds } from './plan';
import { loadPlannedRows, type PlannedRow } from './planned-rows';
import type { DispatchRow } from './queries';

async function loadPage(
  db: Db,
  market: Market,
  operation: Operation,
  held: '' | 'yes' | 'no',
  choice: RowChoice,
  offset: number,
  limit: number,
): Promise<PlannedRow[]> {
  const ids = await loadPlannedIds(db, market, operation, held, choice, offset, limit);
  const c = await loadCorrespondences(db, market.id);
  return loadPlannedRows(
    db,
    market,
    operation,
    c,
    ids.map((i) => i.id),
  );
}

/** A page of the rows of an operation, each with what it would change. */
export async function listPlanned(
  db: Db,
  market: Market,
  operation: Operation,
  query: PlanChoice & { held: '' | 'yes' | 'no'; offset: number; limit: number },
): Promise<{ total: number; rows: PlannedListing[] }> {
  const total = await countPlanned(db, market, operation, query.held, query);
  const rows = await loadPage(db, market, operation, query.held, query, query.offset, query.limit);
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
}

const rowsLookedAt = 50;

/** The beginning of a file of an operation as the market would get it, as text and as cells; of a form of several that is named. */
export async function lookAtFile(
  db: Db,
  market: Market,
  operation: Operation,
  { form: named, ...choice }: PlanChoice & { form?: string | undefined },
) {
  const forms = await listGoing(db, market, operation, choice);
  const going = forms.find((f) => f.form.key === named) ?? forms.find((f) => f.rows > 0) ?? forms[0];
  if (!going || (named !== undefined && going.form.key !== named))
    throw new AppError('not-found', say`${market.name} takes no such file for “${operation}”.`);
  const { form, rows: total } = going;
  const rows = await loadPage(
    db,
    market,
    operation,
    'no',
    forms.length === 1 ? choice : chooseForm(market, operation, form.key, choice),
    0,
    rowsLookedAt,
  );
  const writer = createFormWriter(market.rulebook, form);
  const records = toRecords(
    market.rulebook,
    form,
    rows.map((r) => r.feed),
  );
  const text = writer.header() + writer.records(records) + writer.footer();
  const changed = new Map(rows.map((r) => [r.feed, new Set(r.differences.map((d) => d.field))]));
  return {
    name: form.fileName
      .replace('{market}', market.key)
      .replace('{operation}', operation)
      .replace(/\{(stamp|id)\}/g, '…'),
    text,
    encoding: form.container.encoding,
    total,
    looks: look(market.rulebook, form, text, records, (row) => changed.get(row)),
    form: form.key,
    forms: forms.map((f) => ({ key: f.form.key, label: f.form.label, rows: f.rows })),
  };
}

/** The forms of an operation, each with the rows that would go in it. */
async function listGoing(
  db: Db,
  market: Market,
  operation: Operation,
  choice: PlanChoice,
): Promise<{ form: Form; rows: number }[]> {
  const forms = listForms(market.rulebook, operation);
  const going: { form: Form; rows: number }[] = [];
  for (const form of forms)
    going.push({
      form,
      rows: await countPlanned(
        db,
        market,
        operation,
        'no',
        forms.length === 1 ? choice : chooseForm(market, operation, form.key, choice),
      ),
    });
  return going;
}

/** Lets prices go that were held because they moved far: somebody has looked at them. Answers how many. */
export const releaseHolds = (db: Db, market: Market, ids: readonly number[]): Promise<number> =>
  db.transaction(async (tx) => {
    const rows = await rowsOf<{ id: number }>(
      tx,
      `update listings l set released_prices = ${pricesNowSql} where id = any(?) and market_id = ? returning id`,
      [market.rulebook.offers.map((o) => o.price), ids, market.id],
    );
    await refreshListings(
      tx,
      market,
      rows.map((r) => r.id),
    );
    return rows.length;
  });

const onlyFailed = (): AppError => new AppError('not-now', say`Only a failed dispatch can be tried again.`);

/** Sends a failed dispatch again, under the key that it had. */
export async function tryAgain(db: Db, dispatch: DispatchRow): Promise<void> {
  if (dispatch.state !== 'failed') throw onlyFailed();
  await db.transaction(async (tx) => {
    const again = await rowOf(
      tx,
      `update dispatches set state = 'sending', fault = null where id = ? and state = 'failed' returning id`,
      [dispatch.id],
    );
    if (!again) throw onlyFailed();
    await enqueueSending(
      tx,
      dispatch.id,
      `Sending ${plural(dispatch.total, 'row', 'rows')} again`,
      await loadMarketById(tx, dispatch.market_id),
    );
    await announce(tx, { topic: 'dispatches', id: String(dispatch.id) });
  });
}

/** Refuses a receipt for a dispatch that waits for none. */
export function refuseReceipt(dispatch: DispatchRow): void {
  if (dispatch.state === 'answered') throw new AppError('not-now', say`This dispatch has its receipt already.`);
  if (dispatch.state === 'stopped' || dispatch.state === 'abandoned')
    throw new AppError('not-now', say`This dispatch was given up; its rows do not wait for a receipt.`, {
      remedy: say`Send the rows again; what the market has taken already, it will say.`,
    });
}
