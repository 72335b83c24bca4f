import { expect, it } from 'vitest';
import { countAtLeast, isSureEnough, listTakable, turn } from './placing';

const leaf = (key: string, sure: number, likely: number, unsure: number, path = ['A']) => ({
  ...{ key, sure, likely, unsure, path },
});
it.each([
  ['sure', 4],
  ['likely', 6],
  ['unsure', 7],
] as const)('of a leaf, what is at least %s is counted', (least, n) => {
  expect(countAtLeast(leaf('a', 4, 2, 1), least)).toBe(n);
});
it('leaves can be taken that the tree has and that something is sure enough of', () => {
  const leaves = [leaf('a', 1, 0, 0), leaf('b', 0, 3, 0), leaf('', 0, 0, 9), leaf('gone', 5, 0, 0, [])];
  expect(listTakable(leaves, 'sure').map((l) => l.key)).toEqual(['a']);
  expect(listTakable(leaves, 'unsure').map((l) => l.key)).toEqual(['a', 'b']);
});
it.each([
  ['sure', 'sure', true],
  ['likely', 'sure', false],
  ['likely', 'likely', true],
  ['sure', 'unsure', true],
  [null, 'unsure', false],
] as const)('one that is %s is taken from %s on: %s', (is, least, isTaken) => {
  expect(isSureEnough(is, least)).toBe(isTaken);
});
it('one is put in where it was not, and taken out where it was', () => {
  const set = new Set([1]);
  expect([...turn(set, 2)]).toEqual([1, 2]);
  expect([...turn(set, 1)]).toEqual([]);
  expect([...set]).toEqual([1]);
});
