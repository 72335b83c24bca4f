// Items chosen by conditions, changed in bulk, and changes kept as recipes.
import { changeSteps, type RowProblem, scheduleSchema, type StepProblem } from '@basileus/core/change';
import { type ClauseProblem, type Which, whichSchema } from '@basileus/core/choose';
import { z } from 'zod';
import { defineEndpoint } from './endpoint';
import { fieldChange, finding, id, idParam, nothing, page, product, word } from './shapes';

const which = whichSchema as z.ZodType<Which>;
const choiceName = z.string().trim().min(1, 'Give a name.').max(120);

export const choiceShape = z.object({
  id: z.number(),
  which,
  /** The name under which it is kept; null where it is not kept. */
  name: z.string().nullable(),
});
export type ChoiceShape = z.output<typeof choiceShape>;
export const makeChoice = defineEndpoint({
  id: 'makeChoice',
  method: 'post',
  path: '/choices',
  about: 'Remembers which items are meant, so that an address can name them; the same question has the same number.',
  params: nothing,
  query: nothing,
  body: z.object({ which }),
  response: choiceShape,
});
export const readChoice = defineEndpoint({
  id: 'readChoice',
  method: 'get',
  path: '/choices/:id',
  about:
    'Which items a choice means, how many they are now, and which of the SKUs that it names are not in the catalog.',
  params: idParam,
  query: nothing,
  body: nothing,
  response: choiceShape.extend({ total: z.number(), unknown: z.array(z.string()) }),
});
export const listChoices = defineEndpoint({
  id: 'listChoices',
  method: 'get',
  path: '/choices',
  about: 'Choices that are kept under a name.',
  params: nothing,
  query: nothing,
  body: nothing,
  response: z.object({ rows: z.array(choiceShape) }),
});
export const nameChoice = defineEndpoint({
  id: 'nameChoice',
  method: 'put',
  path: '/choices/:id',
  about: 'Keeps a choice under a name, or keeps it no more.',
  params: idParam,
  query: nothing,
  body: z.object({ name: choiceName.nullable() }),
  response: choiceShape,
});

const isProblem = (x: unknown): boolean => typeof x === 'object' && x !== null && 'is' in x;
const rowProblem = z.custom<RowProblem>((x) => typeof x === 'object' && x !== null && 'fault' in x);
const bulk = z.object({ which, steps: changeSteps });
export type BulkShape = z.output<typeof bulk>;

const bulkCounts = z.object({
  /** Items that are meant; of these changed, left as they are since nothing is new, and left since something is wrong. */
  total: z.number(),
  changed: z.number(),
  cells: z.number(),
  same: z.number(),
  wrong: z.number(),
  /** What is wrong, the most frequent first, each with one row of which it is. */
  problems: z.array(z.object({ count: z.number(), sku: z.string(), problem: rowProblem })),
  /** Numbers before and after, summed up over the rows that have both, by field. */
  sums: z.array(z.object({ field: z.string(), rows: z.number(), before: z.string(), after: z.string() })),
});
export type BulkCounts = z.output<typeof bulkCounts>;
export const countBulk = defineEndpoint({
  id: 'countBulk',
  method: 'post',
  path: '/bulk/count',
  about: 'What a bulk change would do to all items that are meant, counted. Nothing is changed.',
  params: nothing,
  query: nothing,
  body: bulk,
  response: bulkCounts,
});
export const lookAtBulk = defineEndpoint({
  id: 'lookAtBulk',
  method: 'post',
  path: '/bulk/rows',
  about:
    'A page of what a bulk change would do, before and after, in the order of the catalog from the item at `from` on. `next` is where the next page begins, null at the end. Nothing is changed.',
  params: nothing,
  query: nothing,
  body: bulk.extend({
    only: z.enum(['changed', 'wrong', 'same']).default('changed'),
    from: z.int().min(0).default(0),
    limit: z.int().min(1).max(500).default(100),
  }),
  response: z.object({
    rows: z.array(
      product.pick({ id: true, sku: true, kind: true }).extend({
        title: z.string(),
        changes: z.array(fieldChange),
        problem: rowProblem.nullable(),
      }),
    ),
    next: z.number().nullable(),
  }),
});
export const sampleItems = defineEndpoint({
  id: 'sampleItems',
  method: 'post',
  path: '/bulk/samples',
  about:
    'The first three items that are meant and sold, on a market where one is named, with their own fields and those of their listings: what a formula is shown on.',
  params: nothing,
  query: nothing,
  body: z.object({ which, market: z.string().max(60).default('') }),
  response: z.object({ rows: z.array(product.pick({ id: true, sku: true, kind: true, fields: true })) }),
});
export type SampleItem = z.output<typeof sampleItems.response>['rows'][number];
const marketTrial = z.object({
  market: z.string(),
  /** Findings that are new and that are gone, by cause, blockers first. */
  news: z.array(z.object({ count: z.number(), sku: z.string(), finding })),
  gone: z.number(),
  /** Prices that would be held: for a look, or by a blocker. */
  held: z.number(),
});
export type MarketTrial = z.output<typeof marketTrial>;
export const tryBulk = defineEndpoint({
  id: 'tryBulk',
  method: 'post',
  path: '/bulk/try',
  about:
    'What markets would find of the first changed items, beside what they find now, and what would be held: the change is made and undone again. Nothing is changed.',
  params: nothing,
  query: nothing,
  body: bulk,
  response: z.object({
    /** Items on which it was tried. */
    tried: z.number(),
    markets: z.array(marketTrial),
  }),
});
const bulkTrial = z.object({
  id: z.number(),
  /** Items that are meant, those that were gone through, and of these those on which the change was tried. */
  total: z.number(),
  done: z.number(),
  tried: z.number(),
  markets: z.array(marketTrial),
  state: z.enum(['running', 'done', 'stopped']),
});
export type BulkTrial = z.output<typeof bulkTrial>;
export const startTrial = defineEndpoint({
  id: 'startTrial',
  method: 'post',
  path: '/bulk/trials',
  about: 'Tries a change on all items that are meant, as a job. Nothing is changed.',
  params: nothing,
  query: nothing,
  body: bulk,
  response: z.object({ trial: z.number(), job: z.string() }),
});
export const readTrial = defineEndpoint({
  id: 'readTrial',
  method: 'get',
  path: '/bulk/trials/:id',
  about: 'How far a trial is, and what markets would find of the items so far.',
  params: idParam,
  query: nothing,
  body: nothing,
  response: bulkTrial,
});
export const startBulk = defineEndpoint({
  id: 'startBulk',
  method: 'post',
  path: '/bulk',
  about: 'Changes all items that are meant, as a job that goes on when the window closes; kept as one change set.',
  params: nothing,
  query: nothing,
  body: bulk.extend({
    title: word.trim().default(''),
    /** The recipe that is done so, after it was looked at. */
    recipe: id.nullable().default(null),
  }),
  response: z.object({ changeSet: z.number(), job: z.string() }),
});

