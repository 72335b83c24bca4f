import { z } from 'zod';
import { defineEndpoint } from './endpoint';
import { cellPatch, idParam, nothing, page, product, value, word } from './shapes';

/** What a product may lack, and by what the catalog may be put in order. */
export const productLacks = ['gtin', 'brand', 'pictures', 'cost', 'price', 'category', 'description'] as const;
export const productOrders = ['sku', 'title', 'brand', 'category', 'price', 'cost', 'gtin', 'updated'] as const;

const productQuery = page.extend({
  search: word.default(''),
  category: word.default(''),
  brand: word.default(''),
  kind: z.enum(['', 'single', 'family', 'variant', 'bundle']).default(''),
  lacks: z.enum(['', ...productLacks]).default(''),
  sort: z.enum(productOrders).default('sku'),
  direction: z.enum(['up', 'down']).default('up'),
  open: z.string().max(20_000).default(''),
});

export const listProducts = defineEndpoint({
  id: 'listProducts',
  method: 'get',
  path: '/products',
  about:
    'A page of the catalog: items and families, with the variants of the families named in `open` (ids with commas, or “all”).',
  params: nothing,
  query: productQuery,
  body: nothing,
  response: z.object({ total: z.number(), rows: z.array(product) }),
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
    'Changes cells of products. Each cell says what it was; a cell that is something else by now is a conflict and stays.',
  params: nothing,
  query: nothing,
  body: z.object({ title: word.default('Edited in the catalog'), cells: z.array(cellPatch).min(1).max(50_000) }),
  response: z.object({
    changeSet: z.number().nullable(),
    applied: z.number(),
    conflicts: z.array(z.object({ id: z.number(), field: z.string(), now: value.nullable() })),
    refused: z.array(z.object({ id: z.number(), field: z.string(), says: z.string() })),
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

const changeSet = z.object({
  id: z.number(),
  title: z.string(),
  actor: z.string(),
  at: z.string(),
  cells: z.number(),
  reversed: z.boolean(),
  target: z.string(),
});
export const listChangeSets = defineEndpoint({
  id: 'listChangeSets',
  method: 'get',
  path: '/change-sets',
  about: 'Change sets, newest first.',
  params: nothing,
  query: page,
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
      z.object({
        sku: z.string(),
        field: z.string(),
        label: z.string(),
        before: value.nullable(),
        after: value.nullable(),
      }),
    ),
  }),
});
export const reverseChangeSet = defineEndpoint({
  id: 'reverseChangeSet',
  method: 'post',
  path: '/change-sets/:id/reverse',
  about: 'Takes a change set back; cells that were changed again since stay as they are and are named.',
  params: idParam,
  query: nothing,
  body: nothing,
  response: z.object({ changeSet: z.number().nullable(), restored: z.number(), kept: z.number() }),
});
