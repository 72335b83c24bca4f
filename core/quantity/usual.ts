// What a measure usually is among goods of one kind, and how far one that slipped stands from it.
import { convertUnit, fitUnit, type Measure, parseMeasure } from './unit';
import { exact } from './decimal';

export interface Usual {
  /** The middle of the measures, in the unit that most of them are in; rounded to two figures. */
  amount: string;
  unit: string;
  count: number;
}

/** Measures that there must be before their middle says anything, and how far from it the middle half may lie. Common practice. */
const fewest = 8,
  mostSpread = 4;
/** So many times over or under what is usual is taken for a slip of the unit or of the point. Common practice. */
const farTimes = 30,
  nearTimes = 4;

const toNumber = (m: Measure, unit: string): number | undefined => convertUnit(m, unit)?.toNumber();

/** The usual measure of goods of one kind; undefined where they are few, or differ among themselves too much to tell. */
export function computeUsual(texts: readonly string[]): Usual | undefined {
  const measures = texts.flatMap((t): Measure[] => {
    const read = parseMeasure(t);
    return read?.unit !== undefined && Number(read.amount) > 0 ? [{ amount: read.amount, unit: read.unit }] : [];
  });
  const counts = new Map<string, number>();
  for (const { unit } of measures) counts.set(unit, (counts.get(unit) ?? 0) + 1);
  const unit = [...counts].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1))[0]?.[0];
  if (unit === undefined) return undefined;
  const amounts = measures.flatMap((m) => toNumber(m, unit) ?? []).sort((a, b) => a - b);
  if (amounts.length < fewest) return undefined;
  const at = (share: number): number => amounts[Math.floor((amounts.length - 1) * share)]!;
  const middle = at(0.5);
  if (at(0.75) > middle * mostSpread || at(0.25) < middle / mostSpread) return undefined;
  return { amount: exact(String(middle)).toSignificantDigits(2).toFixed(), unit, count: amounts.length };
}

/** By how many places a point slips. */
const points = ['0.001', '0.01', '0.1', '10', '100', '1000'] as const;

export interface FarOff {
  /** How many times what is usual it is, over or under. */
  times: number;
  isOver: boolean;
  /** The one measure, in a unit that is accepted, that it may have been meant as; undefined where there is none, or several. */
  meant: Measure | undefined;
}

/** Judges a measure against what is usual; undefined where it is not far off, or measures something else. */
export function judgeMeasure(text: string, usual: Usual, accepted: readonly string[]): FarOff | undefined {
  const read = parseMeasure(text);
  if (read?.unit === undefined || !(Number(read.amount) > 0)) return undefined;
  const measure = { amount: read.amount, unit: read.unit };
  const middle = Number(usual.amount),
    amount = toNumber(measure, usual.unit);
  if (amount === undefined || middle <= 0) return undefined;
  const times = amount > middle ? amount / middle : middle / amount;
  if (times < farTimes) return undefined;
  const isUsual = (m: Measure): boolean => {
    const n = toNumber(m, usual.unit);
    return n !== undefined && n <= middle * nearTimes && n >= middle / nearTimes;
  };
  // The same number in another unit of those in use here says more than a moved point, which would often give the same.
  const byUnit = [...new Set([...accepted, usual.unit])]
    .filter((unit) => unit !== measure.unit)
    .map((unit) => ({ amount: measure.amount, unit }));
  const byPoint = points.map((by) => ({ amount: exact(measure.amount).times(by).toFixed(), unit: measure.unit }));
  const meant = [byUnit, byPoint].map((all) => all.filter(isUsual)).find((all) => all.length > 0) ?? [];
  return {
    times,
    isOver: amount > middle,
    meant: meant.length === 1 ? fitUnit(meant[0]!, accepted) : undefined,
  };
}
