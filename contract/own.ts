// What is our own: fields of items beside those that all have, languages and currencies beside the house's, categories.
import { isCurrencyCode, isLanguageTag, ownFieldKinds } from '@basileus/core/product';
import { z } from 'zod';
import { defineEndpoint } from './endpoint';
import { nothing } from './shapes';

const name = z.string().trim().min(1, 'Give a name.').max(200, 'A name has 200 characters at the most.');
const label = z.string().trim().min(1, 'Give a label.').max(60, 'A label has 60 characters at the most.');
const fieldKey = z.string().regex(/^[a-z][a-z0-9_]{0,59}$/, 'A key is small letters, digits and _ only.');
const distinct = (list: readonly string[]): boolean => new Set(list).size === list.length;

const said = z.object({
  label,
  kind: z.enum(ownFieldKinds),
  /** Whether a family row has it too, or only what is sold. */
  rows: z.enum(['all', 'sellable']).default('all'),
  unit: z.string().max(20).nullable().default(null),
  /** All that it takes; empty where it takes anything. */
  values: z
    .array(name)
    .max(2000, 'A list has 2,000 values at the most.')
    .refine(distinct, 'A value stands twice in the list.')
    .readonly()
    .default([]),
  /** What files of other people call it. */
  names: z.array(label).max(50, 'Fifty names at the most.').readonly().default([]),
  group: label.default('More'),
  /** Own categories that have it, with those under them; empty where all do. */
  categories: z.array(name).max(500).readonly().default([]),
  axis: z.boolean().default(false),
  shared: z.boolean().default(false),
});
const by = z.enum(['language', 'currency']).nullable();
const languageTag = z.string().max(35).refine(isLanguageTag, 'Unknown language; use a tag such as fr or pt-BR.');
const currencyCode = z.string().refine(isCurrencyCode, 'Unknown currency; use an ISO 4217 code.');
const ownField = said.extend({ key: fieldKey, by, language: z.string().nullable() });

const keyParam = z.object({ key: fieldKey });

export const readFields = defineEndpoint({
  id: 'readFields',
  method: 'get',
  path: '/own-fields',
  about: 'The fields that the house says of its items, in their order, and its further languages and currencies.',
  params: nothing,
  query: nothing,
  body: nothing,
  response: z.object({
    fields: z.array(ownField).readonly(),
    languages: z.array(z.string()).readonly(),
    currencies: z.array(z.string()).readonly(),
  }),
});
export const readFieldUse = defineEndpoint({
  id: 'readFieldUse',
  method: 'get',
  path: '/own-fields/:key/use',
  about: 'How many items hold a field, and which markets take it by their table of fields.',
  params: keyParam,
  query: nothing,
  body: nothing,
  response: z.object({ items: z.number(), markets: z.array(z.string()) }),
});
export const createField = defineEndpoint({
  id: 'createField',
  method: 'post',
  path: '/own-fields',
  about: 'Adds a field behind the others. Its key is made of its label and stays.',
  params: nothing,
  query: nothing,
  body: said.extend({ by: by.default(null), language: languageTag.nullable().default(null) }),
  response: ownField,
});
export const changeField = defineEndpoint({
  id: 'changeField',
  method: 'put',
  path: '/own-fields/:key',
  about:
    'Changes what is said of a field. Its key stays, and whether it has a value a language or a currency; another kind is refused where items hold what it cannot hold.',
  params: keyParam,
  query: nothing,
  body: said,
  response: ownField,
});
export const orderFields = defineEndpoint({
  id: 'orderFields',
  method: 'put',
  path: '/own-fields-order',
  about: 'Puts fields into an order, by their keys.',
  params: nothing,
  query: nothing,
  body: z.object({ keys: z.array(fieldKey).min(1).max(1000).refine(distinct, 'A key stands twice.') }),
  response: z.object({}),
});
export const removeField = defineEndpoint({
  id: 'removeField',
  method: 'delete',
  path: '/own-fields/:key',
  about:
    'Removes a field. What items hold in it is emptied first, by a job, as a change that can be read and taken back once the field is there again.',
  params: keyParam,
  query: nothing,
  body: nothing,
  response: z.object({ job: z.string().nullable(), items: z.number() }),
});
export const addFacet = defineEndpoint({
  id: 'addFacet',
  method: 'post',
  path: '/own-facets',
  about: 'A further language or currency in which texts or prices of items are kept.',
  params: nothing,
  query: nothing,
  body: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('language'), code: languageTag }),
    z.object({ kind: z.literal('currency'), code: currencyCode }),
  ]),
  response: z.object({ added: z.boolean() }),
});
export const removeFacet = defineEndpoint({
  id: 'removeFacet',
  method: 'delete',
  path: '/own-facets/:kind/:code',
  about: 'Takes a further language or currency away; refused while items hold something in it.',
  params: z.object({ kind: z.enum(['language', 'currency']), code: z.string().max(35) }),
  query: nothing,
  body: nothing,
  response: z.object({}),
});

const ownCategory = z.object({
  name: z.string(),
  parent: z.string().nullable(),
  /** Items in it, without those in the ones under it. */
  items: z.number(),
});
export const listOwnCategories = defineEndpoint({
  id: 'listOwnCategories',
  method: 'get',
  path: '/own-categories',
  about: 'Our own categories, each with the one that it stands under.',
  params: nothing,
  query: nothing,
  body: nothing,
  response: z.object({ rows: z.array(ownCategory) }),
});
export const createOwnCategory = defineEndpoint({
  id: 'createOwnCategory',
  method: 'post',
  path: '/own-categories',
  about: 'Adds a category to the tree.',
  params: nothing,
  query: nothing,
  body: z.object({ name, parent: name.nullable().default(null) }),
  response: z.object({}),
});
export const changeOwnCategory = defineEndpoint({
  id: 'changeOwnCategory',
  method: 'post',
  path: '/own-categories/change',
  about:
    'Puts a category under another one, or at the top; or gives it another name, by a job that moves its items. A name that is there already takes its items in.',
  params: nothing,
  query: nothing,
  body: z.object({ name, parent: name.nullable().optional(), rename: name.optional() }),
  response: z.object({ job: z.string().nullable(), items: z.number() }),
});
export const removeOwnCategory = defineEndpoint({
  id: 'removeOwnCategory',
  method: 'post',
  path: '/own-categories/remove',
  about: 'Removes a category that has no items; those under it go up by one.',
  params: nothing,
  query: nothing,
  body: z.object({ name }),
  response: z.object({}),
});
