import { z } from 'zod';
import { defineEndpoint } from './endpoint';
import { chosenRows } from './plan';
import {
  fieldChange,
  finding,
  idParam,
  listingState,
  marketParam,
  nothing,
  operation,
  page,
  value,
  word,
} from './shapes';

const count = z.number();
export const dispatchShape = z.object({
  id: z.number(),
  market: z.string(),
  operation,
  state: z.enum(['built', 'by hand', 'sending', 'sent', 'answered', 'failed', 'stopped', 'abandoned']),
  /** Which file of how many that belong together. */
  part: count,
  parts: count,
  /** True once it may have reached the market: from then on it cannot be stopped. */
  hasLeft: z.boolean(),
  total: count,
  accepted: count,
  remarked: count,
  refused: count,
  mended: count,
  by: z.string(),
  /** True where nobody sent it just then: it went by the clock, as that person had said. */
  byClock: z.boolean(),
  fault: z.string().nullable(),
  /** When it is tried again by itself, and how often in a row that has failed. */
  retry: z.object({ at: z.string(), failed: count }).nullable(),
  ticket: z.string().nullable(),
  fileName: z.string(),
  createdAt: z.string(),
  sentAt: z.string().nullable(),
  answeredAt: z.string().nullable(),
  attempts: count,
});
export type DispatchShape = z.output<typeof dispatchShape>;
/** Names one sending of ours on both sides; it travels in a header, so its letters are plain. */
const sendingKey = z.string().regex(/^[A-Za-z0-9._-]{8,80}$/, 'A key is 8 to 80 letters, digits, points and hyphens.');

