// Words of other people's files by what markets call things. Common practice, no source; the words are everyday ones.
import { describe, expect, it } from 'vitest';
import { type CodeEntry, createReader } from '.';

const entries: CodeEntry[] = [
  { code: 'F02', label: 'White', labels: { de: 'weiß', sv: 'vit', en: 'White' }, also: [] },
  { code: 'F03', label: 'Blue', labels: { de: 'blau', en: 'Blue' }, also: ['navy blue', 'blu'] },
  { code: 'F04', label: 'Red', labels: { de: 'rot', en: 'Red' }, also: ['röd'] },
  { code: 'F05', label: 'grau', labels: { sv: 'grå' }, also: [] },
  { code: 'F06', label: 'Rose', labels: { de: 'rosa', en: 'Rose' }, also: ['blush'] },
  { code: 'F07', label: 'Pink', labels: { de: 'rosa', en: 'Pink' }, also: [] },
];
const read = (names: string[], language = 'de') => createReader(entries, names, language);

describe('a word of a market', () => {
  it.each([
    ['weiss', 'White'],
    ['WEISS', 'White'],
    ['weiß', 'White'],
    ['Vit', 'White'],
    ['blau', 'Navy Blue'],
    ['blu', 'Navy Blue'],
    ['rod', 'Red'],
  ])('“%s” is our %s', (word, ours) => {
    expect(read(['Navy Blue', 'Blue', 'white'])(word)).toBe(ours === 'White' ? 'white' : ours);
  });
  it('is what the entry is called in the language of the house where nothing of ours is, and no more', () => {
    expect(read([])('rot')).toBe('Red');
    expect(read(['Cherry'])('rot')).toBe('Red');
    expect(read([])('grau')).toBeUndefined();
    // The labels of a market that speaks the language of the house are in it.
    expect(read([], 'en')('grå')).toBe('grau');
  });
  it('is none that stands for two things, or that no entry has', () => {
    expect([read([])('rosa'), read(['Rosa'])('rosa'), read([])('grün'), read([])('')]).toEqual(
      Array(4).fill(undefined),
    );
    expect(read([])('blush')).toBe('Rose');
  });
});
