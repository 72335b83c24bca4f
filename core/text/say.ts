// Sentences of the interface in the language of whoever reads. The English sentence is its own key, with {1}, {2} … where
// facts stand in it; a language is one table of the same sentences. What it lacks is said in English.
import type { Tongue } from './tongue';

let findTongue: () => Tongue | undefined = () => undefined;

/** Says how it is known in which language the one at hand reads: of a browser once, of a server by request. */
export function speakTo(find: () => Tongue | undefined): void {
  findTongue = find;
}

/** The language in which is spoken now; undefined where it is English. */
export const tongueNow = (): Tongue | undefined => findTongue();

/** Where numbers and days are written as people of the language write them (BCP 47). */
export const localeNow = (): string => findTongue()?.language ?? 'en-GB';

/** What stands in a sentence beside its words. */
export type Said = string | number;

/** The sentence with {1}, {2} … for what stands in it: its key in the table of a language. */
export const keyOf = (strings: readonly string[]): string =>
  strings.reduce((key, text, i) => (i === 0 ? text : `${key}{${i}}${text}`), '');

const place = /\{(\d+)\}/g;

/**
 * The words of a sentence and the numbers of what stands between them, in the order of the language that is spoken:
 * “{1} of {2}” is `['', 1, ' of ', 2, '']`. Spaces around it stay as they are.
 */
export function phrase(strings: readonly string[]): readonly Said[] {
  const key = keyOf(strings);
  const says = findTongue()?.says;
  const bare = key.trim();
  const other = says && Object.hasOwn(says, bare) ? says[bare] : undefined;
  const text = typeof other === 'string' ? key.replace(bare, () => other) : key;
  return text.split(place).map((part, i) => (i % 2 === 1 ? Number(part) : part));
}

/** A sentence in the language that is spoken: a tag for a template in English. */
export function say(strings: TemplateStringsArray, ...facts: readonly Said[]): string {
  if (findTongue() === undefined) return String.raw({ raw: strings }, ...facts);
  return phrase(strings)
    .map((part) => (typeof part === 'number' ? String(facts[part - 1] ?? '') : part))
    .join('');
}

/** A word that is kept elsewhere as English, such as a label of our own fields, in the language that is spoken. */
export function sayWord(english: string): string {
  const says = findTongue()?.says;
  const other = says && Object.hasOwn(says, english) ? says[english] : undefined;
  return typeof other === 'string' ? other : english;
}

/** Marks a word of a table as one that languages have, said by `sayWord` where it is used: tables are made before it is known who reads. */
export const term = (strings: TemplateStringsArray): string => strings.join('');
