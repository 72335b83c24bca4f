import { z } from 'zod';
import { defineEndpoint } from './endpoint';
import {
  cellPatch,
  id,
  level,
  listing,
  listingState,
  marketParam,
  nothing,
  operation,
  page,
  pathId,
  value,
  word,
} from './shapes';

const count = z.number();
export const listMarkets = defineEndpoint({
  id: 'listMarkets',
  method: 'get',
  path: '/markets',
  about: 'The markets we sell on.',
  params: nothing,
  query: nothing,
  body: nothing,
  response: z.object({
    rows: z.array(
      z.object({ key: z.string(), name: z.string(), country: z.string(), currency: z.string(), version: z.string() }),
    ),
  }),
});
export const readRulebook = defineEndpoint({
  id: 'readRulebook',
  method: 'get',
  path: '/markets/:market/rulebook',
  about: 'The rulebook in force, whole.',
  params: marketParam,
  query: nothing,
  body: nothing,
  response: z.record(z.string(), z.unknown()),
});
export const putRulebook = defineEndpoint({
  id: 'putRulebook',
  method: 'put',
  path: '/markets/:market/rulebook',
  about:
    'Puts a new rulebook version in force and checks everything anew. A wrong document is refused with the path and the reason.',
  params: marketParam,
  query: nothing,
  body: z.record(z.string(), z.unknown()),
  response: z.object({ version: z.string(), job: z.string() }),
});

export const compareRulebook = defineEndpoint({
  id: 'compareRulebook',
  method: 'post',
  path: '/markets/:market/rulebook/compare',
  about: 'Says what a document would change against the rulebook in force. Nothing is changed.',
  params: marketParam,
  query: nothing,
  body: z.record(z.string(), z.unknown()),
  response: z.object({
    version: z.string(),
    inForce: z.string(),
    changes: z.array(
      z.object({
        area: z.enum(['categories', 'demands', 'attributes', 'codes', 'files', 'terms']),
        kind: z.enum(['new', 'gone', 'changed']),
        says: z.string(),
      }),
    ),
  }),
});

const listingQuery = page.extend({
  category: word.default(''),
  ownCategory: word.default(''),
  state: z.union([listingState, z.literal('')]).default(''),
  search: word.default(''),
  check: word.default(''),
  message: word.default(''),
  field: word.default(''),
  level: z.union([level, z.literal('')]).default(''),
  without: z.enum(['', 'category']).default(''),
});
export const listListings = defineEndpoint({
  id: 'listListings',
  method: 'get',
  path: '/markets/:market/listings',
  about: 'A page of listings with values, their origin, the level of demand of each cell, and findings.',
  params: marketParam,
  query: listingQuery,
  body: nothing,
  response: z.object({ total: count, rows: z.array(listing) }),
});
export const readListing = defineEndpoint({
  id: 'readListing',
  method: 'get',
  path: '/markets/:market/listings/:id',
  about: 'One listing.',
  params: marketParam.extend({ id: pathId }),
  query: nothing,
  body: nothing,
  response: listing,
});
export const patchListings = defineEndpoint({
  id: 'patchListings',
  method: 'patch',
  path: '/markets/:market/listings',
  about:
    'Types values over what the product gives. `after` null takes the typed value away again; an empty text leaves the field empty on purpose.',
  params: marketParam,
  query: nothing,
  body: z.object({ title: word.default('Edited for the market'), cells: z.array(cellPatch).min(1).max(50_000) }),
  response: z.object({
    changeSet: z.number().nullable(),
    applied: count,
    conflicts: z.array(z.object({ id: z.number(), field: z.string(), now: value.nullable() })),
  }),
});
export const setWish = defineEndpoint({
  id: 'setWish',
  method: 'post',
  path: '/markets/:market/listings/wish',
  about:
    'Asks for listings to be taken down, put back or kept right. Rows on their way to the market keep what they were sent with; what the market cannot do is refused.',
  params: marketParam,
  query: nothing,
  body: z.object({ ids: z.array(id).min(1).max(50_000), wish: z.enum(['keep', 'withdraw', 'restore']) }),
  response: z.object({ changed: count, onTheWay: count }),
});

