import { addDays, addMonths, differenceInCalendarDays, getISODay, parseISO } from 'date-fns';
import { Exact, exact, readDate, toDay } from '../../quantity';
import { failRow } from '../fault';
import { toWords, type Worked } from '../types';
import { argument, type FormulaFunction } from './define';

const day = argument('day', 'date');
const at = (v: Worked | undefined): Date => parseISO(v as string);
/** Days are of this and the next centuries; past them nothing of the trade is. */
const mostSteps = 100_000;

function toSteps(value: Worked | undefined, name: string): number {
  const n = value as Exact;
  if (!n.isInteger() || n.abs().gt(mostSteps))
    return failRow({ kind: 'out-of-range', function: name, value: n.toFixed() });
  return n.toNumber();
}

/** A day so many days on. */
export const moveDay = (from: Worked, days: Worked): string => toDay(addDays(at(from), toSteps(days, '+')));
/** Days from one day to another. */
export const countDays = (to: Worked, from: Worked): Exact => exact(differenceInCalendarDays(at(to), at(from)));

const part = (name: string, about: string, example: string, result: string, read: (d: Date) => number) =>
  ({
    name,
    group: 'Days',
    takes: [day],
    gives: 'number',
    about,
    example,
    result,
    work: ([d]) => exact(read(at(d))),
  }) satisfies FormulaFunction;

export const dayFunctions: readonly FormulaFunction[] = [
  {
    name: 'today',
    group: 'Days',
    takes: [],
    gives: 'date',
    about: 'The day on which it is worked out.',
    example: 'today() - today()',
    result: '0',
    readsDay: true,
    work: (_, row) => row.today,
  },
  {
    name: 'date',
    group: 'Days',
    takes: [argument('year', 'number'), argument('month', 'number'), argument('day', 'number')],
    gives: 'date',
    about: 'The day of a year, a month and a day.',
    example: 'date(2026, 11, 27)',
    result: '2026-11-27',
    work: (given) => {
      const written = given.map((v) => (v as Exact).toFixed().padStart(2, '0')).join('-');
      return readDate(written, 'day-first') ?? failRow({ kind: 'no-day', text: written });
    },
  },
  {
    name: 'day',
    group: 'Days',
    takes: [argument('text', 'text')],
    gives: 'date',
    about: 'The day that a text is, the day before the month.',
    example: 'day("27/11/2026")',
    result: '2026-11-27',
    work: ([t]) => readDate(toWords(t!), 'day-first') ?? failRow({ kind: 'no-day', text: toWords(t!) }),
  },
  part('year', 'The year of a day.', 'year("2026-11-27")', '2026', (d) => d.getFullYear()),
  part('month', 'The month of a day.', 'month("2026-11-27")', '11', (d) => d.getMonth() + 1),
  part('monthday', 'The day of its month.', 'monthday("2026-11-27")', '27', (d) => d.getDate()),
  part('weekday', 'The day of its week, Monday 1 and Sunday 7.', 'weekday("2026-11-27")', '5', getISODay),
  {
    name: 'addmonths',
    group: 'Days',
    takes: [day, argument('months', 'number')],
    gives: 'date',
    about: 'The day so many months on; the last of the month where it has no such day.',
    example: 'addmonths("2026-01-31", 1)',
    result: '2026-02-28',
    work: ([d, n]) => toDay(addMonths(at(d), toSteps(n, 'addmonths'))),
  },
];
