// Asking for a look at what waits for a category.
import { type Db, rowOf } from '../database';
import { enqueue } from '../jobs';
import { loadMarkets, type Market } from '../markets';
import { waitsSql } from './units';

export const lookKind = 'look-for-leaves';
export const onceOf = (market: Market): string => `leaves-${market.key}`;

/** Asks for a look at what waits for a category on a market; answers its job, also where one waits already. */
export const askForLook = (db: Db, market: Market): Promise<string> =>
  enqueue(db, {
    kind: lookKind,
    title: `Looking for categories on ${market.name}`,
    payload: { market: market.key },
    once: onceOf(market),
    link: `/${market.key}/prepare?view=categories&by=item`,
    cancellable: true,
  });

/** Asks for a look on every market where items wait that have not been looked at, as after many came. */
export async function lookAtNew(db: Db): Promise<void> {
  for (const market of await loadMarkets(db)) {
    const unseen = await rowOf(
      db,
      `select 1 from listings l join products p on p.id = l.product_id
        where l.market_id = ? and ${waitsSql} and not exists (
          select 1 from leaf_proposals x where x.market_id = l.market_id and x.product_id = coalesce(p.parent_id, p.id))
        limit 1`,
      [market.id],
    );
    if (unseen) await askForLook(db, market);
  }
}
