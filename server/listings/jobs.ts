import { z } from 'zod';
import { defineJob } from '../jobs';
import { refreshStale } from './stale';

/** Checks what is stale in a market. Safe to repeat: every page replaces what was there. */
export const refreshMarketJob = defineJob({
  kind: 'refresh-market',
  payload: z.strictObject({ market: z.string() }),
  attempts: 5,
  mostSeconds: 3600,
  run: async ({ market }, { db, progress, write }) => {
    await refreshStale(db, market, progress, write);
    return 'done';
  },
});
