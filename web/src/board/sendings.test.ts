import type { Overview } from '@basileus/contract';
import { describe, expect, it } from 'vitest';
import { listSendings } from './sendings';

const ready = (...operations: [string, number][]): Overview =>
  ({
    today: [
      { kind: 'refused' },
      { kind: 'send', operations: operations.map(([operation, count]) => ({ operation, count })) },
    ],
  }) as unknown as Overview;
const markets = [
  { key: 'a', overview: ready(['create', 5], ['price', 2], ['stock', 3]) },
  { key: 'b', overview: ready(['stock', 4], ['restore', 0], ['withdraw', 7]) },
  { key: 'c', overview: undefined },
];

describe('what goes to several markets at once', () => {
  it('is an order for each operation that has rows, prices and stock in one', () => {
    expect(listSendings(markets, new Set())).toEqual([
      { market: 'a', operation: 'create', rows: 5 },
      { market: 'a', operation: 'price', also: 'stock', rows: 5 },
      { market: 'b', operation: 'stock', rows: 4 },
    ]);
  });
  it('never takes anything down by the way', () => {
    expect(listSendings(markets, new Set()).map((s) => s.operation)).not.toContain('withdraw');
  });
  it('leaves out the markets that a person leaves out', () => {
    expect(listSendings(markets, new Set(['a'])).map((s) => s.market)).toEqual(['b']);
  });
});
