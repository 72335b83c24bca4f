// Exact decimals. Money and measures are never binary floating point; they travel as plain strings.
import { Decimal } from 'decimal.js';

/** Our own configuration, apart from any other user of the package. */
export const Exact = Decimal.clone({ precision: 40, rounding: Decimal.ROUND_HALF_UP, toExpNeg: -40, toExpPos: 40 });
export type Exact = InstanceType<typeof Exact>;

/** Canonical number text: optional minus, digits, optional point and digits. */
export const canonicalNumber = /^-?\d+(\.\d+)?$/;

/**
 * The canonical number that a text begins with, as a near (binary) value for a first comparison, or NaN where it begins
 * with none. The number must fill the text, or end at a space where `mayHaveUnit`. One pass and nothing allocated: checks
 * ask this of every number of every row.
 */
export function scanNumber(text: string, mayHaveUnit = false): number {
  const isNegative = text.charCodeAt(0) === 45;
  let i = isNegative ? 1 : 0,
    n = 0,
    scale = 0,
    digits = 0;
  for (; i < text.length; i++) {
    const c = text.charCodeAt(i);
    if (c >= 48 && c <= 57) {
      n = n * 10 + (c - 48);
      scale *= 10;
      digits++;
    } else if (c === 46 && scale === 0 && digits > 0) {
      scale = 1;
      digits = 0;
    } else if (c === 32 && mayHaveUnit) break;
    else return NaN;
  }
  if (digits === 0) return NaN;
  return (isNegative ? -n : n) / (scale || 1);
}

/** Decimal of a canonical number text; throws on anything else, since that is a fault of the caller. */
export function exact(text: string | number | Exact): Exact {
  if (typeof text === 'string' && !canonicalNumber.test(text)) throw new Error(`Not a canonical number: ${text}`);
  return new Exact(text);
}

/** Places after the point of a canonical number text. */
export const countDecimals = (text: string): number => {
  const p = text.indexOf('.');
  return p < 0 ? 0 : text.length - p - 1;
};

const zero = 48;

/** Canonical text without needless zeros. Done on the text: most numbers of a file are asked for it, and none is computed with. */
export function normaliseNumber(text: string): string {
  if (!canonicalNumber.test(text)) throw new Error(`Not a canonical number: ${text}`);
  const sign = text.startsWith('-') ? '-' : '';
  const point = text.indexOf('.');
  let from = sign.length,
    to = text.length;
  const last = point < 0 ? text.length : point;
  while (from < last - 1 && text.charCodeAt(from) === zero) from++;
  if (point >= 0) {
    while (to > point + 1 && text.charCodeAt(to - 1) === zero) to--;
    if (to === point + 1) to = point;
  }
  const number = text.slice(from, to);
  return number === '0' ? '0' : sign + number;
}

/** The number with at most so many places after the point, rounded half up, without needless zeros. */
export function roundToPlaces(text: string, places: number): string {
  const number = normaliseNumber(text);
  return countDecimals(number) <= places ? number : normaliseNumber(exact(number).toDecimalPlaces(places).toFixed());
}
