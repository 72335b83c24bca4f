import { localeNow, tongueNow } from './say';

/** A number as people write it. */
export const digits = (n: number): string => n.toLocaleString(localeNow());

/** The word that goes with a number: by “row|rows” in the table of the language that is spoken. */
export function wordFor(n: number, one: string, many: string): string {
  const tongue = tongueNow();
  const key = `${one}|${many}`;
  const forms = tongue && Object.hasOwn(tongue.says, key) ? tongue.says[key] : undefined;
  if (forms === undefined || tongue === undefined) return n === 1 ? one : many;
  if (typeof forms === 'string') return forms;
  return forms[new Intl.PluralRules(tongue.language).select(n)] ?? forms.other;
}

/** The two forms of a word, kept in a table until its number is known. */
export const forms = (one: string, many: string): [string, string] => [one, many];

/** A number as people read it, with the word for one or for several. */
export const plural = (n: number, one: string, many: string): string => `${digits(n)} ${wordFor(n, one, many)}`;
