// Files: forms that are written, answers and lists that are read. A form is a record, a container and slots.
import { z } from 'zod';
import { identifierKinds } from '../identifiers';
import { isKnownUnit } from '../quantity';
import {
  code,
  encodings,
  key,
  label,
  labels,
  language,
  entryState,
  nestedPath,
  operation,
  regex,
} from './schema-basics';

const delimiter = z.enum(['tab', 'comma', 'semicolon', 'pipe']);
/** A header row: the keys of the slots, or their labels in a language. */
const head = z.discriminatedUnion('row', [
  z.strictObject({ row: z.literal('keys') }),
  z.strictObject({ row: z.literal('labels'), language: language.optional() }),
]);

const elementName = z.string().regex(/^[A-Za-z_][\w-]*$/, 'An element is letters, digits, hyphens and underscores.');
/** ECMA-376 leaves it open; these are what spreadsheets take. */
const sheetName = z
  .string()
  .regex(/^[^\\/?*[\]:']{1,31}$/, "The name of a sheet is at most 31 signs, none of \\ / ? * [ ] : '.");
const utf8 = z.literal('utf-8').default('utf-8');
/** How records become text. `before` are lines that stand over the header, each with what it must look like. */
const container = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('delimited'),
    encoding: z.enum(encodings).default('utf-8'),
    delimiter,
    lineEnd: z.enum(['crlf', 'lf']).default('crlf'),
    quotes: z.enum(['needed', 'always']).default('needed'),
    before: z.array(regex).default([]),
    /** None where the file begins with its first record. */
    heads: z.array(head),
  }),
  /** A sheet of a workbook (ECMA-376), as people open it; all is text there but what a slot says is a number. */
  z.strictObject({ kind: z.literal('workbook'), encoding: utf8, sheet: sheetName, heads: z.array(head).min(1) }),
  /** One record a line, each an object of JSON; a slot's key is the path to where it stands. */
  z.strictObject({ kind: z.literal('json-lines'), encoding: utf8 }),
  /** One document of JSON with its records in a list. Answers and lists come so. */
  z.strictObject({ kind: z.literal('json'), encoding: utf8, records: nestedPath }),
  /** One element a record, under a root. */
  z.strictObject({ kind: z.literal('xml'), encoding: utf8, root: elementName, record: elementName }),
]);

/** What stands in a slot. An attribute by site that ends in `@` is that of the record's site. */
const attributeName = z
  .string()
  .regex(/^[a-z][a-z0-9_.]*(@[a-z0-9_]*)?$/, 'An attribute by its key, such as price, price@se or price@.');
const holds = z.discriminatedUnion('what', [
  z.strictObject({ what: z.literal('sku') }),
  z.strictObject({ what: z.literal('parent-sku') }),
  z.strictObject({
    what: z.literal('row-role'),
    codes: z.strictObject({ single: z.string(), parent: z.string(), variant: z.string() }),
  }),
  /** What names the entry: the SKU of the family, or that of an item by itself. */
  z.strictObject({ what: z.literal('family-key') }),
  z.strictObject({ what: z.literal('category') }),
  /** The number of the market's entry that an offer joins. */
  z.strictObject({ what: z.literal('entry') }),
  z.strictObject({ what: z.literal('operation') }),
  /** What divides a family, by the keys of attributes or by codes for them. */
  z.strictObject({ what: z.literal('axes'), codes: z.record(key, code).optional() }),
  z.strictObject({ what: z.literal('site'), codes: z.record(key, code) }),
  z.strictObject({ what: z.literal('currency') }),
  z.strictObject({ what: z.literal('value'), attribute: attributeName }),
  z.strictObject({
    what: z.literal('identifier-kind'),
    attribute: attributeName,
    codes: z.partialRecord(z.enum(identifierKinds), code),
  }),
  z.strictObject({
    what: z.literal('amount'),
    attribute: attributeName,
    in: z.string().refine(isKnownUnit, 'Unknown unit.').optional(),
  }),
  z.strictObject({ what: z.literal('unit'), attribute: attributeName }),
  z.strictObject({ what: z.literal('item'), attribute: attributeName, position: z.int().positive() }),
]);
const slot = z.strictObject({
  key: z.string().min(1),
  label: label.optional(),
  labels,
  holds,
  /** How a nested container writes it: as text, as a number, or as true and false. */
  as: z.enum(['text', 'number', 'true-false']).default('text'),
});

/** How values are written. `currency-places` gives every price as many decimals as its currency has. */
const text = z.strictObject({
  decimalSign: z.enum(['.', ',']).default('.'),
  dates: z.enum(['yyyy-MM-dd', 'dd.MM.yyyy', 'yyyy/MM/dd', 'yyyyMMdd']).default('yyyy-MM-dd'),
  /** A moment with its distance from UTC, or as the clock of the record's site shows it. */
  moments: z.enum(['as-is', 'yyyy/MM/dd HH:mm:ss']).default('as-is'),
  money: z.enum(['as-is', 'currency-places']).default('as-is'),
  listSeparator: z.string().length(1).default('|'),
  yes: z.string().default('yes'),
  no: z.string().default('no'),
});

