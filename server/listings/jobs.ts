import { z } from 'zod';
import { defineJob } from '../jobs';
import { loadMarket, openGate, openMarketPort } from '../markets';
import { lookUpAll } from './entries';
import { refreshStale } from './stale';

/** Checks what is stale in a market. Safe to repeat: every page replaces what was there. */
export const refreshMarketJob = defineJob({
  kind: 'refresh-market',
  payload: z.strictObject({ market: z.string() }),
  attempts: 5,
  mostSeconds: 3600,
  hasParts: true,
  run: async ({ market }, { db, progress, write, beside }) => {
    await refreshStale(db, market, progress, write, beside);
    return 'done';
  },
});

/** Looks whether a market has entries of what is new to it. Safe to repeat: each item is asked for anew. */
export const lookUpJob = defineJob({
  kind: 'look-up',
  payload: z.strictObject({ market: z.string() }),
  attempts: 5,
  mostSeconds: 3600,
  run: async ({ market: key }, { db, progress, write }) => {
    const market = await loadMarket(db, key);
    await lookUpAll(db, market, openMarketPort(market, openGate(db, market)), progress, write);
    return 'done';
  },
});
