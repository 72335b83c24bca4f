import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyChanges, compareValues, type FieldChange, getChangeKind, reverseChanges, squashChanges } from '.';

const change = (field: string, before: FieldChange['before'], after: FieldChange['after']): FieldChange => ({
  field,
  before,
  after,
});
const value = fc.constantFrom('x', 'y', ['x', 'y']);
const values = fc.dictionary(fc.constantFrom('a', 'b', 'c'), value, { maxKeys: 3 });
/** Edits of one thing one after another, each with what truly stood there before. */
const edits = fc
  .tuple(values, fc.array(fc.tuple(fc.constantFrom('a', 'b', 'c'), fc.option(value)), { maxLength: 12 }))
  .map(([start, list]) => {
    let now: Record<string, string | string[]> = start;
    const changes = list.map(([field, after]) => {
      const made = change(field, now[field] ?? null, after);
      now = applyChanges(now, [made]) as typeof now;
      return made;
    });
    return { start, end: now, changes };
  });

describe('a change', () => {
  it.each([
    [null, 'x', 'added'],
    ['x', 'y', 'updated'],
    ['x', null, 'removed'],
    ['x', 'x', undefined],
    [null, null, undefined],
    [['x', 'y'], ['x', 'y'], undefined],
  ] as const)('from %j to %j is %s', (before, after, kind) => {
    expect(getChangeKind(change('a', before, after))).toBe(kind);
  });
});

describe('changes', () => {
  it('are taken back by their reverse, whatever was done (property)', () => {
    fc.assert(
      fc.property(edits, ({ start, end, changes }) => {
        expect(applyChanges(end, reverseChanges(changes))).toEqual(start);
        expect(reverseChanges(reverseChanges(changes))).toEqual(changes);
      }),
    );
  });
  it('name in reverse what stood there before, the last first, and keep what they carry', () => {
    const a = { ...change('a', 'x', 'y'), row: '1' },
      b = { ...change('a', 'y', 'z'), row: '1' };
    expect(reverseChanges([a, b])).toEqual([
      { ...change('a', 'z', 'y'), row: '1' },
      { ...change('a', 'y', 'x'), row: '1' },
    ]);
  });
  it('squashed do the same in one step each, and nothing where they come back (property)', () => {
    fc.assert(
      fc.property(edits, ({ start, end, changes }) => {
        const squashed = squashChanges(changes);
        expect(applyChanges(start, squashed)).toEqual(end);
        expect(new Set(squashed.map((c) => c.field)).size).toBe(squashed.length);
        expect(new Set(squashed.map((c) => c.field))).toEqual(new Set(compareValues(start, end).map((c) => c.field)));
      }),
    );
  });
  it('of several things are told apart by their key', () => {
    const on = (row: string, before: string, after: string) => ({ ...change('a', before, after), row });
    expect(squashChanges([on('1', 'x', 'y'), on('2', 'x', 'z'), on('1', 'y', 'x')], (c) => c.row)).toEqual([
      on('2', 'x', 'z'),
    ]);
  });
  it('lead from any values to any others (property)', () => {
    fc.assert(
      fc.property(values, values, (before, after) => {
        const changes = compareValues(before, after);
        expect(applyChanges(before, changes)).toEqual(after);
        expect(changes.every((c) => getChangeKind(c) !== undefined)).toBe(true);
      }),
    );
    expect(compareValues({ a: 'x' }, { b: 'y' })).toEqual([change('a', 'x', null), change('b', null, 'y')]);
  });
});
