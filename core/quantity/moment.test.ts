// Distances from UTC by the time zone database (IANA), as the runtime has it; worked out by hand from the days on which
// clocks change: in the United States on the second Sunday of March and the first of November, in the EU on the last
// Sundays of March and October (Directive 2000/84/EC), in Kuwait and Japan never.
import { describe, expect, it } from 'vitest';
import { isCalendarDay, isKnownTimeZone, judgeMoment, toEdgeOfDay, toLocalTime, toMoment } from '.';

describe('a moment of a place', () => {
  it.each([
    ['2026-11-27', 'America/Denver', '2026-11-27T00:00:00-07:00'],
    ['2026-07-04', 'America/Denver', '2026-07-04T00:00:00-06:00'],
    ['2026-11-27T08:30', 'Asia/Kuwait', '2026-11-27T08:30:00+03:00'],
    ['2026-11-27T08:30:15', 'Asia/Tokyo', '2026-11-27T08:30:15+09:00'],
    ['2026-03-29', 'Europe/Berlin', '2026-03-29T00:00:00+01:00'],
    ['2026-03-30', 'Europe/Berlin', '2026-03-30T00:00:00+02:00'],
    ['2026-10-25', 'Europe/Berlin', '2026-10-25T00:00:00+02:00'],
    ['2026-06-01', 'Asia/Kolkata', '2026-06-01T00:00:00+05:30'],
    // The hour that comes twice, and the one that is left out.
    ['2026-11-01T01:30', 'America/Denver', '2026-11-01T01:30:00-06:00'],
    ['2026-03-08T02:30', 'America/Denver', '2026-03-08T02:30:00-07:00'],
    ['2026-03-08T03:00', 'America/Denver', '2026-03-08T03:00:00-06:00'],
  ])('%s in %s is %s', (local, zone, is) => {
    expect(toMoment(local, zone)).toBe(is);
  });
  it('is the same instant as the runtime makes of it, on every day of a year', () => {
    for (let n = 0; n < 365; n++) {
      const day = new Date(Date.UTC(2026, 0, 1 + n)).toISOString().slice(0, 10);
      for (const zone of ['America/Denver', 'Europe/Stockholm', 'Asia/Tokyo']) {
        const clock = new Intl.DateTimeFormat('sv-SE', { timeZone: zone, dateStyle: 'short', timeStyle: 'medium' });
        expect(clock.format(new Date(toMoment(day, zone)))).toBe(`${day} 00:00:00`);
        expect(clock.format(new Date(toEdgeOfDay(day, zone, 'last')))).toBe(`${day} 23:59:59`);
      }
    }
  });
});

describe('what a clock shows at a moment', () => {
  it.each([
    ['2026-11-27T00:00:00-07:00', 'Asia/Tokyo', '2026-11-27T16:00:00'],
    ['2026-11-27T00:00:00+09:00', 'Asia/Tokyo', '2026-11-27T00:00:00'],
    ['2026-07-01T12:30:15Z', 'Europe/Berlin', '2026-07-01T14:30:15'],
  ])('%s in %s is %s', (at, zone, shown) => {
    expect(toLocalTime(at, zone)).toBe(shown);
    expect(Date.parse(toMoment(shown, zone))).toBe(Date.parse(at));
  });
});

describe('a text as a point in time', () => {
  it.each([
    ['2026-11-27T00:00:00-07:00', 'moment'],
    ['2026-11-27T00:00Z', 'moment'],
    ['2026-11-27T00:00:00', 'without-zone'],
    ['2026-11-27', 'none'],
    ['2026-02-30T00:00:00Z', 'none'],
    ['2026-11-27T24:00:00Z', 'none'],
    ['2026-11-27 00:00:00Z', 'none'],
    ['soon', 'none'],
  ])('%s is %s', (text, is) => {
    expect(judgeMoment(text)).toBe(is);
  });
  it('knows time zones by their names', () => {
    expect([isKnownTimeZone('Asia/Kuwait'), isKnownTimeZone('Asia/Nowhere')]).toEqual([true, false]);
  });
});

describe('a day of the calendar', () => {
  it('is one of its month, in leap years and others', () => {
    for (const year of [1900, 2000, 2023, 2024])
      for (let month = 1; month <= 12; month++)
        for (let day = 1; day <= 31; day++) {
          const text = `${year}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`;
          const there = new Date(Date.UTC(year, month - 1, day)).toISOString().slice(0, 10) === text;
          expect([text, isCalendarDay(text)]).toEqual([text, there]);
        }
    for (const text of ['2026-00-10', '2026-13-01', '2026-01-00', '2026-1-1', '26-01-01', '2026-01-01T00:00'])
      expect(isCalendarDay(text)).toBe(false);
  });
});
