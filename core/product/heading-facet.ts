// The language or currency that a heading names beside its field: "Titel (de)", description_sv, "German title", "Preis SEK", "Price €".
import type { FieldBook, ProductField } from './fields';
import { isCurrencyCode, isLanguageTag } from './fields';
import { houseLanguage } from './house';
import { ownCurrency } from './own-value';

/** Languages that files of the trade are often written in, beside those of a house. */
const common = [
  'en',
  'de',
  'fr',
  'es',
  'it',
  'nl',
  'pl',
  'pt',
  'sv',
  'da',
  'nb',
  'fi',
  'cs',
  'tr',
  'ru',
  'ja',
  'zh',
  'ko',
  'ar',
];
/** Names of languages in English and in themselves, by small letters: german, deutsch, svenska, 日本語. */
const named = new Map(
  common.flatMap((tag) =>
    ['en', tag].map((by) => [new Intl.DisplayNames([by], { type: 'language' }).of(tag)!.toLowerCase(), tag] as const),
  ),
);
/** Currencies by the sign that most mean by it. */
export const currencyOfSign: Readonly<Record<string, string>> = {
  '€': 'EUR',
  '£': 'GBP',
  $: 'USD',
  '¥': 'JPY',
  '￥': 'JPY',
  '₹': 'INR',
  '₺': 'TRY',
};

const bracketed = /[([]\s*([a-z]{2})(?:[-_][A-Za-z]{2,4})?\s*[)\]]$/i,
  attached = /(?:^|\p{L}{2})[_.:-]([a-z]{2})(?:[-_][A-Za-z]{2})?$/iu;
const wordsOf = (heading: string): string[] => heading.split(/[^\p{L}\p{M}]+/u).filter((w) => w !== '');

/** The language that a heading names; a word of two letters alone counts where `isSpoken` says so. */
function findLanguage(heading: string, isSpoken: (tag: string) => boolean): { tag: string; word: string } | undefined {
  const marked = bracketed.exec(heading)?.[1] ?? attached.exec(heading)?.[1];
  if (marked !== undefined && isLanguageTag(marked.toLowerCase())) return { tag: marked.toLowerCase(), word: marked };
  const words = wordsOf(heading),
    last = words.at(-1) ?? '';
  if (words.length > 1 && last.length === 2 && isSpoken(last.toLowerCase()))
    return { tag: last.toLowerCase(), word: last };
  for (const word of words) {
    const tag = named.get(word.toLowerCase());
    if (tag !== undefined && words.length > 1) return { tag, word };
  }
  return undefined;
}

/** Codes that are no words of headings ("top", "all", "cup"), in whatever letters they stand. */
const plainCodes = new Set(
  'EUR USD GBP CHF JPY CNY SEK NOK DKK PLN CZK HUF RON CAD AUD NZD INR KRW BRL MXN SGD HKD AED SAR KWD'.split(' '),
);
export function findCurrency(heading: string): string | undefined {
  const isLoud = heading === heading.toUpperCase();
  const code = wordsOf(heading).find((w) => plainCodes.has(w.toUpperCase()) || (!isLoud && isCurrencyCode(w)));
  return code?.toUpperCase() ?? currencyOfSign[/\p{Sc}/u.exec(heading)?.[0] ?? ''];
}

export interface HeadingFacets {
  /** A word that names the language and says nothing of the field. */
  word: string | undefined;
  /** The field for what a heading says of language or currency; nothing where a house has none for that. */
  put: (base: ProductField) => ProductField | undefined;
}

/** What a heading says of the language and the currency of what stands under it. */
export function readHeadingFacets(heading: string, fields: FieldBook): HeadingFacets {
  const spoken = new Set([houseLanguage, ...fields.all.flatMap((f) => f.language ?? [])]);
  const language = findLanguage(heading.trim(), (tag) => spoken.has(tag)),
    currency = findCurrency(heading);
  const variant = (base: ProductField, facet: string): ProductField | undefined =>
    fields.get(`fact.${base.key.replace(/^fact\./, '')}@${facet}`);
  return {
    word: language?.word,
    put: (base) => {
      if (base.kind === 'money')
        return currency === undefined || currency === (base.currency ?? ownCurrency.code)
          ? base
          : variant(base, currency.toLowerCase());
      return language !== undefined && language.tag !== houseLanguage && fields.byLanguage.has(base.key)
        ? variant(base, language.tag)
        : base;
    },
  };
}
