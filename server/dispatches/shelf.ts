// What stands on a market, by state, with a link to each entry's page as buyers see it.
import type { ListingState } from '@basileus/core/rulebook';
import { type Db, rowsOf } from '../database';
import { loadStateCounts, stateSql } from '../listings';
import { type Market, openMarketPort } from '../markets';

interface ShelfRow {
  id: number;
  sku: string;
  title: string;
  number: string | null;
  state: ListingState;
  since: Date | null;
}

export async function loadShelf(
  db: Db,
  market: Market,
  { state, offset, limit }: { state: ListingState; offset: number; limit: number },
) {
  const counts = await loadStateCounts(db, [market.id]);
  const rows = await rowsOf<ShelfRow>(
    db,
    `with page as materialized (
        select l.id from listings l where l.market_id = ? and ${stateSql} = ?
        order by l.number_since desc nulls last, l.id offset ? limit ?)
      select l.id, p.sku, p.title, l.number, ${stateSql} as state, l.number_since as since
      from page
      join listings l on l.id = page.id
      join products p on p.id = l.product_id
      order by l.number_since desc nulls last, l.id`,
    [market.id, state, offset, limit],
  );
  const port = openMarketPort(market);
  return {
    counts: Object.fromEntries(counts.map((c) => [c.state, c.n])),
    rows: rows.map((r) => ({
      listingId: r.id,
      sku: r.sku,
      title: r.title,
      number: r.number,
      state: r.state,
      link: r.number ? port.linkTo(r.number) : null,
      since: r.since?.toISOString() ?? null,
    })),
  };
}
