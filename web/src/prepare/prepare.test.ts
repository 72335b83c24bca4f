import { describe, expect, it } from 'vitest';
import { smallRulebook } from '../../../core/tests/builders';
import { columnsFor } from './columns';
import { listLeafPaths, searchLeaves } from './tree';

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
  it('can be the must fields only', () => {
    expect(columnsFor(book, ['pans'], 'must').every((c) => c.level === 'must')).toBe(true);
  });
});
describe('the tree', () => {
  const leaves = listLeafPaths(book);
  it('has paths', () => {
    expect(leaves.map((l) => l.path)).toEqual(['Home › Pans', 'Home › Lamps']);
  });
  it('is searched by all words, the likest first', () => {
    expect(searchLeaves(leaves, 'home pan').map((l) => l.key)).toEqual(['pans']);
    expect(searchLeaves(leaves, 'garden')).toEqual([]);
  });
});
