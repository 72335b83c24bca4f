// Reading numbers as people and spreadsheets write them. The locale is stated, never guessed silently.

/** Which signs separate places: the decimal sign, and the grouping signs that may be dropped. */
export interface NumberLocale {
  decimal: '.' | ',';
  grouping: readonly string[];
}

const space = [' ', '\u00a0', '\u202f', "'"] as const;
export const pointLocale: NumberLocale = { decimal: '.', grouping: [',', ...space] };
export const commaLocale: NumberLocale = { decimal: ',', grouping: ['.', ...space] };

export type NumberReading =
  | { ok: true; number: string }
  | { ok: false; reason: 'empty' | 'not-a-number' | 'grouping-out-of-place' | 'other-locale'; text: string };

/** The lookbehind keeps a long run of spaces from being tried once for each of them. */
const currencySigns = /^[\p{Sc}\s]+|(?<![\p{Sc}\s])[\p{Sc}\s]+$/gu;
/** No number that anybody sells by is longer. */
const longestNumber = 200;

/**
 * Canonical number of a text under a locale. "1.299,50" is 1299.50 under the comma locale and refused under the
 * point locale (`other-locale`), so that nobody sells at a thousandth of the price.
 */
export function readNumber(text: string, locale: NumberLocale): NumberReading {
  const reading = readUnder(text, locale);
  if (reading.ok || reading.reason === 'empty') return reading;
  const other = readUnder(text, toOtherLocale(locale));
  return other.ok && /[.,]/.test(text) ? { ok: false, reason: 'other-locale', text } : reading;
}

function readUnder(text: string, locale: NumberLocale): NumberReading {
  const t = text
    .trim()
    .replace(currencySigns, '')
    .replace(/^\u2212/, '-');
  if (t.length > longestNumber) return { ok: false, reason: 'not-a-number', text };
  if (t === '') return { ok: false, reason: 'empty', text };
  const sign = t.startsWith('-') ? '-' : '';
  const body = sign ? t.slice(1) : t;
  const at = body.indexOf(locale.decimal);
  const whole = at < 0 ? body : body.slice(0, at);
  const fraction = at < 0 ? '' : body.slice(at + 1);
  if (body === '' || !/^\d*$/.test(fraction) || (at >= 0 && fraction === ''))
    return { ok: false, reason: 'not-a-number', text };
  const plain = stripGrouping(whole, locale.grouping);
  if (plain === undefined)
    return { ok: false, reason: /^[\d.,' \u00a0\u202f]+$/.test(body) ? 'grouping-out-of-place' : 'not-a-number', text };
  const digits = plain.replace(/^0+(?=\d)/, '') || '0';
  return { ok: true, number: sign + digits + (fraction ? '.' + fraction : '') };
}

function stripGrouping(whole: string, grouping: readonly string[]): string | undefined {
  if (/^\d*$/.test(whole)) return whole;
  const used = grouping.find((g) => whole.includes(g));
  if (!used) return undefined;
  const [first = '', ...rest] = whole.split(used);
  // No thousands begin with a zero: 0.125 is an eighth, whatever the sign of the file.
  const isGrouped = /^[1-9]\d{0,2}$/.test(first) && rest.every((r) => /^\d{3}$/.test(r));
  return isGrouped ? [first, ...rest].join('') : undefined;
}

/**
 * The locale that reads every given text, if only one does; the one that reads more of them, where no text is read by both as
 * different numbers. Else `undetermined`, so that the person decides.
 */
export function detectNumberLocale(texts: readonly string[]): NumberLocale | 'undetermined' {
  let points = 0,
    commas = 0,
    doubtful = 0;
  for (const text of texts) {
    const point = readUnder(text, pointLocale),
      comma = readUnder(text, commaLocale);
    if (point.ok && comma.ok) doubtful += Number(point.number !== comma.number);
    else if (point.ok) points++;
    else if (comma.ok) commas++;
    else if (text.trim() !== '') return 'undetermined';
  }
  if (points === commas || (doubtful > 0 && points > 0 && commas > 0)) return 'undetermined';
  return points > commas ? pointLocale : commaLocale;
}

/** The locale in which the other sign is the decimal one. */
export const toOtherLocale = (locale: NumberLocale): NumberLocale =>
  locale.decimal === '.' ? commaLocale : pointLocale;

/** True where both locales read a text, and not as the same number: 1.299 is a little more than one, or a thousand and more. */
export function isReadEitherWay(text: string): boolean {
  if (!/[.,]/.test(text)) return false;
  const [point, comma] = [readUnder(text, pointLocale), readUnder(text, commaLocale)];
  return point.ok && comma.ok && point.number !== comma.number;
}

/** Writes a canonical number with a file's decimal sign, without grouping. */
export const writeNumber = (number: string, decimal: '.' | ','): string =>
  decimal === '.' ? number : number.replace('.', ',');
