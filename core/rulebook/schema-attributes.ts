// What both formats say alike of attributes, of their roles, of offers and pictures.
import { z } from 'zod';
import { identifierKinds } from '../identifiers';
import { isKnownUnit } from '../quantity';
import { harmlessTags } from '../text/html';
import { amount, key, label, language, pattern } from './schema-basics';
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
] as const;

export const attributeShape = {
  key,
  label,
  group: key,
  part: z.enum(parts).default('details'),
  type: z.enum(attributeTypes),
  help: z.string().optional(),
  example: z.string().optional(),
  rows: z.enum(['all', 'parent', 'sellable', 'variant']).default('all'),
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
});
export const offer = z.strictObject({
  quantityCap: z.int().positive(),
  minimumAdvised: z.int().nonnegative().default(0),
  priceMoveHeld: amount.default('0.5'),
});
export const pictures = z.strictObject({
  min: z.int().nonnegative(),
  advised: z.int().nonnegative(),
  max: z.int().positive(),
  schemes: z.array(z.string()).min(1),
  endings: z.array(z.string()).min(1),
});
