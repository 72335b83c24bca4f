// ISBN-10 and ISBN-13. Source: ISO 2108 / ISBN Users' Manual: weights 10..1 modulo 11, X = 10;
// ISBN-13 is the GTIN-13 with prefix 978 or 979 (979-0 is printed music, not a book).
import { computeGs1CheckDigit, hasValidGs1CheckDigit } from './gtin';
import { computeModulo11 } from './modulo-11';

export type IsbnReading =
  | { ok: true; isbn13: string; isbn10: string | undefined }
  | { ok: false; reason: 'not-an-isbn'; text: string }
  | { ok: false; reason: 'wrong-check-digit'; text: string; proposal: string };

/** Check character of the first nine digits of an ISBN-10. */
export const computeIsbn10CheckDigit = (nine: string): string => computeModulo11(nine);

/** Reads an ISBN of ten or thirteen places, with or without hyphens. */
export function parseIsbn(text: string): IsbnReading {
  const t = text.trim().replace(/[\s-]/g, '').toUpperCase();
  if (/^\d{9}[\dX]$/.test(t)) {
    const nine = t.slice(0, 9),
      right = computeIsbn10CheckDigit(nine);
    if (t[9] !== right) return { ok: false, reason: 'wrong-check-digit', text, proposal: nine + right };
    return { ok: true, isbn10: t, isbn13: toIsbn13(t) };
  }
  if (/^97[89]\d{10}$/.test(t) && !t.startsWith('9790')) {
    if (!hasValidGs1CheckDigit(t))
      return {
        ok: false,
        reason: 'wrong-check-digit',
        text,
        proposal: t.slice(0, 12) + computeGs1CheckDigit(t.slice(0, 12)),
      };
    return { ok: true, isbn13: t, isbn10: toIsbn10(t) };
  }
  return { ok: false, reason: 'not-an-isbn', text };
}

/** ISBN-13 of a valid ISBN-10. */
export function toIsbn13(isbn10: string): string {
  const body = '978' + isbn10.slice(0, 9);
  return body + computeGs1CheckDigit(body);
}

/** ISBN-10 of an ISBN-13; undefined for 979, which has none. */
export function toIsbn10(isbn13: string): string | undefined {
  if (!isbn13.startsWith('978')) return undefined;
  const nine = isbn13.slice(3, 12);
  return nine + computeIsbn10CheckDigit(nine);
}
