import { announce } from '../events';
import type { JobKind } from '../jobs/queue';
import { loadMarket } from '../markets/load';
import { refreshMarket } from './refresh';

/** Checks a whole market anew. Safe to repeat: every page replaces what was there. */
export const refreshMarketJob: JobKind<{ market: string }> = {
  kind: 'refresh-market',
  attempts: 5,
  run: async ({ market }, { db, progress }) => {
    await refreshMarket(db, await loadMarket(db, market), progress);
    await announce(db, { topic: 'listings' });
    return 'done';
  },
};
