import { describe, expect, it } from 'vitest';
import { findNextTime, type Schedule, scheduleSchema, wordSchedule } from './schedule';

const next = (s: Schedule, now: string): string => {
  const d = findNextTime(s, new Date(now));
  const two = (n: number): string => String(n).padStart(2, '0');
  return `${d.getFullYear()}-${two(d.getMonth() + 1)}-${two(d.getDate())}T${two(d.getHours())}:${two(d.getMinutes())}`;
};

describe('a schedule', () => {
  // 26 November 2026 is a Thursday.
  it.each<[Schedule, string, string, string]>([
    [{ every: 'day', at: '06:30' }, '2026-11-26T05:00', '2026-11-26T06:30', 'every day at 06:30'],
    [{ every: 'day', at: '06:30' }, '2026-11-26T06:30', '2026-11-27T06:30', 'every day at 06:30'],
    [{ every: 'week', weekday: 5, at: '18:00' }, '2026-11-26T19:00', '2026-11-27T18:00', 'every Friday at 18:00'],
    [{ every: 'week', weekday: 4, at: '18:00' }, '2026-11-26T17:59', '2026-11-26T18:00', 'every Thursday at 18:00'],
    [{ every: 'week', weekday: 4, at: '18:00' }, '2026-11-26T18:00', '2026-12-03T18:00', 'every Thursday at 18:00'],
    [{ every: 'week', weekday: 1, at: '00:00' }, '2026-12-31T12:00', '2027-01-04T00:00', 'every Monday at 00:00'],
    [
      { every: 'month', day: 1, at: '06:00' },
      '2026-11-26T05:00',
      '2026-12-01T06:00',
      'on the 1st of every month at 06:00',
    ],
    [
      { every: 'month', day: 31, at: '06:00' },
      '2026-11-26T05:00',
      '2026-11-30T06:00',
      'on the 31st of every month at 06:00',
    ],
    [
      { every: 'month', day: 31, at: '06:00' },
      '2027-01-31T07:00',
      '2027-02-28T06:00',
      'on the 31st of every month at 06:00',
    ],
    [
      { every: 'month', day: 12, at: '23:59' },
      '2026-12-12T23:59',
      '2027-01-12T23:59',
      'on the 12th of every month at 23:59',
    ],
    [{ every: 'minutes', minutes: 15 }, '2026-11-26T13:07', '2026-11-26T13:15', 'every 15 minutes'],
    [{ every: 'minutes', minutes: 15 }, '2026-11-26T13:15', '2026-11-26T13:30', 'every 15 minutes'],
    [{ every: 'minutes', minutes: 20 }, '2026-12-31T23:40', '2027-01-01T00:00', 'every 20 minutes'],
    [{ every: 'hours', hours: 1, at: '06:15' }, '2026-11-26T13:15', '2026-11-26T14:15', 'every hour from 06:15'],
    [{ every: 'hours', hours: 4, at: '06:30' }, '2026-11-26T05:00', '2026-11-26T06:30', 'every 4 hours from 06:30'],
    // 06:30, 10:30, 14:30, 18:30, 22:30, 02:30.
    [{ every: 'hours', hours: 4, at: '06:30' }, '2026-11-26T22:30', '2026-11-27T02:30', 'every 4 hours from 06:30'],
    [{ every: 'hours', hours: 12, at: '18:00' }, '2026-12-31T18:00', '2027-01-01T06:00', 'every 12 hours from 18:00'],
    [{ every: 'workday', at: '07:00' }, '2026-11-26T06:59', '2026-11-26T07:00', 'from Monday to Friday at 07:00'],
    [{ every: 'workday', at: '07:00' }, '2026-11-27T07:00', '2026-11-30T07:00', 'from Monday to Friday at 07:00'],
    [{ every: 'workday', at: '07:00' }, '2026-11-28T06:00', '2026-11-30T07:00', 'from Monday to Friday at 07:00'],
  ])('%j after %s is %s', (s, now, time, words) => {
    expect(next(s, now)).toBe(time);
    expect(wordSchedule(s)).toBe(words);
  });
  it.each([
    { every: 'day', at: '24:00' },
    { every: 'minutes', minutes: 7 },
    { every: 'hours', hours: 5, at: '06:00' },
    { every: 'hours', hours: 24, at: '06:00' },
    { every: 'week', weekday: 0, at: '06:00' },
    { every: 'month', day: 32, at: '06:00' },
    { every: 'year', at: '06:00' },
  ])('that cannot be is refused: %j', (s) => {
    expect(scheduleSchema.safeParse(s).success).toBe(false);
  });
});
