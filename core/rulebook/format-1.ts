// The first form of rulebooks, which are still taken and upgraded: one country, one way to make a file and to answer it.
import { z } from 'zod';
import { isKnownCurrency } from '../quantity';
import { attributeShape, offer, pictures, roles } from './schema-attributes';
import { amount, demand, key, label, path } from './schema-basics';
import { entryStates, operations } from './terms';

const attribute = z.strictObject({
  ...attributeShape,
  languages: z.array(z.string().regex(/^[a-z]{2}$/)).optional(),
});

const category = z.strictObject({
  key,
  label,
  parent: key.optional(),
  leaf: z
    .strictObject({
      words: z.array(z.string()).default([]),
      demands: z.array(demand).default([]),
      axes: z.array(key).default([]),
    })
    .optional(),
});

const column = z.strictObject({
  key: z.string().min(1),
  label,
  holds: z.discriminatedUnion('what', [
    z.strictObject({ what: z.literal('sku') }),
    z.strictObject({ what: z.literal('parent-sku') }),
    z.strictObject({ what: z.literal('row-role') }),
    z.strictObject({ what: z.literal('category') }),
    z.strictObject({ what: z.literal('operation') }),
    z.strictObject({ what: z.literal('axes') }),
    z.strictObject({ what: z.literal('value'), attribute: key }),
    z.strictObject({ what: z.literal('identifier-kind'), attribute: key }),
    z.strictObject({ what: z.literal('amount'), attribute: key }),
    z.strictObject({ what: z.literal('unit'), attribute: key }),
    z.strictObject({ what: z.literal('item'), attribute: key, position: z.int().positive() }),
  ]),
});

const layout = z.strictObject({
  key,
  label,
  operations: z.array(z.enum(operations)).min(1),
  format: z.literal('delimited'),
  encoding: z.enum(['utf-8', 'utf-8-mark', 'windows-1252', 'utf-16le']).default('utf-8'),
  delimiter: z.enum(['tab', 'comma', 'semicolon', 'pipe']),
  lineEnd: z.enum(['crlf', 'lf']).default('crlf'),
  decimalSign: z.enum(['.', ',']).default('.'),
  headerRows: z.array(z.enum(['labels', 'keys'])).min(1),
  listSeparator: z.string().length(1).default('|'),
  yes: z.string().default('yes'),
  no: z.string().default('no'),
  blank: z.enum(['keeps', 'clears']),
  clearToken: z.string().optional(),
  operationCodes: z.partialRecord(z.enum(operations), z.string()).default({}),
  roleCodes: z
    .strictObject({ single: z.string(), parent: z.string(), variant: z.string() })
    .default({ single: '', parent: 'parent', variant: 'variant' }),
  maxRows: z.int().positive(),
  fileName: z.string().default('{market}-{operation}-{stamp}.txt'),
  columns: z.array(column).min(1),
});

const receipt = z.strictObject({
  delimiter: z.enum(['tab', 'comma', 'semicolon', 'pipe']),
  columns: z.strictObject({
    line: z.string(),
    sku: z.string(),
    verdict: z.string(),
    code: z.string(),
    field: z.string(),
    number: z.string(),
  }),
  verdicts: z.strictObject({ accepted: z.string(), remarked: z.string(), refused: z.string() }),
  codes: z.record(z.string(), z.strictObject({ says: z.string(), remedy: z.string() })),
});

const feeTier = z.strictObject({ upTo: amount.optional(), rate: amount });

/** The whole document of the first form. */
export const formatOneSchema = z.strictObject({
  format: z.literal('basileus-rulebook/1'),
  version: z.string().regex(/^\d{4}\.\d{2}(\.\d+)?$/, 'A version is year.month, such as 2026.10.'),
  market: z.strictObject({
    key,
    name: label,
    country: z.string().regex(/^[A-Z]{2}$/),
    currency: z.string().refine(isKnownCurrency, 'Unknown currency; use an ISO 4217 code.'),
    languages: z.array(z.string().regex(/^[a-z]{2}$/)).min(1),
    pricesInclude: z.enum(['tax', 'no-tax']),
    taxRate: amount,
  }),
  sku: z.strictObject({
    min: z.int().positive(),
    max: z.int().positive(),
    allowed: z.enum(['letters-digits', 'letters-digits-marks', 'printable']),
    upperCaseOnly: z.boolean().default(false),
    burntWhenWithdrawn: z.boolean().default(false),
  }),
  codeLists: z.record(
    key,
    z.strictObject({
      label,
      entries: z
        .array(z.strictObject({ code: z.string().min(1), label, also: z.array(z.string()).default([]) }))
        .min(1),
    }),
  ),
  groups: z.array(z.strictObject({ key, label })).min(1),
  attributes: z.array(attribute).min(1),
  demands: z.array(demand),
  tree: z.array(category).min(1),
  families: z.strictObject({
    parentsCarryIdentifiers: z.boolean().default(false),
    maxAxes: z.int().positive().default(2),
  }),
  roles,
  offer,
  pictures,
  text: z.strictObject({ promotionalWords: z.array(z.string()).default([]) }),
  fees: z.strictObject({
    commission: z
      .array(z.strictObject({ category: key.optional(), tiers: z.array(feeTier).min(1), minimum: amount.default('0') }))
      .min(1),
    paymentRate: amount.default('0'),
    fixed: amount.default('0'),
  }),
  layouts: z.array(layout).min(1),
  transport: z.strictObject({
    kind: z.enum(['http', 'by-hand']),
    submit: path,
    receipt: path,
    shelf: path,
    find: path.optional(),
  }),
  receipt,
  states: z.record(z.string(), z.enum(entryStates)),
});

export type FormatOne = z.output<typeof formatOneSchema>;
