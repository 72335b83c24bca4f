// What markets would make of a change: it is made, looked at and undone again, all in one transaction, so that what is said is
// what would be.
import type { BulkShape, MarketTrial, tryBulk } from '@basileus/contract';
import type { PreparedChange } from '@basileus/core/change';
import { type Finding, levels } from '@basileus/core/checks';
import { toDay } from '@basileus/core/quantity';
import type { z } from 'zod';
import { loadWideFields } from '../choose';
import { type Db, rowsOf } from '../database';
import { loadMarkets } from '../markets';
import { loadMeant, type Looked, lookAt, readySteps } from './meant';
import { lockFor, openBulkSet, writeLooked } from './write';

type Tried = z.output<typeof tryBulk.response>;

/** So many that they are followed up at once, on five markets within seconds. */
const mostTried = 200;
const rowsAtOnce = 1000;

class Undo extends Error {
  constructor(readonly found: MarketTrial[]) {
    super('undone');
  }
}

/** What markets would make of items that change, by market. Nothing of it stays. */
export async function tryOn(db: Db, change: PreparedChange, items: readonly Looked[]): Promise<MarketTrial[]> {
  if (items.length === 0) return [];
  try {
    await db.transaction(async (tx) => {
      throw new Undo(await tryWithin(tx, change, items));
    });
  } catch (e) {
    if (e instanceof Undo) return e.found;
    throw e;
  }
  throw new Error('A trial was not undone.');
}

/** Tries a change on the first items that it would change. Heavy: asked of a worker thread. */
export async function tryBulkNow(db: Db, { which, steps }: BulkShape): Promise<Tried> {
  const book = await loadWideFields(db);
  const change = readySteps(steps, book),
    today = toDay(new Date());
  const ids = await loadMeant(db, which, book);
  const first: Looked[] = [];
  for (let i = 0; i < ids.length && first.length < mostTried; i += rowsAtOnce)
    for (const l of await lookAt(db, change, ids.slice(i, i + rowsAtOnce), today, i))
      if (l.changes.length > 0 && first.length < mostTried) first.push(l);
  return { tried: first.length, markets: await tryOn(db, change, first) };
}

interface Found {
  market_id: number;
  listing_id: number;
  sku: string;
  finding: Finding;
}
const loadFound = (db: Db, ids: readonly number[]): Promise<Found[]> =>
  rowsOf<Found>(
    db,
    `select f.market_id, f.listing_id, p.sku, jsonb_build_object('check', f."check", 'message', f.message, 'level', f.level,
        'field', f.field, 'value', f.value, 'params', f.params, 'remedies', f.remedies) as finding
      from findings f join listings l on l.id = f.listing_id join products p on p.id = l.product_id
      where p.id = any(?) order by p.sku, f.id`,
    [ids],
  );
const loadHeld = (db: Db, ids: readonly number[]): Promise<{ market_id: number; n: number }[]> =>
  rowsOf(
    db,
    `select l.market_id, count(*)::int as n from listings l
      where l.product_id = any(?) and exists (
        select 1 from jsonb_array_elements(l.planned) o where o ->> 'operation' = 'price' and o ->> 'held' is not null)
      group by 1`,
    [ids],
  );
const keyOf = (f: Found): string => `${f.listing_id} ${f.finding.check} ${f.finding.message} ${f.finding.field}`;

async function tryWithin(tx: Db, change: PreparedChange, items: readonly Looked[]): Promise<MarketTrial[]> {
  const ids = items.map((i) => i.row.id);
  const before = await loadFound(tx, ids),
    heldBefore = await loadHeld(tx, ids);
  await lockFor(tx, change, ids);
  const id = await openBulkSet(tx, change, 'trial');
  await writeLooked(tx, change, items, { id, actor: 'trial' });
  const after = await loadFound(tx, ids),
    heldAfter = await loadHeld(tx, ids);
  const was = new Set(before.map(keyOf)),
    is = new Set(after.map(keyOf));
  const held = (list: readonly { market_id: number; n: number }[], market: number): number =>
    list.find((h) => h.market_id === market)?.n ?? 0;
  return (await loadMarkets(tx)).map((m) => ({
    market: m.key,
    news: gather(
      after
        .filter((f) => f.market_id === m.id && !was.has(keyOf(f)))
        .map(({ sku, finding }) => ({ count: 1, sku, finding })),
    ),
    gone: before.filter((f) => f.market_id === m.id && !is.has(keyOf(f))).length,
    held: Math.max(0, held(heldAfter, m.id) - held(heldBefore, m.id)),
  }));
}

/** What was found of some items and of others, together. */
export function addTrials(some: readonly MarketTrial[], others: readonly MarketTrial[]): MarketTrial[] {
  const known = new Map(some.map((m) => [m.market, m]));
  for (const m of others) {
    const k = known.get(m.market);
    known.set(
      m.market,
      k ? { ...m, news: gather([...k.news, ...m.news]), gone: k.gone + m.gone, held: k.held + m.held } : m,
    );
  }
  return [...known.values()];
}

/** New findings by cause, the gravest and most frequent first. */
function gather(news: MarketTrial['news']): MarketTrial['news'] {
  const byCause = new Map<string, MarketTrial['news'][number]>();
  for (const n of news) {
    const key = `${n.finding.check} ${n.finding.message} ${n.finding.field}`;
    const known = byCause.get(key);
    byCause.set(key, known ? { ...known, count: known.count + n.count } : n);
  }
  const rank = new Map(levels.map((l, i) => [l, i]));
  return [...byCause.values()].sort(
    (a, b) => rank.get(a.finding.level)! - rank.get(b.finding.level)! || b.count - a.count,
  );
}
