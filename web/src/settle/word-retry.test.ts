import { expect, it } from 'vitest';
import { wordRetry } from './word-retry';

const now = Date.parse('2026-11-27T09:00:00Z');
const at = (seconds: number): string => new Date(now + seconds * 1000).toISOString();

it.each([
  [-30, 1, 'It is tried again by itself in a moment.'],
  [4, 1, 'It is tried again by itself in a moment.'],
  [5, 2, 'It is tried again by itself in 5 seconds (2 tries so far).'],
  [89, 7, 'It is tried again by itself in 89 seconds (7 tries so far).'],
  [90, 8, 'It is tried again by itself in 2 minutes (8 tries so far).'],
  [300, 12, 'It is tried again by itself in 5 minutes (12 tries so far).'],
])('words a try %i s ahead after %i in vain', (seconds, failed, says) => {
  expect(wordRetry({ at: at(seconds), failed }, now)).toBe(says);
});
