import { describe, expect, it } from 'vitest';
import { dropBroken, takeCharacters } from '.';

describe('characters of a text', () => {
  it.each([
    ['abc', 3, 'abc'],
    ['abc', 2, 'ab'],
    ['abc', 0, ''],
    ['a😀b', 3, 'a😀b'],
    ['a😀b', 2, 'a😀'],
    ['a😀b', 1, 'a'],
    ['😀😀', 1, '😀'],
    // The last character of one unit, and the first of two (Unicode 15, table 3-5).
    ['\uffff\uffffx', 2, '\uffff\uffff'],
    ['\u{10000}\u{10000}x', 1, '\u{10000}'],
  ])('of “%s” the first %d are “%s”', (text, most, taken) => {
    expect(takeCharacters(text, most)).toBe(taken);
  });
  it('that nothing can hold are dropped, and no others', () => {
    expect(dropBroken('a\0b\ud83dc😀\udc00')).toBe('abc😀');
  });
});
