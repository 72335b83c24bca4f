import { describe, expect, it } from 'vitest';
import { isFilled, isSameValue, toItems, toText } from '.';

describe('a value', () => {
  it('as one text: nothing, a text, or entries divided', () => {
    expect([toText(undefined), toText('a'), toText(['a', 'b']), toText([])]).toEqual(['', 'a', 'a | b', '']);
  });
  it('is the same as another by what it says, nothing and an empty text alike', () => {
    expect(isSameValue(undefined, '')).toBe(true);
    expect(isSameValue('a', ['a'])).toBe(true);
    expect(isSameValue('a', undefined)).toBe(false);
    expect(isSameValue(['a', 'b'], ['b', 'a'])).toBe(false);
  });
  it('is filled where there is more than space in it', () => {
    expect([undefined, '', ' ', '\u00a0', [], [' ', '']].map((v) => isFilled(v))).toEqual(Array(6).fill(false));
    expect(['a', ' a', 'ä', '\u00a0ä', ['', 'a']].map((v) => isFilled(v))).toEqual(Array(5).fill(true));
    expect(toItems(['a', ' ', 'b'])).toEqual(['a', 'b']);
    expect(toItems(' ')).toEqual([]);
  });
});
