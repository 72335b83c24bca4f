// Entries that a market has already of items that are new to it from us: looked up by identifier, judged by a person.
import { toMarketEntry } from '@basileus/core/answers';
import { padGtin, parseGtin } from '@basileus/core/identifiers';
import type { MarketEntry } from '@basileus/core/listing';
import { canAsk } from '@basileus/core/forms';
import { type Db, rowOf, rowsOf, type Write } from '../database';
import { recordHistory } from '../history';
import { AppError } from '../http';
import { enqueue } from '../jobs';
import type { Market, MarketPort } from '../markets';
import { refreshListings } from './follow-up';
import type { Progress } from './refresh';
import { say } from '@basileus/core/text';

/** Rows of which nothing is on the market, nor on its way there. */
const isFree = `l.in_flight = 0 and l.accepted_details is null and l.market_state in ('none', 'refused')`;
/** Rows that could join an entry: they are sold, and have a number by which it is known. */
const canJoin = `${isFree} and p.kind <> 'family' and p.gtin14 is not null and l.entry_is in ('none', 'found')`;

/** Rows that join an entry of the market, which may come to say otherwise of itself. */
const isJoined = `l.entry_is = 'joined' and p.gtin14 is not null`;

const itemsAtOnce = 200;

const count = async (db: Db, market: Market, where: string): Promise<number> =>
  (await rowOf<{ n: number }>(
    db,
    `select count(*) as n from listings l join products p on p.id = l.product_id where l.market_id = ? and ${where}`,
    [market.id],
  ))!.n;

/** Asks for a look-up of everything that is new to a market, and of what joins its entries. Refused where it takes no offers on these. */
export async function requestLookUp(db: Db, market: Market): Promise<{ job: string; items: number; joined: number }> {
  if (!canAsk(market.rulebook, 'offer'))
    throw new AppError('not-now', say`${market.name} takes no offers on entries that it has already.`, {
      remedy: say`Send the items as new entries.`,
    });
  const items = await count(db, market, canJoin),
    joined = await count(db, market, isJoined);
  const job = await db.transaction((tx) =>
    enqueue(tx, {
      kind: 'look-up',
      title: `Looking on ${market.name} for what is new to it`,
      payload: { market: market.key },
      once: `look-up-${market.key}`,
      link: `/${market.key}/prepare?view=look-up`,
      cancellable: true,
    }),
  );
  return { job, items, joined };
}

interface Candidate {
  id: number;
  gtin: string;
  gtin14: string;
  had: boolean;
}

/** Looks up all that is new to a market, and again what joins its entries. */
export async function lookUpAll(
  db: Db,
  market: Market,
  port: Pick<MarketPort, 'findItems'>,
  progress: Progress,
  write: Write,
): Promise<void> {
  const joined = await count(db, market, isJoined);
  await lookUpNew(db, market, port, (done, total) => progress(done, total + joined), write);
  await compareJoined(db, market, port, write);
}

/** Keeps what entries say of themselves with the listings for which it is still asked, sets what follows of it, and judges these anew. */
async function noteEntries(
  tx: Db,
  market: Market,
  entries: readonly { id: number; entry: MarketEntry | null }[],
  set: string,
  isAsked: string,
): Promise<void> {
  const rows = await rowsOf<{ id: number }>(
    tx,
    `update listings l
      set entry = r.entry, ${set}, updated_at = now()
      from jsonb_to_recordset(?::jsonb) as r(id bigint, entry jsonb), products p
      where l.id = r.id and p.id = l.product_id and l.entry is distinct from r.entry and ${isAsked}
      returning l.id`,
    [JSON.stringify(entries)],
  );
  await refreshListings(
    tx,
    market,
    rows.map((r) => r.id),
  );
}

/** Looks up all that is new to a market, page by page. What is found is kept with each, and what is gone is forgotten. */
export async function lookUpNew(
  db: Db,
  market: Market,
  port: Pick<MarketPort, 'findItems'>,
  progress: Progress,
  write: Write,
): Promise<void> {
  const total = await count(db, market, canJoin);
  for (let after = 0, done = 0; ;) {
    const page = await rowsOf<Candidate>(
      db,
      `select l.id, p.gtin, p.gtin14, l.entry is not null as had
        from listings l join products p on p.id = l.product_id
        where l.market_id = ? and l.id > ? and ${canJoin}
        order by l.id limit ?`,
      [market.id, after, itemsAtOnce],
    );
    if (page.length === 0) return;
    await progress(done, Math.max(total, done));
    const byItem = await findByItem(db, market, port, page);
    const changed = page
      .filter((c) => c.had || byItem.has(c.gtin14))
      .map((c) => ({ id: c.id, entry: byItem.get(c.gtin14) ?? null }));
    const is = `entry_is = case when r.entry is null then 'none' else 'found' end`;
    if (changed.length) await write((tx) => noteEntries(tx, market, changed, is, canJoin));
    after = page.at(-1)!.id;
    done += page.length;
  }
}

