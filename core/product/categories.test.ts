import { describe, expect, it } from 'vitest';
import { addUpTree, isWithin, listCategoryTree } from '.';

const tree = [
  { name: 'Woks', parent: 'Pans' },
  { name: 'Cookware', parent: null },
  { name: 'Pans', parent: 'Cookware' },
  { name: 'Äpfel', parent: null },
  { name: 'Frying pans', parent: 'Pans' },
  { name: 'Lost', parent: 'Nowhere' },
];

describe('own categories', () => {
  it('follow the one that they stand under, by name', () => {
    expect(listCategoryTree(tree).map((n) => n.path.join('/'))).toEqual([
      'Äpfel',
      'Cookware',
      'Cookware/Pans',
      'Cookware/Pans/Frying pans',
      'Cookware/Pans/Woks',
      'Lost',
    ]);
  });
  it.each([
    ['Woks', 'Cookware', true],
    ['Woks', 'Woks', true],
    ['Cookware', 'Woks', false],
    ['Lost', 'Nowhere', true],
    ['Unheard', 'Cookware', false],
  ])('%s within %s: %s', (name, top, is) => {
    expect(isWithin(tree, name, top)).toBe(is);
  });
  it('have the items of those under them beside their own', () => {
    const counted = tree.map((c, i) => ({ ...c, items: 10 ** i }));
    expect(addUpTree(counted).map((n) => [n.name, n.items, n.withThoseUnder])).toEqual([
      ['Äpfel', 1000, 1000],
      ['Cookware', 10, 10_111],
      ['Pans', 100, 10_101],
      ['Frying pans', 10_000, 10_000],
      ['Woks', 1, 1],
      ['Lost', 100_000, 100_000],
    ]);
  });
  it('come to an end where they stand under each other', () => {
    const round = [
      { name: 'A', parent: 'B' },
      { name: 'B', parent: 'A' },
    ];
    expect(isWithin(round, 'A', 'C')).toBe(false);
    expect(isWithin(round, 'A', 'B')).toBe(true);
  });
});
