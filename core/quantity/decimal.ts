// Exact decimals. Money and measures are never binary floating point; they travel as plain strings.
import { Decimal } from 'decimal.js';

/** Our own configuration, apart from any other user of the package. */
export const Exact = Decimal.clone({ precision: 40, rounding: Decimal.ROUND_HALF_UP, toExpNeg: -40, toExpPos: 40 });
export type Exact = InstanceType<typeof Exact>;

/** Canonical number text: optional minus, digits, optional point and digits. */
export const canonicalNumber = /^-?\d+(\.\d+)?$/;

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

/** Canonical text without needless zeros. */
export function normaliseNumber(text: string): string {
  const value = exact(text);
  return value.isZero() ? '0' : value.toFixed();
}
