// Kinds of numbers by their form; the numbers are worked examples of the ISBN Users' Manual, of ISSN.org and of the GS1
// General Specifications (952 is GS1's prefix for demonstrations).
import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import {
  classifyGtin,
  computeGs1CheckDigit,
  detectIdentifierKind,
  fitIdentifier,
  hasValidGs1CheckDigit,
  type IdentifierKind,
  identifierKinds,
  isSameItem,
  parseIsbn,
} from '.';

describe('the kind of a number', () => {
  it.each([
    ['0-306-40615-2', 'isbn-10'],
    ['0306406152', 'isbn-10'],
    ['080442957X', 'isbn-10'],
    ['978-0-306-40615-7', 'isbn-13'],
    ['9780306406157', 'isbn-13'],
    ['0317-8471', 'issn'],
    [' 0317-8471 ', 'issn'],
    ['2434-561X', 'issn'],
    ['2434-561x', 'issn'],
    ['96385074', 'gtin-8'],
    ['036000291452', 'gtin-12'],
    ['9521234567899', 'gtin-13'],
    ['19521234567896', 'gtin-14'],
    ['0317-8472', undefined],
    ['12345', undefined],
    ['', undefined],
  ])('“%s” is %s', (text, kind) => {
    expect(detectIdentifierKind(text)).toBe(kind);
  });
});

describe('the prefix of a GTIN', () => {
  const of = (start: string) => {
    const body = start.padEnd(12, '1');
    return classifyGtin(body + computeGs1CheckDigit(body));
  };
  it.each([
    ['00', 'item'],
    ['01', 'item'],
    ['02', 'restricted'],
    ['03', 'item'],
    ['04', 'restricted'],
    ['05', 'coupon'],
    ['06', 'item'],
    ['19', 'item'],
    ['20', 'restricted'],
    ['29', 'restricted'],
    ['30', 'item'],
    ['951', 'item'],
    ['952', 'demonstration'],
    ['953', 'item'],
    ['976', 'item'],
    ['977', 'issn'],
    ['978', 'isbn'],
    ['9791', 'isbn'],
    ['9790', 'music'],
    ['98', 'coupon'],
    ['99', 'coupon'],
  ])('%s says %s', (start, kind) => {
    expect(of(start)).toBe(kind);
  });
});

it.each([
  ['9521234567899', true],
  ['9521234567898', false],
  // The signs before 0 and behind 9, with a weight that would make the sum right.
  ['952123456789:', false],
  [':521234567899', false],
  ['/521234567899', false],
])('the check digit of %s: %s', (digits, isRight) => {
  expect(hasValidGs1CheckDigit(digits)).toBe(isRight);
});

describe('a number as a kind that a field takes', () => {
  it.each<[string, string, IdentifierKind[], string | undefined]>([
    ['an ISBN of ten places', '0-306-40615-2', ['isbn-13'], '9780306406157'],
    ['an ISBN of ten places as a barcode', '080442957X', ['gtin-13'], '9780804429573'],
    ['an ISBN of thirteen places', '978-0-306-40615-7', ['isbn-10'], '0306406152'],
    ['one that has no ten places', '9791090636071', ['isbn-10'], undefined],
    ['twelve digits as thirteen', '036000291452', ['gtin-8', 'gtin-13'], '0036000291452'],
    ['thirteen digits as twelve', '0036000291452', ['gtin-12'], '036000291452'],
    ['thirteen digits that are no twelve', '9521234567899', ['gtin-12'], undefined],
    ['thirteen digits as fourteen', '9521234567899', ['gtin-14'], '09521234567899'],
    ['eight digits as fourteen', '96385074', ['gtin-13', 'gtin-14'], '00000096385074'],
    ['eight digits, which are not thirteen', '96385074', ['gtin-12', 'gtin-13'], undefined],
    ['a magazine, which has many barcodes', '0317-8471', ['gtin-13'], undefined],
    ['what is taken as it is', '978-0-306-40615-7', ['isbn-13'], undefined],
    ['what is no number', '036000291453', ['gtin-13'], undefined],
  ])('%s', (_, text, kinds, fit) => {
    expect(fitIdentifier(text, kinds)).toBe(fit);
  });
  it('is of that kind and names the same item, or is left as it is', () => {
    const number = fc.tuple(fc.constantFrom(7, 11, 12, 13), fc.nat(999_999_999), fc.nat(9999)).map(([places, a, b]) => {
      const body = `${a}${b}`.padStart(places, '0').slice(-places);
      return body + computeGs1CheckDigit(body);
    });
    fc.assert(
      fc.property(number, fc.subarray([...identifierKinds], { minLength: 1 }), (text, kinds) => {
        const fit = fitIdentifier(text, kinds);
        if (fit === undefined) return;
        const kind = detectIdentifierKind(fit)!;
        expect(kinds.includes(kind) || (kind === 'isbn-13' && kinds.includes('gtin-13'))).toBe(true);
        const isbn = parseIsbn(text);
        if (isbn.ok) expect(parseIsbn(fit)).toMatchObject({ isbn13: isbn.isbn13 });
        else expect(isSameItem(fit, text)).toBe(true);
      }),
    );
  });
});
