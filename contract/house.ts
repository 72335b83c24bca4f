import { z } from 'zod';
import { defineEndpoint } from './endpoint';
import { historyEntry } from './history';
import { surprise } from './plan';
import { job, level, nothing, ok, operation, pageBy, word } from './shapes';

const count = z.number();
export const readHealth = defineEndpoint({
  id: 'readHealth',
  method: 'get',
  path: '/health',
  about: 'Readiness.',
  params: nothing,
  query: nothing,
  body: nothing,
  response: z.object({ ready: z.boolean(), database: z.boolean(), version: z.string() }),
});
const causeKey = z.object({ check: z.string(), message: z.string(), field: z.string() });
const market = z.string();
/** What needs a person today, as facts; each kind has its own. */
const today = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('failed'), market, count, dispatch: count, fault: z.string() }),
  z.object({ kind: z.literal('refused'), market, count, dispatch: count }),
  z.object({ kind: z.literal('unsent'), market, count, surprises: z.array(surprise), fault: z.string().nullable() }),
  z.object({ kind: z.literal('mended'), market, count, dispatch: count }),
  z.object({ kind: z.literal('turned-back'), market, count }),
  z.object({ kind: z.literal('held'), market, count }),
  z.object({ kind: z.literal('drift'), market, count }),
  z.object({ kind: z.literal('blocker'), market, count, cause: causeKey }),
  z.object({ kind: z.literal('category'), market, count }),
  z.object({ kind: z.literal('import'), market: z.null(), count, import: count, name: z.string(), refuse: count }),
  z.object({ kind: z.literal('send'), market, count, operations: z.array(z.object({ operation, count })) }),
  z.object({ kind: z.literal('job'), market: z.null(), count, name: z.string(), fault: z.string(), link: z.string() }),
]);
export type Today = z.output<typeof today>;
/** docs/counts.md says what each number counts. */
const overview = z.object({
  stops: z.object({ gather: count, prepare: count, check: count, send: count, settle: count }),
  products: count,
  states: z.record(z.string(), count),
  today: z.array(today),
  readiness: z.array(z.object({ market, name: z.string(), states: z.record(z.string(), count) })),
  /** Listings in each band of margins (`marginEdges`), from losses up; markets where no margin is known are left out. */
  margins: z.array(z.object({ market, name: z.string(), bands: z.array(count) })),
  causes: z.array(z.object({ market, cause: causeKey, level, count })),
  answers: z.array(z.object({ day: z.string(), accepted: count, refused: count })),
});
export type Overview = z.output<typeof overview>;
export const readOverview = defineEndpoint({
  id: 'readOverview',
  method: 'get',
  path: '/overview',
  about: 'What waits at each stop of the path, and what needs a person today.',
  params: nothing,
  query: z.object({ market: word.default('') }),
  body: nothing,
  response: overview,
});
/** What was done by the clock in the last day, put together by what did it; `at` is the last time. */
const clockWork = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('sent'),
    market,
    name: z.string(),
    at: z.string(),
    times: count,
    rows: count,
    accepted: count,
    refused: count,
  }),
  z.object({
    kind: z.literal('brought'),
    source: count,
    name: z.string(),
    at: z.string(),
    times: count,
    /** Items that were added or changed. */
    items: count,
    failed: count,
    held: count,
  }),
  z.object({
    kind: z.literal('recipe'),
    name: z.string(),
    at: z.string(),
    times: count,
    items: count,
    changeSet: count,
  }),
  z.object({ kind: z.literal('file'), name: z.string(), at: z.string(), times: count }),
  /** A file that was written at its time. */
  z.object({ kind: z.literal('import'), import: count, name: z.string(), at: z.string(), rows: count, refused: count }),
]);
export type ClockWork = z.output<typeof clockWork>;
export const listClockWork = defineEndpoint({
  id: 'listClockWork',
  method: 'get',
  path: '/clock-work',
  about: 'What was done by the clock in the last day, what was done last first.',
  params: nothing,
  query: nothing,
  body: nothing,
  response: z.object({ rows: z.array(clockWork) }),
});
export const listJobs = defineEndpoint({
  id: 'listJobs',
  method: 'get',
  path: '/jobs',
  about: 'Running jobs and the last finished ones.',
  params: nothing,
  query: nothing,
  body: nothing,
  response: z.object({ rows: z.array(job) }),
});
export const cancelJob = defineEndpoint({
  id: 'cancelJob',
  method: 'post',
  path: '/jobs/:id/cancel',
  about: 'Asks a job to stop where that is safe.',
  params: z.object({ id: z.uuid('A job’s id is a UUID.') }),
  query: nothing,
  body: nothing,
  response: ok,
});
export const streamEvents = defineEndpoint({
  id: 'streamEvents',
  method: 'get',
  path: '/events',
  about: 'Server-sent events: which part of the data changed.',
  params: nothing,
  query: nothing,
  body: nothing,
  response: z.any(),
  answers: 'text/event-stream',
});
export const listHistory = defineEndpoint({
  id: 'listHistory',
  method: 'get',
  path: '/history',
  about: 'Who did what, newest first; of one person where a name is given.',
  params: nothing,
  query: pageBy,
  body: nothing,
  response: z.object({ total: z.number(), rows: z.array(historyEntry) }),
});
export const readOpenApi = defineEndpoint({
  id: 'readOpenApi',
  method: 'get',
  path: '/openapi.json',
  about: 'This description.',
  params: nothing,
  query: nothing,
  body: nothing,
  response: z.record(z.string(), z.unknown()),
});
export const eventSchema = z.object({
  topic: z.enum([
    'products',
    'listings',
    'imports',
    'dispatches',
    'jobs',
    'markets',
    'own',
    'choices',
    'recipes',
    'exports',
    'views',
    'sources',
    'pictures',
    'people',
  ]),
  id: z.string().optional(),
});
export type LiveEvent = z.output<typeof eventSchema>;
