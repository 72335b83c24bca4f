// Findings grouped by cause, and mends for all rows of one.
import { z } from 'zod';
import { defineEndpoint } from './endpoint';
import { fieldChange, finding, id, level, marketParam, nothing, value, word } from './shapes';

const count = z.number();

const causeKey = z.object({ check: word, message: word, field: word });
export const cause = causeKey.extend({
  level,
  /** Listings that have it. */
  count,
  /** Those of them whose first remedy is mechanical and safe, and those where it is only likely. */
  safe: count,
  likely: count,
  /** Those of them that the search finds. */
  found: count,
  /** One of its findings, to show what is meant. */
  example: z.object({ sku: z.string(), value: z.string(), params: finding.shape.params }),
});
export type Cause = z.output<typeof cause>;

export const listCauses = defineEndpoint({
  id: 'listCauses',
  method: 'get',
  path: '/markets/:market/causes',
  about:
    'Findings grouped by cause, most urgent first, as facts. The search counts in `found` what it finds in value, SKU or title.',
  params: marketParam,
  query: z.object({
    search: word.default(''),
    brand: word.default(''),
    ownCategory: word.default(''),
    category: word.default(''),
    import: z.coerce.number().int().nonnegative().default(0),
  }),
  body: nothing,
  response: z.object({
    rows: z.array(cause),
    blockers: count,
    cautions: count,
    tips: count,
    listings: count,
    ready: count,
  }),
});

const sharedCause = z.object({
  check: word,
  message: word,
  /** The field of ours that feeds the fields of the markets. */
  source: z.string(),
  level,
  /** Listings that have it, on all of the markets. */
  count,
  markets: z.array(z.object({ market: z.string(), field: z.string(), count })),
});
export type SharedCause = z.output<typeof sharedCause>;
export const listSharedCauses = defineEndpoint({
  id: 'listSharedCauses',
  method: 'get',
  path: '/causes',
  about: 'Causes that several markets have from one field of ours, which a mend on the item settles on all of them.',
  params: nothing,
  query: nothing,
  body: nothing,
  response: z.object({ rows: z.array(sharedCause) }),
});

/** Which rows of a cause are mended: those with safe remedies, or likely ones too; single ones taken out or added. */
const remedyChoice = causeKey.extend({
  likely: z.boolean().default(false),
  except: z.array(id).max(50_000).default([]),
  also: z.array(id).max(50_000).default([]),
});
export type RemedyChoice = z.output<typeof remedyChoice>;
const remedyRow = z.object({
  id: z.number(),
  sku: z.string(),
  sureness: z.enum(['safe', 'likely']),
  changes: z.array(fieldChange),
});
export type RemedyRow = z.output<typeof remedyRow>;

export const previewRemedies = defineEndpoint({
  id: 'previewRemedies',
  method: 'post',
  path: '/markets/:market/remedies/preview',
  about:
    'Before and after of every row of a cause that a mechanical remedy settles, the safe ones first; at most 500 rows are shown, all are counted. Nothing is changed.',
  params: marketParam,
  query: nothing,
  body: causeKey,
  response: z.object({ safe: count, likely: count, left: count, rows: z.array(remedyRow) }),
});
export const applyRemedies = defineEndpoint({
  id: 'applyRemedies',
  method: 'post',
  path: '/markets/:market/remedies',
  about:
    'Applies the mechanical remedies of the chosen rows of a cause, as one change set. What they would not settle is left.',
  params: marketParam,
  query: nothing,
  body: remedyChoice,
  response: z.object({ changeSet: z.number().nullable(), changed: count, left: count }),
});

const fillRequest = causeKey.extend({
  value,
  /** The rows that are meant; all of the cause where nothing is named. */
  ids: z.array(id).min(1).max(50_000).optional(),
});
export type FillRequest = z.output<typeof fillRequest>;
const fillOutcome = z.object({
  /** Rows in which the value settles the cause and adds no blocker. */
  settles: count,
  /** Rows in which it does not, by what would be said of them. */
  fails: z.array(z.object({ count, finding })),
  /** How the value could be kept for later items too: for `words` of ours, or for every item where the market asks for it. */
  memory: z.object({ kind: z.enum(['value', 'field', 'none']), words: z.array(z.string()) }),
});
export type FillOutcome = z.output<typeof fillOutcome>;
export const previewFill = defineEndpoint({
  id: 'previewFill',
  method: 'post',
  path: '/markets/:market/fill/preview',
  about: 'What one value would do to the rows of a cause. Nothing is changed.',
  params: marketParam,
  query: nothing,
  body: fillRequest,
  response: fillOutcome,
});
export const applyFill = defineEndpoint({
  id: 'applyFill',
  method: 'post',
  path: '/markets/:market/fill',
  about:
    'Puts one value into the rows of a cause that it settles, as one change set. Rows that it does not settle are left.',
  params: marketParam,
  query: nothing,
  body: fillRequest.extend({
    /** Keeps the value in the tables of correspondences instead of typing it over each row. */
    remember: z.boolean().default(false),
  }),
  response: fillOutcome.extend({ changeSet: z.number().nullable(), changed: count }),
});
