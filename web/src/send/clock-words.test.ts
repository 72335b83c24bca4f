import type { SendingOutcome } from '@basileus/contract';
import { operations } from '@basileus/core/rulebook';
import { describe, expect, it } from 'vitest';
import { listChoices, meantBy, wantsLook, wordOutcome, wordSending, wordTimes } from './clock-words';

const went: SendingOutcome = {
  due: '2026-11-30T09:00:00Z',
  at: '2026-11-30T09:00:01Z',
  rows: 0,
  dispatches: [],
  surprises: [],
  busy: 0,
  isPaused: false,
  fault: null,
};
const gone = { kind: 'stock-gone', operation: 'stock', rows: 30, live: 60 } as const;

describe('a sending by the clock in words', () => {
  it('says what it holds, offers among what is new', () => {
    expect(wordSending({ operations: ['stock', 'price'], schedule: { every: 'minutes', minutes: 15 }, rows: 0 })).toBe(
      'Stocks, prices',
    );
    expect(wordSending({ operations: ['create', 'offer'], schedule: null, rows: 1 })).toBe('1 new entry');
    expect(wordSending({ operations: ['price', 'stock'], schedule: null, rows: 2 })).toBe('2 prices and stocks');
  });
  it('says when it goes, and that it is over', () => {
    expect(wordTimes({ schedule: { every: 'minutes', minutes: 15 }, at: '2026-11-30T09:00:00Z' })).toMatch(
      /^every 15 minutes, next .*Nov/,
    );
    expect(wordTimes({ schedule: null, at: null })).toBe('over');
  });
  it.each([
    [{}, 'nothing was to go', false],
    [{ rows: 1 }, '1 row went', false],
    [{ rows: 2, surprises: [gone] }, '2 rows went, some waits for a look', true],
    [{ busy: 2 }, '2 rows were on the way or being checked', false],
    [{ isPaused: true }, 'the market was paused', true],
    [{ fault: 'It broke.' }, 'It broke.', true],
  ])('says of %j: %s', (of, says, isToBeLookedAt) => {
    expect(wordOutcome({ ...went, ...of })).toBe(says);
    expect(wantsLook({ ...went, ...of })).toBe(isToBeLookedAt);
  });
  it('offers what may go by itself, an offer with what is new', () => {
    expect(listChoices(operations)).toEqual(['create', 'revise', 'replace', 'price', 'stock', 'restore']);
    expect(meantBy('create', operations)).toEqual(['create', 'offer']);
    expect(meantBy('create', ['create', 'price'])).toEqual(['create']);
    expect(meantBy('price', operations)).toEqual(['price']);
  });
});
