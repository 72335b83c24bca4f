import { expect, it } from 'vitest';
import { nextVersion } from '.';

it.each([
  [undefined, '2026.11'],
  ['2026.10', '2026.11'],
  ['2025.12.4', '2026.11'],
  ['2026.11', '2026.11.2'],
  ['2026.11.9', '2026.11.10'],
  // Ahead of the calendar: it goes on from there.
  ['2027.01', '2027.01.2'],
])('after %s comes %s', (before, next) => {
  expect(nextVersion(new Date(2026, 10, 27), before)).toBe(next);
});
