import { describe, expect, it } from 'vitest';
import { wordSite, wordWanted } from './wanted';

describe('what came of leaving out', () => {
  it.each([
    [false, { changed: 3, there: 0 }, 'Lumbara: 3 listings left out; nothing is asked of them there.'],
    [
      false,
      { changed: 1, there: 2 },
      'Lumbara: 1 listing left out; nothing is asked of it there. 2 stand there and stay: withdraw instead.',
    ],
    [true, { changed: 4, there: 0 }, 'Lumbara: 4 listings wanted again.'],
  ])('wanted %s of %j is “%s”', (wanted, outcome, says) => {
    expect(wordWanted('Lumbara', wanted, outcome)).toBe(says);
  });
});

describe('what came of leaving a site out', () => {
  it.each([
    [false, 2, 'Torgvik SE: 2 listings not sold there; what stands there ends with the next sending.'],
    [true, 1, 'Torgvik SE: 1 listing wanted there again; what it demands is asked for.'],
    [true, 0, 'Sold at Torgvik SE already.'],
    [false, 0, 'Nothing changed: an item is sold somewhere.'],
  ])('wanted %s, %s changed: %s', (wanted, changed, says) => {
    expect(wordSite('Torgvik SE', wanted, changed)).toBe(says);
  });
});
