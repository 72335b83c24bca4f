// Whole characters: text as it may be kept. A surrogate that lost its other half is no character (Unicode 15, D75, D77).
const allHalves = /\p{Cs}/gu;

/** True where no character of the text was cut in half. */
export const isWhole = (text: string): boolean => (text as unknown as WellFormed).isWellFormed();

/** ECMAScript 2024, 22.1.3.11; Node.js 20 and today's browsers have it, the compiler's library does not yet. */
interface WellFormed {
  isWellFormed: () => boolean;
}

/** The first `most` characters of a text, counted as code points and never cut through one. */
export function takeCharacters(text: string, most: number): string {
  if (text.length <= most) return text;
  let end = 0;
  for (let n = 0; n < most && end < text.length; n++) end += (text.codePointAt(end) ?? 0) > 0xffff ? 2 : 1;
  return text.slice(0, end);
}

/** The text with what no database or file can hold taken away: zero characters and halves of characters. */
export const dropBroken = (text: string): string => text.replaceAll('\0', '').replace(allHalves, '');
