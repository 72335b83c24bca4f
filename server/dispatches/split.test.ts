import { describe, expect, it } from 'vitest';
import { lumbaraDocument } from '@basileus/rulebooks/lumbara';
import { quillhavenDocument } from '@basileus/rulebooks/quillhaven';
import { parseRulebook } from '@basileus/core/rulebook';
import type { Market } from '../markets';
import type { PlannedRow } from './planned-rows';
import { torgvikDocument } from '@basileus/rulebooks/torgvik';
import { findForm } from '@basileus/core/forms';
import { leaveHeld, splitByBytes, splitForForm } from './split';

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

describe('rows that are divided into files', () => {
  const id = (n: number, root = n) => ({ id: n, root });
  const formOf = (market: Market, operation: 'create' | 'price', maxRecords: number) => ({
    ...findForm(market.rulebook, operation)!,
    maxRecords,
  });
  const split = (market: Market, operation: 'create' | 'price', maxRecords: number, ids: ReturnType<typeof id>[]) =>
    splitForForm(market, formOf(market, operation, maxRecords), ids).map((part) => part.map((x) => x.id));
  it('are as many as the form takes, families whole where they fit', () => {
    expect(split(single, 'create', 3, [id(1), id(2), id(3, 2), id(4, 2)])).toEqual([[1], [2, 3, 4]]);
    expect(split(single, 'create', 2, [id(1), id(2), id(3, 2), id(4, 2)])).toEqual([[1], [2, 3], [4]]);
  });
  it('are counted at every site, where a row is a record at each', () => {
    const two = marketOf(torgvikDocument);
    expect(two.rulebook.sites.length).toBe(2);
    expect(split(two, 'price', 4, [id(1), id(2), id(3)])).toEqual([[1, 2], [3]]);
    expect(split(two, 'price', 1, [id(1), id(2)])).toEqual([[1], [2]]);
  });
  it('are counted by families, where a family is a record, or several where it has too many', () => {
    const most = findForm(whole.rulebook, 'create')!.members!.most;
    const family = (from: number, rows: number) => Array.from({ length: rows }, (_, i) => id(from + i, from));
    expect(split(whole, 'create', 2, [...family(1, 4), ...family(10, 3), ...family(20, 2)])).toEqual([
      [1, 2, 3, 4, 10, 11, 12],
      [20, 21],
    ]);
    expect(split(whole, 'create', 2, [id(1), ...family(10, most + 1)]).map((p) => p.length)).toEqual([1, most + 1]);
  });
  it('are divided by bytes, families whole where one fits, a row by itself where it alone is more', () => {
    const family = [id(3, 2), id(4, 2), id(5, 2)];
    const sizes = new Map([
      [1, 60],
      [2, 30],
      [3, 40],
      [4, 40],
      [5, 10],
      [6, 500],
      [7, 1],
    ]);
    const by = (room: number, isFamilyRecord = false) =>
      splitByBytes([id(1), id(2), ...family, id(6), id(7)], sizes, room, isFamilyRecord).map((p) => p.map((x) => x.id));
    expect(by(1000)).toEqual([[1, 2, 3, 4, 5, 6, 7]]);
    expect(by(100)).toEqual([[1, 2], [3, 4, 5], [6], [7]]);
    expect(by(90)).toEqual([[1, 2], [3, 4, 5], [6], [7]]);
    expect(by(89)).toEqual([[1], [2, 3], [4, 5], [6], [7]]);
    expect(by(50)).toEqual([[1], [2], [3], [4, 5], [6], [7]]);
    expect(by(50, true)).toEqual([[1], [2, 3, 4, 5], [6], [7]]);
    expect(by(130)).toEqual([[1], [2, 3, 4, 5], [6], [7]]);
  });
});
