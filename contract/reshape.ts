// Items taken out of the catalog, put into families, joined to one, copied; and wanted on a market or not, however many.
import { type Which, whichSchema } from '@basileus/core/choose';
import { z } from 'zod';
import { defineEndpoint } from './endpoint';
import { id, idParam, nothing, value, word } from './shapes';

const which = whichSchema as z.ZodType<Which>;
const sku = z.string().trim().min(1, 'Give a SKU.').max(60);
const title = z.string().trim().min(1, 'Give a title.').max(2000);

/** Why an item stays in the catalog: it stands on a market or is on its way there, a bundle holds it, a variant of the family stays. */
export const staysFor = ['sent', 'part', 'family'] as const;
export type StaysFor = (typeof staysFor)[number];

const removalCounts = z.object({
  /** Items that go, variants of families that are meant among them. */
  total: z.number(),
  families: z.number(),
  variants: z.number(),
  /** Of those that go: with stock, with something that was typed for a market, and sent to one before. */
  withStock: z.number(),
  withTyped: z.number(),
  withPast: z.number(),
  stays: z.array(z.object({ why: z.enum(staysFor), count: z.number(), skus: z.array(z.string()) })),
});
export type RemovalCounts = z.output<typeof removalCounts>;
export const lookAtRemoval = defineEndpoint({
  id: 'lookAtRemoval',
  method: 'post',
  path: '/items/removal/look',
  about:
    'What taking items out of the catalog would do: how many go, how many stay and why. A family goes with its variants. Nothing is changed.',
  params: nothing,
  query: nothing,
  body: z.object({ which }),
  response: removalCounts,
});
export const removeItems = defineEndpoint({
  id: 'removeItems',
  method: 'post',
  path: '/items/removal',
  about:
    'Takes items out of the catalog, as a job; what stands on a market or is on its way there, and what a bundle holds, stays. What markets know of those that were withdrawn is kept under their SKUs for when they come again. Kept as a change that can be taken back.',
  params: nothing,
  query: nothing,
  body: z.object({ which }),
  response: z.object({ changeSet: z.number(), job: z.string() }),
});

