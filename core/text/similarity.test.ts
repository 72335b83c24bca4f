import { describe, expect, it } from 'vitest';
import { computeDistance, computeLikeness, findNearest, stem } from '.';

describe('likeness', () => {
  it.each([
    ['Olive', 'Olive', 1],
    ['OLIVE', 'olive', 1],
    ['Schön', 'schon', 1],
    ['', 'olive', 0],
    ['olive', '', 0],
    ['★', 'olive', 0],
    ['abcd', 'wxyz', 0],
  ])('of “%s” and “%s” is %d', (a, b, likeness) => {
    expect(computeLikeness(a, b)).toBe(likeness);
  });
  it('of words that one has among others is at least 0.7, from either side', () => {
    expect(computeLikeness('pans', 'frying pan')).toBe(0.7);
    expect(computeLikeness('frying pan', 'pans')).toBe(0.7);
    // Half of the words of each and neither whole: no more than their share.
    expect(computeLikeness('frying lid', 'sauce lid')).toBeLessThan(0.7);
  });
  it('of the same words in another order is just under 1', () => {
    expect(computeLikeness('pan frying', 'frying pan')).toBe(0.95);
  });
  it('is only worked out for short texts: up to 200 letters', () => {
    const near = (n: number) => computeLikeness('a'.repeat(n), `${'a'.repeat(n - 1)}b`);
    expect(near(200)).toBeGreaterThan(0.9);
    expect(near(201)).toBe(0);
    // Spaces fold away, so that what is long may be short; a book is not even folded.
    const spaced = (n: number) => computeLikeness(`pan${' '.repeat(n - 3)}`, 'pans');
    expect(spaced(4000)).toBeGreaterThan(0.7);
    expect(spaced(4001)).toBe(0);
  });
});

describe('the distance', () => {
  it.each([
    ['ab', 'ba', 1],
    ['xab', 'xba', 1],
    ['abc', 'bca', 2],
    ['', 'abc', 3],
    ['kitten', 'sitting', 3],
    ['aab', 'aba', 1],
  ])('of %s and %s is %d', (a, b, distance) => {
    expect([computeDistance(a, b), computeDistance(b, a)]).toEqual([distance, distance]);
  });
  it('is given up where the lengths alone are further apart than is asked for', () => {
    expect([computeDistance('abcd', 'zz', 2), computeDistance('zz', 'abcd', 2)]).toEqual([4, 4]);
    expect([computeDistance('abcde', 'zz', 2), computeDistance('zz', 'abcde', 2)]).toEqual([3, 3]);
  });
  it('is not worked out where either text is long', () => {
    const long = 'pan '.repeat(60).trim();
    expect([computeLikeness('pan', long), computeLikeness(long, 'pan')]).toEqual([0, 0]);
    const spaced = `pan${' '.repeat(3998)}`;
    expect([computeLikeness('pans', spaced), computeLikeness(spaced, 'pans')]).toEqual([0, 0]);
  });
});

describe('the nearest', () => {
  const nearest = (text: string, count?: number, least?: number) =>
    findNearest(text, ['Black', 'Blue', 'Brown', 'Blau'], (c) => [c], count, least).map((n) => n.candidate);
  it('come best first, no more than are asked for, and none that is too far', () => {
    expect(nearest('Blak')).toEqual(['Black', 'Blau', 'Blue']);
    expect(nearest('Blak', 1)).toEqual(['Black']);
    expect(nearest('Blak', 3, 0.8)).toEqual(['Black']);
    // As like as is asked for is near enough.
    expect(computeLikeness('Blak', 'Black')).toBe(0.8);
    expect(nearest('Blak', 3, 0.81)).toEqual([]);
  });
  it('of something without words is none', () => {
    expect(findNearest('Blak', ['x'], () => [])).toEqual([]);
  });
});

it.each([
  ['pans', 'pan'],
  ['berries', 'berry'],
  ['glass', 'glass'],
  ['ties', 'tie'],
  ['gas', 'gas'],
])('the stem of %s is %s', (word, plain) => {
  expect(stem(word)).toBe(plain);
});
