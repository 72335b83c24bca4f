// What both formats say alike of attributes, of their roles, of offers and pictures.
import { z } from 'zod';
import { identifierKinds } from '../identifiers';
import { isKnownUnit } from '../quantity';
import { harmlessTags } from '../text/html';
import { widthKinds } from '../text/width';
import { amount, encodings, key, label, language, pattern } from './schema-basics';
import { attributeTypes, parts } from './terms';

const scripts = [
  'Latin',
  'Arabic',
  'Cyrillic',
  'Greek',
  'Hebrew',
  'Devanagari',
  'Thai',
  'Hangul',
  'Han',
  'Hiragana',
  'Katakana',
  /** Han, Hiragana and Katakana together, as ISO 15924 has them under Jpan. */
  'Japanese',
] as const;

export const attributeShape = {
  key,
  label,
  group: key,
  part: z.enum(parts).default('details'),
  type: z.enum(attributeTypes),
  help: z.string().optional(),
  example: z.string().optional(),
  /** In which rows it stands. `head` is what speaks for an entry: a single item or a family, no variant. */
  rows: z.enum(['all', 'head', 'parent', 'sellable', 'variant']).default('all'),
  shared: z.boolean().default(false),
  protectedWhenLive: z.boolean().default(false),
  codes: key.optional(),
  units: z.array(z.string().refine(isKnownUnit, 'Unknown unit.')).min(1).optional(),
  kinds: z.array(z.enum(identifierKinds)).min(1).optional(),
  tags: z
    .array(z.string().refine((t) => harmlessTags.has(t), 'Not a tag that only shapes a text, such as p, b, ul or br.'))
    .optional(),
  minCharacters: z.int().nonnegative().optional(),
  maxCharacters: z.int().positive().optional(),
  maxBytes: z.int().positive().optional(),
  /** The encoding in which bytes are counted. */
  bytesIn: z.enum(encodings).default('utf-8'),
  /** Columns as a fixed pitch shows them: full-width characters take two (UAX #11). */
  maxColumns: z.int().positive().optional(),
  /** Which of two widths each kind of character is written in, where the market asks for one. */
  widths: z.partialRecord(z.enum(widthKinds), z.enum(['full', 'half'])).optional(),
  minItems: z.int().nonnegative().optional(),
  maxItems: z.int().positive().optional(),
  /** Scripts that a text in a language may be in, by Unicode's names; the first has to be there. */
  scripts: z.record(language, z.array(z.enum(scripts)).min(1)).optional(),
  pattern: pattern.optional(),
  min: amount.optional(),
  max: amount.optional(),
  decimals: z.int().nonnegative().optional(),
  /** Numbers go in steps of this, such as coins of five fils. */
  step: amount.refine((s) => Number(s) > 0, 'A step is over nought.').optional(),
  textRules: z
    .array(
      z.enum([
        'no-contact',
        'no-promotion',
        'no-decoration',
        'no-shouting',
        'brand-first',
        'count-x-thing',
        'short-point',
      ]),
    )
    .default([]),
  from: z.string().optional(),
};

/** Which attribute is what, for checks and screens. */
export const roles = z.strictObject({
  title: key,
  brand: key,
  identifier: key,
  price: key,
  quantity: key,
  highlights: key.optional(),
  boxContents: key.optional(),
  pictures: key,
  salePrice: key.optional(),
  saleStart: key.optional(),
  saleEnd: key.optional(),
  floor: key.optional(),
  ceiling: key.optional(),
  /** Size and weight of the packed parcel, and what is in it without the packing. */
  parcelLength: key.optional(),
  parcelWidth: key.optional(),
  parcelHeight: key.optional(),
  parcelWeight: key.optional(),
  netWeight: key.optional(),
});
export const offer = z.strictObject({
  quantityCap: z.int().positive(),
  minimumAdvised: z.int().nonnegative().default(0),
  priceMoveHeld: amount.default('0.5'),
});
/** What the carriers of a market take: edges and girth in centimetres, weight in kilograms. */
export const parcel = z.strictObject({
  maxEdge: amount.optional(),
  /** The longest edge and twice the two others. */
  maxGirth: amount.optional(),
  maxWeight: amount.optional(),
  /** Cubic centimetres that are charged as a kilogram. */
  volumeDivisor: z.int().positive().optional(),
});
export const pictures = z.strictObject({
  min: z.int().nonnegative(),
  advised: z.int().nonnegative(),
  max: z.int().positive(),
  schemes: z.array(z.string()).min(1),
  endings: z.array(z.string()).min(1),
  /** Pixels of each edge; `zoomEdge` of the longer one, from which buyers can enlarge it. */
  minEdge: z.int().positive().optional(),
  maxEdge: z.int().positive().optional(),
  zoomEdge: z.int().positive().optional(),
  /** How much longer one edge may be than the other, such as 1.5. */
  maxRatio: amount.optional(),
  maxBytes: z.int().positive().optional(),
  /** True where the first is to stand on white. */
  firstOnWhite: z.boolean().optional(),
});
