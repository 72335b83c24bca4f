// Refused lines of a dispatch grouped by cause, and one value given to a whole cause.
import type { FillOutcome, Refusal } from '@basileus/contract';
import type { Value } from '@basileus/core/listing';
import { type Db, rowsOf } from '../database';
import { announce } from '../events';
import type { Threads } from '../jobs';
import { askOnListings } from '../remedies';
import { patchListingCells, refreshListings } from '../listings';
import { recordHistory } from '../history';
import type { Market } from '../markets';
import type { DispatchRow } from './queries';

/** Causes of refusal, the most frequent first. */
export async function loadRefusals(db: Db, market: Market, dispatchId: number): Promise<Refusal[]> {
  const rows = await rowsOf<Omit<Refusal, 'fieldLabel'>>(
    db,
    `select code, field, min(says) as says, min(remedy) as remedy, count(*) as count,
        count(*) filter (where not mended) as open
      from dispatch_lines
      where dispatch_id = ? and state = 'refused'
      group by code, field
      order by count(*) desc, code, field`,
    [dispatchId],
  );
  return rows.map((r) => ({ ...r, fieldLabel: r.field === '' ? '' : market.labelOf(r.field) }));
}

/**
 * Gives one value to the lines of a cause that are not mended yet and to which it brings no new blocker; a conflict leaves
 * a line as it was. Without a value the lines may go again as they are: the market has cleared a brand, say, and there was
 * nothing to mend.
 */
export async function mendRefusals(
  db: Db,
  threads: Threads,
  market: Market,
  dispatch: DispatchRow,
  cause: { code: string; field: string; value?: Value | undefined },
  actor: string,
): Promise<{ changeSet: number | null; changed: number; left: number; fails: FillOutcome['fails'] }> {
  const lines = await rowsOf<{ id: number; current: Value | null }>(
    db,
    `select d.listing_id as id, l."values" -> d.field as current
      from dispatch_lines d
      join listings l on l.id = d.listing_id
      where d.dispatch_id = ? and d.state = 'refused' and not d.mended and d.code = ? and d.field = ?`,
    [dispatch.id, cause.code, cause.field],
  );
  if (lines.length === 0) return { changeSet: null, changed: 0, left: 0, fails: [] };
  const { value } = cause;
  if (value === undefined) {
    const ids = lines.map((l) => l.id);
    await db.transaction(async (tx) => {
      await tx.raw('update listings set refusal_open = false where id = any(?)', [ids]);
      await refreshListings(tx, market, ids);
      await recordHistory(tx, actor, { is: 'let-go', rows: ids.length, dispatch: dispatch.id, code: cause.code });
      await announce(tx, { topic: 'dispatches', id: String(dispatch.id) });
    });
    return { changeSet: null, changed: ids.length, left: 0, fails: [] };
  }
  // What the market has refused is not mended by what it would refuse for another reason.
  const { good, fails } = await askOnListings(threads, {
    market: market.key,
    ids: lines.map((l) => l.id),
    field: cause.field,
    value,
  });
  const isGood = new Set(good);
  const mended = lines.filter((l) => isGood.has(l.id));
  if (mended.length === 0) return { changeSet: null, changed: 0, left: lines.length, fails };
  const outcome = await patchListingCells(
    db,
    market.id,
    mended.map(({ id, current }) => ({ id, field: cause.field, before: current, after: value })),
    `Mended after a refusal: ${market.labelOf(cause.field)}`,
    actor,
  );
  return { changeSet: outcome.changeSet, changed: outcome.applied, left: lines.length - outcome.applied, fails };
}
