// Somebody changes two prices on a market's own pages: what it shows is no more what it took.
import { formatMoney, exact } from '@basileus/core/quantity';
import type { Logger } from 'pino';
import { type Db, rowsOf } from '../database';
import type { Market } from '../markets';

/** Entries whose price somebody lowers there. A small house is left as it is. */
const changed = 2,
  fewestItems = 1000;

export async function driftApart(db: Db, market: Market, url: string, size: number, log: Logger): Promise<void> {
  const { price, site } = market.rulebook.offers[0]!;
  if (size < fewestItems) return;
  const items = await rowsOf<{ sku: string; price: string }>(
    db,
    `select p.sku, l.accepted_price ->> ? as price
      from listings l join products p on p.id = l.product_id
      where l.market_id = ? and l.market_state = 'live' and l.planned = '[]' and p.kind = 'variant' and l.accepted_price ->> ? <> ''
      order by p.id offset 10 limit ?`,
    [price, market.id, price, changed],
  );
  for (const item of items)
    try {
      await fetch(`${url}/_control/reprice`, {
        method: 'POST',
        headers: { 'Content-Type': 'text/plain' },
        body: JSON.stringify({
          sku: item.sku,
          site: site.key,
          price: formatMoney(exact(item.price).times('0.9'), site.currency),
        }),
        signal: AbortSignal.timeout(5000),
      });
    } catch (error) {
      log.warn({ error: String(error) }, 'the stand-in market did not change a price; nothing drifts in the demo');
      return;
    }
}
