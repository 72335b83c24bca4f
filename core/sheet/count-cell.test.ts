// Counts with words. Common practice, no source: what stock lists of suppliers say in the place of a number.
import { describe, expect, it } from 'vitest';
import { compileFields, firstFields } from '../product';
import { planRow } from '.';
import { readCountCell } from './count-cell';

const fields = compileFields(firstFields);
const reading = {
  columns: [
    { index: 0, field: 'sku' },
    { index: 1, field: 'stock' },
    { index: 2, field: 'fact.pieces' },
  ],
  decimalSign: ',',
  listSeparator: '|',
  mode: 'update',
  blankClears: false,
  acceptMended: true,
} as const;
const plan = (stock: string, pieces = '', more: { acceptMended?: boolean } = {}) =>
  planRow(['MUG-1', stock, pieces], { ...reading, ...more }, { sku: 'MUG-1' }, { fields, seen: new Map() });

describe('a count with words', () => {
  it.each([
    ['12 Stk', 'counted', '12'],
    ['12 Stück', 'counted', '12'],
    ['7 pcs.', 'counted', '7'],
    ['3ea', 'counted', '3'],
    ['５個', 'counted', '5'],
    ['>50', 'at-least', '50'],
    ['≥ 50', 'at-least', '50'],
    ['50+', 'at-least', '50'],
    ['über 100', 'at-least', '100'],
    ['More than 20 units', 'at-least', '20'],
    ['mind. 10 Stk', 'at-least', '10'],
    ['100以上', 'at-least', '100'],
    ['Ausverkauft', 'none-left', '0'],
    ['Sold out!', 'none-left', '0'],
    ['slut i lager', 'none-left', '0'],
    ['在庫切れ', 'none-left', '0'],
  ])('%s is %s, %s', (cell, kind, figures) => {
    expect(readCountCell(cell)).toEqual({ kind, figures });
  });
  it.each([
    '12',
    'OK',
    'ca. 20',
    '<5',
    '5+3',
    'auf Anfrage',
    '12 cm',
    '12 sets',
    'ab Lager',
    'over',
    'pcs',
    '50 + x',
    '',
  ])('%j is none', (cell) => {
    expect(readCountCell(cell)).toBeUndefined();
  });
});

describe('the stock of a file', () => {
  it.each([
    ['12 Stk', '12'],
    ['1.200 Stk', '1200'],
    ['>50', '50'],
    ['vergriffen', '0'],
  ])('%s is taken as %s, with a word', (cell, stock) => {
    const { action, changes, problems } = plan(cell);
    expect([action, changes]).toEqual(['update', [{ field: 'stock', before: null, after: stock }]]);
    expect(problems).toMatchObject([{ field: 'stock', kind: 'damage', level: 'caution', mended: stock }]);
  });
  it('is refused where nothing may be mended, or half a piece is said', () => {
    expect(plan('>50', '', { acceptMended: false }).action).toBe('refuse');
    expect(plan('1,5 Stk').problems).toMatchObject([{ level: 'blocker', fact: { is: 'not-whole' } }]);
  });
  it('alone may say so many or more, or none; other counts only their pieces', () => {
    expect(plan('', '6 pcs').changes).toEqual([{ field: 'fact.pieces', before: null, after: '6' }]);
    expect(plan('', '>6').action).toBe('refuse');
    expect(plan('', 'none').action).toBe('refuse');
  });
});
