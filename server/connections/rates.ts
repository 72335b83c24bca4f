// Rates of currencies: which are needed, and what follows from a new one.
import type { listRates } from '@basileus/contract';
import { houseCurrency } from '@basileus/core/product';
import type { z } from 'zod';
import type { Db } from '../database';
import { announce } from '../events';
import { recordHistory } from '../history';
import { refreshLater } from '../listings';
import { bumpRevision, loadMarkets, loadRates, type Market, storeRate } from '../markets';

const sellsIn = (market: Market, currency: string): boolean =>
  market.rulebook.sites.some((s) => s.currency === currency);

/** The rate of each currency in which a market sells, and of those that somebody has said beside. */
export async function listKnownRates(db: Db): Promise<z.output<typeof listRates.response>> {
  const markets = await loadMarkets(db),
    rates = new Map((await loadRates(db)).map((r) => [r.currency, r]));
  const wanted = markets.flatMap((m) => m.rulebook.sites.map((s) => s.currency)).filter((c) => c !== houseCurrency);
  return {
    house: houseCurrency,
    rows: [...new Set([...wanted, ...rates.keys()])].sort().map((currency) => {
      const known = rates.get(currency);
      return {
        currency,
        rate: known?.rate ?? null,
        by: known?.by_whom ?? null,
        at: known?.at.toISOString() ?? null,
        markets: markets.filter((m) => sellsIn(m, currency)).map((m) => m.key),
      };
    }),
  };
}

/** Keeps a rate; markets that sell in the currency are checked anew by a job each. */
export async function sayRate(db: Db, currency: string, rate: string, actor: string): Promise<void> {
  await db.transaction(async (tx) => {
    await storeRate(tx, currency, rate, actor);
    for (const market of await loadMarkets(tx)) {
      if (!sellsIn(market, currency)) continue;
      await bumpRevision(tx, market);
      await refreshLater(tx, market);
    }
    await recordHistory(tx, actor, { is: 'rate-said', currency, rate });
    await announce(tx, { topic: 'markets' });
  });
}
