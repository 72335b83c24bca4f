// At which prices a market has sold its entries, for sales that are compared with them.
import { listBoundOffers } from '@basileus/core/checks';
import type { Values } from '@basileus/core/listing';
import type { PricesFrom } from '@basileus/core/pricing';
import { type Db, rowsOf } from '../database';
import type { Market } from '../markets';

/**
 * The prices of listings that have a sale where such are compared with earlier prices, in order of time; of the others nothing is
 * asked, and on a market without such a country nothing at all.
 */
export async function loadPriceHistory(
  db: Db,
  { rulebook }: Market,
  rows: readonly { id: number; values: Values }[],
): Promise<ReadonlyMap<number, PricesFrom[]>> {
  const sales = listBoundOffers(rulebook.offers).map((o) => o.salePrice!);
  const found = new Map<number, PricesFrom[]>();
  const ids = sales.length === 0 ? [] : rows.filter((r) => sales.some((s) => r.values[s])).map((r) => r.id);
  if (ids.length === 0) return found;
  const history = await rowsOf<{ id: number; at: Date; prices: Values | null }>(
    db,
    'select listing_id as id, at, prices from price_history where listing_id = any(?) order by listing_id, at',
    [ids],
  );
  for (const { id, at, prices } of history)
    (found.get(id) ?? found.set(id, []).get(id)!).push({ from: at.toISOString(), prices });
  return found;
}