const recipe = z.object({
  id: z.number(),
  name: z.string(),
  ...bulk.shape,
  schedule: scheduleSchema.nullable(),
  actor: z.string(),
  /** When it is done next, and was done last; null where it is not. */
  nextAt: z.string().nullable(),
  ranAt: z.string().nullable(),
  /** Items that the last run changed, and its change set where it changed any. */
  lastItems: z.number().nullable(),
  lastSet: z.number().nullable(),
  /** Why it cannot be done any more, such as a field that is gone: what is wrong with a step, or with a condition. */
  trouble: z
    .union([
      z.object({ step: z.custom<StepProblem>(isProblem) }),
      z.object({ clause: z.custom<ClauseProblem>(isProblem) }),
    ])
    .nullable(),
});
export type RecipeShape = z.output<typeof recipe>;
const recipeBody = bulk.extend({ name: choiceName, schedule: scheduleSchema.nullable().default(null) });
export const listRecipes = defineEndpoint({
  id: 'listRecipes',
  method: 'get',
  path: '/recipes',
  about: 'Bulk changes that are kept to be done again.',
  params: nothing,
  query: nothing,
  body: nothing,
  response: z.object({ rows: z.array(recipe) }),
});
export const createRecipe = defineEndpoint({
  id: 'createRecipe',
  method: 'post',
  path: '/recipes',
  about: 'Keeps a bulk change under a name, to be done again by hand or by the clock on whatever then matches.',
  params: nothing,
  query: nothing,
  body: recipeBody,
  response: recipe,
});
export const changeRecipe = defineEndpoint({
  id: 'changeRecipe',
  method: 'put',
  path: '/recipes/:id',
  about: 'Changes a recipe.',
  params: idParam,
  query: nothing,
  body: recipeBody,
  response: recipe,
});
export const removeRecipe = defineEndpoint({
  id: 'removeRecipe',
  method: 'delete',
  path: '/recipes/:id',
  about: 'Forgets a recipe. What it has changed stays.',
  params: idParam,
  query: nothing,
  body: nothing,
  response: z.object({}),
});
export const runRecipe = defineEndpoint({
  id: 'runRecipe',
  method: 'post',
  path: '/recipes/:id/run',
  about: 'Does a recipe now, on whatever matches.',
  params: idParam,
  query: nothing,
  body: nothing,
  response: z.object({ changeSet: z.number(), job: z.string() }),
});

export const readItemHistory = defineEndpoint({
  id: 'readItemHistory',
  method: 'get',
  path: '/products/:id/history',
  about:
    'What was changed of one item, newest first, in one field or in all: who, when, by which change, from what to what.',
  params: idParam,
  query: page.extend({ field: word.default('') }),
  body: nothing,
  response: z.object({
    rows: z.array(
      fieldChange.extend({
        set: id,
        title: z.string(),
        actor: z.string(),
        at: z.string(),
        /** The market whose listing it was; null for the item itself. */
        market: z.string().nullable(),
        label: z.string(),
      }),
    ),
    isMore: z.boolean(),
  }),
});
