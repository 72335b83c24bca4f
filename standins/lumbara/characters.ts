// What the market asks of characters, by their numbers: bytes in Shift_JIS, widths, scripts.

/** Bytes in Shift_JIS: ASCII and half-width kana take one, all else two. */
export function bytesOf(text: string): number {
  let bytes = 0;
  for (const c of text) {
    const n = c.codePointAt(0)!;
    bytes += n < 0x80 || (n >= 0xff61 && n <= 0xff9f) ? 1 : 2;
  }
  return bytes;
}

/** Columns of a text in one line: Latin letters take one, kana, kanji and full-width forms two. */
export function columnsOf(text: string): number {
  let columns = 0;
  for (const c of text) {
    const n = c.codePointAt(0)!;
    const isWide = (n >= 0x1100 && n < 0x1160) || (n >= 0x2e80 && n < 0xd7a4) || (n >= 0xf900 && n < 0xfb00);
    columns += isWide || (n >= 0xff01 && n <= 0xff60) || n >= 0x1f300 ? 2 : 1;
  }
  return columns;
}

/** Characters that are in the wrong width, by what is asked of each kind. */
const wrong: Record<string, Record<string, RegExp>> = {
  katakana: { full: /[\uff61-\uff9f]/ },
  latin: { half: /[\uff21-\uff3a\uff41-\uff5a]/ },
  digits: { half: /[\uff10-\uff19]/ },
  signs: { half: /[\uff01-\uff0f\uff1a-\uff20\uff3b-\uff40\uff5b-\uff5e]/ },
  spaces: { full: / /, half: /\u3000/ },
};
export const hasWrongWidth = (text: string, widths: Readonly<Record<string, string>>): boolean =>
  Object.entries(widths).some(([kind, width]) => wrong[kind]?.[width]?.test(text));

/** True for a text that people here read: kana or kanji in it, and beside them Latin letters at the most. */
export const isJapanese = (text: string): boolean =>
  !/\p{L}/u.test(text) ||
  (/[\u3041-\u3096\u30a1-\u30fa\u4e00-\u9fff\u3400-\u4dbf々]/.test(text) &&
    !/\p{Script=Greek}|\p{Script=Cyrillic}|\p{Script=Hebrew}|\p{Script=Arabic}|\p{Script=Devanagari}|\p{Script=Thai}|\p{Script=Hangul}/u.test(
      text,
    ));
