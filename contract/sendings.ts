// What goes to a market by the clock: again and again, or once at a time that a person has set.
import { scheduleSchema } from '@basileus/core/change';
import { clockOperations } from '@basileus/core/feed';
import { z } from 'zod';
import { chosenRows, surprise } from './plan';
import { defineEndpoint } from './endpoint';
import { idParam, marketParam, nothing, ok, operation, word } from './shapes';

const count = z.number();
/** How it went when it was last due. */
export const sendingOutcome = z.object({
  /** When it was due, and when it was done. */
  due: z.string(),
  at: z.string(),
  /** Rows that went, and the dispatches that they went with. */
  rows: count,
  dispatches: z.array(z.number()),
  /** What was surprising and therefore stayed until somebody looks. */
  surprises: z.array(surprise),
  /** Rows that were on their way with something else, or being checked anew, and stayed. */
  busy: count,
  /** The market was paused, so that nothing went. */
  isPaused: z.boolean(),
  /** Why nothing could be sent at all. */
  fault: z.string().nullable(),
});
export type SendingOutcome = z.output<typeof sendingOutcome>;
export const sendingShape = z.object({
  id: z.number(),
  market: z.string(),
  operations: z.array(operation),
  /** Null where it goes once. */
  schedule: scheduleSchema.nullable(),
  /** When it goes next; null for one that went once and is over. */
  at: z.string().nullable(),
  /** Of one that goes once: rows that wait for its time. */
  rows: count,
  by: z.string(),
  last: sendingOutcome.nullable(),
});
export type SendingShape = z.output<typeof sendingShape>;
const again = z.object({
  operations: z.array(z.enum(clockOperations)).min(1, 'Choose what goes.').max(clockOperations.length),
  schedule: scheduleSchema,
});
const moment = z.iso.datetime({ offset: true, error: 'A moment is written as 2026-11-30T09:00:00Z.' });

export const listSendings = defineEndpoint({
  id: 'listSendings',
  method: 'get',
  path: '/sendings',
  about: 'What goes by the clock, to one market or all of them.',
  params: nothing,
  query: z.object({ market: word.default('') }),
  body: nothing,
  response: z.object({ rows: z.array(sendingShape) }),
});
export const createSending = defineEndpoint({
  id: 'createSending',
  method: 'post',
  path: '/markets/:market/sendings',
  about:
    'Lets operations go by the clock again and again, or sets a time at which rows go once: these wait until then, whatever else is sent.',
  params: marketParam,
  query: nothing,
  body: z.discriminatedUnion('is', [
    again.extend({ is: z.literal('again') }),
    z.object({
      is: z.literal('once'),
      at: moment,
      operation,
      /** A second operation that goes at the same time: stock beside prices. */
      also: z.enum(['price', 'stock']).optional(),
      ...chosenRows,
      /** True where a person has looked at what is surprising in it now (`surprises` of the plan). */
      looked: z.boolean().default(false),
    }),
  ]),
  response: sendingShape,
});
export const changeSending = defineEndpoint({
  id: 'changeSending',
  method: 'patch',
  path: '/sendings/:id',
  about: 'Says anew what goes by the clock and when, or sets another time for what goes once.',
  params: idParam,
  query: nothing,
  body: z.union([again.partial().strict(), z.strictObject({ at: moment })]),
  response: sendingShape,
});
export const removeSending = defineEndpoint({
  id: 'removeSending',
  method: 'delete',
  path: '/sendings/:id',
  about: 'Calls a sending off: rows that wait for its time are ready to go again.',
  params: idParam,
  query: nothing,
  body: nothing,
  response: ok,
});
export const runSending = defineEndpoint({
  id: 'runSending',
  method: 'post',
  path: '/sendings/:id/run',
  about: 'Sends now what would go by the clock; what goes once has gone then.',
  params: idParam,
  query: nothing,
  body: nothing,
  response: z.object({ job: z.string() }),
});
