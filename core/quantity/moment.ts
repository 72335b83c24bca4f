// Days and moments. A moment is a day with its time and its distance from UTC (ISO 8601, RFC 3339), such as
// 2026-11-27T00:00:00-07:00; which distance a place has on a day comes from the time zone database in the runtime.
const isoDate = /^\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$/;

/** True for a calendar day that exists. */
export function isCalendarDay(text: string): boolean {
  if (!isoDate.test(text)) return false;
  const [y, m, d] = text.split('-').map(Number) as [number, number, number];
  const leap = (y % 4 === 0 && y % 100 !== 0) || y % 400 === 0;
  return d <= [31, leap ? 29 : 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31][m - 1]!;
}

const moment = /^(\d{4}-\d{2}-\d{2})T([01]\d|2[0-3]):([0-5]\d)(?::([0-5]\d))?(Z|[+-](?:0\d|1[0-4]):[0-5]\d)?$/;

/** What a text is as a point in time: a moment, one that names no zone, or none. */
export function judgeMoment(text: string): 'moment' | 'without-zone' | 'none' {
  const m = moment.exec(text);
  if (!m || !isCalendarDay(m[1]!)) return 'none';
  return m[5] === undefined ? 'without-zone' : 'moment';
}

const formats = new Map<string, Intl.DateTimeFormat>();
function formatOf(timeZone: string): Intl.DateTimeFormat {
  const known =
    formats.get(timeZone) ??
    new Intl.DateTimeFormat('en-US', {
      timeZone,
      hourCycle: 'h23',
      year: 'numeric',
      month: 'numeric',
      day: 'numeric',
      hour: 'numeric',
      minute: 'numeric',
      second: 'numeric',
    });
  formats.set(timeZone, known);
  return known;
}

/** Milliseconds that clocks of a place are ahead of UTC at an instant. */
function offsetAt(instant: number, timeZone: string): number {
  const part = new Map(
    formatOf(timeZone)
      .formatToParts(new Date(instant))
      .map((p) => [p.type, Number(p.value)]),
  );
  const at = (type: Intl.DateTimeFormatPartTypes): number => part.get(type) ?? 0;
  return Date.UTC(at('year'), at('month') - 1, at('day'), at('hour'), at('minute'), at('second')) - instant;
}

/** True for a time zone that the runtime knows, such as America/Denver. */
export function isKnownTimeZone(timeZone: string): boolean {
  try {
    formatOf(timeZone);
    return true;
  } catch {
    return false;
  }
}

const two = (n: number): string => String(n).padStart(2, '0');

/**
 * The moment of a place's clock: `2026-11-27T08:30` in America/Denver is 2026-11-27T08:30:00-07:00. An hour that a change of
 * clocks leaves out is read as if they had not changed yet; one that comes twice is its first.
 */
export function toMoment(local: string, timeZone: string): string {
  const m = moment.exec(local.length === 10 ? `${local}T00:00` : local)!;
  const [year, month, day] = m[1]!.split('-').map(Number) as [number, number, number];
  const clock = Date.UTC(year, month - 1, day, Number(m[2]), Number(m[3]), Number(m[4] ?? 0));
  // The distance a day before is that before a change; where it does not lead to this clock, the one after it does.
  const before = offsetAt(clock - 86_400_000, timeZone),
    after = offsetAt(clock - before, timeZone);
  const offset = offsetAt(clock - after, timeZone) === after ? after : before;
  const minutes = Math.abs(Math.round(offset / 60_000));
  return `${m[1]}T${m[2]}:${m[3]}:${m[4] ?? '00'}${offset < 0 ? '-' : '+'}${two(Math.floor(minutes / 60))}:${two(minutes % 60)}`;
}

/** What the clock of a place shows at a moment: 2026-11-27T00:00:00-07:00 is 2026-11-27T16:00:00 in Asia/Tokyo. */
export function toLocalTime(momentText: string, timeZone: string): string {
  const instant = Date.parse(momentText);
  return new Date(instant + offsetAt(instant, timeZone)).toISOString().slice(0, 19);
}

/** The moment at which a day begins in a place, or its last second. */
export const toEdgeOfDay = (day: string, timeZone: string, edge: 'first' | 'last'): string =>
  toMoment(edge === 'first' ? `${day}T00:00:00` : `${day}T23:59:59`, timeZone);
