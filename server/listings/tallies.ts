// The kept counts of a market: read as sums, and put together when many parts have gathered.
import type { CauseKey, Level } from '@basileus/core/checks';
import type { Hold } from '@basileus/core/feed';
import type { Operation } from '@basileus/core/rulebook';
import { type Db, rowsOf } from '../database';

type Kind = 'state' | 'unplaced' | 'level' | 'plan' | 'cause' | 'safe' | 'likely' | 'own' | 'filled' | 'margin';

const load = (db: Db, markets: readonly number[], kinds: readonly Kind[]) =>
  rowsOf<{ market: number; kind: Kind; key: string; n: number; changed: number }>(
    db,
    `select market_id as market, kind, key, sum(n)::bigint as n, max(id) as changed
      from tallies
      where market_id = any(?) and kind = any(?)
      group by 1, 2, 3
      having sum(n) <> 0`,
    [markets, kinds],
  );

export interface StateCount {
  market: number;
  state: string;
  n: number;
}
/** Listings by market and state. */
export const loadStateCounts = async (db: Db, markets: readonly number[]): Promise<StateCount[]> =>
  (await load(db, markets, ['state'])).map(({ market, key, n }) => ({ market, state: key, n }));

/** Listings without a category, by market; markets that have none are left out. */
export const loadUnplaced = async (db: Db, markets: readonly number[]): Promise<{ market: number; n: number }[]> =>
  (await load(db, markets, ['unplaced'])).map(({ market, n }) => ({ market, n }));

/** Listings by market and margin, in thousandths at the foot of each percent. */
export const loadMarginCounts = async (
  db: Db,
  markets: readonly number[],
): Promise<{ market: number; margin: number; n: number }[]> =>
  (await load(db, markets, ['margin'])).map(({ market, key, n }) => ({ market, margin: Number(key) * 10, n }));

export interface OwnCount {
  /** Our category, empty where an item has none; as each listing was last checked. */
  own: string;
  /** The market's, or null where none was chosen. */
  chosen: string | null;
  n: number;
  /** Goes up with each change of the count: the highest was changed last. */
  changed: number;
}
/** Listings of a market by our category and the market's. */
export const loadOwnCounts = async (db: Db, market: number): Promise<OwnCount[]> =>
  (await load(db, [market], ['own'])).map(({ key, n, changed }) => {
    const [own = '', chosen = ''] = key.split('\t');
    return { own, chosen: chosen === '' ? null : chosen, n, changed };
  });

/** Listings of a market that have a value, by attribute. */
export const loadFilledCounts = async (db: Db, market: number): Promise<ReadonlyMap<string, number>> =>
  new Map((await load(db, [market], ['filled'])).map(({ key, n }) => [key, n]));

export interface PlanCount {
  operation: Operation;
  held: Hold | null;
  n: number;
}
/** Planned operations of listings of which nothing is on its way, by what holds them. */
export const loadPlanCounts = async (db: Db, market: number): Promise<PlanCount[]> =>
  (await load(db, [market], ['plan'])).map(({ key, n }) => {
    const [operation = '', held = ''] = key.split('\t');
    return { operation: operation as Operation, held: held === '' ? null : (held as Hold), n };
  });

/** Findings of a market by level. */
export async function loadLevelCounts(db: Db, market: number): Promise<Record<Level, number>> {
  const rows = await load(db, [market], ['level']);
  const of = (level: Level): number => rows.find((r) => r.key === level)?.n ?? 0;
  return { blocker: of('blocker'), caution: of('caution'), tip: of('tip') };
}

export interface CauseCount extends CauseKey {
  market: number;
  level: Level;
  /** Listings that have it, and those of them whose first remedy is sure, or only likely. */
  count: number;
  safe: number;
  likely: number;
}
/** Causes with the listings that have them. */
export async function loadCauseCounts(db: Db, markets: readonly number[]): Promise<CauseCount[]> {
  const causes = new Map<string, CauseCount>();
  const rows = await load(db, markets, ['cause', 'safe', 'likely']);
  for (const { market, kind, key, n } of rows) {
    const [check = '', message = '', field = '', level = ''] = key.split('\t');
    const id = `${market}\t${key}`;
    const cause: CauseCount = causes.get(id) ?? {
      market,
      check,
      message,
      field,
      level: level as Level,
      count: 0,
      safe: 0,
      likely: 0,
    };
    causes.set(id, cause);
    if (kind === 'cause') cause.count = n;
    else if (kind === 'safe') cause.safe = n;
    else cause.likely = n;
  }
  return [...causes.values()];
}
