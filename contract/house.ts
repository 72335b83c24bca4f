import { z } from 'zod';
import { defineEndpoint } from './endpoint';
import { job, nothing, ok, page, word } from './shapes';

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
export const readOverview = defineEndpoint({
  id: 'readOverview',
  method: 'get',
  path: '/overview',
  about: 'What waits at each stop of the path, and what needs a person today.',
  params: nothing,
  query: z.object({ market: word.default('') }),
  body: nothing,
  response: z.object({
    stops: z.object({ gather: count, prepare: count, check: count, send: count, settle: count }),
    products: count,
    states: z.record(z.string(), count),
    today: z.array(
      z.object({
        kind: z.string(),
        title: z.string(),
        detail: z.string(),
        count,
        tone: z.enum(['bad', 'warn', 'note', 'good']),
        link: z.string(),
      }),
    ),
    readiness: z.array(z.object({ market: z.string(), name: z.string(), states: z.record(z.string(), count) })),
    causes: z.array(z.object({ title: z.string(), level: z.string(), count })),
    answers: z.array(z.object({ day: z.string(), accepted: count, refused: count })),
  }),
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
  about: 'Who did what, newest first.',
  params: nothing,
  query: page,
  body: nothing,
  response: z.object({
    total: z.number(),
    rows: z.array(
      z.object({
        id: z.number(),
        at: z.string(),
        actor: z.string(),
        action: z.string(),
        subject: z.string(),
        detail: z.string(),
      }),
    ),
  }),
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
  topic: z.enum(['products', 'listings', 'imports', 'dispatches', 'jobs', 'markets']),
  id: z.string().optional(),
});
export type LiveEvent = z.output<typeof eventSchema>;
