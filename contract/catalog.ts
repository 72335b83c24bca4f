import type { ListingFault } from '@basileus/core/change';
import type { CellFault } from '@basileus/core/product';
import { z } from 'zod';
import { defineEndpoint } from './endpoint';
import {
  cellPatch,
  fieldChange,
  finding,
  idList,
  idParam,
  listingState,
  nothing,
  page,
  pageBy,
  product,
  value,
  word,
} from './shapes';

/** What a product may lack. */
export const productLacks = ['gtin', 'brand', 'pictures', 'cost', 'price', 'category', 'description'] as const;
/** A field by which the catalog is put in order, or `updated`. */
const productOrder = z
  .string()
  .max(120)
  .regex(
    /^[a-z][A-Za-z0-9_.@/~-]*$/,
    'The order is the key of a field, such as sku, title, fact.colour or that of a market’s such as stall/price, or updated.',
  );

const isFault = (x: unknown): boolean => typeof x === 'object' && x !== null && 'kind' in x;
const cellFault = z.custom<CellFault | ListingFault>(isFault);

export const productQuery = page.extend({
  search: word.default(''),
  category: word.default(''),
  brand: word.default(''),
  kind: z.enum(['', 'single', 'family', 'variant', 'bundle']).default(''),
  lacks: z.enum(['', ...productLacks]).default(''),
  /** Items that an import wrote; 0 for all. */
  import: z.coerce.number().int().nonnegative().default(0),
  /** Items of which some market finds this, by check, message and the field of ours: `demanded-missing.must.gtin`. */
  finding: z
    .string()
    .max(200)
    .regex(/^$|^[a-z-]+\.[A-Za-z]+\.[a-z][A-Za-z0-9_.@]*$/)
    .default(''),
  /** Items that stand so on a market, by its key, or on any of them where none is named. */
  on: word.default(''),
  state: z.union([listingState, z.literal('')]).default(''),
  sort: productOrder.default('sku'),
  direction: z.enum(['up', 'down']).default('up'),
  open: z.string().max(20_000).default(''),
  /** Items that a choice means, by its number; 0 for all. */
  choice: z.coerce.number().int().nonnegative().default(0),
});

/**
 * An item with fields of its listings among its own; those of them that cannot be filled, each with why, and what is found of
 * the others, the worst of each.
 */
const listedProduct = product.extend({
  closed: z.record(z.string(), z.custom<ListingFault>(isFault)).optional(),
  found: z.record(z.string(), finding).optional(),
});
export type ListedProduct = z.output<typeof listedProduct>;

export const listProducts = defineEndpoint({
  id: 'listProducts',
  method: 'get',
  path: '/products',
  about:
    'A page of the catalog: items and families, with the variants of the families named in `open` (ids with commas, or “all”). Fields of markets named in `listed` stand among those of the item.',
  params: nothing,
  query: productQuery.extend({
    /** Fields of listings by their keys, with commas: stall/price; stall/* is every field of that market. */
    listed: z.string().max(20_000).default(''),
  }),
  body: nothing,
  response: z.object({ total: z.number(), rows: z.array(listedProduct) }),
});
export const listStandings = defineEndpoint({
  id: 'listStandings',
  method: 'get',
  path: '/products/standings',
  about:
    'How items stand on each market: the state of their listings, the price at the first site, and the first finding of the highest level.',
  params: nothing,
  query: z.object({ ids: idList }),
  body: nothing,
  response: z.object({
    rows: z.array(
      z.object({
        product: z.number(),
        market: z.string(),
        listing: z.number(),
        state: listingState,
        number: z.string().nullable(),
        price: z.string().nullable(),
        /** What its least price leaves, in thousandths; null where that is not known. */
        margin: z.number().nullable(),
        finding: finding.nullable(),
      }),
    ),
  }),
});
const productFacets = z.object({
  categories: z.array(z.object({ name: z.string(), count: z.number() })),
  brands: z.array(z.object({ name: z.string(), count: z.number() })),
  products: z.number(),
});
export type ProductFacets = z.output<typeof productFacets>;
export const listProductFacets = defineEndpoint({
  id: 'listProductFacets',
  method: 'get',
  path: '/products/facets',
  about: 'Own categories and brands with counts, for filters.',
  params: nothing,
  query: nothing,
  body: nothing,
  response: productFacets,
});
export const patchProducts = defineEndpoint({
  id: 'patchProducts',
  method: 'patch',
  path: '/products',
  about:
    'Changes cells of products, and of their listings in fields of markets. Each cell says what it was; a cell that is something else by now is a conflict and stays. What is changed on a market is a change set of its own; the first is named.',
  params: nothing,
  query: nothing,
  body: z.object({ title: word.default(''), cells: z.array(cellPatch).min(1).max(50_000) }),
  response: z.object({
    changeSet: z.number().nullable(),
    applied: z.number(),
    conflicts: z.array(z.object({ id: z.number(), field: z.string(), now: value.nullable() })),
    /** Cells that cannot hold what was wanted, each with what is wrong with it. */
    refused: z.array(z.object({ id: z.number(), sku: z.string(), field: z.string(), fault: cellFault })),
  }),
});
export const createProduct = defineEndpoint({
  id: 'createProduct',
  method: 'post',
  path: '/products',
  about: 'Adds one product by SKU and title.',
  params: nothing,
  query: nothing,
  body: z.object({
    sku: z.string().trim().min(1, 'Give a SKU.').max(60),
    title: z.string().trim().min(1, 'Give a title.'),
  }),
  response: product,
});

