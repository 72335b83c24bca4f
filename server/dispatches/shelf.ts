// What stands on a market, by state, with a link to each entry's page as buyers see it.
import type { ListingState } from '@basileus/core/rulebook';
import { type Db, rowsOf } from '../database';
import { countTurnedAtSites, loadStateCounts, stateSql, turnedAtSiteSql } from '../listings';
import { linkToEntry, type Market } from '../markets';

interface ShelfRow {
  id: number;
  sku: string;
  title: string;
  number: string | null;
  state: ListingState;
  since: Date | null;
  reason: string;
  places: { site: string; market_state: ListingState; number: string | null; reason: string }[] | null;
}

/** A page of what is in a state; among what is refused also what one site alone has turned back. */
export async function loadShelf(
  db: Db,
  market: Market,
  { state, offset, limit }: { state: ListingState; offset: number; limit: number },
) {
  const counts = Object.fromEntries((await loadStateCounts(db, [market.id])).map((c) => [c.state, c.n]));
  const turned = (await countTurnedAtSites(db, [market.id]))[0]?.n ?? 0;
  const rows = await rowsOf<ShelfRow>(
    db,
    `with page as materialized (
        select l.id from listings l
          where l.market_id = ? and ${state === 'refused' ? `(${stateSql} = ? or ${turnedAtSiteSql})` : `${stateSql} = ?`}
        order by l.number_since desc nulls last, l.id offset ? limit ?)
      select l.id, p.sku, p.title, l.number, ${stateSql} as state, l.number_since as since, l.market_reason as reason,
          (select jsonb_agg(to_jsonb(s) order by s.site) from standings s where s.listing_id = l.id) as places
      from page
      join listings l on l.id = page.id
      join products p on p.id = l.product_id
      order by l.number_since desc nulls last, l.id`,
    [market.id, state, offset, limit],
  );
  const names = new Map(market.rulebook.sites.map((s) => [s.key, s.name]));
  return {
    counts: { ...counts, refused: (counts['refused'] ?? 0) + turned },
    rows: rows.map((r) => ({
      listingId: r.id,
      sku: r.sku,
      title: r.title,
      number: r.number,
      state: r.state,
      link: r.number ? linkToEntry(market, r.number) : null,
      since: r.since?.toISOString() ?? null,
      reason: r.reason,
      sites: (r.places ?? []).map((p) => ({
        site: p.site,
        name: names.get(p.site) ?? p.site,
        state: p.market_state,
        reason: p.reason,
        link: p.market_state === 'live' && r.number ? linkToEntry(market, p.number ?? r.number, p.site) : null,
      })),
    })),
  };
}