export const form = z.strictObject({
  key,
  label,
  labels,
  /** Categories whose items it takes, with all below them; where none is named, what no other form of the operation takes. */
  for: z.array(key).min(1).optional(),
  /** One record a listing, one a listing at each site where it stands, or one a family with its variants in it. */
  record: z.enum(['listing', 'listing-at-site', 'family']).default('listing'),
  container,
  text: text.prefault({}),
  /** What an empty slot does to what the market holds. */
  blank: z.enum(['keeps', 'clears']),
  /** What empties a field where a blank keeps it: a word, or null in a container of JSON. */
  clear: z.string().nullable().optional(),
  maxRecords: z.int().positive(),
  /** Bytes that a file may have; of a workbook those of its sheet before it is packed. */
  maxBytes: z.int().positive().optional(),
  fileName: z.string().default('{market}-{operation}-{stamp}.txt'),
  slots: z.array(slot).min(1),
  /** Slots for each variant of a family, or for an item by itself, side by side: {n} in a key is its place in the record. */
  members: z.strictObject({ most: z.int().positive().max(100), slots: z.array(slot).min(1) }).optional(),
});

/**
 * How an operation is done: by a form, or by several of which each takes the items of its categories, with a code of its own where the form has a slot for it, carrying the whole record,
 * only what changed, or only what names the entry; or as another operation.
 */
export const operationTerms = z.union([
  z.strictObject({
    form: z.union([key, z.array(key).min(2)]),
    code: code.optional(),
    carries: z.enum(['whole', 'changed', 'keys']),
  }),
  z.strictObject({ as: operation }),
]);

const verdict = z.enum(['accepted', 'remarked', 'refused']);
/** The file as it was sent, in the container of its form, with columns added. */
const asSent = z.strictObject({ kind: z.literal('as-sent'), columns: z.array(z.string().min(1)).min(1) });
/** An answer: its container, where its parts stand, what a verdict is, and what a line means that it does not name. */
export const answer = z.strictObject({
  key,
  /** The forms it answers; all where none is named. */
  to: z.array(key).optional(),
  container: z.union([container, asSent]),
  slots: z.strictObject({
    /** Where no slot has it, lines stand in the order of the records. */
    line: z.string().optional(),
    sku: z.string().optional(),
    site: z.string().optional(),
    verdict: z.string().optional(),
    code: z.string(),
    field: z.string().optional(),
    number: z.string().optional(),
    says: z.string().optional(),
  }),
  verdict: z.union([z.strictObject({ words: z.record(z.string(), verdict) }), z.strictObject({ always: verdict })]),
  /** Lines are counted by records, from 1 or from 0, or by the lines of the file with its headers. */
  lineCounts: z.enum(['records', 'records-from-0', 'file-lines']).default('records'),
  unnamed: z.enum(['accepted', 'lost']).default('lost'),
  /** Where a nested answer says of which file it is, and how many records that had. */
  proof: z.strictObject({ file: nestedPath.optional(), records: nestedPath.optional() }).optional(),
  /** The sign that divides several codes or fields in one cell, where there can be several. */
  severalBy: z.string().length(1).optional(),
  /** Where a code and its field stand together: a pattern with the groups `code` and, where it has one, `field`. */
  fault: regex.refine((r) => r.includes('(?<code>'), 'The pattern names what it finds: (?<code>…).').optional(),
});

/** What a list of the market holds, and in which columns. */
const listOf = <S extends z.ZodRawShape>(slots: S) => z.strictObject({ container, slots: z.strictObject(slots) });
export const lists = z.strictObject({
  shelf: listOf({
    sku: z.string(),
    site: z.string().optional(),
    number: z.string(),
    state: z.string(),
    reason: z.string().optional(),
    since: z.string().optional(),
    /** What the market shows of prices and stock, by our attributes: compared with what it took. */
    facts: z.record(attributeName, z.string()).default({}),
  }),
  find: listOf({
    number: z.string(),
    title: z.string(),
    brand: z.string().optional(),
    identifier: z.string().optional(),
    category: z.string().optional(),
    /** What an entry says of itself, by our attributes: an offer that joins it must be of the same item. */
    facts: z.record(attributeName, z.string()).default({}),
  }).optional(),
});

/** A market's word for how an entry stands, and whether the entry is still there to be revised. */
export const stateTerms = z.strictObject({ is: entryState, entry: z.enum(['stands', 'gone']) });

export type Container = z.output<typeof container>;
export type Encoding = (typeof encodings)[number];
export type Form = z.output<typeof form>;
export type Slot = Form['slots'][number];
export type Holds = Slot['holds'];
export type AnswerTerms = z.output<typeof answer>;
export type OperationTerms = z.output<typeof operationTerms>;
