// Causes that several markets have from one field of ours: a mend on the item settles them on all of these.
import type { SharedCause } from '@basileus/contract';
import { getCheck, levels } from '@basileus/core/checks';
import { listSourceFields } from '@basileus/core/listing';
import type { Db } from '../database';
import { loadCorrespondences, loadMarkets, type Market } from '../markets';
import { loadCauseCounts } from './tallies';

/**
 * Fields of a market by the field of ours that feeds them. Where categories take it from different ones, and where all take a
 * text or a formula, it is nobody's field.
 */
async function loadSources(db: Db, market: Market): Promise<ReadonlyMap<string, string>> {
  const c = await loadCorrespondences(db, market.id);
  return new Map(
    market.rulebook.attributes.flatMap((a) => {
      const fields = listSourceFields(a, c);
      return fields.length === 1 ? [[a.key, fields[0]!] as const] : [];
    }),
  );
}

/** Causes that two markets or more have from one field of ours, the most urgent first, tips left out. */
export async function loadSharedCauses(db: Db): Promise<SharedCause[]> {
  const markets = await loadMarkets(db);
  const sources = new Map<number, ReadonlyMap<string, string>>();
  for (const m of markets) sources.set(m.id, await loadSources(db, m));
  const byId = new Map(markets.map((m) => [m.id, m]));
  const causes = new Map<string, SharedCause>();
  for (const c of await loadCauseCounts(
    db,
    markets.map((m) => m.id),
  )) {
    const source = sources.get(c.market)?.get(c.field);
    if (source === undefined || c.level === 'tip' || !getCheck(c.check) || c.count === 0) continue;
    const id = `${c.check} ${c.message} ${source}`;
    const known = causes.get(id) ?? {
      check: c.check,
      message: c.message,
      source,
      level: c.level,
      count: 0,
      markets: [],
    };
    causes.set(id, known);
    known.count += c.count;
    known.markets.push({ market: byId.get(c.market)!.key, field: c.field, count: c.count });
  }
  const order = new Map(levels.map((l, i) => [l, i]));
  return [...causes.values()]
    .filter((c) => new Set(c.markets.map((m) => m.market)).size > 1)
    .sort((a, b) => order.get(a.level)! - order.get(b.level)! || b.count - a.count || a.source.localeCompare(b.source));
}

/** Which fields of which markets a field of ours feeds: where findings of it stand. */
export async function listFedFields(db: Db, source: string): Promise<{ market_id: number; field: string }[]> {
  const fed: { market_id: number; field: string }[] = [];
  for (const m of await loadMarkets(db))
    for (const [field, from] of await loadSources(db, m)) if (from === source) fed.push({ market_id: m.id, field });
  return fed;
}
