// What an entry of a market says, against what we say of our item.
import { describe, expect, it } from 'vitest';
import type { Rulebook } from '../rulebook/schema';
import { findContradictions } from './entry';

const book = {
  attributes: (
    [
      ['title', 'text'],
      ['barcode', 'identifier'],
      ['pieces', 'integer'],
      ['rating', 'decimal'],
      ['width', 'measure'],
      ['hues', 'several-of'],
      ['oven', 'yes-no'],
    ] as const
  ).map(([key, type]) => ({ key, type })),
} as unknown as Rulebook;
const contradicts = (field: string, theirs: string | string[], ours: string | string[]): boolean =>
  findContradictions(book, { [field]: theirs }, { [field]: ours }).length > 0;

describe('an entry contradicts what we say', () => {
  it.each([
    ['title', 'Pan', 'Pan', false],
    // Case and width say nothing else; another word does.
    ['title', 'FRYING Ｐan', 'Frying pan', false],
    ['title', 'Frying pan', 'Frying pot', true],
    // GTIN-12 with a zero before it is the same GTIN-13 (GS1 General Specifications, 3.3.2).
    ['barcode', '036000291452', '0036000291452', false],
    ['barcode', '036000291452', '0036000291469', true],
    ['pieces', '6', '6.0', false],
    ['pieces', '6', '7', true],
    ['pieces', 'six', '6', true],
    ['pieces', '6', 'six', true],
    ['rating', '4.50', '4.5', false],
    ['rating', '4.5', '4.6', true],
    // One inch is 25.4 mm exactly (international yard and pound agreement of 1959).
    ['width', '1 in', '2.54 cm', false],
    ['width', '24 cm', '240 mm', false],
    ['width', '24 cm', '250 mm', true],
    ['width', '24', '24 cm', true],
    ['width', '24 cm', '24', true],
    ['width', '24 cm', '24 kg', true],
    // Numbers are compared as such only where the field is of numbers.
    ['title', '4.50', '4.5', true],
    ['oven', 'yes', 'no', true],
    ['hues', ['Black', 'Blue'], ['black', 'BLUE'], false],
    ['hues', ['Black', 'Blue'], ['Black'], true],
  ])('%s: %j, %j: %s', (field, theirs, ours, is) => {
    expect(contradicts(field, theirs, ours)).toBe(is);
  });
  it('by nothing that we do not say, or that the rulebook does not know', () => {
    expect(
      findContradictions(
        book,
        { title: 'Pan', pieces: '6', strange: 'x', oven: 'yes', width: '3 cm' },
        { title: '', strange: 'y', oven: 'no', width: '4 cm' },
      ),
    ).toEqual(['oven', 'width']);
  });
});
