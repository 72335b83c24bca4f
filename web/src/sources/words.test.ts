import type { SourceRun } from '@basileus/contract';
import { describe, expect, it } from 'vitest';
import { isBusy, wordRun } from './words';

const run = (more: Partial<SourceRun>): SourceRun => ({
  id: 1,
  at: '2026-11-27T05:30:00.000Z',
  actor: 'Catalog desk',
  how: 'clock',
  state: 'done',
  rows: 0,
  formed: 0,
  leftOut: 0,
  noSku: 0,
  clashes: 0,
  faults: 0,
  import: null,
  created: 0,
  updated: 0,
  refused: 0,
  fault: null,
  ...more,
});

describe('a run of a business system', () => {
  it.each<[Partial<SourceRun>, string]>([
    [{ rows: 1200, formed: 1190, leftOut: 10 }, 'done: 1,200 rows, 10 left out, nothing new'],
    [{ rows: 3, formed: 3, updated: 2, created: 1, import: 7 }, 'done: 3 rows, 1 new, 2 changed'],
    [
      { state: 'held', rows: 9, formed: 9, updated: 9, import: 7 },
      'waits for a look: more would change than is usual: 9 rows, 9 changed',
    ],
    [{ state: 'planned', rows: 1, formed: 1, refused: 1, import: 7 }, 'waits for your decision: 1 row, 1 refused'],
    [{ state: 'fetching' }, 'rows are being fetched'],
    [{ state: 'failed', fault: 'It cannot be reached.' }, 'It cannot be reached.'],
    [
      { rows: 8, noSku: 1, faults: 2, clashes: 4, formed: 5 },
      'done: 8 rows, 1 without a SKU, 2 that cannot be worked out, 4 that would be one SKU, nothing new',
    ],
  ])('is told in a line: %j', (more, words) => {
    expect(wordRun(run(more))).toBe(words);
  });
  it('is under way until somebody has to decide or it has ended', () => {
    const busy = (['fetching', 'forming', 'planning', 'writing', 'planned', 'held', 'done', 'failed'] as const).filter(
      (state) => isBusy(run({ state })),
    );
    expect(busy).toEqual(['fetching', 'forming', 'planning', 'writing']);
  });
});
