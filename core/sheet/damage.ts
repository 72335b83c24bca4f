// What spreadsheet programs do to identifiers on the way, recognised and mended where it can be proven.
import { parseGtin } from '../identifiers';
import { restoreZeros } from '../checks/rules/identifier-wrong';
import { repairMojibake } from './encoding';

export type Damage =
  | { kind: 'scientific'; text: string; known: string }
  | { kind: 'lost-zeros'; text: string; mended: string }
  | { kind: 'digits-lost'; text: string }
  | { kind: 'date-like'; text: string }
  | { kind: 'decimal-tail'; text: string; mended: string }
  | { kind: 'mojibake'; text: string; mended: string };

const scientific = /^(\d)(?:[.,](\d+))?E\+?(\d{1,2})$/i;
const dateLike =
  /^(?:\d{1,2}[.\-/ ]{1,2}(?:jan|feb|mar|mär|mrz|apr|may|mai|jun|jul|aug|sep|oct|okt|nov|dec|dez)[a-zäé]*\.?(?:[.\-/ ]\d{2,4})?|(?:jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)[a-z]*[-/ ]\d{1,4}|\d{4}-\d{2}-\d{2} 00:00)$/i;

/** Damage in a cell that should hold a barcode. The mended number is proven by its check digit. */
export function findIdentifierDamage(cell: string): Damage | undefined {
  const text = cell.trim();
  const s = scientific.exec(text);
  if (s) return { kind: 'scientific', text, known: s[1]! + (s[2] ?? '') };
  if (/^\d+[.,]0+$/.test(text)) return { kind: 'decimal-tail', text, mended: text.replace(/[.,]0+$/, '') };
  if (/^\d{16,}$/.test(text) || (/^\d{14,}$/.test(text) && /0{3,}$/.test(text) && !parseGtin(text).ok))
    return { kind: 'digits-lost', text };
  const mended = restoreZeros(text);
  if (mended && !parseGtin(text).ok) return { kind: 'lost-zeros', text, mended };
  return undefined;
}

/** Damage in a cell of plain text: a size or code that became a date, or letters read in the wrong encoding. */
export function findTextDamage(cell: string): Damage | undefined {
  const mended = repairMojibake(cell);
  if (mended !== undefined && mended !== cell) return { kind: 'mojibake', text: cell, mended };
  return dateLike.test(cell.trim()) ? { kind: 'date-like', text: cell } : undefined;
}

/**
 * The whole number behind 5.90123E+12, found again among numbers we already hold: exactly one must begin with the
 * digits that are left (the last of them may have been rounded up).
 */
export function findScientificOriginal(
  damage: { known: string; text: string },
  candidates: readonly string[],
): string | undefined {
  const exponent = Number(/E\+?(\d+)$/i.exec(damage.text)?.[1] ?? 0);
  const hits = candidates.filter((c) => {
    const digits = c.replace(/^0+/, '');
    if (digits.length !== exponent + 1) return false;
    const shown = digits.slice(0, damage.known.length);
    const roundedUp = Number(digits[damage.known.length] ?? '0') >= 5;
    return (roundedUp ? String(Number(shown) + 1) : shown) === damage.known || shown === damage.known;
  });
  return hits.length === 1 ? hits[0] : undefined;
}

/** The sentence of a damage, naming the value and what was or must be done. */
export function wordDamage(d: Damage, field: string): string {
  switch (d.kind) {
    case 'scientific':
      return `${field} “${d.text}”: a spreadsheet kept only the first ${d.known.length} digits; the rest is gone from this file.`;
    case 'lost-zeros':
      return `${field} “${d.text}” has lost leading zeros; ${d.mended} is proven by its check digit.`;
    case 'digits-lost':
      return `${field} “${d.text}”: a spreadsheet keeps fifteen digits and fills up with zeros; take the number again from its source.`;
    case 'date-like':
      return `${field} “${d.text}” looks like a size or code that a spreadsheet turned into a date.`;
    case 'decimal-tail':
      return `${field} “${d.text}” became a decimal number; ${d.mended} was meant.`;
    case 'mojibake':
      return `${field} “${d.text}” was read in the wrong encoding; “${d.mended}” was meant.`;
  }
}
