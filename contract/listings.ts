// Listings of a market: their values, their categories, and what is wanted of them.
import { z } from 'zod';
import { defineEndpoint } from './endpoint';
import { leafReason, sureness } from './placing';
import {
  cellPatch,
  id,
  idList,
  level,
  listing,
  listingState,
  marketParam,
  nothing,
  page,
  pathId,
  value,
  word,
} from './shapes';

const count = z.number();

const listingQuery = page.extend({
  category: word.default(''),
  ownCategory: word.default(''),
  brand: word.default(''),
  import: z.coerce.number().int().nonnegative().default(0),
  state: z.union([listingState, z.literal('')]).default(''),
  search: word.default(''),
  check: word.default(''),
  message: word.default(''),
  field: word.default(''),
  level: z.union([level, z.literal('')]).default(''),
  without: z.enum(['', 'category']).default(''),
  /** Those of which the market has an entry already, by what is said of it. */
  entry: z.enum(['', 'found', 'joined', 'other']).default(''),
  /** Listings that are shown with those of a cause though they have it no more, by id, divided by commas. */
  keep: idList,
  /** `sku`, `title`, `state`, `category`, or an attribute of the market. */
  sort: word.default('sku'),
  direction: z.enum(['up', 'down']).default('up'),
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
  body: z.object({ title: word.default(''), cells: z.array(cellPatch).min(1).max(50_000) }),
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

export const setWanted = defineEndpoint({
  id: 'setWanted',
  method: 'post',
  path: '/markets/:market/listings/wanted',
  about:
    'Leaves items out of a market, or wants them there again: listings by their ids, or products by theirs. A family is left out with its variants; a wanted variant brings its family back. What stands on the market stays; it is withdrawn instead.',
  params: marketParam,
  query: nothing,
  body: z.object({
    ids: z.array(id).max(50_000).default([]),
    products: z.array(id).max(50_000).default([]),
    /** All items of an own category, also those that are added later; the empty text for those that have none. */
    own: word.nullable().default(null),
    wanted: z.boolean(),
    /** Sites, by key, at which they are or are not wanted; the market as a whole where none is named. */
    sites: z.array(word).max(100).default([]),
  }),
  response: z.object({
    changed: count,
    /** Those that the market has, or that are on their way there. */
    there: count,
  }),
});

export const lookUp = defineEndpoint({
  id: 'lookUp',
  method: 'post',
  path: '/markets/:market/look-up',
  about:
    'Asks the market, by a job, for entries of the items that are new to it, by their identifiers. What it finds waits for a person: such an item is not created beside it. Entries that were joined are compared again with what they say by now.',
  params: marketParam,
  query: nothing,
  body: z.object({}),
  response: z.object({ job: z.string(), items: count, joined: count }),
});
export const judgeEntries = defineEndpoint({
  id: 'judgeEntries',
  method: 'post',
  path: '/markets/:market/entries',
  about:
    'Says of entries that the market has: an offer joins it, it is of another item, or nothing is decided. What is on the market or on its way there stays as it is.',
  params: marketParam,
  query: nothing,
  body: z.object({ ids: z.array(id).min(1).max(50_000), is: z.enum(['found', 'joined', 'other']) }),
  response: z.object({ changed: count, there: count }),
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
        /** Items for which a category is still to be chosen, and those that are left out of the market. */
        waiting: count,
        leftOut: count,
        chosen: z.array(z.object({ key: z.string(), count })),
        /** The market's category that is remembered for it, or for the nearest of ours over it, which `ruleOf` names then. */
        rule: z.string().nullable(),
        ruleOf: z.string().nullable(),
        /** Ours that it stands under, from the top. */
        above: z.array(z.string()),
        proposals: z.array(z.object({ key: z.string(), path: z.array(z.string()), sureness, reason: leafReason })),
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
