// The table of the textbook three-way merge, written out.
import { describe, expect, it } from 'vitest';
import { mergeChanges, mergeValue } from '.';

const same = (a: unknown, b: unknown) => a === b;

describe('what becomes of a value that two have', () => {
  it.each([
    ['1', '1', '1', 'same'],
    ['1', '2', '2', 'same'],
    ['1', '1', '2', 'apply'],
    ['1', '2', '1', 'keep'],
    ['1', '2', '3', 'conflict'],
    [null, null, '2', 'apply'],
    [null, '1', null, 'keep'],
    ['1', null, '2', 'conflict'],
    ['1', null, null, 'same'],
  ] as const)('%s, theirs %s, ours %s: %s', (base, theirs, ours, merge) => {
    expect(mergeValue(base, theirs, ours, same)).toBe(merge);
  });
  it('writes what only we changed, with what truly stands there, and keeps what both changed for a decision', () => {
    const planned = [
      { field: 'a', before: '1', after: '2' },
      { field: 'b', before: '1', after: '2' },
      { field: 'c', before: null, after: '2' },
      { field: 'd', before: '1', after: '2' },
    ];
    expect(mergeChanges(planned, { a: '1', b: '3', d: '2' }, (_, x, y) => x === y)).toEqual({
      changes: [
        { field: 'a', before: '1', after: '2' },
        { field: 'c', before: null, after: '2' },
      ],
      conflicts: [{ field: 'b', base: '1', theirs: '3', ours: '2' }],
    });
  });
});
