// From what a column is called to the field of ours that it fills, by the words of its heading.
import { foldLoosely } from '../text';
import { findUnit, isKnownUnit } from '../quantity';
import type { FieldBook, ProductField } from './fields';
import { findCurrency, readHeadingFacets } from './heading-facet';
import { type HeadingWords, headingWords, neutralWords } from './heading-words';
import { type MoneyConcept, readMoneyHeading } from './money-heading';
import { ownCurrency } from './own-value';

export interface HeadingReading {
  field: string;
  /** Share of the heading that the field's words explain, 0 to 1. */
  confidence: number;
}

/** Words of a heading: folded, camel case and figures taken apart, neutral words left out. */
export function splitHeading(heading: string): string[] {
  const spaced = heading
    .replace(/(\p{Ll})(\p{Lu})/gu, '$1 $2')
    .replace(/(\p{L})(\d)/gu, '$1 $2')
    .replace(/_/g, ' ');
  return foldLoosely(spaced)
    .split(' ')
    .filter((t) => t !== '' && !neutralWords.has(t));
}

const moneyFields: Readonly<Record<MoneyConcept, string>> = {
  cost: 'cost',
  price: 'price',
  sale: 'sale_price',
  list: 'fact.list_price',
};

/** Words of scripts that are written without spaces stand within longer ones. */
const isJoined = (word: string): boolean => /[^\p{Script=Latin}\d]/u.test(word);
const isWord = (token: string, word: string): boolean =>
  token === word || ((word.length > 3 || isJoined(word)) && token.includes(word));
const holds = (tokens: readonly string[], words: readonly string[] = []): boolean =>
  tokens.some((t) => words.some((x) => t === x || (isJoined(x) && t.includes(x))));

function weigh(tokens: readonly string[], words: HeadingWords): number {
  if (holds(tokens, words.not)) return 0;
  const isHead = (t: string): boolean => words.heads.some((h) => isWord(t, h));
  if (words.needs && !tokens.some((t) => words.needs!.some((n) => isWord(t, n)))) return 0;
  const known = [...(words.also ?? []), ...(words.weak ?? []), ...(words.needs ?? [])];
  const explained = tokens.filter((t) => isHead(t) || known.includes(t)).length;
  if (tokens.some(isHead)) return explained / tokens.length;
  return holds(tokens, words.weak) && explained === tokens.length ? 0.9 : 0;
}

/** Headings are judged by their beginning: nobody calls a column by more. */
const longestHeading = 120;

/** The field that a heading means; undefined where its words mean none of ours, or something beside one of ours. */
export function readHeading(heading: string, fields: FieldBook): HeadingReading | undefined {
  const text = heading.slice(0, longestHeading);
  const facets = readHeadingFacets(text, fields),
    own = fields.findNamed(text);
  // What a person has named is that, whatever it says; a sign of a currency is no part of a name.
  const named = own && /\p{Sc}/u.test(text) ? facets.put(own) : own;
  if (own) return named && { field: named.key, confidence: 1 };
  const found = readWords(splitHeading(facets.word === undefined ? text : text.replace(facets.word, ' ')), fields);
  const field = found && facets.put(fields.get(found.field)!);
  return field && { ...found, field: field.key };
}

/**
 * The field of money that a heading means in a currency in which the house has none: "EK EUR", "Cost ($)". Its amounts are of use
 * once they are made into the house's money.
 */
export function readForeignMoney(
  heading: string,
  fields: FieldBook,
): (HeadingReading & { currency: string }) | undefined {
  const text = heading.slice(0, longestHeading),
    currency = findCurrency(text);
  if (currency === undefined || currency === ownCurrency.code) return undefined;
  const read = readHeading(text.replace(new RegExp(`\\p{Sc}|(?<!\\p{L})${currency}(?!\\p{L})`, 'giu'), ' '), fields),
    field = read && fields.get(read.field);
  return field?.kind === 'money' && canBeForeign(field, currency, fields) ? { ...read!, currency } : undefined;
}

/** Whether a field of money may be filled with amounts in a currency: one that the house has no field of its own for. */
export const canBeForeign = (field: ProductField, currency: string, fields: Pick<FieldBook, 'get'>): boolean =>
  field.kind === 'money' &&
  (field.currency ?? ownCurrency.code) === ownCurrency.code &&
  currency !== ownCurrency.code &&
  !fields.get(`fact.${field.key.replace(/^fact\./, '')}@${currency.toLowerCase()}`);

/** The field in the house's own language and currency that words mean. */
function readWords(tokens: readonly string[], fields: FieldBook): HeadingReading | undefined {
  if (tokens.length === 0 || tokens.length > 8) return undefined;
  let best: HeadingReading | undefined;
  for (const [field, words] of Object.entries(headingWords)) {
    if (!fields.get(field)) continue;
    const confidence = weigh(tokens, words);
    if (confidence >= 0.5 && confidence > (best?.confidence ?? 0)) best = { field, confidence };
  }
  // A day on which a price begins is no price, and a price is nothing else.
  if (best?.field === 'sale_start' || best?.field === 'sale_end') return best;
  const money = readMoneyHeading(tokens);
  return money && fields.get(moneyFields[money]) ? { field: moneyFields[money], confidence: 0.95 } : best;
}

/** Units that a heading may end with as a word. */
const plainUnits = new Set([
  'mm',
  'cm',
  'm',
  'in',
  'ft',
  'g',
  'kg',
  'oz',
  'lb',
  'ml',
  'cl',
  'l',
  'W',
  'kW',
  'Wh',
  'kWh',
]);

/** The unit that a heading says its measures are in: "Length (mm)", "Weight [kg]", "width_cm". */
export function readHeadingUnit(heading: string): string | undefined {
  const text = heading.slice(0, longestHeading).trim();
  const marked = /[([]\s*([^)\]]+?)\s*[)\]]$/.exec(text)?.[1];
  if (marked !== undefined) {
    const unit = findUnit(marked) ?? marked;
    return isKnownUnit(unit) ? unit : undefined;
  }
  const last = text.split(/[\s_,/-]+/).at(-1) ?? '';
  const unit = findUnit(last) ?? last;
  return last !== text && plainUnits.has(unit) ? unit : undefined;
}
