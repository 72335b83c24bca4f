// Numbers of books and serials in fields that take them, and in fields that do not. ISO 2108 (ISBN), ISO 3297 (ISSN).
import { describe, expect, it } from 'vitest';
import { compileCategory } from '../../rulebook';
import { listing, smallRulebook } from '../../tests/builders';
import { prepareChecks } from '..';
import { restoreZeros } from './identifier-wrong';

const judgeKinds = (kinds: string[], level?: string) => {
  const book = smallRulebook((d) => {
    const { attributes, demands } = d as unknown as {
      attributes: { key: string; kinds?: string[] }[];
      demands: { attribute: string; level: string }[];
    };
    attributes.find((a) => a.key === 'item_number')!.kinds = kinds;
    if (level) demands.find((a) => a.attribute === 'item_number')!.level = level;
  });
  const judge = prepareChecks(compileCategory(book, 'pans')!, (id) => id === 'identifier-wrong');
  return (number: string) =>
    judge(listing({ item_number: number })).map((f) => [
      f.message,
      f.remedies.map((r) => ('value' in r ? r.value : r.kind)),
    ]);
};

describe('the number of a book', () => {
  const books = judgeKinds(['isbn-13', 'isbn-10']),
    goods = judgeKinds(['gtin-13']);
  it('is taken where it is right, with its last digit', () => {
    // The example of ISO 2108: 978-0-306-40615-7, as ten digits 0-306-40615-2.
    expect(books('9780306406157')).toEqual([]);
    expect(books('0306406152')).toEqual([]);
    expect(books('0306406153')).toEqual([['checkDigit', ['0306406152']]]);
    expect(books('not a book')).toEqual([['notNumber', ['fill']]]);
  });
  it('is none of the kinds that a field of goods takes, whatever way it is written', () => {
    // The same number as a barcode is the remedy, and a sure one.
    expect(goods('0-306-40615-2')).toEqual([['kindNotTaken', ['9780306406157']]]);
    expect(goods('080442957X')).toEqual([['kindNotTaken', ['9780804429573']]]);
    expect(goods('0804429571').map(([m]) => m)).toEqual(['checkDigit']);
    // As a barcode of thirteen digits it is one.
    expect(goods('9780306406157')).toEqual([]);
  });
});

describe('the number of a serial', () => {
  const serials = judgeKinds(['issn']),
    goods = judgeKinds(['gtin-13']);
  it('is taken where it is right; its barcode is of another kind', () => {
    // The example of ISO 3297: 0378-5955.
    expect(serials('0378-5955')).toEqual([]);
    expect(serials('9770378595002')).toEqual([['kindNotTaken', ['0378-5955']]]);
    expect(serials('5901234123457')).toEqual([['notNumber', ['fill']]]);
    expect(serials('0378-5954')).toEqual([['checkDigit', ['0378-5955']]]);
    expect(serials('0378')).toEqual([['notNumber', ['fill']]]);
  });
  it('is not taken where goods are meant', () => {
    expect(goods('0378-5955').map(([m]) => m)).toEqual(['kindNotTaken']);
    expect(goods('0378-595X').map(([m]) => m)).toEqual(['checkDigit']);
  });
});

it('zeros that were dropped are put back where the last digit proves it', () => {
  expect(restoreZeros('36000291452')).toBe('036000291452');
  // Nine digits are a number of twelve only with three zeros before it.
  expect(restoreZeros('36000291453')).toBeUndefined();
  expect(restoreZeros('12345')).toBeUndefined();
  expect(restoreZeros('036000291452')).toBeUndefined();
  expect(restoreZeros('3600029145a')).toBeUndefined();
});
