import { describe, expect, it } from 'vitest';
import { toEntries } from './cell';

describe('the entries of a cell', () => {
  it('are none where it says nothing or is emptied, one of a text, and those of a list as they are', () => {
    expect([undefined, null, ''].map(toEntries)).toEqual([[], [], []]);
    expect(toEntries('a')).toEqual(['a']);
    expect(toEntries(['a', ''])).toEqual(['a', '']);
  });
});
