import { parseRulebook } from '@basileus/core/rulebook';
import { lumbaraDocument } from '@basileus/rulebooks/lumbara';
import { wadilineDocument } from '@basileus/rulebooks/wadiline';
import { describe, expect, it } from 'vitest';
import { listLimits } from './limits';

const read = (document: unknown) => {
  const reading = parseRulebook(document);
  if (!reading.ok) throw new Error('The rulebook is not valid.');
  return reading.rulebook;
};

describe('the limits of an attribute', () => {
  it.each([
    [
      lumbaraDocument,
      'na',
      [
        'at least 6 characters',
        'at most 56 bytes in Shift_JIS',
        'in Japanese letters (Latin among them)',
        'kana and spaces in full width, letters, digits and signs in half width',
        'once for a family',
      ],
    ],
    [lumbaraDocument, 'ne', ['from 1', 'to 9999999', 'of what is bought']],
    [wadilineDocument, 'price', ['from 0.050', 'to 9999.000', 'in steps of 0.005', 'of what is bought']],
    [
      wadilineDocument,
      'point@ar',
      ['at most 140 characters', 'in Arabic letters (Latin among them)', 'at least 2 entries', 'at most 6 entries'],
    ],
  ])('of %# are said', (document, key, limits) => {
    const book = read(document);
    expect(
      listLimits(
        book.attributes.find((a) => a.key === key)!,
        book.market.languages[0]!,
      ),
    ).toEqual(limits);
  });
});
