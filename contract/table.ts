// The catalog's table: how its columns are kept, what a column holds, and what a selection adds up to.
import { type Which, whichSchema } from '@basileus/core/choose';
import { z } from 'zod';
import { productQuery } from './catalog';
import { defineEndpoint } from './endpoint';
import { idParam, nothing, word } from './shapes';

const field = z.string().min(1).max(120);
/** Most columns that a table shows; there may be a thousand fields of ours. */
export const mostShown = 1000;
export const tableLayout = z.object({
  /** Columns from left to right; null is every column as it comes. */
  columns: z.array(field).max(mostShown).nullable(),
  /** Widths in pixels, where a person has set one. */
  widths: z.record(field, z.int().min(20).max(2000)),
  /** So many from the left stay in sight when one scrolls sideways. */
  frozen: z.int().min(0).max(10),
});
export type TableLayout = z.output<typeof tableLayout>;

const viewBody = z.object({
  name: z.string().trim().min(1, 'Give a name.').max(120),
  layout: tableLayout,
  /** What is asked and in which order, as the address of the page says it. */
  address: z.string().max(4000).default(''),
});
const view = viewBody.extend({ id: z.number(), actor: z.string() });
export type ViewShape = z.output<typeof view>;
export const listViews = defineEndpoint({
  id: 'listViews',
  method: 'get',
  path: '/views',
  about: 'Views of the catalog that are kept under a name: columns, what is asked, and the order.',
  params: nothing,
  query: nothing,
  body: nothing,
  response: z.object({ rows: z.array(view) }),
});
export const keepView = defineEndpoint({
  id: 'keepView',
  method: 'put',
  path: '/views',
  about: 'Keeps a view of the catalog under its name; one of that name is replaced.',
  params: nothing,
  query: nothing,
  body: viewBody,
  response: view,
});
export const removeView = defineEndpoint({
  id: 'removeView',
  method: 'delete',
  path: '/views/:id',
  about: 'Keeps a view no more.',
  params: idParam,
  query: nothing,
  body: nothing,
  response: z.object({}),
});

export const countValues = defineEndpoint({
  id: 'countValues',
  method: 'post',
  path: '/products/values',
  about:
    'What stands in a field of the items that are meant, the most frequent first, each with how many hold it: at most 200 that hold the words of `search`. Entries of lists are counted one by one.',
  params: nothing,
  query: nothing,
  body: z.object({ which: whichSchema as z.ZodType<Which>, field, search: word.default('') }),
  response: z.object({
    values: z.array(z.object({ value: z.string(), count: z.number() })),
    /** How many items hold nothing there. */
    empty: z.number(),
    isMore: z.boolean(),
  }),
});

export const sumRows = defineEndpoint({
  id: 'sumRows',
  method: 'post',
  path: '/products/sums',
  about:
    'What some fields add up to over the rows from `offset` on of a list of the catalog, as its table shows them: how many are filled, and of numbers the sum, the least and the most.',
  params: nothing,
  query: nothing,
  body: productQuery.extend({ limit: z.int().min(1).max(2_000_000), fields: z.array(field).min(1).max(60) }),
  response: z.object({
    fields: z.array(
      z.object({
        field,
        filled: z.number(),
        numbers: z.number(),
        sum: z.string().nullable(),
        least: z.string().nullable(),
        most: z.string().nullable(),
      }),
    ),
  }),
});
export type SumOfField = z.output<typeof sumRows.response>['fields'][number];
