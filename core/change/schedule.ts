// When something is done again and again: some times an hour or a day, every day or workday, on a day of the week or of the month.
import { addDays, addMonths, getDaysInMonth, getISODay, isWeekend, set as setTime, setDate } from 'date-fns';
import { z } from 'zod';
import { say, sayWord, term } from '../text';

const at = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'A time is written as 06:30.');
/** Minutes that go into an hour without a rest, so that each hour has the same times. */
export const minuteSteps = [5, 10, 15, 20, 30] as const;
/** Hours that go into a day without a rest, so that each day has the same times. */
export const hourSteps = [1, 2, 3, 4, 6, 8, 12] as const;
export const scheduleSchema = z.discriminatedUnion('every', [
  /** So many minutes apart, from the full hour on. */
  z.strictObject({ every: z.literal('minutes'), minutes: z.literal([...minuteSteps]) }),
  /** So many hours apart; `at` is one of the times. */
  z.strictObject({ every: z.literal('hours'), hours: z.literal([...hourSteps]), at }),
  /** From Monday to Friday. */
  z.strictObject({ every: z.literal('workday'), at }),
  z.strictObject({ every: z.literal('day'), at }),
  /** Monday is 1, Sunday 7 (ISO 8601). */
  z.strictObject({ every: z.literal('week'), weekday: z.int().min(1).max(7), at }),
  /** The last day where a month has not so many. */
  z.strictObject({ every: z.literal('month'), day: z.int().min(1).max(31), at }),
]);
export type Schedule = z.output<typeof scheduleSchema>;

/** The first time after `now`, by the clock of the place where this runs. */
export function findNextTime(s: Schedule, now: Date): Date {
  if (s.every === 'minutes')
    return setTime(now, {
      minutes: (Math.floor(now.getMinutes() / s.minutes) + 1) * s.minutes,
      seconds: 0,
      milliseconds: 0,
    });
  const [hours, minutes] = s.at.split(':').map(Number) as [number, number];
  const onDay = (day: Date): Date => setTime(day, { hours, minutes, seconds: 0, milliseconds: 0 });
  if (s.every === 'hours') {
    const first = hours % s.hours;
    const times = (day: Date): Date[] =>
      Array.from({ length: 24 / s.hours }, (_, i) =>
        setTime(day, { hours: first + i * s.hours, minutes, seconds: 0, milliseconds: 0 }),
      );
    return times(now).find((t) => t > now) ?? times(addDays(now, 1))[0]!;
  }
  if (s.every === 'workday') {
    let day = later(onDay(now), now) ? now : addDays(now, 1);
    while (isWeekend(day)) day = addDays(day, 1);
    return onDay(day);
  }
  if (s.every === 'day') return later(onDay(now), now) ?? onDay(addDays(now, 1));
  if (s.every === 'week') {
    const ahead = (s.weekday - getISODay(now) + 7) % 7;
    return later(onDay(addDays(now, ahead)), now) ?? onDay(addDays(now, ahead + 7));
  }
  const inMonth = (month: Date): Date => onDay(setDate(month, Math.min(s.day, getDaysInMonth(month))));
  return later(inMonth(now), now) ?? inMonth(addMonths(setDate(now, 1), 1));
}
const later = (time: Date, now: Date): Date | undefined => (time > now ? time : undefined);

const weekdays = [
  term`Monday`,
  term`Tuesday`,
  term`Wednesday`,
  term`Thursday`,
  term`Friday`,
  term`Saturday`,
  term`Sunday`,
];
const ordinal = (n: number): string => {
  const teens = n % 100 > 10 && n % 100 < 14;
  return `${n}${teens ? 'th' : (['th', 'st', 'nd', 'rd'][n % 10] ?? 'th')}`;
};

/** A schedule in words: “every Friday at 18:00”. */
export function wordSchedule(s: Schedule): string {
  switch (s.every) {
    case 'minutes':
      return say`every ${s.minutes} minutes`;
    case 'hours':
      return s.hours === 1 ? say`every hour from ${s.at}` : say`every ${s.hours} hours from ${s.at}`;
    case 'workday':
      return say`from Monday to Friday at ${s.at}`;
    case 'day':
      return say`every day at ${s.at}`;
    case 'week':
      return say`every ${sayWord(weekdays[s.weekday - 1]!)} at ${s.at}`;
    case 'month':
      return say`on the ${ordinal(s.day)} of every month at ${s.at}`;
  }
}
