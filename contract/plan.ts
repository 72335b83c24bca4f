// What would go out to a market, what is held back, and the file as the market would get it.
import { encodings } from '@basileus/core/rulebook';
import { z } from 'zod';
import { defineEndpoint } from './endpoint';
import { fieldChange, id, marketParam, nothing, operation, page, word } from './shapes';

const count = z.number();
const planRow = z.object({ operation, count, held: count });
/** Why a row is held back. */
export const heldReason = z.enum(['blocked', 'refused', 'family', 'member', 'price-moved', 'timed', 'stale']);
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
/** The same in a body. */
export const chosenRows = {
  /** Which of the planned rows; all where nothing is named. */
  ids: z.array(id).max(200_000).optional(),
  brand: word.default(''),
  own: word.default(''),
  import: z.int().nonnegative().default(0),
};
export interface PlanChoice {
  ids?: readonly number[] | undefined;
  brand: string;
  own: string;
  import: number;
}
export const surprise = z.object({
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
    /** Files that what would go of an operation takes; null where it is several, and how many hangs on families that are not counted here. */
    files: z.record(z.string(), count.nullable()),
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
  differences: z.array(fieldChange.extend({ label: z.string() })),
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
  query: planChoice.extend({ form: z.string().max(80).optional() }),
  body: nothing,
  response: z.object({
    name: z.string(),
    text: z.string(),
    encoding: z.enum(encodings),
    total: count,
    /** The form that it is of, and all forms of the operation with the rows that go in each. */
    form: z.string(),
    forms: z.array(z.object({ key: z.string(), label: z.string(), rows: count })),
    looks: z.discriminatedUnion('as', [
      z.object({
        as: z.literal('table'),
        rows: z.array(z.array(z.string())),
        /** How many of the rows are headers. */
        heads: count,
        /** What each column holds: a field of ours by its label, or one of the row itself, and of which variant. */
        columns: z.array(z.object({ what: z.string(), label: z.string(), member: count.nullable() })),
        delimiter: z.enum(['tab', 'comma', 'semicolon', 'pipe']).nullable(),
      }),
      z.object({
        as: z.literal('tree'),
        container: z.enum(['json-lines', 'json', 'xml']),
        records: z.array(
          z.object({
            sku: z.string(),
            branches: z.array(
              z.object({
                depth: count,
                name: z.string(),
                /** What stands there: a text, entries, or null for what is emptied; missing where it only holds others. */
                cell: z.union([z.string(), z.array(z.string()).readonly(), z.null()]).optional(),
                isChanged: z.boolean(),
              }),
            ),
          }),
        ),
      }),
    ]),
  }),
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