export const createDispatch = defineEndpoint({
  id: 'createDispatch',
  method: 'post',
  path: '/markets/:market/dispatches',
  about:
    'Builds feed files of what is planned, as many as the layout needs, and sends them as jobs, or leaves them for download. Files of many rows are made by a job, too.',
  params: marketParam,
  query: nothing,
  body: z.object({
    operation,
    /** A second operation that goes at the same time, in a file of its own: stock beside prices. */
    also: z.enum(['price', 'stock']).optional(),
    ...chosenRows,
    /** True where a person has looked at what is surprising in it (`surprises` of the plan). */
    looked: z.boolean().default(false),
    by: z.enum(['wire', 'hand']).default('wire'),
    key: sendingKey,
  }),
  response: z.object({
    /** The first of them; null where they are being made. */
    dispatch: dispatchShape.nullable(),
    dispatches: z.array(dispatchShape),
    heldBack: count,
    /** The job that makes the files of many rows, and how many rows those are. */
    underway: z.object({ job: z.string(), rows: count }).nullable(),
  }),
});
export const listDispatches = defineEndpoint({
  id: 'listDispatches',
  method: 'get',
  path: '/dispatches',
  about: 'Dispatches, newest first.',
  params: nothing,
  query: page.extend({ market: word.default('') }),
  body: nothing,
  response: z.object({ total: count, rows: z.array(dispatchShape) }),
});
export const readDispatch = defineEndpoint({
  id: 'readDispatch',
  method: 'get',
  path: '/dispatches/:id',
  about: 'One dispatch.',
  params: idParam,
  query: nothing,
  body: nothing,
  response: dispatchShape,
});
export const dispatchLine = z.object({
  line: count,
  /** None where the item has left the catalog. */
  listingId: z.number().nullable(),
  sku: z.string(),
  /** The site that the line is about; empty where it is about the entry. */
  site: z.string(),
  state: z.enum(['waiting', 'accepted', 'remarked', 'refused', 'lost', 'stopped', 'abandoned']),
  code: z.string(),
  field: z.string(),
  fieldLabel: z.string(),
  says: z.string(),
  remedy: z.string(),
  /** What else the market found wrong with the line. */
  more: z.array(
    z.object({ code: z.string(), field: z.string(), fieldLabel: z.string(), says: z.string(), remedy: z.string() }),
  ),
  number: z.string().nullable(),
  differences: z.array(fieldChange),
  current: z.union([z.string(), z.array(z.string()).readonly()]).nullable(),
  mended: z.boolean(),
  /** Of a refused line: the later dispatch with which the market took it. */
  settledBy: z.number().nullable(),
});
export type DispatchLine = z.output<typeof dispatchLine>;
export const listDispatchLines = defineEndpoint({
  id: 'listDispatchLines',
  method: 'get',
  path: '/dispatches/:id/lines',
  about: 'Lines of a dispatch with the market’s answer.',
  params: idParam,
  query: page.extend({
    state: z.enum(['', 'waiting', 'accepted', 'remarked', 'refused']).default(''),
    code: word.default(''),
    field: word.default(''),
  }),
  body: nothing,
  response: z.object({ total: count, rows: z.array(dispatchLine) }),
});
const refusal = z.object({
  code: z.string(),
  field: z.string(),
  fieldLabel: z.string(),
  says: z.string(),
  remedy: z.string(),
  count,
  /** Lines of it that nobody has mended yet. */
  open: count,
});
export type Refusal = z.output<typeof refusal>;
export const listRefusals = defineEndpoint({
  id: 'listRefusals',
  method: 'get',
  path: '/dispatches/:id/refusals',
  about: 'The refused lines of a dispatch grouped by cause: code and field, the most frequent first.',
  params: idParam,
  query: nothing,
  body: nothing,
  response: z.object({ rows: z.array(refusal) }),
});
export const mendRefusals = defineEndpoint({
  id: 'mendRefusals',
  method: 'post',
  path: '/dispatches/:id/refusals',
  about:
    'Gives the field of a cause one value in its refused lines that are not mended yet and to which it brings no new blocker, as one change set; without a value, lets them go again as they are, since the market has put it right.',
  params: idParam,
  query: nothing,
  body: z.object({ code: word, field: word, value: value.optional() }),
  response: z.object({
    changeSet: z.number().nullable(),
    changed: count,
    left: count,
    /** Lines that were left because the value would bring another blocker, by what would be said of them. */
    fails: z.array(z.object({ count, finding })),
  }),
});
export const downloadDispatch = defineEndpoint({
  id: 'downloadDispatch',
  method: 'get',
  path: '/dispatches/:id/file',
  about: 'The feed file.',
  params: idParam,
  query: nothing,
  body: nothing,
  response: z.any(),
  answers: 'text/plain',
});
export const uploadReceipt = defineEndpoint({
  id: 'uploadReceipt',
  takesFile: true,
  method: 'post',
  path: '/dispatches/:id/receipt',
  about: 'Reads a receipt that was fetched by hand (multipart, one part named “file”).',
  params: idParam,
  query: nothing,
  body: z.any(),
  response: dispatchShape,
});
export const resendMended = defineEndpoint({
  id: 'resendMended',
  method: 'post',
  path: '/dispatches/:id/resend',
  about: 'Sends the refused lines that have been mended since, alone.',
  params: idParam,
  query: nothing,
  body: z.object({ key: sendingKey }),
  response: z.object({ dispatch: dispatchShape, dispatches: z.array(dispatchShape), heldBack: count }),
});
export const retryDispatch = defineEndpoint({
  id: 'retryDispatch',
  method: 'post',
  path: '/dispatches/:id/retry',
  about: 'Tries a failed dispatch again under the same key.',
  params: idParam,
  query: nothing,
  body: nothing,
  response: dispatchShape,
});
const endOf = <const I extends string>(endId: I, path: string, about: string) =>
  defineEndpoint({
    id: endId,
    method: 'post',
    path: `/dispatches/:id/${path}`,
    about,
    params: idParam,
    query: nothing,
    body: nothing,
    response: dispatchShape,
  });
export const stopDispatch = endOf(
  'stopDispatch',
  'stop',
  'Stops a dispatch that has not left yet; its rows are free again.',
);
export const abandonDispatch = endOf(
  'abandonDispatch',
  'abandon',
  'Gives up waiting for a dispatch that nobody will answer; its rows are as if they had not been sent.',
);
export const askShelf = endOf(
  'askShelf',
  'ask-shelf',
  'Settles a dispatch that nobody has answered by what the market shows on its shelf.',
);
export const readShelf = defineEndpoint({
  id: 'readShelf',
  method: 'get',
  path: '/markets/:market/shelf',
  about:
    'Counts by state, and listings that are live, in review, refused or withdrawn, with a link to the buyer’s page.',
  params: marketParam,
  query: page.extend({ state: listingState.default('live') }),
  body: nothing,
  response: z.object({
    counts: z.record(z.string(), count),
    rows: z.array(
      z.object({
        listingId: z.number(),
        sku: z.string(),
        title: z.string(),
        number: z.string().nullable(),
        state: listingState,
        link: z.string().nullable(),
        since: z.string().nullable(),
        /** What the market says of why it stands so; empty where it says nothing, or says it by site. */
        reason: z.string(),
        /** How it stands at each site, where the market has several. */
        sites: z.array(
          z.object({
            site: z.string(),
            name: z.string(),
            state: listingState,
            reason: z.string(),
            link: z.string().nullable(),
          }),
        ),
      }),
    ),
  }),
});
