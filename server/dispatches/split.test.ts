import { describe, expect, it } from 'vitest';
import { lumbaraDocument } from '@basileus/rulebooks/lumbara';
import { quillhavenDocument } from '@basileus/rulebooks/quillhaven';
import { parseRulebook } from '@basileus/core/rulebook';
import type { Market } from '../markets';
import type { PlannedRow } from './plan';
import { leaveHeld } from './split';

const marketOf = (document: unknown): Market => {
  const reading = parseRulebook(document);
  if (!reading.ok) throw new Error('The rulebook is not valid.');
  return { rulebook: reading.rulebook } as unknown as Market;
};
const whole = marketOf(lumbaraDocument),
  single = marketOf(quillhavenDocument);
const row = (sku: string, root: number, held: PlannedRow['held'] = null): PlannedRow =>
  ({ full: { sku, root_id: root }, held }) as unknown as PlannedRow;
const skus = (rows: readonly PlannedRow[]): string[] => rows.map((r) => r.full.sku);

describe('rows that were chosen, when their file is written', () => {
  const rows = [row('A', 1), row('A-1', 1, 'stale'), row('A-2', 1), row('B', 2)];
  it('go without those that have changed meanwhile', () => {
    expect(skus(leaveHeld(single, 'create', rows, rows.length))).toEqual(['A', 'A-2', 'B']);
  });
  it('leave out a whole new family with one of it, where families go whole', () => {
    expect(skus(leaveHeld(whole, 'create', rows, rows.length))).toEqual(['B']);
  });
  it('are changed variant by variant, where the family is there', () => {
    expect(skus(leaveHeld(whole, 'revise', rows, rows.length))).toEqual(['A', 'A-2', 'B']);
  });
});
