import { describe, expect, it } from 'vitest';
import { wordWanted } from './wanted';

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
