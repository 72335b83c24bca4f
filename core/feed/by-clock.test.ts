import { describe, expect, it } from 'vitest';
import { clockOperations, listOrders, listUnseen } from './by-clock';

describe('orders by the clock', () => {
  it('begin with prices and stock, together, and end with what is taken down', () => {
    expect(listOrders(['withdraw', 'revise', 'create', 'stock', 'price'])).toEqual([
      { operation: 'price', also: 'stock' },
      { operation: 'create' },
      { operation: 'revise' },
      { operation: 'withdraw' },
    ]);
    expect(listOrders(['restore', 'stock'])).toEqual([{ operation: 'stock' }, { operation: 'restore' }]);
  });
  it('take down nothing again and again', () => {
    expect(clockOperations).not.toContain('withdraw');
    expect(clockOperations).toHaveLength(7);
  });
});

describe('what nobody has looked at', () => {
  const gone = { kind: 'stock-gone', operation: 'stock', rows: 30, live: 60 } as const;
  it.each([
    [[], [gone]],
    [[{ kind: 'stock-falls', rows: 60 }], [gone]],
    [[{ kind: 'stock-gone', rows: 29 }], [gone]],
    [[{ kind: 'stock-gone', rows: 30 }], []],
  ] as const)('with %j seen is %j', (seen, left) => {
    expect(listUnseen([gone], seen)).toEqual(left);
  });
});
