// Reading days as people and spreadsheets write them, kept as ISO 8601. Which of day and month stands first is stated.
import { format, isValid, parse } from 'date-fns';
import { de, enUS } from 'date-fns/locale';

export type DateOrder = 'day-first' | 'month-first';

const always = ['yyyy-M-d', 'yyyy/M/d', 'yyyy.M.d', 'yyyyMMdd', 'yyyy年M月d日'];
const numeric: Readonly<Record<DateOrder, readonly string[]>> = {
  'day-first': ['d/M/yyyy', 'd.M.yyyy', 'd-M-yyyy', 'd/M/yy', 'd.M.yy', 'd-M-yy'],
  'month-first': ['M/d/yyyy', 'M.d.yyyy', 'M-d-yyyy', 'M/d/yy', 'M.d.yy', 'M-d-yy'],
};
const named = ['d MMM yyyy', 'd MMMM yyyy', 'd-MMM-yyyy', 'd-MMM-yy', 'd. MMMM yyyy', 'MMM d, yyyy', 'MMMM d, yyyy'];
/** A day that a program wrote together with midnight. */
const midnight = /[T ]0{1,2}:00(:00(\.0+)?)?Z?$/;
const longest = 40;
/** Two figures of a year are of this century; the trade sells nothing of the last. */
const century = new Date(2050, 0, 1);

/** A day by the clock of the place where this runs, as year-month-day. */
export const toDay = (time: Date): string => format(time, 'yyyy-MM-dd');

/** The day of a text as year-month-day; undefined where it is none that exists. */
export function readDate(text: string, order: DateOrder): string | undefined {
  const t = text.trim().replace(midnight, '').replace(/\s+/g, ' ');
  if (t === '' || t.length > longest || !/\d/.test(t)) return undefined;
  const isNamed = /\p{L}/u.test(t) && !t.includes('年');
  for (const pattern of isNamed ? named : [...always, ...numeric[order]])
    for (const locale of isNamed ? [enUS, de] : [enUS]) {
      const day = parse(t, pattern, century, { locale });
      // The pattern yyyy takes two figures for a year of antiquity.
      if (isValid(day) && day.getFullYear() >= 1900 && day.getFullYear() < 2200) return toDay(day);
    }
  return undefined;
}

/** The order under which every given text is a day; `undetermined` where both are, or neither. */
export function detectDateOrder(texts: readonly string[]): DateOrder | 'undetermined' {
  const filled = texts.filter((t) => t.trim() !== '');
  const reads = (order: DateOrder): boolean => filled.every((t) => readDate(t, order) !== undefined);
  const day = reads('day-first'),
    month = reads('month-first');
  if (day === month) return 'undetermined';
  return day ? 'day-first' : 'month-first';
}
