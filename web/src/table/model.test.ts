import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { reverseChanges } from '@basileus/core/change';
import type { Value } from '@basileus/core/listing';
import { type GridColumn, toCellText, toCellValue } from './columns';
import {
  type Bounds,
  clampSelection,
  fromClipboard,
  type Grid,
  isInRange,
  move,
  planClear,
  planFillDown,
  planPaste,
  sizeOfRange,
  startAt,
  toClipboard,
  toRange,
} from './model';

const bounds: Bounds = { rows: 100, columns: 10, page: 20 };

describe('moving', () => {
  const at = (row: number, column: number) => startAt(row, column);
  it.each([
    ['ArrowDown', 4, 3],
    ['ArrowUp', 2, 3],
    ['ArrowLeft', 3, 2],
    ['ArrowRight', 3, 4],
    ['Home', 3, 0],
    ['End', 3, 9],
    ['PageDown', 23, 3],
    ['PageUp', 0, 3],
  ])('%s from 3,3', (key, row, column) => {
    expect(move(at(3, 3), key, false, false, bounds)).toEqual(at(row, column));
  });
  it.each([
    ['ArrowDown', 99, 3],
    ['ArrowUp', 0, 3],
    ['ArrowLeft', 3, 0],
    ['ArrowRight', 3, 9],
    ['Home', 0, 0],
    ['End', 99, 9],
  ])('Ctrl+%s goes to the edge', (key, row, column) => {
    expect(move(at(3, 3), key, false, true, bounds)).toEqual(at(row, column));
  });
  it('stays inside', () => {
    expect(move(at(0, 0), 'ArrowUp', false, false, bounds)).toEqual(at(0, 0));
    expect(move(at(99, 9), 'PageDown', false, false, bounds)).toEqual(at(99, 9));
  });
  it('keeps the anchor with Shift', () => {
    const s = move(at(3, 3), 'ArrowDown', true, false, bounds)!;
    expect(toRange(s)).toEqual({ top: 3, bottom: 4, left: 3, right: 3 });
    expect(sizeOfRange(toRange(s))).toBe(2);
    expect(isInRange(toRange(s), 4, 3)).toBe(true);
    expect(isInRange(toRange(s), 5, 3)).toBe(false);
  });
  it('comes back inside a table that has become shorter', () => {
    const far = { anchor: { row: 99, column: 2 }, focus: { row: 50, column: 9 } };
    expect(clampSelection(far, { rows: 20, columns: 4, page: 5 })).toEqual({
      anchor: { row: 19, column: 2 },
      focus: { row: 19, column: 3 },
    });
    expect(clampSelection(far, { rows: 0, columns: 4, page: 5 }).focus.row).toBe(0);
  });
  it('leaves other keys alone', () => {
    expect(move(at(3, 3), 'x', false, false, bounds)).toBeUndefined();
  });
});

describe('the clipboard', () => {
  const cell = fc.string({ unit: fc.constantFrom('a', 'é', '"', '\t', '\n', ' ', '1', '日'), maxLength: 6 });
  it('gives back what it took, whatever is in the cells', () => {
    fc.assert(
      fc.property(fc.array(fc.array(cell, { minLength: 2, maxLength: 2 }), { minLength: 1, maxLength: 5 }), (block) => {
        expect(fromClipboard(toClipboard(block) + '\r\n')).toEqual(block);
      }),
      { seed: 8, numRuns: 300 },
    );
  });
  it.each([
    [
      'a\tb\r\nc\td\r\n',
      [
        ['a', 'b'],
        ['c', 'd'],
      ],
    ],
    ['a\nb', [['a'], ['b']]],
    ['"x\ny"\tz', [['x\ny', 'z']]],
    ['', [['']]],
    ['say "hi"\tx', [['say "hi"', 'x']]],
  ])('reads %j', (text, block) => {
    expect(fromClipboard(text)).toEqual(block);
  });
});

/** A small table: three columns, the last of which cannot be changed, the tenth row not loaded. */
const store = () => {
  const cells: (Value | null)[][] = Array.from({ length: 10 }, (_, r) => [`a${r}`, `b${r}`, `c${r}`]);
  const grid: Grid = {
    idOf: (r) => (r < 9 ? String(r) : undefined),
    keyOf: (c) => 'abc'[c]!,
    valueOf: (r, c) => cells[r]?.[c] ?? null,
    canEdit: (_, c) => c < 2,
    read: (_, t) => (t === '' ? null : t),
  };
  return grid;
};
const three = { rows: 10, columns: 3, page: 5 };

