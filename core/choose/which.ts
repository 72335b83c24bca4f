// Which items are meant, as data: what must hold of a field, of how an item stands on a market, of when it was changed. Kept
// under a name, held in an address, and sent to the server in place of a list of items.
import { z } from 'zod';
import { listingStates } from '../rulebook/terms';

/** Rows of the catalog: `sold` is all that can be bought, so all but the rows of families. */
export const rowChoices = ['all', 'sold', 'single', 'family', 'variant', 'bundle'] as const;
export type RowChoice = (typeof rowChoices)[number];

const field = z.string().min(1).max(120);
const text = z.string().max(2000);

/** What can be asked of a field with one value. */
export const valueTests = [
  'equals',
  'differs',
  'contains',
  'lacks',
  'starts',
  'ends',
  'over',
  'at-least',
  'under',
  'at-most',
  'within',
] as const;
/** Asked without a value; the last two of listings alone: typed for the market, or as the catalog gives it. */
export const bareTests = ['empty', 'filled', 'typed', 'from-catalog'] as const;
export const isBare = (test: FieldTest): test is (typeof bareTests)[number] =>
  (bareTests as readonly FieldTest[]).includes(test);
export const severalTests = ['one-of', 'none-of'] as const;
export type FieldTest =
  (typeof valueTests)[number] | (typeof bareTests)[number] | (typeof severalTests)[number] | 'between';

export const clauseSchema = z.discriminatedUnion('is', [
  z.strictObject({ is: z.enum(valueTests), field, value: text }),
  z.strictObject({ is: z.enum(bareTests), field }),
  z.strictObject({ is: z.enum(severalTests), field, values: z.array(text).max(1000) }),
  z.strictObject({ is: z.literal('between'), field, from: text, to: text }),
  /** How it stands on a market, by its key, or on any where none is named. */
  z.strictObject({ is: z.literal('state'), market: z.string().max(60), state: z.enum(listingStates) }),
  /** What some market finds of a field of ours: check, message and the field. */
  z.strictObject({ is: z.literal('finding'), check: text, message: text, field }),
  z.strictObject({ is: z.literal('import'), import: z.int().positive() }),
  z.strictObject({ is: z.literal('change-set'), set: z.int().positive() }),
  /** Changed on a day or since. */
  z.strictObject({ is: z.literal('changed'), since: z.iso.date() }),
]);
export type Clause = z.output<typeof clauseSchema>;
export type FieldClause = Extract<Clause, { is: FieldTest }>;

export const mostNamed = 50_000;
export const whichSchema = z.strictObject({
  /** Words that stand in its SKU, title, brand, barcode or part number. */
  search: z.string().max(300).default(''),
  rows: z.enum(rowChoices).default('all'),
  match: z.enum(['all', 'any']).default('all'),
  clauses: z.array(clauseSchema).max(30).default([]),
  /** Conditions that hold besides, whether all of the others or one of them must. */
  also: z.array(clauseSchema).max(30).default([]),
  /** Items named one by one: a list of SKUs that was pasted, rows that were marked. All where none is named. */
  skus: z.array(z.string().max(60)).max(mostNamed).default([]),
  ids: z.array(z.int().positive()).max(mostNamed).default([]),
});
export type Which = z.output<typeof whichSchema>;
export const everyItem: Which = { search: '', rows: 'all', match: 'all', clauses: [], also: [], skus: [], ids: [] };

/** True where nothing is asked: every row of the catalog is meant. */
export const isEveryItem = (w: Which): boolean =>
  w.search === '' &&
  w.rows === 'all' &&
  w.clauses.length === 0 &&
  w.also.length === 0 &&
  w.skus.length === 0 &&
  w.ids.length === 0;

/** True where one of several conditions is enough, so that one more among them would widen what is meant. */
export const isOneOfSeveral = (w: Which): boolean => w.match === 'any' && w.clauses.length > 1;

/** A choice narrowed by more conditions, all of which must hold. */
export const narrow = (w: Which, more: readonly Clause[]): Which =>
  isOneOfSeveral(w) ? { ...w, also: [...w.also, ...more] } : { ...w, match: 'all', clauses: [...w.clauses, ...more] };
export const isFieldClause = (c: Clause): c is FieldClause =>
  !['state', 'finding', 'import', 'change-set', 'changed'].includes(c.is);

/** SKUs out of pasted text: one a line, or divided by tabs, commas or semicolons; each once, quotes and spaces taken off. */
export const readSkus = (pasted: string): string[] => [
  ...new Set(
    pasted
      .split(/[\r\n\t,;]+/)
      .map((s) =>
        s
          .trim()
          .replace(/^"(.*)"$/, '$1')
          .trim(),
      )
      .filter((s) => s !== ''),
  ),
];
