import { describe, expect, it } from 'vitest';
import { wordGoing } from './words';

describe('what goes where', () => {
  it.each([
    [[{ operation: 'create' as const, rows: 1, files: 1 }], '1 new entry goes to Lumbara.'],
    [[{ operation: 'offer' as const, rows: 3, files: 1 }], '3 offers on entries there go to Lumbara.'],
    [[{ operation: 'price' as const, rows: 60_000, files: 2 }], '60,000 prices go to Lumbara, in 2 files.'],
    [
      [
        { operation: 'price' as const, rows: 2, files: 1 },
        { operation: 'stock' as const, rows: 1, files: 1 },
      ],
      '2 prices and 1 stock go to Lumbara, in 2 files.',
    ],
    // How many files families take is not known before they are divided.
    [
      [{ operation: 'create' as const, rows: 60_000, files: null }],
      '60,000 new entries go to Lumbara, in several files.',
    ],
  ])('%j', (going, says) => {
    expect(wordGoing(going, 'Lumbara')).toBe(says);
  });
});
