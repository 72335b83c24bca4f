// Shapes that several endpoints share.
import { levels } from '@basileus/core/checks';
import type { RowFault } from '@basileus/core/formula';
import { listingStates, operations } from '@basileus/core/rulebook';
import { z } from 'zod';

export const value = z.union([z.string(), z.array(z.string()).readonly()]);
/** An id of ours, in a path or a body. */
export const id = z.int().positive();
/** Ids in an address, divided by commas. */
export const idList = z
  .string()
  .max(12_000)
  .regex(/^(\d{1,15}(,\d{1,15})*)?$/, 'ids are numbers divided by commas.')
  .default('')
  .transform((t) => (t === '' ? [] : t.split(',').map(Number)));
export const pathId = z.coerce.number().pipe(id);
/** A short text in an address: a key, a name, words to search for. */
export const word = z.string().max(300);
export const values = z.record(z.string(), value);
export const level = z.enum(levels);
export const listingState = z.enum(listingStates);
export const operation = z.enum(operations);
export const remedy = z.union([
  z.object({ kind: z.literal('set'), field: z.string(), value, safe: z.boolean() }),
  z.object({ kind: z.literal('clear'), field: z.string(), safe: z.boolean() }),
  z.object({ kind: z.literal('choose'), field: z.string() }),
  z.object({ kind: z.literal('fill'), field: z.string() }),
]);
export const finding = z.object({
  check: z.string(),
  message: z.string(),
  level,
  field: z.string(),
  value: z.string(),
  params: z.record(z.string(), z.union([z.string(), z.number(), z.array(z.string()).readonly()])),
  remedies: z.array(remedy),
});
export const product = z.object({
  id: z.number(),
  sku: z.string(),
  /** Fields by which the variants of its family differ. */
  axes: z.array(z.string()),
  kind: z.enum(['single', 'family', 'variant', 'bundle']),
  parentId: z.number().nullable(),
  variants: z.number(),
  version: z.number(),
  fields: values,
});
export const origin = z.union([
  z.object({ from: z.literal('typed') }),
  z.object({ from: z.literal('fixed') }),
  z.object({
    from: z.literal('formula'),
    fields: z.array(z.string()),
    fault: z.custom<RowFault>((x) => typeof x === 'object' && x !== null).optional(),
  }),
  z.object({ from: z.literal('product'), field: z.string(), fitted: z.string().optional() }),
  z.object({ from: z.literal('mapping'), field: z.string(), ours: z.string() }),
]);
export const listing = z.object({
  id: z.number(),
  productId: z.number(),
  sku: z.string(),
  title: z.string(),
  ownCategory: z.string(),
  role: z.enum(['single', 'parent', 'variant']),
  parentSku: z.string().nullable(),
  /** Attributes of the market that divide its family. */
  axes: z.array(z.string()),
  category: z.string().nullable(),
  state: listingState,
  number: z.string().nullable(),
  values,
  origins: z.record(z.string(), origin),
  levels: z.record(z.string(), z.enum(['must', 'should', 'may', 'unused'])),
  findings: z.array(finding),
  /** What is wanted of the entry with the next sending. */
  wish: z.enum(['keep', 'withdraw', 'restore']),
  /** Sites of the market where it is not sold. */
  sitesOut: z.array(z.string()),
  /** The entry that the market has of the item, and what is said of it: not decided yet, joined by an offer, or of another item. */
  entry: z
    .object({
      is: z.enum(['found', 'joined', 'other']),
      number: z.string(),
      title: z.string(),
      category: z.string(),
      facts: values,
    })
    .nullable(),
  /** Cost of one piece in the house currency; null where nobody knows it. */
  cost: z.string().nullable(),
  /** What its least price leaves, in thousandths of what is taken; null where that is not known. */
  margin: z.number().nullable(),
  version: z.number(),
});
/** The one shape of a change, as the core's `FieldChange`. */
export const fieldChange = z.object({ field: z.string(), before: value.nullable(), after: value.nullable() });
export const cellPatch = z.object({
  id,
  ...fieldChange.shape,
  field: word,
  reset: z.boolean().optional(),
});
export const job = z.object({
  id: z.string(),
  kind: z.string(),
  title: z.string(),
  state: z.enum(['queued', 'running', 'done', 'failed', 'cancelled']),
  done: z.number(),
  total: z.number(),
  error: z.string().nullable(),
  link: z.string().nullable(),
  cancellable: z.boolean(),
  createdAt: z.string(),
});
export const page = z.object({
  offset: z.coerce.number().int().min(0).max(1_000_000_000).default(0),
  limit: z.coerce.number().int().min(1).max(1000).default(200),
});
/** A page of what was done, by one person where a name is given. */
export const pageBy = page.extend({ by: z.string().max(200).default('') });
export const marketParam = z.object({ market: word });
export const idParam = z.object({ id: pathId });
export const nothing = z.object({});
export const ok = z.object({ ok: z.literal(true) });

export type Product = z.output<typeof product>;
export type ListingRow = z.output<typeof listing>;
export type ListingFinding = z.output<typeof finding>;
export type Job = z.output<typeof job>;
export type CellPatchInput = z.output<typeof cellPatch>;
