// Widths of characters as East Asian typesetting knows them: the full width of a kana, the half width of a Latin letter.
// Source: Unicode Standard Annex #11, and the block Halfwidth and Fullwidth Forms (U+FF00 to U+FFEF).
import { eastAsianWidth } from 'get-east-asian-width';

export const widthKinds = ['katakana', 'latin', 'digits', 'signs', 'spaces'] as const;
export type Widths = Readonly<Partial<Record<(typeof widthKinds)[number], 'full' | 'half' | undefined>>>;

/** From a character of ASCII to its full-width form. */
const toFull = 0xfee0;
const shift = (text: string, by: number): string => String.fromCharCode(text.charCodeAt(0) + by);

const halfKatakana = /[\uff61-\uff9f]+/g;
/** Half-width katakana by their full-width form, each without its voicing mark. */
const halfOf = new Map(
  Array.from({ length: 0xff9f - 0xff61 + 1 }, (_, i) => String.fromCharCode(0xff61 + i)).map((half) => [
    half === '\uff9e' ? '\u3099' : half === '\uff9f' ? '\u309a' : half.normalize('NFKC'),
    half,
  ]),
);
const toHalfKatakana = (text: string): string =>
  text
    .normalize('NFD')
    .replace(/[\u3001\u3002\u300c\u300d\u30a1-\u30fc]|\u3099|\u309a/g, (c) => halfOf.get(c) ?? c)
    .normalize('NFC');

type Fit = (text: string) => string;
const fits: Readonly<Record<(typeof widthKinds)[number], Readonly<Record<'full' | 'half', Fit>>>> = {
  katakana: {
    // Composing brings a letter and its voicing mark together: ｶﾞ is ガ.
    full: (t) => t.replace(halfKatakana, (run) => run.normalize('NFKC')),
    half: toHalfKatakana,
  },
  latin: {
    full: (t) => t.replace(/[A-Za-z]/g, (c) => shift(c, toFull)),
    half: (t) => t.replace(/[\uff21-\uff3a\uff41-\uff5a]/g, (c) => shift(c, -toFull)),
  },
  digits: {
    full: (t) => t.replace(/[0-9]/g, (c) => shift(c, toFull)),
    half: (t) => t.replace(/[\uff10-\uff19]/g, (c) => shift(c, -toFull)),
  },
  signs: {
    full: (t) => t.replace(/[!-/:-@[-`{-~]/g, (c) => shift(c, toFull)),
    half: (t) => t.replace(/[\uff01-\uff0f\uff1a-\uff20\uff3b-\uff40\uff5b-\uff5e]/g, (c) => shift(c, -toFull)),
  },
  spaces: { full: (t) => t.replaceAll(' ', '\u3000'), half: (t) => t.replaceAll('\u3000', ' ') },
};

/** The text in the widths that are asked for; characters of which nothing is said stay as they are. */
export function fitWidths(text: string, widths: Widths): string {
  let fitted = text;
  for (const kind of widthKinds) {
    const width = widths[kind];
    if (width !== undefined) fitted = fits[kind][width](fitted);
  }
  return fitted;
}

/** Columns that a text takes where every character is one or two wide; marks that sit on a letter take none. */
export function countColumns(text: string): number {
  let columns = 0;
  for (const c of text) if (!/\p{M}/u.test(c)) columns += eastAsianWidth(c.codePointAt(0)!);
  return columns;
}
