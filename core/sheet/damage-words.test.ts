// What was done to the numbers of a file by programs that opened it, told in words, and numbers found again. From practice:
// fifteen digits are kept (IEEE 754 binary64 as spreadsheets show it), zeros at the beginning are dropped.
import { describe, expect, it } from 'vitest';
import { type Damage, findIdentifierDamage, findScientificOriginal, wordDamage } from './damage';

describe('a number with an E', () => {
  const find = (text: string, known: string, ...held: string[]) => findScientificOriginal({ text, known }, held);
  it('is found where one number that is held begins so and has as many digits', () => {
    expect(find('5.90123E+12', '590123', '5901234123457', '5901')).toBe('5901234123457');
    expect(find('5.90123E12', '590123', '5901234123457')).toBe('5901234123457');
    // Rounded up at its last digit, or cut there.
    expect(find('5.90124E+12', '590124', '5901235123457')).toBe('5901235123457');
    expect(find('5.90123E+12', '590123', '5901239123457')).toBe('5901239123457');
    expect(find('5.90123E+12', '590123', '5901225123457')).toBe('5901225123457');
    expect(find('5.90123E+12', '590123', '5901224123457')).toBeUndefined();
  });
  it('is not found where two begin so, or the digits are more or fewer', () => {
    expect(find('5.90123E+12', '590123', '5901234123457', '5901231123457')).toBeUndefined();
    expect(find('5.90123E+12', '590123', '590123412345')).toBeUndefined();
    expect(find('5.90123E+12', '590123', '59012341234570')).toBeUndefined();
    expect(find('5.90123', '590123', '5901234123457')).toBeUndefined();
    // Zeros before it are none of its digits.
    expect(find('5.90123E+11', '590123', '0590123412345')).toBe('0590123412345');
    // A number of just so many digits has nothing behind them to be rounded by.
    expect(find('5.90123E+5', '590123', '590123')).toBe('590123');
  });
});

describe('a number that lost digits', () => {
  it.each([
    ['1234567890123450', 'digits-lost'],
    ['123456789012300000', 'digits-lost'],
    ['12345678901000', 'digits-lost'],
    // Fourteen digits that end in zeros and are a GTIN (GS1 General Specifications, 7.9).
    ['10614141000002', undefined],
    ['12345678901200', undefined],
    ['5901234123457', undefined],
    ['5901234123457.0', 'decimal-tail'],
    ['5901234123457,00', 'decimal-tail'],
    ['36000291452', 'lost-zeros'],
    ['5.90123E+12', 'scientific'],
  ])('%s: %s', (text, kind) => {
    expect(findIdentifierDamage(text)?.kind).toBe(kind);
  });
});

it.each<[Damage, string]>([
  [
    { kind: 'scientific', text: '5.9E+12', known: '59' },
    'Barcode “5.9E+12”: a spreadsheet kept only the first 2 digits; the rest is gone from this file.',
  ],
  [
    { kind: 'lost-zeros', text: '36000291452', mended: '036000291452' },
    'Barcode “36000291452” has lost leading zeros; 036000291452 is proven by its check digit.',
  ],
  [
    { kind: 'digits-lost', text: '1234567890123450' },
    'Barcode “1234567890123450”: a spreadsheet keeps fifteen digits and fills up with zeros; take the number again from its source.',
  ],
  [
    { kind: 'date-like', text: '3/4' },
    'Barcode “3/4” looks like a size or code that a spreadsheet turned into a date.',
  ],
  [{ kind: 'decimal-tail', text: '12.0', mended: '12' }, 'Barcode “12.0” became a decimal number; 12 was meant.'],
  [
    { kind: 'mojibake', text: 'cafÃ©', mended: 'café' },
    'Barcode “cafÃ©” was read in the wrong encoding; “café” was meant.',
  ],
  [
    { kind: 'day-number', text: '45000', mended: '2023-03-15' },
    'Barcode “45000” is a day as spreadsheets count them; 2023-03-15 was meant.',
  ],
])('%j', (damage, says) => {
  expect(wordDamage(damage, 'Barcode')).toBe(says);
});
