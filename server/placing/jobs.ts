import { sureness } from '@basileus/contract';
import { z } from 'zod';
import { defineJob } from '../jobs';
import { loadMarket } from '../markets';
import { lookKind } from './ask';
import { lookForLeaves } from './look';
import { endPlacing, placeAll } from './take';

/** Looks at what waits for a category on a market. Safe to repeat: what was thought of each is put anew. */
export const lookForLeavesJob = defineJob({
  kind: lookKind,
  payload: z.strictObject({ market: z.string() }),
  attempts: 5,
  mostSeconds: 3600,
  run: async ({ market }, { db, progress, write }) => {
    await lookForLeaves(db, await loadMarket(db, market), progress, write);
    return 'done';
  },
});

export const placeItemsJob = defineJob({
  kind: 'place-items',
  payload: z.strictObject({
    market: z.string(),
    taken: z.strictObject({
      own: z.string().optional(),
      leaves: z.array(z.string()),
      least: sureness,
      except: z.array(z.int()),
    }),
    changeSet: z.int(),
    actor: z.string(),
  }),
  attempts: 5,
  mostSeconds: 3600,
  run: async ({ market, ...what }, context) => {
    await placeAll(await loadMarket(context.db, market), what, context);
    return 'done';
  },
  onFailed: (what, db) => endPlacing(db, what),
  onCancelled: (what, db) => endPlacing(db, what),
});
