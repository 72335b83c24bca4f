import type { Decimal } from 'decimal.js';
import { convertUnit, Exact, exact, isKnownUnit, findUnit, parseMeasure } from '../../quantity';
import { failRow } from '../fault';
import { toWords, type Worked } from '../types';
import { argument, type FormulaFunction } from './define';

const number = argument('number', 'number');
const numbers = (given: readonly Worked[]): Exact[] => given.filter((v): v is Exact => v instanceof Exact);
const mostPlaces = 20;

/** Places to round to, under zero for tens and hundreds. */
function toPlaces(value: Worked | undefined, name: string): number {
  if (value === undefined) return 0;
  const n = value as Exact;
  if (!n.isInteger() || n.abs().gt(mostPlaces))
    return failRow({ kind: 'out-of-range', function: name, value: n.toFixed() });
  return n.toNumber();
}

const roundTo = (value: Exact, places: number, how: Decimal.Rounding): Exact => {
  if (places >= 0) return value.toDecimalPlaces(places, how);
  const tens = new Exact(10).pow(-places);
  return value.dividedBy(tens).toDecimalPlaces(0, how).times(tens);
};
const rounding = (name: string, how: Decimal.Rounding, about: string, example: string, result: string) =>
  ({
    name,
    group: 'Numbers',
    takes: [number, argument('places', 'number')],
    least: 1,
    gives: 'number',
    about,
    example,
    result,
    work: ([n, places]) => roundTo(n as Exact, toPlaces(places, name), how),
  }) satisfies FormulaFunction;
const stepping = (name: string, how: Decimal.Rounding, about: string, example: string, result: string) =>
  ({
    name,
    group: 'Numbers',
    takes: [number, argument('step', 'number')],
    least: 1,
    gives: 'number',
    about,
    example,
    result,
    work: ([n, by]) => {
      const step = (by as Exact | undefined)?.abs() ?? exact(1);
      if (step.isZero()) return exact(0);
      return (n as Exact).dividedBy(step).toDecimalPlaces(0, how).times(step);
    },
  }) satisfies FormulaFunction;
const several = (name: string, about: string, example: string, result: string, work: (n: Exact[]) => Exact | null) =>
  ({
    name,
    group: 'Numbers',
    takes: [number],
    further: number,
    takesEmpty: true,
    gives: 'number',
    about,
    example,
    result,
    work: (given) => {
      const held = numbers(given);
      return held.length === 0 ? null : work(held);
    },
  }) satisfies FormulaFunction;

const sum = (n: Exact[]): Exact => n.reduce((a, b) => a.plus(b));

/** Numbers as OpenFormula has them (OASIS OpenDocument 1.2 part 2, section 6.16), exact. */
export const numberFunctions: readonly FormulaFunction[] = [
  rounding(
    'round',
    Exact.ROUND_HALF_UP,
    'Rounded to so many places, halves away from zero; whole where none are given.',
    'round(2.345, 2)',
    '2.35',
  ),
  rounding('roundup', Exact.ROUND_UP, 'Rounded away from zero.', 'roundup(2.341, 2)', '2.35'),
  rounding('rounddown', Exact.ROUND_DOWN, 'Rounded towards zero.', 'rounddown(2.349, 2)', '2.34'),
  stepping(
    'ceiling',
    Exact.ROUND_CEIL,
    'The next multiple of a step that is not under it.',
    'ceiling(7.1, 0.5)',
    '7.5',
  ),
  stepping('floor', Exact.ROUND_FLOOR, 'The last multiple of a step that is not over it.', 'floor(7.9, 0.5)', '7.5'),
  {
    name: 'int',
    group: 'Numbers',
    takes: [number],
    gives: 'number',
    about: 'The whole number that is not over it.',
    example: 'int(12.99)',
    result: '12',
    work: ([n]) => (n as Exact).floor(),
  },
  {
    name: 'abs',
    group: 'Numbers',
    takes: [number],
    gives: 'number',
    about: 'Without its sign.',
    example: 'abs(3 - 5)',
    result: '2',
    work: ([n]) => (n as Exact).abs(),
  },
  {
    name: 'mod',
    group: 'Numbers',
    takes: [number, argument('by', 'number')],
    gives: 'number',
    about: 'What is left over after dividing.',
    example: 'mod(14, 4)',
    result: '2',
    work: ([n, by]) => {
      const a = n as Exact,
        b = by as Exact;
      if (b.isZero()) return failRow({ kind: 'divided-by-zero' });
      return a.minus(b.times(a.dividedBy(b).floor()));
    },
  },
  several('sum', 'All together; what is empty is left out.', 'sum(1, 2, 3)', '6', sum),
  several('average', 'All together by how many they are; what is empty is left out.', 'average(2, 4)', '3', (n) =>
    sum(n).dividedBy(n.length),
  ),
  several('min', 'The least; what is empty is left out.', 'min(3, 1, 2)', '1', (n) => Exact.min(...n)),
  several('max', 'The greatest; what is empty is left out.', 'max(3, 1, 2)', '3', (n) => Exact.max(...n)),
  {
    name: 'amount',
    group: 'Numbers',
    takes: [argument('measure', 'measure'), argument('unit', 'text')],
    least: 1,
    gives: 'number',
    about: 'The number of a measure, in a unit where one is given.',
    example: 'amount("24 cm", "mm")',
    result: '240',
    work: ([m, u]) => {
      const read = parseMeasure(toWords(m!));
      if (u === undefined && read) return exact(read.amount);
      const unit = findUnit(toWords(u ?? null)) ?? toWords(u ?? null);
      const made =
        read?.unit !== undefined && isKnownUnit(unit)
          ? convertUnit({ amount: read.amount, unit: read.unit }, unit)
          : undefined;
      return made ?? failRow({ kind: 'no-measure', text: toWords(m!), unit: u === undefined ? null : unit });
    },
  },
];
