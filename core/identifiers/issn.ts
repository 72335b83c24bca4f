// ISSN and its barcode. Source: ISO 3297 (weights 8..1, modulo 11, X = 10); barcode: 977,
// the seven digits, two digits of variant, GS1 check digit.
import { computeGs1CheckDigit, hasValidGs1CheckDigit } from './gtin';
import { computeModulo11 } from './modulo-11';

export type IssnReading =
  | { ok: true; issn: string }
  | { ok: false; reason: 'not-an-issn'; text: string }
  | { ok: false; reason: 'wrong-check-digit'; text: string; proposal: string };

/** Check character of the first seven digits of an ISSN. */
export const computeIssnCheckDigit = (seven: string): string => computeModulo11(seven);

/** Reads an ISSN; the result is written 1234-567X. */
export function parseIssn(text: string): IssnReading {
  const t = text.trim().replace(/[\s-]/g, '').toUpperCase();
  if (!/^\d{7}[\dX]$/.test(t)) return { ok: false, reason: 'not-an-issn', text };
  const seven = t.slice(0, 7),
    right = computeIssnCheckDigit(seven);
  const written = `${t.slice(0, 4)}-${t.slice(4, 7)}`;
  return t[7] === right
    ? { ok: true, issn: written + right }
    : { ok: false, reason: 'wrong-check-digit', text, proposal: written + right };
}

/** Barcode (13 digits) of a valid ISSN and a variant of two digits. */
export function toIssnBarcode(issn: string, variant = '00'): string {
  const body = `977${issn.replace('-', '').slice(0, 7)}${variant}`;
  return body + computeGs1CheckDigit(body);
}

/** ISSN of a 977 barcode, or undefined where it is none. */
export function fromIssnBarcode(barcode: string): string | undefined {
  if (!/^977\d{10}$/.test(barcode) || !hasValidGs1CheckDigit(barcode)) return undefined;
  const seven = barcode.slice(3, 10);
  return `${seven.slice(0, 4)}-${seven.slice(4)}${computeIssnCheckDigit(seven)}`;
}
