// Which category each item that has none on a market is thought to belong to, item by item, and putting them there.
import { z } from 'zod';
import { defineEndpoint } from './endpoint';
import { id, marketParam, nothing, word } from './shapes';

export const surenesses = ['sure', 'likely', 'unsure'] as const;
export const sureness = z.enum(surenesses);
export type Sureness = z.output<typeof sureness>;

/** What speaks for a category: facts, of which a page makes a sentence. */
export const leafReason = z.object({
  /** Words of the item, as it is written. */
  words: z.array(z.string()),
  /** Items of the same category of ours that are placed there. */
  chosen: z.number(),
  /** Where the item stands on other markets, as far as that goes with it. */
  elsewhere: z.array(z.object({ market: z.string(), leaf: z.string() })),
  /** True where others of its family are placed there already. */
  family: z.boolean(),
});
export type LeafReason = z.output<typeof leafReason>;

const count = z.number();
const own = word.optional();

export const readPlacing = defineEndpoint({
  id: 'readPlacing',
  method: 'get',
  path: '/markets/:market/placing',
  about: 'Items without a category on a market by the category they are thought to belong to, families as one.',
  params: marketParam,
  query: z.object({ own }),
  body: nothing,
  response: z.object({
    /** When items were last looked at; null where that never was. */
    lookedAt: z.string().nullable(),
    /** The job that looks at them now. */
    job: z.string().nullable(),
    /** Placed items that were judged as if they were not, and how many of them would have been placed the same. */
    tried: count,
    same: count,
    /** Items that wait for a category and have not been looked at. */
    unseen: count,
    leaves: z.array(
      z.object({
        /** Empty for those of which nothing is known. */
        key: z.string(),
        /** Empty where the market has no such category any more. */
        path: z.array(z.string()),
        sure: count,
        likely: count,
        unsure: count,
        examples: z.array(z.string()),
        reason: leafReason,
      }),
    ),
  }),
});

export const listPlacing = defineEndpoint({
  id: 'listPlacing',
  method: 'get',
  path: '/markets/:market/placing/items',
  about: 'Items that are thought to belong to one category, the surest first.',
  params: marketParam,
  query: z.object({
    own,
    leaf: word,
    least: sureness.default('unsure'),
    offset: z.coerce.number().int().min(0).default(0),
    limit: z.coerce.number().int().min(1).max(200).default(50),
  }),
  body: nothing,
  response: z.object({
    total: count,
    rows: z.array(
      z.object({
        /** The product; of a family its own row. */
        id: z.number(),
        /** Its listing on the market. */
        listing: z.number(),
        sku: z.string(),
        title: z.string(),
        own: z.string(),
        /** Listings that are placed with it: itself, and the rest of its family. */
        items: count,
        sureness: sureness.nullable(),
        reason: leafReason,
        others: z.array(z.object({ key: z.string(), path: z.array(z.string()) })),
      }),
    ),
  }),
});

export const lookForLeaves = defineEndpoint({
  id: 'lookForLeaves',
  method: 'post',
  path: '/markets/:market/placing/look',
  about: 'Looks at every item that has no category on a market.',
  params: marketParam,
  query: nothing,
  body: nothing,
  response: z.object({ job: z.string() }),
});

export const takePlacing = defineEndpoint({
  id: 'takePlacing',
  method: 'post',
  path: '/markets/:market/placing/take',
  about: 'Puts items into the categories they are thought to belong to, families whole, as one change.',
  params: marketParam,
  query: nothing,
  body: z.object({
    own,
    leaves: z.array(word).min(1).max(5000),
    least: sureness,
    /** Products that stay as they are; of a family its own row. */
    except: z.array(id).max(50_000).default([]),
  }),
  response: z.object({
    /** Listings that are placed, or that the job places. */
    items: count,
    leaves: count,
    changeSet: z.number().nullable(),
    /** The job that places them, where they are many. */
    job: z.string().nullable(),
  }),
});
