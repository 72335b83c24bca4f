// Business systems as sources of items: how they are reached, what their rows become, when they are asked.
import { scheduleSchema } from '@basileus/core/change';
import type { FormulaFault, RowFault } from '@basileus/core/formula';
import { type RulePart, sourceRules } from '@basileus/core/source';
import { z } from 'zod';
import { defineEndpoint } from './endpoint';
import { id, idParam, nothing, word } from './shapes';

export const sourceWays = ['pages', 'file'] as const;
const name = z.string().trim().min(1, 'Give a name.').max(120);
const said = z.object({
  name,
  /** `pages`: rows as JSON, a page after the other. `file`: one text file with a heading row. */
  way: z.enum(sourceWays),
  address: z
    .string()
    .trim()
    .max(2000)
    .regex(
      /^https?:\/\/[A-Za-z0-9.-]+(:\d{1,5})?(\/[A-Za-z0-9._~%/-]*)?(\?[A-Za-z0-9._~=&%+-]*)?$/,
      'An address begins with http:// or https:// and holds no name or password, such as https://ledger.example/articles.',
    ),
  /** The decimal sign of its numbers. */
  decimalSign: z.enum(['.', ',']).default('.'),
  /** Asks only for what has changed since the last time, where the system can tell. */
  sinceParam: z
    .string()
    .trim()
    .max(60)
    .regex(/^[\w.-]*$/, 'The name of a parameter has letters, digits, points, dashes and underscores.')
    .default(''),
  rules: sourceRules,
  mode: z.enum(['update', 'create', 'both']).default('both'),
  schedule: scheduleSchema.nullable().default(null),
  /** What comes by the clock waits for a look where more than this share of its rows would change something, in percent. */
  holdPercent: z.int().min(0).max(100).default(20),
});
/** The key is written and never read. */
const key = z.string().max(500).nullable().optional();
export type SourceSaid = z.output<typeof said>;

export const runStates = ['fetching', 'forming', 'planning', 'planned', 'held', 'writing', 'done', 'failed'] as const;
const run = z.object({
  id,
  at: z.string(),
  actor: z.string(),
  how: z.enum(['hand', 'clock']),
  state: z.enum(runStates),
  /** Rows that came, and what became of them by the rules. */
  rows: z.number(),
  formed: z.number(),
  leftOut: z.number(),
  noSku: z.number(),
  clashes: z.number(),
  faults: z.number(),
  import: z.number().nullable(),
  /** What would be written, or was. */
  created: z.number(),
  updated: z.number(),
  refused: z.number(),
  fault: z.string().nullable(),
});
export type SourceRun = z.output<typeof run>;
const source = said.extend({
  id,
  hasKey: z.boolean(),
  columns: z.array(z.string()),
  /** Rows that are here from the last time, and when that was. */
  rows: z.number(),
  fetchedAt: z.string().nullable(),
  nextAt: z.string().nullable(),
  actor: z.string(),
  lastRun: run.nullable(),
});
export type SourceShape = z.output<typeof source>;

export const listSources = defineEndpoint({
  id: 'listSources',
  method: 'get',
  path: '/sources',
  about: 'Business systems that items come from.',
  params: nothing,
  query: nothing,
  body: nothing,
  response: z.object({ rows: z.array(source) }),
});
export const readSource = defineEndpoint({
  id: 'readSource',
  method: 'get',
  path: '/sources/:id',
  about: 'One business system, with its last runs.',
  params: idParam,
  query: nothing,
  body: nothing,
  response: z.object({ source, runs: z.array(run) }),
});
export const createSource = defineEndpoint({
  id: 'createSource',
  method: 'post',
  path: '/sources',
  about: 'Adds a business system; the rules are guessed when its rows are here for the first time.',
  params: nothing,
  query: nothing,
  body: said.pick({ name: true, way: true, address: true, decimalSign: true }).extend({ key }),
  response: source,
});
export const changeSource = defineEndpoint({
  id: 'changeSource',
  method: 'put',
  path: '/sources/:id',
  about: 'Changes how a business system is reached, what its rows become and when. A key that is left out stays.',
  params: idParam,
  query: nothing,
  body: said.extend({ key }),
  response: source,
});
export const removeSource = defineEndpoint({
  id: 'removeSource',
  method: 'delete',
  path: '/sources/:id',
  about: 'Forgets a business system. What came of it stays.',
  params: idParam,
  query: nothing,
  body: nothing,
  response: z.object({}),
});
export const fetchSource = defineEndpoint({
  id: 'fetchSource',
  method: 'post',
  path: '/sources/:id/fetch',
  about:
    'Asks a business system for its rows, as a job. `look` only has them here; `bring` makes an import of them, which waits to be looked at.',
  params: idParam,
  query: nothing,
  body: z.object({ then: z.enum(['look', 'bring']), changedOnly: z.boolean().default(false) }),
  response: z.object({ run: id, job: z.string() }),
});

const isFault = (x: unknown): boolean => typeof x === 'object' && x !== null;
const part = z.union([z.enum(['sku', 'family', 'only']), z.number()]) as z.ZodType<RulePart>;
const formed = z.object({
  row: z.number(),
  cells: z.record(z.string(), z.string()),
  is: z.enum(['formed', 'left-out', 'no-sku', 'fault']),
  sku: z.string(),
  family: z.string(),
  values: z.array(z.string()),
  /** Whether the catalog has that SKU; and whether it has it under another barcode. */
  held: z.enum(['no', 'yes', 'other-barcode']),
  isClash: z.boolean(),
  fault: z.object({ part, fault: z.custom<RowFault>(isFault) }).nullable(),
});
export type FormedShape = z.output<typeof formed>;
export const tryRules = defineEndpoint({
  id: 'tryRules',
  method: 'post',
  path: '/sources/:id/try',
  about:
    'What the rows that are here become by some rules: the first of them, those in which something is wrong, and counts over all. Nothing is changed.',
  params: idParam,
  query: nothing,
  body: z.object({ rules: sourceRules, search: word.default('') }),
  response: z.union([
    z.object({
      ok: z.literal(true),
      counts: z.object({
        rows: z.number(),
        formed: z.number(),
        leftOut: z.number(),
        noSku: z.number(),
        faults: z.number(),
        /** Items that are in the catalog, and that are new. */
        held: z.number(),
        fresh: z.number(),
        otherBarcode: z.number(),
      }),
      clashes: z.array(z.object({ sku: z.string(), rows: z.array(z.number()), count: z.number() })),
      clashCount: z.number(),
      rows: z.array(formed),
    }),
    z.object({ ok: z.literal(false), part, fault: z.custom<FormulaFault>(isFault) }),
  ]),
});
export type RulesTried = z.output<typeof tryRules.response>;