/**
 * What entries say of themselves that offers of ours join, as they stand now: where that is not what the item is, checks say so.
 * One that is found no more stays as it was known; how it stands is told by the market's shelf list.
 */
async function compareJoined(db: Db, market: Market, port: Pick<MarketPort, 'findItems'>, write: Write): Promise<void> {
  for (let after = 0; ;) {
    const page = await rowsOf<{ id: number; gtin: string; number: string }>(
      db,
      `select l.id, p.gtin, l.entry ->> 'number' as number
        from listings l join products p on p.id = l.product_id
        where l.market_id = ? and l.id > ? and ${isJoined}
        order by l.id limit ?`,
      [market.id, after, itemsAtOnce],
    );
    if (page.length === 0) return;
    const found = new Map((await port.findItems(page.map((r) => r.gtin))).map((f) => [f.number, f]));
    const told = page.flatMap(({ id, number }) => {
      const now = found.get(number);
      return now ? [{ id, entry: toMarketEntry(market.rulebook, now) }] : [];
    });
    const leaf = `category = coalesce(nullif(r.entry ->> 'category', ''), l.category)`,
      same = `${isJoined} and l.entry ->> 'number' = r.entry ->> 'number'`;
    await write((tx) => noteEntries(tx, market, told, leaf, same));
    after = page.at(-1)!.id;
  }
}

/** The first entry of each item that others have put there, by the item's number in fourteen places. */
async function findByItem(
  db: Db,
  market: Market,
  port: Pick<MarketPort, 'findItems'>,
  items: readonly Candidate[],
): Promise<ReadonlyMap<string, MarketEntry>> {
  const found = await port.findItems(items.map((c) => c.gtin));
  const ours = new Set(
    (
      await rowsOf<{ number: string }>(db, 'select number from listings where market_id = ? and number = any(?)', [
        market.id,
        found.map((f) => f.number),
      ])
    ).map((r) => r.number),
  );
  const wanted = new Set(items.map((c) => c.gtin14));
  const byItem = new Map<string, MarketEntry>();
  for (const f of found) {
    const read = parseGtin(f.identifier);
    const item = read.ok ? padGtin(read.digits) : '';
    if (wanted.has(item) && !ours.has(f.number) && !byItem.has(item))
      byItem.set(item, toMarketEntry(market.rulebook, f));
  }
  return byItem;
}

/** What a person says of an entry that was found. */
export type Judgement = 'found' | 'joined' | 'other';

/**
 * Says of entries that an offer joins them, that they are of other items, or that nothing is decided. An offer stands in the
 * leaf of the entry that it joins. A family none of whose variants has an entry of its own left has nothing to say there.
 */
export const judgeEntries = (
  db: Db,
  market: Market,
  { ids, is }: { ids: readonly number[]; is: Judgement },
  actor: string,
): Promise<{ changed: number; there: number }> =>
  db.transaction(async (tx) => {
    const meant = await rowsOf<{ id: number; free: boolean }>(
      tx,
      `select l.id, ${isFree} as free from listings l
        where l.market_id = ? and l.id = any(?) and l.entry is not null and l.entry_is <> ?
        order by l.id for update of l`,
      [market.id, ids, is],
    );
    const changed = meant.filter((r) => r.free).map((r) => r.id);
    await tx.raw(
      `update listings set entry_is = ?, refusal_open = false, updated_at = now(),
          category = case when ? = 'joined' then coalesce(nullif(entry ->> 'category', ''), category) else category end
        where id = any(?)`,
      [is, is, changed],
    );
    const families = await setFamilies(tx, market, changed);
    await refreshListings(tx, market, [...changed, ...families]);
    if (changed.length)
      await recordHistory(tx, actor, { is: 'entries-judged', rows: changed.length, as: is, market: market.name });
    return { changed: changed.length, there: meant.length - changed.length };
  });

/** Leaves out families whose variants all join entries of the market or are left out, and wants them again where one does not. */
async function setFamilies(tx: Db, market: Market, variants: readonly number[]): Promise<number[]> {
  const rows = await rowsOf<{ id: number }>(
    tx,
    `with touched as (select distinct p.parent_id as id from listings l join products p on p.id = l.product_id
        where l.id = any(?) and p.parent_id is not null),
      known as (select t.id, bool_or(l.entry_is = 'joined') as joins,
          bool_and(l.entry_is = 'joined' or l.market_state = 'left out') as none_left
        from touched t
        join products p on p.parent_id = t.id
        join listings l on l.product_id = p.id and l.market_id = ?
        group by t.id)
      update listings l set market_state = case when k.none_left then 'left out' else 'none' end, updated_at = now()
      from known k
      where l.product_id = k.id and l.market_id = ? and l.in_flight = 0 and l.accepted_details is null
        and (k.none_left and k.joins and l.market_state = 'none' or not k.none_left and l.market_state = 'left out')
      returning l.id`,
    [variants, market.id, market.id],
  );
  return rows.map((r) => r.id);
}
