import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { findDifference, type Piece } from './find-difference';

const read = (pieces: readonly Piece[], side: 'gone' | 'new') =>
  pieces
    .filter((p) => p.is === side || p.is === 'same')
    .map((p) => p.text)
    .join('');

describe('a difference', () => {
  it('shows only the words that changed, with some of what stands beside them', () => {
    const long = 'A pan for daily frying with a flat base and sloping sides that pours well on both sides';
    const pieces = findDifference(`${long}, 24 cm wide.`, `${long}, 28 cm wide.`);
    expect(pieces.filter((p) => p.is === 'gone').map((p) => p.text)).toEqual(['24']);
    expect(pieces.filter((p) => p.is === 'new').map((p) => p.text)).toEqual(['28']);
    expect(pieces[0]).toEqual({ text: ' … ', is: 'left out' });
    expect(read(pieces, 'new')).toContain('both sides, 28 cm wide.');
  });
  it('is both whole where they have little in common', () => {
    expect(findDifference('34.99', '36.99')).toEqual([
      { text: '34.99', is: 'gone' },
      { text: '36.99', is: 'new' },
    ]);
    expect(findDifference('Castiron pan', 'Glass bowl, blue')).toHaveLength(2);
  });
  it('goes entry by entry through a list', () => {
    expect(findDifference(['Even base', 'Riveted'], ['Even base', 'Checked by hand', 'Riveted'])).toEqual([
      { text: 'Even base', is: 'same' },
      { text: 'Checked by hand', is: 'new' },
      { text: 'Riveted', is: 'same' },
    ]);
  });
  it('of something with nothing is one piece', () => {
    expect(findDifference(null, 'blk')).toEqual([{ text: 'blk', is: 'new' }]);
    expect(findDifference(['a', 'b'], null)).toEqual([{ text: 'a | b', is: 'gone' }]);
  });
  it('never loses a word of a short text: both sides can be read back from it (property)', () => {
    const word = fc.constantFrom('pan', 'iron', '28', 'cm', 'deep');
    const text = fc.array(word, { minLength: 1, maxLength: 5 }).map((w) => w.join(' '));
    fc.assert(
      fc.property(text, text, (a, b) => {
        const pieces = findDifference(a, b);
        if (pieces.some((p) => p.is === 'left out')) return;
        expect(read(pieces, 'gone')).toBe(a);
        expect(read(pieces, 'new')).toBe(b);
      }),
    );
  });
});
