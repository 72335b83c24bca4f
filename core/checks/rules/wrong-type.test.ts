import { describe, expect, it } from 'vitest';
import { isCalendarDay } from '../../quantity';

describe('A calendar day', () => {
  it('exists where the calendar of ECMAScript (ECMA-262, time values) has it, over every century rule', () => {
    const two = (n: number): string => String(n).padStart(2, '0');
    const wrong: string[] = [];
    let days = 0;
    for (const y of [1896, 1900, 1904, 1999, 2000, 2023, 2024, 2026, 2028, 2100, 2104, 2400])
      for (let m = 1; m <= 12; m++)
        for (let d = 1; d <= 31; d++) {
          const there = new Date(Date.UTC(y, m - 1, d)).getUTCDate() === d;
          if (there) days++;
          const text = `${y}-${two(m)}-${two(d)}`;
          if (isCalendarDay(text) !== there) wrong.push(text);
        }
    expect(wrong).toEqual([]);
    // Twelve years, seven of them with a day more.
    expect(days).toBe(12 * 365 + 7);
  });
  it.each(['2026-00-10', '2026-13-01', '2026-01-00', '2026-1-1', '26-01-01', '2026-01-01T00:00', ''])(
    '“%s” is none',
    (text) => {
      expect(isCalendarDay(text)).toBe(false);
    },
  );
});