describe('what a change touches', () => {
  const range = (top: number, bottom: number, left: number, right: number) => ({ top, bottom, left, right });
  it('pastes a block from the corner, past the selection', () => {
    expect(
      planPaste(
        store(),
        range(0, 0, 0, 0),
        [
          ['x', 'y'],
          ['z', 'w'],
        ],
        three,
      ).patch.map((p) => `${p.row}${p.field}=${String(p.after)}`),
    ).toEqual(['0a=x', '0b=y', '1a=z', '1b=w']);
  });
  it('fills a selection from one cell, and repeats a block that fits whole times', () => {
    expect(planPaste(store(), range(0, 3, 0, 0), [['x']], three).patch).toHaveLength(4);
    expect(planPaste(store(), range(0, 3, 0, 0), [['x'], ['y']], three).patch.map((p) => p.after)).toEqual([
      'x',
      'y',
      'x',
      'y',
    ]);
    expect(planPaste(store(), range(0, 2, 0, 0), [['x'], ['y']], three).patch).toHaveLength(2);
  });
  it('counts cells that cannot be changed, and never reads what is not loaded as blank', () => {
    expect(planPaste(store(), range(0, 0, 2, 2), [['x']], three)).toEqual({
      patch: [],
      skipped: 1,
      missing: 0,
      overflow: { rows: 0, columns: 0 },
    });
    expect(planPaste(store(), range(8, 8, 0, 0), [['x'], ['y']], three)).toMatchObject({ missing: 1 });
  });
  it('stops at the last row and column', () => {
    expect(
      planPaste(
        store(),
        range(8, 8, 1, 1),
        [
          ['x', 'y', 'z'],
          ['1', '2', '3'],
          ['4', '5', '6'],
        ],
        three,
      ),
    ).toMatchObject({ patch: [{ row: '8', field: 'b', after: 'x' }], skipped: 1, missing: 2 });
  });
  it('fills down, empties, and leaves out what is so already', () => {
    expect(planFillDown(store(), range(0, 2, 0, 1)).patch.map((p) => `${p.row}${p.field}=${String(p.after)}`)).toEqual([
      '1a=a0',
      '1b=b0',
      '2a=a0',
      '2b=b0',
    ]);
    expect(planClear(store(), range(1, 1, 0, 1)).patch).toEqual([
      { row: '1', field: 'a', before: 'a1', after: null, at: 2 },
      { row: '1', field: 'b', before: 'b1', after: null, at: 2 },
    ]);
    expect(planPaste(store(), range(0, 0, 0, 0), [['a0']], three).patch).toEqual([]);
  });
  it('can be taken back', () => {
    const { patch } = planClear(store(), range(0, 1, 0, 0));
    expect(reverseChanges(patch).map((p) => p.after)).toEqual(['a1', 'a0']);
  });
});

describe('cells', () => {
  const choice: GridColumn = {
    key: 'colour',
    title: 'Colour',
    width: 1,
    kind: 'choice',
    options: [{ code: 'blk', label: 'Black' }],
  };
  it('show labels and take labels or codes', () => {
    expect(toCellText(choice, 'blk')).toBe('Black');
    expect(toCellText(choice, 'odd')).toBe('odd');
    for (const t of ['Black', 'black', 'blk']) expect(toCellValue(choice, t)).toBe('blk');
    expect(toCellValue(choice, 'Pink')).toBe('Pink');
  });
  it('hold several', () => {
    const c: GridColumn = { ...choice, kind: 'choices' };
    expect(toCellValue(c, 'Black | odd')).toEqual(['blk', 'odd']);
    expect(toCellText(c, ['blk', 'odd'])).toBe('Black | odd');
  });
  it('read numbers as people type them', () => {
    const n: GridColumn = { key: 'p', title: 'P', width: 1, kind: 'number' };
    expect(toCellValue(n, '£1,299.50')).toBe('1299.50');
    expect(toCellValue(n, 'cheap')).toBe('cheap');
    expect(toCellValue(n, ' ')).toBeNull();
  });
  it('read yes and no', () => {
    const y: GridColumn = { key: 'y', title: 'Y', width: 1, kind: 'yes-no' };
    expect(toCellValue(y, 'TRUE')).toBe('yes');
    expect(toCellValue(y, 'n')).toBe('no');
  });
});
