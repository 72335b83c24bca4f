import type { JobKind } from '../jobs/queue';
import { refreshStale } from './stale';

/** Checks what is stale in a market. Safe to repeat: every page replaces what was there. */
export const refreshMarketJob: JobKind<{ market: string }> = {
  kind: 'refresh-market',
  attempts: 5,
  run: async ({ market }, { db, progress }) => {
    await refreshStale(db, market, progress);
    return 'done';
  },
};
