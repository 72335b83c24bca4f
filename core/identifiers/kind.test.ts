// Kinds of numbers by their form; the numbers are worked examples of the ISBN Users' Manual, of ISSN.org and of the GS1
// General Specifications (952 is GS1's prefix for demonstrations).
import { describe, expect, it } from 'vitest';
import { classifyGtin, computeGs1CheckDigit, detectIdentifierKind, hasValidGs1CheckDigit } from '.';

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