export const listCategoryGroups = defineEndpoint({
  id: 'listCategoryGroups',
  method: 'get',
  path: '/markets/:market/category-groups',
  about: 'Own categories with how many of their items have a market category, and proposals with reasons.',
  params: marketParam,
  query: nothing,
  body: nothing,
  response: z.object({
    recent: z.array(z.object({ key: z.string(), path: z.array(z.string()), count })),
    rows: z.array(
      z.object({
        ownCategory: z.string(),
        items: count,
        placed: count,
        chosen: z.array(z.object({ key: z.string(), count })),
        rule: z.string().nullable(),
        proposals: z.array(
          z.object({ key: z.string(), path: z.array(z.string()), score: z.number(), reason: z.string() }),
        ),
      }),
    ),
  }),
});
export const assignCategory = defineEndpoint({
  id: 'assignCategory',
  method: 'post',
  path: '/markets/:market/assign-category',
  about: 'Puts items into a leaf: named listings, or all items of an own category (remembered for later items).',
  params: marketParam,
  query: nothing,
  body: z.object({
    category: word.nullable(),
    ids: z.array(id).max(50_000).optional(),
    ownCategory: word.optional(),
    onlyEmpty: z.boolean().default(true),
  }),
  response: z.object({ changed: count, changeSet: z.number().nullable() }),
});

const fieldRow = z.object({
  attribute: z.string(),
  label: z.string(),
  type: z.string(),
  suggested: z.string().nullable(),
  chosen: z.string().nullable(),
  filled: count,
  demanded: count,
});
export const listFieldMap = defineEndpoint({
  id: 'listFieldMap',
  method: 'get',
  path: '/markets/:market/fields',
  about: 'Which field of ours feeds which attribute of theirs.',
  params: marketParam,
  query: nothing,
  body: nothing,
  response: z.object({ rows: z.array(fieldRow), ours: z.array(z.object({ key: z.string(), label: z.string() })) }),
});
export const putFieldMap = defineEndpoint({
  id: 'putFieldMap',
  method: 'put',
  path: '/markets/:market/fields/:attribute',
  about:
    'Chooses the source of an attribute: a field of ours, `=text` for the same text everywhere, an empty text for nothing, null for what the rulebook suggests.',
  params: marketParam.extend({ attribute: word }),
  query: nothing,
  body: z.object({ source: z.string().max(2000).nullable() }),
  response: z.object({ refreshed: count, job: z.string().nullable() }),
});
export const listValueMap = defineEndpoint({
  id: 'listValueMap',
  method: 'get',
  path: '/markets/:market/values',
  about: 'Our values of choice attributes, what each becomes, and how many items carry it.',
  params: marketParam,
  query: z.object({ attribute: word.default('') }),
  body: nothing,
  response: z.object({
    rows: z.array(
      z.object({
        attribute: z.string(),
        label: z.string(),
        ours: z.string(),
        items: count,
        theirs: z.string().nullable(),
        by: z.enum(['mapping', 'label', 'nothing']),
        proposals: z.array(z.object({ code: z.string(), label: z.string() })),
      }),
    ),
  }),
});
export const putValueMap = defineEndpoint({
  id: 'putValueMap',
  method: 'put',
  path: '/markets/:market/values',
  about: 'Says which code of theirs a value of ours becomes; null forgets it.',
  params: marketParam,
  query: nothing,
  body: z.object({ attribute: word, ours: z.string().min(1).max(2000), theirs: word.nullable() }),
  response: z.object({ refreshed: count, job: z.string().nullable() }),
});

