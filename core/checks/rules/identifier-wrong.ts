import { detectIdentifierKind, fromIssnBarcode, isCaseCode, parseGtin, parseIsbn, parseIssn } from '../../identifiers';
import type { IdentifierKind } from '../../identifiers';
import { defineCheck } from '../define-check';
import type { Finding } from '../finding';

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
    checkDigit: '{{kind}} {{value}} has a wrong check digit; {{proposal}} would be right.',
    length: '{{field}} {{value}} has {{length}} digits; a GTIN has 8, 12, 13 or 14.',
    notNumber: '{{field}} holds “{{value}}”, which is not a barcode number; a part number belongs in its own field.',
    damaged: '{{field}} holds “{{value}}”: a spreadsheet has cut the number short; take it again from its source.',
    zeros: '{{field}} is all zeros; clear it or give the real number.',
    restricted: '{{value}} is a number for use inside a shop only; {{market}} needs one that is valid everywhere.',
    coupon: '{{value}} is a coupon number, not an item.',
    caseCode: '{{value}} names a case, not the item in it; give the number of one piece.',
    kindNotTaken: '{{value}} is a number of kind {{kind}}; {{market}} takes {{kinds}} here.',
  },
  prepare(category, say) {
    const fields = category.attributes.flatMap((a) =>
      a.attribute.kinds && a.strongest !== 'unused'
        ? [
            {
              key: a.attribute.key,
              kinds: a.attribute.kinds as readonly IdentifierKind[],
              takes13: a.attribute.kinds.includes('gtin-13'),
            },
          ]
        : [],
    );
    if (fields.length === 0) return undefined;
    const fill = (field: string) => [{ kind: 'fill' as const, field }];
    const judge = (out: Finding[], key: string, kinds: readonly IdentifierKind[], value: string) => {
      if (/^\d+([.,]\d+)?E\+?\d+$/i.test(value)) return say(out, 'damaged', key, value, {}, fill(key));
      const isIsbnField = kinds.every((k) => k.startsWith('isbn'));
      if (kinds.every((k) => k === 'issn') || /^\d{4}-\d{3}[\dXx]$/.test(value)) {
        const issn = parseIssn(fromIssnBarcode(value) ?? value);
        if (!issn.ok)
          return issn.reason === 'wrong-check-digit'
            ? say(out, 'checkDigit', key, value, { kind: 'ISSN', proposal: issn.proposal }, [
                { kind: 'set', field: key, value: issn.proposal, safe: false },
              ])
            : say(out, 'notNumber', key, value, {}, fill(key));
      } else if (isIsbnField || /^\d{9}[\dXx]$/.test(value.replace(/-/g, ''))) {
        const isbn = parseIsbn(value);
        if (!isbn.ok)
          return isbn.reason === 'wrong-check-digit'
            ? say(out, 'checkDigit', key, value, { kind: 'ISBN', proposal: isbn.proposal }, [
                { kind: 'set', field: key, value: isbn.proposal, safe: false },
              ])
            : say(out, 'notNumber', key, value, {}, fill(key));
      } else {
        const gtin = parseGtin(value);
        if (!gtin.ok) {
          switch (gtin.reason) {
            case 'wrong-check-digit':
              return say(out, 'checkDigit', key, value, { kind: 'GTIN', proposal: gtin.proposal }, [
                { kind: 'set', field: key, value: gtin.proposal, safe: false },
              ]);
            case 'all-zeros':
              return say(out, 'zeros', key, value, {}, [{ kind: 'clear', field: key, safe: true }]);
            case 'wrong-length':
              return restoreZeros(value)
                ? say(out, 'length', key, value, { length: value.length }, [
                    { kind: 'set', field: key, value: restoreZeros(value)!, safe: true },
                  ])
                : say(out, 'length', key, value, { length: value.length }, fill(key));
            case 'not-digits':
              return say(out, 'notNumber', key, value, {}, fill(key));
          }
        }
        if (gtin.prefix === 'restricted') return say(out, 'restricted', key, value, {}, fill(key));
        if (gtin.prefix === 'coupon') return say(out, 'coupon', key, value, {}, fill(key));
        if (isCaseCode(gtin.digits)) return say(out, 'caseCode', key, value, {}, fill(key));
      }
      const kind = detectIdentifierKind(value);
      const also = kind === 'isbn-13' ? ['gtin-13'] : [];
      if (kind && ![kind, ...also].some((k) => (kinds as readonly string[]).includes(k)))
        say(
          out,
          'kindNotTaken',
          key,
          value,
          { kind: kind.toUpperCase(), kinds: kinds.map((k) => k.toUpperCase()).join(', ') },
          fill(key),
        );
    };
    return (listing, _, out) => {
      for (const { key, kinds, takes13 } of fields) {
        const value = listing.values[key];
        if (typeof value !== 'string' || value === '') continue;
        // The common good case, 13 plain digits of an ordinary prefix, is settled without building anything.
        if (takes13 && plain.test(value) && value.charCodeAt(0) > 50 && !value.startsWith('9') && isRight(value))
          continue;
        judge(out, key, kinds, value);
      }
    };
  },
});

function isRight(thirteen: string): boolean {
  let sum = 0;
  for (let i = 0; i < 13; i++) sum += (thirteen.charCodeAt(i) - 48) * (i % 2 === 0 ? 1 : 3);
  return sum % 10 === 0;
}

/** Leading zeros that a spreadsheet dropped, put back where the check digit then proves them. */
export function restoreZeros(digits: string): string | undefined {
  if (!/^\d{6,11}$/.test(digits)) return undefined;
  for (const length of [8, 12, 13]) {
    if (digits.length >= length) continue;
    const r = parseGtin(digits.padStart(length, '0'));
    if (r.ok && length - digits.length <= 5 && (length !== 8 || digits.length >= 6)) return r.digits;
  }
  return undefined;
}
