// The tables of correspondences: what feeds which attribute of a market, and which of its codes our values become.
import type { FormulaFault } from '@basileus/core/formula';
import { matchedBy, sourceSchema } from '@basileus/core/listing';
import { demandLevels } from '@basileus/core/rulebook';
import { z } from 'zod';
import { defineEndpoint } from './endpoint';
import { marketParam, nothing, word } from './shapes';

const count = z.number();

/** A node of the market's tree; an empty one is the whole tree. */
const node = word.default('');
const followed = z.object({
  /** Listings that were checked anew at once. */
  refreshed: count,
  /** The job that checks them, where they are many. */
  job: z.string().nullable(),
});

const saidAt = z.object({ node: z.string(), source: sourceSchema });
const fieldRow = z.object({
  attribute: z.string(),
  label: z.string(),
  type: z.string(),
  /** The strongest that a category at this node asks for. */
  level: z.enum(demandLevels),
  /** The field of ours that the rulebook suggests. */
  suggested: z.string().nullable(),
  /** What counts at this node, and where it was said. */
  said: saidAt.nullable(),
  /** What would count here if nothing were said at this node itself. */
  above: saidAt.nullable(),
  /** True where its formula cannot be worked out any more. */
  isBroken: z.boolean(),
  /** Nodes under this one where something else is said. */
  under: z.array(z.string()),
  /** Listings that have it; not counted where a node holds very many. */
  filled: count.nullable(),
  demanded: count,
});
export type FieldRow = z.output<typeof fieldRow>;
export const listFieldMap = defineEndpoint({
  id: 'listFieldMap',
  method: 'get',
  path: '/markets/:market/fields',
  about: 'What feeds which attribute of theirs: everywhere, or at a node of their tree with what it has from above.',
  params: marketParam,
  query: z.object({ node }),
  body: nothing,
  response: z.object({
    rows: z.array(fieldRow),
    /** Nodes at which something is said of their own. */
    nodes: z.array(z.object({ key: z.string(), said: count })),
  }),
});
export const putFieldMap = defineEndpoint({
  id: 'putFieldMap',
  method: 'put',
  path: '/markets/:market/fields/:attribute',
  about:
    'Chooses what feeds an attribute, everywhere or at a node of their tree: a field of ours, the same text for every item, a formula, nothing; null for what is said above, or what the rulebook suggests.',
  params: marketParam.extend({ attribute: word }),
  query: nothing,
  body: z.strictObject({ node, source: sourceSchema.nullable() }),
  response: followed,
});
const isFault = (x: unknown): boolean => typeof x === 'object' && x !== null;
export const trySource = defineEndpoint({
  id: 'trySource',
  method: 'post',
  path: '/markets/:market/fields/:attribute/try',
  about: 'What a formula would give for an attribute: three items of a node of the tree, or what is wrong with it.',
  params: marketParam.extend({ attribute: word }),
  query: nothing,
  body: z.strictObject({ node, formula: z.string().max(4000) }),
  response: z.discriminatedUnion('ok', [
    z.object({
      ok: z.literal(true),
      samples: z.array(z.object({ sku: z.string(), value: z.string(), fault: z.custom<object>(isFault).nullable() })),
    }),
    z.object({ ok: z.literal(false), fault: z.custom<FormulaFault>(isFault) }),
  ]),
});

const by = z.enum(matchedBy);
const valueRow = z.object({
  attribute: z.string(),
  label: z.string(),
  ours: z.string(),
  items: count,
  theirs: z.string().nullable(),
  by,
  /** Where it was chosen. */
  node: z.string().nullable(),
  proposals: z.array(
    z.object({
      code: z.string(),
      label: z.string(),
      /** The market on which the value is that, and what it is called there; null where it is spelled alike. */
      there: z.object({ market: z.string(), label: z.string() }).nullable(),
    }),
  ),
});
export type ValueRow = z.output<typeof valueRow>;
export const listValueMap = defineEndpoint({
  id: 'listValueMap',
  method: 'get',
  path: '/markets/:market/values',
  about:
    'Our values of choice attributes, what each becomes, and how many items carry it: those that become nothing first, then by how many carry them.',
  params: marketParam,
  query: z.object({
    node,
    attribute: word.default(''),
    search: word.default(''),
    by: z.enum(['', ...matchedBy]).default(''),
    from: z.coerce.number().int().min(0).default(0),
    limit: z.coerce.number().int().min(1).max(20_000).default(100),
  }),
  body: nothing,
  response: z.object({
    rows: z.array(valueRow),
    total: count,
    /** Of the attribute and the search, whatever they become. */
    counts: z.record(by, count),
    attributes: z.array(z.object({ key: z.string(), label: z.string(), values: count, open: count })),
    /** Attributes of which more values stand in the catalog than are looked through. */
    cut: z.array(z.string()),
  }),
});
const code = z.strictObject({ attribute: word, ours: z.string().min(1).max(2000), theirs: word.nullable() });
export const putValueMap = defineEndpoint({
  id: 'putValueMap',
  method: 'put',
  path: '/markets/:market/values',
  about: 'Says which codes of theirs values of ours become, all or none of them; null forgets it.',
  params: marketParam,
  query: nothing,
  body: z.strictObject({ node, codes: z.array(code).min(1).max(20_000) }),
  response: followed,
});
export const readValueMap = defineEndpoint({
  id: 'readValueMap',
  method: 'post',
  path: '/markets/:market/values/read',
  about:
    'What a table of values would change that was made elsewhere: attributes by key or label, values by code or label.',
  params: marketParam,
  query: nothing,
  body: z.strictObject({
    node,
    rows: z
      .array(z.strictObject({ attribute: word, ours: z.string().max(2000), theirs: word }))
      .min(1)
      .max(20_000),
  }),
  response: z.object({
    /** What would become something else than now. */
    changes: z.array(code.extend({ before: z.string().nullable() })),
    same: count,
    faults: z.array(
      z.object({ row: count, is: z.enum(['attribute', 'ours', 'theirs', 'twice']), near: z.string().nullable() }),
    ),
  }),
});
