// How entries stand on the market, from its shelf list: in all, and at each of its sites.
import type { ShelfLine } from '@basileus/core/answers';
import { combineStandings, type StandingState } from '@basileus/core/listing';
import { type Db, rowOf, rowsOf, type Write } from '../database';
import { announce } from '../events';
import { refreshListings } from '../listings';
import type { Market } from '../markets';
import { noteLeftEntries } from '../products';
import { noteDrift } from './drift';

interface Seen {
  sku: string;
  site: string;
  number: string;
  state: StandingState;
  reason: string;
  /** True where nothing is there any more that could be revised. */
  gone: boolean;
}

/** Takes what the market's shelf list says of states into the listings. */
export async function applyShelf(
  write: Write,
  market: Market,
  lines: readonly ShelfLine[],
  cursor: string,
): Promise<number> {
  const seen = lines.flatMap((l): Seen[] => {
    const state = market.rulebook.states[l.state]?.is;
    return state === 'live' || state === 'in review' || state === 'refused' || state === 'withdrawn'
      ? [{ sku: l.sku, site: l.site ?? '', number: l.number, state, reason: l.reason, gone: isGone(market, l.state) }]
      : [];
  });
  return write(async (tx) => {
    await noteLeftEntries(
      tx,
      market.id,
      seen.filter((s) => s.site === ''),
    );
    const changed = await storeStates(tx, market, await combineSites(tx, market, seen));
    const drifted = await noteDrift(tx, market, lines);
    // A line about a row that is still on its way would be lost if the cursor moved past it: the list is read again instead.
    const waiting = await rowOf<{ n: number }>(
      tx,
      'select count(*) as n from listings l join products p on p.id = l.product_id where l.market_id = ? and l.in_flight > 0 and p.sku = any(?)',
      [market.id, seen.map((r) => r.sku)],
    );
    if (!waiting?.n) await tx.raw('update markets set shelf_cursor = ? where id = ?', [cursor, market.id]);
    await refreshListings(tx, market, changed);
    if (changed.length || drifted) await announce(tx, { topic: 'dispatches' }, { topic: 'listings' });
    return changed.length;
  });
}

/** Whether an entry in a state of the market is gone, or stands to be revised. */
const isGone = ({ rulebook }: Market, state: string): boolean => rulebook.states[state]?.entry === 'gone';

/** Keeps how entries stand at each site, and says how each stands in all. What names no site is as it is. */
async function combineSites(db: Db, market: Market, seen: readonly Seen[]): Promise<(Seen & { turned: boolean })[]> {
  // Of a place that is named twice the last line counts.
  const bySite = [...new Map(seen.filter((s) => s.site !== '').map((s) => [`${s.sku}/${s.site}`, s])).values()];
  const plain = seen.filter((s) => s.site === '').map((s) => ({ ...s, turned: false }));
  if (bySite.length === 0) return plain;
  const turned = await rowsOf<{ sku: string }>(
    db,
    `with r as (
        select l.id, r.*
          from jsonb_to_recordset(?::jsonb) as r(sku text, site text, number text, state text, reason text)
          join products p on p.sku = r.sku
          join listings l on l.product_id = p.id and l.market_id = ? and l.in_flight = 0 and l.market_state not in ('none', 'left out')),
      kept as (
        insert into standings as s (listing_id, site, market_state, number, reason)
          select id, site, state, nullif(number, ''), reason from r
          on conflict (listing_id, site) do update
            set market_state = excluded.market_state, number = coalesce(excluded.number, s.number),
              reason = excluded.reason, since = now()
            where s.market_state <> excluded.market_state or s.reason <> excluded.reason
          returning s.listing_id, s.market_state)
      select distinct r.sku from kept k join r on r.id = k.listing_id where k.market_state = 'refused'`,
    [JSON.stringify(bySite), market.id],
  );
  const isTurned = new Set(turned.map((t) => t.sku));
  const standing = await rowsOf<{ sku: string; states: StandingState[]; number: string | null }>(
    db,
    `select p.sku, array_agg(s.market_state) as states, max(s.number) as number
      from standings s
      join listings l on l.id = s.listing_id
      join products p on p.id = l.product_id
      where l.market_id = ? and p.sku = any(?)
      group by p.sku`,
    [market.id, [...new Set(bySite.map((s) => s.sku))]],
  );
  return [
    ...plain,
    ...standing.map((s) => ({
      sku: s.sku,
      site: '',
      number: s.number ?? '',
      state: combineStandings(s.states),
      reason: '',
      // Refused at every site, each in the market's own word for it.
      gone: bySite.some((x) => x.sku === s.sku && x.gone),
      turned: isTurned.has(s.sku),
    })),
  ];
}

/** Brings listings to the state that the market shows. Answers those that changed, also where one site alone turned them back. */
async function storeStates(db: Db, market: Market, seen: readonly (Seen & { turned: boolean })[]): Promise<number[]> {
  const changed = await rowsOf<{ id: number }>(
    db,
    `update listings l set market_state = r.state, number = coalesce(nullif(r.number, ''), l.number),
        number_since = case when l.market_state = r.state then l.number_since else now() end, market_reason = r.reason,
        refusal_open = r.turned or l.refusal_open or (r.state = 'refused' and l.market_state <> 'refused'),
      accepted_details = case when r.state = 'refused' and r.gone then null else l.accepted_details end,
        accepted_price = case when r.state = 'refused' and r.gone then null else l.accepted_price end,
        accepted_stock = case when r.state = 'refused' and r.gone then null else l.accepted_stock end
    from jsonb_to_recordset(?::jsonb) as r(sku text, number text, state text, reason text, gone boolean, turned boolean) join products p on p.sku = r.sku where l.product_id = p.id
      and l.market_id = ? and l.in_flight = 0 and l.market_state not in ('none', 'left out')
      and (l.market_state <> r.state or l.market_reason <> r.reason or (r.turned and not l.refusal_open)) returning l.id`,
    [JSON.stringify(seen), market.id],
  );
  return changed.map((c) => c.id);
}