/** What taking a change set back does, or did. Counts of cells, then of items. */
export const reversalCounts = z.object({
  /** Cells that are put back. */
  restored: z.number(),
  /** Cells that stay: changed again since, stock (never put back), their item is gone, the old value is no longer taken. */
  changed: z.number(),
  stock: z.number(),
  gone: z.number(),
  refused: z.number(),
  /** Items that the change had added and that are removed again, and those that are kept as they are, with the reason. */
  removed: z.number(),
  keptSent: z.number(),
  keptChanged: z.number(),
  keptFamily: z.number(),
  keptPart: z.number(),
  /** Items that the change had removed and that are added again, and those whose SKU is taken by now. */
  recreated: z.number(),
  keptTaken: z.number(),
});
export type ReversalCounts = z.output<typeof reversalCounts>;
/** What taking a change set back would do, and the same of what the same deed changed elsewhere. */
const reversalLook = reversalCounts.extend({
  others: z.array(z.object({ id: z.number(), title: z.string(), counts: reversalCounts })),
});
export type ReversalLook = z.output<typeof reversalLook>;
const changeSet = z.object({
  id: z.number(),
  title: z.string(),
  actor: z.string(),
  at: z.string(),
  cells: z.number(),
  reversed: z.boolean(),
  target: z.string(),
  /** Items that it added. */
  added: z.number(),
  /** False while it is still being written. */
  isDone: z.boolean(),
  /** The change that it takes back, and what became of that. */
  reverses: z.number().nullable(),
  outcome: reversalCounts.nullable(),
});
export const listChangeSets = defineEndpoint({
  id: 'listChangeSets',
  method: 'get',
  path: '/change-sets',
  about: 'Change sets, newest first; of one person where a name is given.',
  params: nothing,
  query: pageBy,
  body: nothing,
  response: z.object({ total: z.number(), rows: z.array(changeSet) }),
});
export const readChangeSet = defineEndpoint({
  id: 'readChangeSet',
  method: 'get',
  path: '/change-sets/:id',
  about: 'The cells of a change set, before and after.',
  params: idParam,
  query: page,
  body: nothing,
  response: z.object({
    set: changeSet,
    cells: z.array(
      fieldChange.extend({
        sku: z.string(),
        label: z.string(),
        /** Why taking it back left this cell as it was. */
        leftAs: z.enum(['changed', 'stock', 'gone', 'refused']).nullable(),
      }),
    ),
    /** Items that it added or removed; at most 200. */
    items: z.array(z.object({ sku: z.string(), action: z.enum(['added', 'removed']) })),
    /** Items that taking it back left, each with the reason; at most 200. */
    kept: z.array(z.object({ sku: z.string(), leftAs: z.enum(['changed', 'sent', 'family', 'part', 'taken']) })),
  }),
});
export const readReversal = defineEndpoint({
  id: 'readReversal',
  method: 'get',
  path: '/change-sets/:id/reversal',
  about:
    'What taking a change set back would do, and what taking back the others of the same deed would. Nothing is changed.',
  params: idParam,
  query: nothing,
  body: nothing,
  response: reversalLook,
});
/** Items, by SKU, to which taking back is held; all of the set where none is named. */
const part = z.object({ skus: z.array(z.string().max(60)).max(5000).default([]) });
export const lookAtPart = defineEndpoint({
  id: 'lookAtPart',
  method: 'post',
  path: '/change-sets/:id/reversal',
  about: 'What taking some items of a change set back would do. Nothing is changed.',
  params: idParam,
  query: nothing,
  body: part,
  response: reversalLook,
});
export const reverseChangeSet = defineEndpoint({
  id: 'reverseChangeSet',
  method: 'post',
  path: '/change-sets/:id/reverse',
  about:
    'Takes a change set back, as a job: cells changed again since stay as they are, stock is never put back, items that it added are removed unless a market has them or is being sent them, or they were changed since. Of some items named by SKU only their cells are taken back; the rest can be taken back later. The change set that does it says what became of it.',
  params: idParam,
  query: nothing,
  body: part.extend({
    /** Others of the same deed that are taken back with it. */
    others: z.array(z.int()).max(100).default([]),
  }),
  response: z.object({ changeSet: z.number(), job: z.string() }),
});
