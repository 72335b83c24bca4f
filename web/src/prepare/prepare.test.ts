import { describe, expect, it } from 'vitest';
import { smallRulebook } from '../../../core/tests/builders';
import { addMargin, columnsFor } from './columns';
import { createLeafSearch, listLeafPaths } from './tree';
import { toWhich } from './which';

const book = smallRulebook();
describe('columns of a listing table', () => {
  it('are exactly those that the category demands, with the level of each', () => {
    const columns = columnsFor(book, ['pans'], 'all');
    expect(columns.find((c) => c.key === 'diameter')).toMatchObject({ level: 'must', unit: 'cm or mm' });
    expect(columns.find((c) => c.key === 'price')).toMatchObject({ kind: 'number', unit: 'GBP' });
    expect(columns.some((c) => c.key === 'pages')).toBe(false);
  });
  it('of two categories show the stronger level', () => {
    expect(columnsFor(book, ['lamps', 'pans'], 'all').find((c) => c.key === 'diameter')!.level).toBe('must');
  });
  it('have what the price leaves behind the prices that stand together, and not without one', () => {
    const columns = columnsFor(book, ['pans'], 'all');
    const keys = addMargin(columns, book).map((c) => c.key);
    expect(keys.filter((k) => k !== '~margin')).toEqual(columns.map((c) => c.key));
    const order = (...shown: string[]) =>
      addMargin(
        shown.map((key) => ({ ...columns[0]!, key })),
        book,
      ).map((c) => c.key);
    expect(order('sku', 'price', 'sale_price', 'title')).toEqual(['sku', 'price', 'sale_price', '~margin', 'title']);
    expect(order('price', 'title', 'sale_price')).toEqual(['price', '~margin', 'title', 'sale_price']);
    expect(order('title', 'price')).toEqual(['title', 'price', '~margin']);
    const none = columns.filter((c) => !c.key.includes('price'));
    expect(addMargin(none, book)).toEqual(none);
  });
  it('can be the must fields only', () => {
    const must = columnsFor(book, ['pans'], 'must');
    expect(must.map((c) => c.key)).toContain('diameter');
    expect(new Set(must.map((c) => c.level))).toEqual(new Set(['must']));
  });
});
describe('the tree', () => {
  const leaves = listLeafPaths(book);
  it('has paths', () => {
    expect(leaves.map((l) => l.path)).toEqual(['Home › Pans', 'Home › Lamps']);
  });
  const search = createLeafSearch([
    ...leaves,
    { key: 'tea_towels', label: 'Tea towels', path: 'Kitchen textiles › Tea towels', words: 'dish cloth' },
    { key: 'bath_towels', label: 'Bath towels', path: 'Bathroom › Bath towels', words: '' },
    { key: 'teapots', label: 'Teapots', path: 'Tea and coffee › Teapots', words: '' },
  ]);
  it.each([
    ['home pan', ['pans']],
    ['towl', ['tea_towels', 'bath_towels']],
    ['towels tea', ['tea_towels']],
    ['dish cloths', ['tea_towels']],
    ['teapo', ['teapots']],
    ['garden', []],
    ['', []],
  ])('is searched for “%s”', (text, keys) => {
    expect(
      search(text)
        .map((l) => l.key)
        .sort(),
    ).toEqual([...keys].sort());
  });
  it('shows the likest name first', () => {
    expect(search('teap')[0]!.key).toBe('teapots');
    expect(search('frying pan')[0]!.key).toBe('pans');
  });
});

describe('what the table shows', () => {
  it('is a choice of items: its words, its leaf, the own category with those under it, and the state', () => {
    expect(toWhich('loft', { search: 'pan', category: 'pans', ownCategory: 'Cookware', state: 'live' })).toMatchObject({
      search: 'pan',
      match: 'all',
      clauses: [
        { is: 'equals', field: 'loft/category', value: 'pans' },
        { is: 'within', field: 'category', value: 'Cookware' },
        { is: 'state', market: 'loft', state: 'live' },
      ],
    });
    expect(toWhich('loft', { search: '', category: '', ownCategory: '', state: '' }).clauses).toEqual([]);
  });
});
