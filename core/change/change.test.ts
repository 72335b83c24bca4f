import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type CellPatch, type Patch, reversePatch } from './index';

const cell = (row: string, column: string, before: CellPatch['before'], after: CellPatch['after']): CellPatch => ({
  row,
  column,
  before,
  after,
});
type Sheet = Map<string, CellPatch['after']>;
const apply = (sheet: Sheet, patch: Patch): Sheet => {
  const next = new Map(sheet);
  for (const p of patch) {
    if (p.after === null) next.delete(`${p.row}/${p.column}`);
    else next.set(`${p.row}/${p.column}`, p.after);
  }
  return next;
};
/** Edits of a small sheet one after another, each with what truly stood there before. */
const edits = fc
  .array(
    fc.record({
      row: fc.constantFrom('1', '2'),
      column: fc.constantFrom('a', 'b'),
      after: fc.constantFrom(null, 'x', 'y', ['x', 'y']),
    }),
    { maxLength: 12 },
  )
  .map((list) => {
    let sheet: Sheet = new Map();
    return list.map((e): Patch => {
      const patch = [cell(e.row, e.column, sheet.get(`${e.row}/${e.column}`) ?? null, e.after)];
      sheet = apply(sheet, patch);
      return patch;
    });
  });

describe('patches', () => {
  it('are taken back by their reverse, whatever was done (property)', () => {
    fc.assert(
      fc.property(edits, (patches) => {
        const done = patches.flat();
        expect(apply(apply(new Map(), done), reversePatch(done))).toEqual(new Map());
        expect(reversePatch(reversePatch(done))).toEqual(done);
      }),
    );
  });
  it('name in reverse what stood there before, the last change first', () => {
    const a = cell('1', 'title', 'x', 'y'),
      b = cell('1', 'title', 'y', 'z');
    expect(reversePatch([a, b])).toEqual([cell('1', 'title', 'z', 'y'), cell('1', 'title', 'y', 'x')]);
  });
});
