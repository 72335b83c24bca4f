// A business system as a source of items: which of its rows come, under which SKU, into which fields, and who owns those.
import { z } from 'zod';

const formula = z.string().trim().max(2000);
const field = z.string().min(1).max(120);

/** `theirs`: each fetch writes it. `first`: it is written where we hold nothing yet, and is ours from then on. */
export const owners = ['theirs', 'first'] as const;
export type Owner = (typeof owners)[number];

export const mostSourceFields = 200;
/** Formulas over the columns of the system, each in the language of our own formulas. */
export const sourceRules = z.strictObject({
  /** The SKU of a row: `textjoin("-", [Article], [Variant])`. */
  sku: formula.min(1, 'Say how the SKU is formed.'),
  /** The SKU of its family, nothing where it is in none; no families where this is empty. */
  family: formula.default(''),
  /** Which rows come: those for which it is yes; all where this is empty. */
  only: formula.default(''),
  fields: z
    .array(z.strictObject({ field, from: formula.min(1), owner: z.enum(owners) }))
    .max(mostSourceFields)
    .default([]),
});
export type SourceRules = z.output<typeof sourceRules>;

/** Which part of the rules is meant; a number is one of the fields. */
export type RulePart = 'sku' | 'family' | 'only' | number;

/** A row as the system gives it: texts by column. */
export type SourceRow = Readonly<Record<string, string>>;

/** Rules to begin with, out of what the columns are called: an article and a variant make the SKU. */
export function guessRules(
  columns: readonly string[],
  findNamed: (heading: string) => string | undefined,
): SourceRules {
  const named = (...words: string[]): string | undefined =>
    columns.find((c) => words.some((w) => c.toLowerCase().replace(/[^a-z]/g, '') === w));
  const article =
    named('article', 'item', 'itemno', 'itemnumber', 'articleno', 'sku', 'number', 'no') ?? columns[0] ?? '';
  const variant = named('variant', 'variantcode');
  const of = (column: string): string => `[${column.replaceAll(']', ']]')}]`;
  const taken = new Set(['sku', 'parent_sku']);
  return {
    sku: variant === undefined ? of(article) : `textjoin("-", ${of(article)}, ${of(variant)})`,
    family: variant === undefined ? '' : `if(isempty(${of(variant)}), "", ${of(article)})`,
    only: '',
    fields: columns.flatMap((c) => {
      const key = c === article || c === variant ? undefined : findNamed(c);
      if (key === undefined || taken.has(key)) return [];
      taken.add(key);
      return [
        {
          field: key,
          from: of(c),
          owner: key === 'stock' || key === 'cost' ? ('theirs' as const) : ('first' as const),
        },
      ];
    }),
  };
}
