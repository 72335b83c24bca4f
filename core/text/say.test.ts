import { afterEach, describe, expect, it } from 'vitest';
import { digits, plural, say, sayWord, speakTo, term, type Tongue, tongueSchema, wordFor } from '.';

const speak = (document: Partial<Tongue>): void => {
  const tongue = tongueSchema.parse({ language: 'sv', name: 'Svenska', says: {}, ...document });
  speakTo(() => tongue);
};
afterEach(() => {
  speakTo(() => undefined);
});

describe('a sentence', () => {
  it('is the English one, with its facts, until a language is spoken', () => {
    expect(say`${3} of ${'7'} written`).toBe('3 of 7 written');
    expect(say`a\nb`).toBe('a\nb');
    expect(sayWord(term`up`)).toBe('up');
  });
  it('has its facts where the language puts them, also twice or not at all', () => {
    speak({ says: { '{1} of {2} written': 'av {2} är {1} skrivna ({2})', 'Row {1}': 'Rad' } });
    expect(say`${3} of ${7} written`).toBe('av 7 är 3 skrivna (7)');
    expect(say`Row ${9}`).toBe('Rad');
  });
  it('keeps the spaces around it, and is found without them', () => {
    speak({ says: { and: 'och', ', in {1}': ', i {1}' } });
    expect(['a', 'b'].join(say` and `)).toBe('a och b');
    expect(say`, in ${'x'}`).toBe(', i x');
  });
  it('takes facts as they are, whatever signs they hold', () => {
    speak({ says: { 'SKU {1} is taken': '$& {1} $1' } });
    expect(say`SKU ${'$& {2} {1}'} is taken`).toBe('$& $& {2} {1} $1');
  });
  it('is said in English where the language lacks it, and by no name that every object has', () => {
    speak({ says: { Home: 'Hem' } });
    expect(say`Gather`).toBe('Gather');
    expect(sayWord('constructor')).toBe('constructor');
    expect(say`toString`).toBe('toString');
    expect(plural(2, 'constructor', 'x')).toBe('2 x');
  });
});

describe('a number', () => {
  it('is written as people of the language write it', () => {
    expect(digits(12345)).toBe('12,345');
    speak({ language: 'de' });
    expect(digits(12345)).toBe('12.345');
  });
  // Forms from the plural rules of Unicode CLDR for Arabic: 0 zero, 1 one, 2 two, 3 few, 11 many, 100 other.
  it.each([
    [0, 'zero'],
    [1, 'one'],
    [2, 'two'],
    [3, 'few'],
    [11, 'many'],
    [100, 'other'],
  ])('goes with the form of a word that the language has for it: %i', (n, form) => {
    const of = (f: string): string => `${f} rows`;
    const forms = {
      zero: of('zero'),
      one: of('one'),
      two: of('two'),
      few: of('few'),
      many: of('many'),
      other: of('other'),
    };
    speak({ language: 'ar', says: { 'row|rows': forms } });
    expect(wordFor(n, 'row', 'rows')).toBe(`${form} rows`);
  });
  it('goes with the last form where the language gives fewer, or one for all', () => {
    speak({ language: 'ar', says: { 'row|rows': { other: 'صف' }, 'item|items': '個' } });
    expect(wordFor(3, 'row', 'rows')).toBe('صف');
    expect(wordFor(1, 'item', 'items')).toBe('個');
    expect(wordFor(1, 'cell', 'cells')).toBe('cell');
  });
});

describe('the file of a language', () => {
  it.each([
    ['without a tag', { name: 'X', says: {} }],
    ['of a tag that is none', { language: '../x', name: 'X', says: {} }],
    ['with forms that lack the last', { language: 'sv', name: 'X', says: { 'a|b': { one: 'a' } } }],
    ['with something else in it', { language: 'sv', name: 'X', says: {}, words: {} }],
  ])('%s is refused', (_, document) => {
    expect(tongueSchema.safeParse(document).success).toBe(false);
  });
});