export const mostMoved = 5000;
const family = z.discriminatedUnion('is', [
  /** A family that there is, by its SKU. */
  z.object({ is: z.literal('there'), sku }),
  /** A new one, with the fields by which its variants differ. */
  z.object({ is: z.literal('new'), sku, title, axes: z.array(z.string().max(120)).max(10) }),
  /** None: each is an item by itself. */
  z.object({ is: z.literal('none') }),
]);
export type FamilyWanted = z.output<typeof family>;
const moved = z.object({ ids: z.array(id).min(1).max(mostMoved), family });
const familyCounts = z.object({
  moved: z.number(),
  /** Items that stand there already, and those that can be in no family: families themselves, and bundles. */
  same: z.number(),
  families: z.number(),
  bundles: z.number(),
  /** Families that lose some of their variants, with how many are left. */
  from: z.array(z.object({ sku: z.string(), left: z.number() })),
  /** Listings of those that are moved which a market has: their place in the family is sent anew. */
  live: z.number(),
  /** Fields by which the variants of the family differ, and items that would be the same in all of them as another one. */
  axes: z.array(z.string()),
  alike: z.array(z.string()),
});
export type FamilyCounts = z.output<typeof familyCounts>;
export const lookAtFamily = defineEndpoint({
  id: 'lookAtFamily',
  method: 'post',
  path: '/items/family/look',
  about: 'What putting items into a family, or out of theirs, would do. Nothing is changed.',
  params: nothing,
  query: nothing,
  body: moved,
  response: familyCounts,
});
export const putIntoFamily = defineEndpoint({
  id: 'putIntoFamily',
  method: 'post',
  path: '/items/family',
  about: 'Puts items into a family, an old or a new one, or out of theirs. Kept as a change that can be taken back.',
  params: nothing,
  query: nothing,
  body: moved,
  response: z.object({ changeSet: z.number().nullable(), moved: z.number() }),
});
const foundFamily = z.object({
  sku,
  title,
  axes: z.array(z.string().max(120)).min(1).max(10),
  ids: z.array(id).min(2).max(mostMoved),
});
export const findFamiliesAmong = defineEndpoint({
  id: 'findFamiliesAmong',
  method: 'post',
  path: '/items/families/find',
  about:
    'Families among items that are in none: of one brand and own category, called the same but for what tells them apart. Nothing is changed.',
  params: nothing,
  query: nothing,
  body: z.object({ ids: z.array(id).min(1).max(mostMoved) }),
  response: z.object({
    families: z.array(
      foundFamily.extend({ variants: z.array(z.object({ sku: z.string(), says: z.array(z.string()) })) }),
    ),
    /** Items that would be in none of them. */
    left: z.number(),
  }),
});
export const makeFamilies = defineEndpoint({
  id: 'makeFamilies',
  method: 'post',
  path: '/items/families',
  about: 'Makes new families of items, all of them or none. Kept as one change that can be taken back.',
  params: nothing,
  query: nothing,
  body: z.object({
    families: z
      .array(foundFamily)
      .min(1)
      .max(mostMoved / 2),
  }),
  response: z.object({ changeSet: z.number(), moved: z.number() }),
});
export const setAxes = defineEndpoint({
  id: 'setAxes',
  method: 'put',
  path: '/items/:id/axes',
  about: 'Says by which fields the variants of a family differ. Kept as a change that can be taken back.',
  params: z.object({ id: z.coerce.number().int().positive() }),
  query: nothing,
  body: z.object({ axes: z.array(z.string().max(120)).max(10) }),
  response: z.object({ changeSet: z.number().nullable() }),
});

export const mostJoined = 20;
export const joinItems = defineEndpoint({
  id: 'joinItems',
  method: 'post',
  path: '/items/join',
  about:
    'Makes one item of several: one stays and takes the values that are given, the others are taken out of the catalog. Refused where one of those cannot go. Kept as a change that can be taken back.',
  params: nothing,
  query: nothing,
  body: z.object({
    keep: id,
    others: z
      .array(id)
      .min(1)
      .max(mostJoined - 1),
    /** What the one that stays holds afterwards, for fields where that is new. */
    values: z.record(z.string(), value.nullable()),
  }),
  response: z.object({ changeSet: z.number() }),
});
export const copyItem = defineEndpoint({
  id: 'copyItem',
  method: 'post',
  path: '/items/copy',
  about:
    'Adds items that are as another one but for their SKU and title, their numbers and their stock; in the same family. Kept as a change that can be taken back.',
  params: nothing,
  query: nothing,
  body: z.object({ from: id, items: z.array(z.object({ sku, title })).min(1).max(200) }),
  response: z.object({ changeSet: z.number(), ids: z.array(z.number()) }),
});

export const wantItems = defineEndpoint({
  id: 'wantItems',
  method: 'post',
  path: '/items/wanted',
  about:
    'Leaves items out of a market, or some of its sites, or wants them there again, however many are meant. A family is left out with its variants; a wanted variant brings its family back. What stands on the market stays.',
  params: nothing,
  query: nothing,
  body: z.object({
    which,
    market: word,
    wanted: z.boolean(),
    sites: z.array(word).max(100).default([]),
  }),
  response: z.object({ changed: z.number(), there: z.number() }),
});

export const readParts = defineEndpoint({
  id: 'readParts',
  method: 'get',
  path: '/products/:id/parts',
  about:
    'What a bundle is made of, such as “2 × SKU”, as its cell `parts` has it; and the bundles that an item is a part of.',
  params: idParam,
  query: nothing,
  body: nothing,
  response: z.object({ parts: z.array(z.string()), partOf: z.array(z.string()) }),
});
