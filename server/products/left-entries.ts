// What markets know of items that leave the catalog: kept under their SKUs, and theirs again when they come again.
import { type Db, rowsOf } from '../database';

/** Something of an item stands on a market or is on its way there. */
export const standsSql = (product: string): string => `exists (select 1 from listings l where l.product_id = ${product}
  and (l.in_flight > 0 or l.market_state in ('in review', 'live')
    or exists (select 1 from standings s where s.listing_id = l.id and s.market_state in ('in review', 'live'))))`;

/** A market knew something of an item, or was sent something of it. */
export const wasSentSql = (product: string): string => `exists (select 1 from listings l where l.product_id = ${product}
  and (l.market_state not in ('none', 'left out') or l.number is not null
    or exists (select 1 from dispatch_lines d where d.listing_id = l.id)))`;

/** Puts aside what markets know of items that are about to go; of what they refused nothing has to be mended any more. */
export async function leaveEntries(db: Db, products: readonly number[]): Promise<void> {
  await db.raw(
    `update dispatch_lines d set mended = true, resent = true
      from listings l where l.id = d.listing_id and l.product_id = any(?) and d.state = 'refused' and not d.resent`,
    [[...products]],
  );
  await db.raw(
    `insert into left_entries (market_id, sku, market_state, market_reason, number, number_since, accepted_details, accepted_price,
        accepted_stock, released_prices, entry, entry_is, standings)
      select l.market_id, p.sku, case when l.market_state in ('refused', 'withdrawn') then l.market_state else 'none' end, l.market_reason,
        l.number, l.number_since, l.accepted_details, l.accepted_price, l.accepted_stock, l.released_prices, l.entry, l.entry_is,
        coalesce((select jsonb_agg(to_jsonb(s) - 'listing_id' order by s.site) from standings s where s.listing_id = l.id), '[]')
      from listings l join products p on p.id = l.product_id
      where p.id = any(?) and (l.market_state in ('refused', 'withdrawn') or l.number is not null or l.accepted_details is not null)
      on conflict (market_id, sku) do nothing`,
    [[...products]],
  );
}

/** Gives items that were just added what markets know of their SKUs from before; their listings are refreshed afterwards. */
export async function recallEntries(db: Db, products: readonly number[]): Promise<void> {
  // Lines first: there are some even where the market never knew anything.
  await db.raw(
    `update dispatch_lines x set listing_id = l.id
      from products p join listings l on l.product_id = p.id join dispatches d on d.market_id = l.market_id
      where p.id = any(?) and x.listing_id is null and x.sku = p.sku and x.dispatch_id = d.id`,
    [[...products]],
  );
  const known = await rowsOf<{ id: number; standings: object[] }>(
    db,
    `with back as (
        delete from left_entries e using products p
          where p.id = any(?) and e.sku = p.sku
            and exists (select 1 from listings l where l.product_id = p.id and l.market_id = e.market_id)
          returning p.id as product_id, e.*)
      update listings l
        set market_state = case when l.market_state = 'left out' then l.market_state else b.market_state end,
          market_reason = b.market_reason, number = b.number, number_since = b.number_since, accepted_details = b.accepted_details,
          accepted_price = b.accepted_price, accepted_stock = b.accepted_stock, released_prices = b.released_prices,
          entry = b.entry, entry_is = b.entry_is
        from back b where l.product_id = b.product_id and l.market_id = b.market_id
        returning l.id, b.standings`,
    [[...products]],
  );
  const standings = known.flatMap(({ id, standings: some }) => some.map((s) => ({ ...s, listing_id: id })));
  if (standings.length > 0)
    await db.raw('insert into standings select * from jsonb_populate_recordset(null::standings, ?::jsonb)', [
      JSON.stringify(standings),
    ]);
}

/** Takes what a market shows of SKUs that are in the catalog no more: an entry may be refused, or stand again, long after. */
export async function noteLeftEntries(
  db: Db,
  market: number,
  seen: readonly { sku: string; state: string; number: string; reason: string }[],
): Promise<void> {
  await db.raw(
    `update left_entries e
      set market_state = r.state, market_reason = r.reason, number = coalesce(nullif(r.number, ''), e.number), number_since = now()
      from jsonb_to_recordset(?::jsonb) as r(sku text, state text, number text, reason text)
      where e.market_id = ? and e.sku = r.sku and e.market_state not in ('none', r.state)`,
    [JSON.stringify(seen), market],
  );
}
