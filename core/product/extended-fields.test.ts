// The book of fields with those of a market's listings behind them, and values in the words that people have for codes.
import { describe, expect, it } from 'vitest';
import { fieldOf, fields } from '../tests/house-fields';
import { extendFields, getLanguageName, type ProductField, readMarketKey, toMarketKey, toShown, toSpoken } from '.';

const made = (key: string, label: string, rows?: string): ProductField =>
  ({ ...fieldOf('brand'), key, label, rows }) as ProductField;

describe('a book with more fields behind its own', () => {
  const price = made('stall/price', 'Price (Stall)', 'sellable'),
    hue = made('stall/hue', 'Brand');
  const book = extendFields(fields, [price, hue]);
  it('has them after its own, by key and by label', () => {
    expect(book.all.slice(-2)).toEqual([price, hue]);
    expect(book.all.length).toBe(fields.all.length + 2);
    expect([book.get('stall/price'), book.get('brand'), book.get('ghost')]).toEqual([
      price,
      fieldOf('brand'),
      undefined,
    ]);
    expect(book.labelOf('stall/price')).toBe('Price (Stall)');
    expect(book.labelOf('brand')).toBe('Brand');
    expect(book.findNamed(' price (stall) ')).toBe(price);
    expect(book.findNamed('ghost')).toBeUndefined();
  });
  it('keeps a name that a field of its own has', () => {
    expect(book.findNamed('Brand')).toBe(fieldOf('brand'));
  });
  it('knows which of them are of what is sold', () => {
    expect(['stall/price', 'stall/hue', 'price', 'brand'].map(book.isOfSellable)).toEqual([true, false, true, false]);
  });
  it('is the same where there are no more', () => {
    expect(extendFields(fields, [])).toBe(fields);
  });
});

it('names fields of a market by both, and fields of items by theirs', () => {
  expect(toMarketKey('stall', 'title@en')).toBe('stall/title@en');
  expect(readMarketKey('stall/title@en')).toEqual({ market: 'stall', attribute: 'title@en' });
  expect(readMarketKey('/x')).toEqual({ market: '', attribute: 'x' });
  expect(readMarketKey('title')).toBeUndefined();
});

describe('a value in words', () => {
  const hues = { ...fieldOf('brand'), words: { blk: 'Black', blu: 'Blue' } } as ProductField;
  it('has those of its codes; what is none stays as it is', () => {
    expect(toSpoken(hues, 'blk')).toBe('Black');
    expect(toSpoken(hues, ['blu', 'red'])).toEqual(['Blue', 'red']);
    expect(toSpoken(hues, null)).toBeNull();
    expect(toSpoken(undefined, 'blk')).toBe('blk');
    expect(toSpoken(fieldOf('brand'), 'blk')).toBe('blk');
    expect(toShown(hues, ['blu', 'blk'])).toBe('Blue, Black');
    expect(toShown(undefined, 'x')).toBe('x');
  });
});

it('a language that nobody knows has its tag for a name', () => {
  expect([getLanguageName('de'), getLanguageName('x_y')]).toEqual(['German', 'x_y']);
});
