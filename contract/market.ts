import { z } from 'zod';
import { defineEndpoint } from './endpoint';
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
      z.object({
        key: z.string(),
        name: z.string(),
        version: z.string(),
        sites: z.array(z.object({ key: z.string(), name: z.string(), country: z.string(), currency: z.string() })),
      }),
    ),
  }),
});
export const readRulebook = defineEndpoint({
  id: 'readRulebook',
  method: 'get',
  path: '/markets/:market/rulebook',
  about: 'The rulebook in force made ready: attributes by language and site spread out, offers and titles named.',
  params: marketParam,
  query: nothing,
  body: nothing,
  response: z.record(z.string(), z.unknown()),
});
export const readRulebookDocument = defineEndpoint({
  id: 'readRulebookDocument',
  method: 'get',
  path: '/markets/:market/rulebook/document',
  about: 'The rulebook in force as its author wrote it: what can be changed and put in force again.',
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
  brand: word.default(''),
  import: z.coerce.number().int().nonnegative().default(0),
  state: z.union([listingState, z.literal('')]).default(''),
  search: word.default(''),
  check: word.default(''),
  message: word.default(''),
  field: word.default(''),
  level: z.union([level, z.literal('')]).default(''),
  without: z.enum(['', 'category']).default(''),
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
        /** `label`: the same word; `also`: another word that the list names for it. */
        by: z.enum(['mapping', 'label', 'also', 'nothing']),
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
        identifier: z.string(),
        category: z.string(),
      }),
    ),
  }),
});