export const cause = z.object({
  check: z.string(),
  message: z.string(),
  field: z.string(),
  level,
  title: z.string(),
  count,
  example: z.string(),
  safe: count,
  why: z.string(),
  source: z.string(),
});
export type Cause = z.output<typeof cause>;
export const listCauses = defineEndpoint({
  id: 'listCauses',
  method: 'get',
  path: '/markets/:market/causes',
  about: 'Findings grouped by cause, most urgent first.',
  params: marketParam,
  query: z.object({ search: word.default('') }),
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
export const applyRemedies = defineEndpoint({
  id: 'applyRemedies',
  method: 'post',
  path: '/markets/:market/remedies',
  about:
    'Applies the first mechanical remedy of each finding of a cause, or one value to all of its rows. With `dryRun`, says before and after and changes nothing.',
  params: marketParam,
  query: nothing,
  body: z.object({
    check: word,
    message: word,
    field: word,
    ids: z.array(id).max(50_000).optional(),
    fill: value.optional(),
    includeUnsafe: z.boolean().default(false),
    dryRun: z.boolean().default(false),
  }),
  response: z.object({
    changeSet: z.number().nullable(),
    changed: count,
    left: count,
    rows: z.array(
      z.object({
        id: z.number(),
        sku: z.string(),
        field: z.string(),
        before: value.nullable(),
        after: value.nullable(),
      }),
    ),
  }),
});

const planRow = z.object({ operation, count, held: count });
/** Why a row is held back. */
export const heldReason = z.enum(['blocked', 'refused', 'family', 'price-moved', 'stale']);
export type HeldReason = z.output<typeof heldReason>;
/** Which of the planned rows are meant; all where nothing is named. Ids are divided by commas. */
const planChoice = z.object({
  ids: z
    .string()
    .max(12_000)
    .regex(/^(\d{1,15}(,\d{1,15})*)?$/, 'ids are numbers divided by commas.')
    .default('')
    .transform((t) => (t === '' ? undefined : t.split(',').map(Number))),
  brand: word.default(''),
  own: word.default(''),
  import: z.coerce.number().int().nonnegative().default(0),
});
export interface PlanChoice {
  ids?: readonly number[] | undefined;
  brand: string;
  own: string;
  import: number;
}
const surprise = z.object({
  kind: z.enum(['stock-gone', 'stock-falls', 'prices-move']),
  operation,
  rows: count,
  live: count,
});
export const readPlan = defineEndpoint({
  id: 'readPlan',
  method: 'get',
  path: '/markets/:market/plan',
  about: 'What would go to the market and what is held back, by operation and by reason.',
  params: marketParam,
  query: planChoice,
  body: nothing,
  response: z.object({
    operations: z.array(planRow),
    /** What touches a large share of the live entries at once; it is sent only after a look. */
    surprises: z.array(surprise),
    /** Rows that one file of an operation takes; more go as several files. */
    mostRows: z.record(z.string(), count),
    held: z.array(z.object({ reason: heldReason, count })),
    waiting: count,
  }),
});
const plannedListing = z.object({
  listingId: z.number(),
  sku: z.string(),
  title: z.string(),
  role: z.string(),
  category: z.string().nullable(),
  held: heldReason.nullable(),
  differences: z.array(
    z.object({ field: z.string(), label: z.string(), before: value.nullable(), after: value.nullable() }),
  ),
});
export type PlannedListing = z.output<typeof plannedListing>;
export const listPlanRows = defineEndpoint({
  id: 'listPlanRows',
  method: 'get',
  path: '/markets/:market/plan/:operation',
  about: 'The rows of one operation as differences against the last accepted state.',
  params: marketParam.extend({ operation }),
  query: page.extend({ ...planChoice.shape, held: z.enum(['', 'yes', 'no']).default('no') }),
  body: nothing,
  response: z.object({ total: count, rows: z.array(plannedListing) }),
});
export const previewFile = defineEndpoint({
  id: 'previewFile',
  method: 'get',
  path: '/markets/:market/plan/:operation/file',
  about: 'The first rows of the file as the market would get it.',
  params: marketParam.extend({ operation }),
  query: planChoice,
  body: nothing,
  response: z.object({ name: z.string(), text: z.string(), rows: z.array(z.array(z.string())), total: count }),
});
export const releaseHold = defineEndpoint({
  id: 'releaseHold',
  method: 'post',
  path: '/markets/:market/release',
  about: 'Lets a held price go: the person has looked at it.',
  params: marketParam,
  query: nothing,
  body: z.object({ ids: z.array(id).min(1).max(50_000) }),
  response: z.object({ released: count }),
});
export const findInMarket = defineEndpoint({
  id: 'findInMarket',
  method: 'get',
  path: '/markets/:market/find',
  about: 'Looks whether the market already has an entry, by number or words.',
  params: marketParam,
  query: z.object({ q: z.string().min(2).max(300) }),
  body: nothing,
  response: z.object({
    rows: z.array(
      z.object({
        number: z.string(),
        title: z.string(),
        brand: z.string(),
        item_number: z.string(),
        shelf: z.string(),
      }),
    ),
  }),
});
