// From what a column is called to the field of ours that it fills, by the words of its heading.
import { foldLoosely } from '../text';
import { productFields } from './fields';
import { type HeadingWords, headingWords, neutralWords } from './heading-words';
import { type MoneyConcept, readMoneyHeading } from './money-heading';

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

const byLabel = new Map(productFields.map((f) => [foldLoosely(f.label), f.key]));

/** Headings are judged by their beginning: nobody calls a column by more. */
const longestHeading = 120;

/** The field that a heading means; undefined where its words mean none of ours, or something beside one of ours. */
export function readHeading(heading: string): HeadingReading | undefined {
  const text = heading.slice(0, longestHeading);
  const own = byLabel.get(foldLoosely(text));
  if (own) return { field: own, confidence: 1 };
  const tokens = splitHeading(text);
  if (tokens.length === 0 || tokens.length > 8) return undefined;
  let best: HeadingReading | undefined;
  for (const [field, words] of Object.entries(headingWords)) {
    const confidence = weigh(tokens, words);
    if (confidence >= 0.5 && confidence > (best?.confidence ?? 0)) best = { field, confidence };
  }
  // A day on which a price begins is no price, and a price is nothing else.
  if (best?.field === 'sale_start' || best?.field === 'sale_end') return best;
  const money = readMoneyHeading(tokens);
  return money ? { field: moneyFields[money], confidence: 0.95 } : best;
}
