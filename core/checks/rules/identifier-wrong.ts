import {
  detectIdentifierKind,
  fitIdentifier,
  fromIssnBarcode,
  isCaseCode,
  parseGtin,
  parseIsbn,
  parseIssn,
} from '../../identifiers';
import type { IdentifierKind, IsbnReading, IssnReading } from '../../identifiers';
import type { Listing } from '../../listing/values';
import { defineCheck } from '../define-check';
import type { Finding, Remedy } from '../finding';

const plain = /^\d{13}$/;

/** The identifier decides which entry an offer lands on; a wrong one lands on someone else's goods. */
export const identifierWrong = defineCheck({
  id: 'identifier-wrong',
  level: 'blocker',
  docs: {
    title: 'Identifiers are valid',
    why: 'A wrong number is refused, or sells the wrong goods.',
    source: 'GS1 General Specifications section 7.9; GS1 prefix list; ISO 2108; ISO 3297',
  },
  messages: {
    checkDigit: {
      title: '{{field}}: wrong check digit',
      says: '{{kind}} {{value}} has a wrong check digit; {{proposal}} would be right.',
    },
    length: {
      title: '{{field}} has the wrong number of digits',
      says: '{{field}} {{value}} has {{length|digit|digits}}; a GTIN has 8, 12, 13 or 14.',
    },
    notNumber: {
      title: '{{field}} is not a barcode number',
      says: '{{field}} holds “{{value}}”, which is not a barcode number; a part number belongs in its own field.',
    },
    damaged: {
      title: '{{field}} was cut short by a spreadsheet',
      says: '{{field}} holds “{{value}}”: a spreadsheet has cut the number short; take it again from its source.',
    },
    zeros: { title: '{{field}} is all zeros', says: '{{field}} is all zeros; clear it or give the real number.' },
    restricted: {
      title: '{{field}} is for use inside a shop only',
      says: '{{value}} is a number for use inside a shop only; {{market}} needs one that is valid everywhere.',
    },
    coupon: { title: '{{field}} is a coupon number', says: '{{value}} is a coupon number, not an item.' },
    caseCode: {
      title: '{{field}} names a case of items',
      says: '{{value}} names a case, not the item in it; give the number of one piece.',
    },
    kindNotTaken: {
      title: '{{field}} is of a kind that is not taken',
      says: '{{value}} is a number of kind {{kind}}; {{market}} takes {{kinds:list}} here.',
    },
  },
  prepareCells(_, say) {
    return ({ attribute, strongest, levelFor }) => {
      const { key } = attribute;
      if (!attribute.kinds || strongest === 'unused') return undefined;
      const kinds: readonly IdentifierKind[] = attribute.kinds;
      const isIssnField = kinds.every((k) => k === 'issn'),
        isIsbnField = kinds.every((k) => k.startsWith('isbn')),
        takesGtin13 = kinds.includes('gtin-13');
      const fill: Remedy[] = [{ kind: 'fill', field: key }];
      const set = (value: string, safe: boolean): Remedy[] => [{ kind: 'set', field: key, value, safe }];
      const sayCheckDigit = (out: Finding[], kind: string, value: string, proposal: string): void => {
        say(out, 'checkDigit', key, value, { kind, proposal }, set(proposal, false));
      };
      const judgeBook = (reading: IsbnReading | IssnReading, kind: string, value: string, out: Finding[]): void => {
        if (reading.ok) sayKindNotTaken(value, out);
        else if (reading.reason === 'wrong-check-digit') sayCheckDigit(out, kind, value, reading.proposal);
        else say(out, 'notNumber', key, value, {}, fill);
      };
      const judgeGtin = (value: string, listing: Listing, out: Finding[]): void => {
        const gtin = parseGtin(value);
        if (!gtin.ok) {
          switch (gtin.reason) {
            case 'wrong-check-digit':
              return sayCheckDigit(out, 'GTIN', value, gtin.proposal);
            case 'all-zeros':
              // Where the market demands a number, taking this one away mends nothing.
              return say(
                out,
                'zeros',
                key,
                value,
                {},
                levelFor(listing.values, listing.role) === 'must' ? fill : [{ kind: 'clear', field: key, safe: true }],
              );
            case 'wrong-length': {
              const restored = restoreZeros(value);
              return say(out, 'length', key, value, { length: value.length }, restored ? set(restored, true) : fill);
            }
            case 'not-digits':
              return say(out, 'notNumber', key, value, {}, fill);
          }
        }
        if (gtin.prefix === 'restricted') say(out, 'restricted', key, value, {}, fill);
        else if (gtin.prefix === 'coupon') say(out, 'coupon', key, value, {}, fill);
        else if (isCaseCode(gtin.digits)) say(out, 'caseCode', key, value, {}, fill);
        else sayKindNotTaken(value, out);
      };
      const sayKindNotTaken = (value: string, out: Finding[]): void => {
        const kind = detectIdentifierKind(value);
        if (!kind || kinds.includes(kind) || (kind === 'isbn-13' && takesGtin13)) return;
        const taken = kinds.map((k) => k.toUpperCase()),
          // The same number of a kind that is taken, such as the ISSN of a barcode.
          fitted = fitIdentifier(value, kinds);
        say(
          out,
          'kindNotTaken',
          key,
          value,
          { kind: kind.toUpperCase(), kinds: taken },
          fitted === undefined || fitted === value ? fill : set(fitted, true),
        );
      };
      return (value, listing, out) => {
        if (typeof value !== 'string' || (takesGtin13 && isOrdinaryGtin13(value))) return;
        if (/^\d+([.,]\d+)?E\+?\d+$/i.test(value)) say(out, 'damaged', key, value, {}, fill);
        else if (isIssnField || /^\d{4}-\d{3}[\dXx]$/.test(value))
          judgeBook(parseIssn(fromIssnBarcode(value) ?? value), 'ISSN', value, out);
        else if (isIsbnField || /^\d{9}[\dXx]$/.test(value.replace(/-/g, '')))
          judgeBook(parseIsbn(value), 'ISBN', value, out);
        else judgeGtin(value, listing, out);
      };
    };
  },
});

/** The common good case, 13 plain digits of an ordinary prefix (3 to 8, 90 to 96), settled without building anything. */
function isOrdinaryGtin13(text: string): boolean {
  if (!plain.test(text)) return false;
  const first = text.charCodeAt(0) - 48,
    second = text.charCodeAt(1) - 48;
  if (first < 3 || (first === 9 && second > 6)) return false;
  let sum = 0;
  for (let i = 0; i < 13; i++) sum += (text.charCodeAt(i) - 48) * (i % 2 === 0 ? 1 : 3);
  return sum % 10 === 0;
}

/** Leading zeros that a spreadsheet dropped, put back where the check digit then proves them. */
export function restoreZeros(digits: string): string | undefined {
  if (!/^\d{6,11}$/.test(digits)) return undefined;
  for (const length of [8, 12, 13]) {
    if (digits.length >= length) continue;
    const r = parseGtin(digits.padStart(length, '0'));
    if (r.ok && length - digits.length <= 5) return r.digits;
  }
  return undefined;
}
