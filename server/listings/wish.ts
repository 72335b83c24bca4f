// What a person wants of entries beside keeping them right: taken down, put back. Wished here, sent with the next dispatch.
import type { Wish } from '@basileus/core/feed';
import { canAsk } from '@basileus/core/forms';
import { type Db, rowOf, rowsOf } from '../database';
import { AppError } from '../http';
import type { Market } from '../markets';
import { recordHistory } from '../history';
import { refreshListings } from './follow-up';
import { say } from '@basileus/core/text';

/**
 * Sets a wish, or takes one back with `keep`. What is on its way already keeps what it was sent with. Refuses what the
 * market cannot do, so that nothing is planned that has no file or comes back refused for ever.
 */
export async function wishFor(
  db: Db,
  market: Market,
  ids: readonly number[],
  wish: Wish,
  actor: string,
): Promise<{ changed: number; onTheWay: number }> {
  if (wish !== 'keep' && !canAsk(market.rulebook, wish)) {
    const isBurnt = wish === 'restore' && market.rulebook.sku.reuse === 'never';
    throw new AppError(
      'not-now',
      isBurnt
        ? say`${market.name} never takes a withdrawn SKU again.`
        : say`${market.name} takes no file that would ${wish} an entry.`,
      {
        field: 'wish',
        remedy: isBurnt ? say`Add the item anew under another SKU.` : say`Do it on the pages of ${market.name}.`,
      },
    );
  }
  return db.transaction(async (tx) => {
    const onTheWay = (await rowOf<{ n: number }>(
      tx,
      'select count(*) as n from listings where id = any(?) and market_id = ? and in_flight > 0 and wish <> ?',
      [ids, market.id, wish],
    ))!.n;
    const rows = await rowsOf<{ id: number }>(
      tx,
      `update listings set wish = ?, updated_at = now()
        where id = any(?) and market_id = ? and wish <> ? and in_flight = 0
          and (? = 'keep' or (? = 'restore') = (market_state = 'withdrawn'))
        returning id`,
      [wish, ids, market.id, wish, wish, wish],
    );
    await refreshListings(
      tx,
      market,
      rows.map((r) => r.id),
    );
    if (rows.length) await recordHistory(tx, actor, { is: 'wished', rows: rows.length, wish, market: market.name });
    return { changed: rows.length, onTheWay };
  });
}
