// GTIN arithmetic and classes. Source: GS1 General Specifications, section 7.9 (check digit)
// and the GS1 prefix list. All four lengths are one number space, compared padded to 14.

/** What stands before us when a GTIN was typed: valid, mendable, or not a GTIN at all. */
export type GtinReading =
  | { ok: true; digits: string; padded: string; length: 8 | 12 | 13 | 14; prefix: PrefixClass }
  | { ok: false; reason: 'not-digits' | 'wrong-length' | 'all-zeros'; text: string }
  | { ok: false; reason: 'wrong-check-digit'; text: string; proposal: string };

/** Where a number may circulate; only `item` numbers (and books, periodicals) may go to a market. */
export type PrefixClass = 'item' | 'restricted' | 'coupon' | 'issn' | 'isbn' | 'music' | 'demonstration';

const lengths = new Set([8, 12, 13, 14]);

/** Check digit for a run of digits that lacks it. Weights 3,1,3,1… from the right. */
export function computeGs1CheckDigit(body: string): string {
  let sum = 0;
  for (let i = body.length - 1, weight = 3; i >= 0; i--, weight = 4 - weight) sum += (body.charCodeAt(i) - 48) * weight;
  return String((10 - (sum % 10)) % 10);
}

/** True for digits of a GTIN length whose check digit is right. Allocation-free; for hot paths. */
export function hasValidGs1CheckDigit(digits: string): boolean {
  let sum = 0;
  for (let i = digits.length - 2, weight = 3; i >= 0; i--, weight = 4 - weight) {
    const d = digits.charCodeAt(i) - 48;
    if (d < 0 || d > 9) return false;
    sum += d * weight;
  }
  return (sum + digits.charCodeAt(digits.length - 1) - 48) % 10 === 0;
}

/** Pads digits to the 14 places in which all GTINs are compared. */
export const padGtin = (digits: string): string => digits.padStart(14, '0');

/** Reads a typed GTIN; spaces and hyphens between digits are ignored. */
export function parseGtin(text: string): GtinReading {
  const digits = text.trim().replace(/[\s-]/g, '');
  if (!/^\d+$/.test(digits)) return { ok: false, reason: 'not-digits', text };
  if (/^0+$/.test(digits)) return { ok: false, reason: 'all-zeros', text };
  if (!lengths.has(digits.length)) return { ok: false, reason: 'wrong-length', text };
  if (!hasValidGs1CheckDigit(digits)) {
    const body = digits.slice(0, -1);
    return { ok: false, reason: 'wrong-check-digit', text, proposal: body + computeGs1CheckDigit(body) };
  }
  return {
    ok: true,
    digits,
    padded: padGtin(digits),
    length: digits.length as 8 | 12 | 13 | 14,
    prefix: classifyGtin(digits),
  };
}

/**
 * Class of a number by its GS1 prefix (of the number padded to 13; a GTIN-8 has its own prefixes).
 * Source: GS1 prefix list, from memory: 02, 04, 20-29 restricted circulation; 05, 98-99 coupons;
 * 977 ISSN; 978, 979 ISBN (979-0 printed music); 952 demonstrations.
 */
export function classifyGtin(digits: string): PrefixClass {
  if (digits.length === 8)
    return digits[0] === '0' || digits[0] === '2' ? 'restricted' : digits.startsWith('952') ? 'demonstration' : 'item';
  const thirteen = padGtin(digits).slice(1);
  const two = thirteen.slice(0, 2);
  const three = thirteen.slice(0, 3);
  if (three === '952') return 'demonstration';
  if (three === '977') return 'issn';
  if (thirteen.startsWith('9790')) return 'music';
  if (three === '978' || three === '979') return 'isbn';
  if (two === '02' || two === '04' || two[0] === '2') return 'restricted';
  if (two === '05' || two === '98' || two === '99') return 'coupon';
  return 'item';
}

/** True for a GTIN-14 whose first digit says it names a case, not the item in it. */
export const isCaseCode = (digits: string): boolean => digits.length === 14 && digits[0] !== '0';

/** True if two typed numbers name the same item, however many leading zeros each has. */
export function isSameItem(a: string, b: string): boolean {
  const x = parseGtin(a),
    y = parseGtin(b);
  return x.ok && y.ok && x.padded === y.padded;
}

/** The GTIN in another length, or undefined where digits other than zero would be lost. */
export function convertGtin(digits: string, length: 8 | 12 | 13 | 14): string | undefined {
  const reading = parseGtin(digits);
  if (!reading.ok) return undefined;
  const lost = reading.padded.slice(0, 14 - length);
  return /^0*$/.test(lost) ? reading.padded.slice(14 - length) : undefined;
}
