// Cells that no row can be read with. Common practice, no source: suppliers write “on order” where a number belongs.
import { describe, expect, it } from 'vitest';
import { compileFields, firstFields } from '../product';
import { createUnreadJudge, holdsEitherWay, type ImportReading, lessUnread, listUnread, planRow } from '.';

const fields = compileFields(firstFields);
const reading: ImportReading = {
  columns: ['sku', 'title', 'stock', 'price', 'fact.width'].map((field, index) => ({ index, field })),
  ...{ decimalSign: '.', listSeparator: '|', mode: 'both', blankClears: false, acceptMended: true },
};
const plan = (cells: string[], as = reading) => planRow(cells, as, undefined, { fields, seen: new Map() });
const judge = (rows: string[][], as = reading) => {
  const found = createUnreadJudge(as, fields);
  for (const [i, cells] of rows.entries()) found.note(i + 2, cells, plan(cells, as).problems);
  return found.list();
};
const said = (rows: string[][], as?: ImportReading) =>
  judge(rows, as).map((u) => [u.field, u.value, u.rows, u.first, u.fact.is]);

describe('cells that cannot be read', () => {
  it('are told once for all rows in which they stand, the most frequent first', () => {
    const rows = [
      ['A', 'Pan', 'on order', '1', ''],
      ['B', 'Pan', ' few ', '1', ''],
      ['C', 'Pan', 'few', 'on request', ''],
      ['D', 'Pan', 'few', '1', 'wide'],
      ['E', 'Pan', 'on order', '1', 'wide'],
      ['F', 'Pan', '12', 'call', 'narrow'],
    ];
    expect(said(rows)).toEqual([
      ['stock', 'few', 3, 3, 'not-whole'],
      ['stock', 'on order', 2, 2, 'not-whole'],
      ['fact.width', 'wide', 2, 5, 'fault'],
    ]);
  });
  it('are none that stand in one row alone, are mended, are SKUs, or are texts of their own', () => {
    expect(said([['A', 'Pan', '', 'call', '']])).toEqual([]);
    const twice = (...cells: string[]) => said([cells, cells.map((c, i) => (i === 0 ? `${c}2` : c))]);
    expect(twice('A', 'Pan', '', '12,50', '')).toEqual([]);
    expect(
      said([
        ['', 'Pan', '1', '1', ''],
        ['', 'Pot', '1', '1', ''],
      ]),
    ).toEqual([]);
    expect(twice('A', 'Pan', 'x'.repeat(200), '', '')).toHaveLength(1);
    expect(twice('A', 'Pan', 'x'.repeat(201), '', '')).toEqual([]);
  });
  it('are told with what they are read as, where that cannot be read either', () => {
    const as = { ...reading, replacements: [{ field: 'stock', from: 'few', to: 'some' }] };
    const rows = ['A', 'B'].map((sku) => [sku, 'Pan', 'few', '', '']);
    expect(judge(rows, as)).toEqual([
      { field: 'stock', value: 'few', as: 'some', fact: { is: 'not-whole' }, rows: 2, first: 2 },
    ]);
    const zero = { ...reading, replacements: [{ field: 'stock', from: 'few', to: '0' }] };
    expect([judge(rows, zero), plan(rows[0]!, zero).changes.map((c) => c.after)]).toEqual([[], ['Pan', '0']]);
    const blank = { ...reading, replacements: [{ field: 'stock', from: 'few', to: '' }] };
    expect(plan(rows[0]!, blank).changes.map((c) => c.after)).toEqual(['Pan']);
  });
  it('are fifty at the most, of 2,000 that are kept in mind', () => {
    const rows = Array.from({ length: 4002 }, (_, i) => [`S${i}`, 'Pan', `word ${i % 2001}`, '', '']);
    expect(judge(rows).map((u) => u.value)).toEqual(Array.from({ length: 50 }, (_, i) => `word ${i}`));
    expect(
      judge([...rows.slice(0, 2001), ...rows.slice(2000, 2001), ...rows.slice(1999, 2000)]).map((u) => u.value),
    ).toEqual(['word 1999']);
  });
  it('are less once a row is mended by itself', () => {
    const rows = ['A', 'B'].map((sku) => [sku, 'Pan', 'few', '', '']);
    const list = judge(rows),
      unread = (cells: string[]) => listUnread(cells, plan(cells).problems, reading, fields);
    const one = lessUnread(list, unread(rows[0]!), unread(['A', 'Pan', '3', '', '']));
    expect(one.map((u) => u.rows)).toEqual([1]);
    expect(lessUnread(one, unread(rows[1]!), unread(['B', 'Pan', 'some', '', '']))).toEqual([]);
    expect(lessUnread(one, unread(['A', 'Pan', '3', '', '']), unread(rows[0]!)).map((u) => u.rows)).toEqual([2]);
  });
});

describe('a row that both signs can read', () => {
  it.each([
    [['A', '1.299', '5', '12.50', '']],
    [['A', 'Pan', '5', '12.5', '0.125 kg']],
    [['A', 'Pan', '', '1.2999', '']],
  ])('is none of %j', (cells) => {
    expect(holdsEitherWay(cells, reading, fields)).toBe(false);
  });
  it.each([[['A', 'Pan', '5', '£ 1.299', '']], [['A', 'Pan', '5', '', '1,250 mm']]])('is %j', (cells) => {
    expect(holdsEitherWay(cells, reading, fields)).toBe(true);
  });
});
