import { z } from 'zod';
import { getMoneyPlaces, type ProductField } from '../../product';
import { canonicalNumber, Exact, exact, getEndingStep, raiseToStep } from '../../quantity';
import type { Value } from '../../listing/values';
import { becomes, type CellOutcome, isNumeric, left, type OperationKind, ready, refuse } from './define';

/** A held number; undefined where there is none to reckon with. */
const read = (held: Value | undefined): Exact | undefined =>
  typeof held === 'string' && canonicalNumber.test(held) ? exact(held) : undefined;

const places = 6;
/** A number as its field keeps it: amounts with the places of their currency, whole numbers whole. */
function keep(n: Exact, field: ProductField): string {
  if (field.kind === 'money') return n.toFixed(getMoneyPlaces(field));
  return n.toDecimalPlaces(field.kind === 'integer' ? 0 : places).toFixed();
}
const toNumber = (n: Exact, field: ProductField): CellOutcome => becomes(keep(n, field));

const raiseSchema = z.strictObject({
  do: z.literal('raise'),
  by: z.enum(['percent', 'amount']),
  /** Under zero it is lowered. */
  of: z.string().trim(),
});
/** Higher or lower by a share or an amount, rounded half up. */
export const raise: OperationKind<typeof raiseSchema> = {
  do: 'raise',
  schema: raiseSchema,
  fits: isNumeric,
  prepare: ({ by, of }, field) => {
    if (of === '') return refuse({ is: 'nothing-given', part: 'of' });
    if (!canonicalNumber.test(of)) return refuse({ is: 'not-a-number', part: 'of', value: of });
    const change = exact(of),
      factor = change.dividedBy(100).plus(1);
    return ready((held) => {
      const n = read(held);
      return n ? toNumber(by === 'percent' ? n.times(factor) : n.plus(change), field) : left;
    });
  },
};

/** An ending as a number, such as 0.99; undefined for what is none. */
export function readEnding(ending: string): string | undefined {
  const written = ending.startsWith('.') ? `0${ending}` : ending;
  return canonicalNumber.test(written) && !written.startsWith('-') && exact(written).lt(1000) ? written : undefined;
}

const roundSchema = z.strictObject({
  do: z.literal('round'),
  /** .99, .95, .00, or 9.99 for every ten. */
  ending: z.string().trim(),
  way: z.enum(['up', 'nearest', 'down']),
});
/** To the next number with an ending: up where a floor must hold. */
export const round: OperationKind<typeof roundSchema> = {
  do: 'round',
  schema: roundSchema,
  fits: isNumeric,
  prepare: ({ ending, way }, field) => {
    if (ending === '') return refuse({ is: 'nothing-given', part: 'ending' });
    const written = readEnding(ending);
    if (written === undefined) return refuse({ is: 'not-a-number', part: 'ending', value: ending });
    const step = getEndingStep(exact(written));
    return ready((held) => {
      const n = read(held);
      if (!n) return left;
      const up = raiseToStep(n, step, written),
        under = up.eq(n) ? up : up.minus(step);
      const isUp = way === 'up' || (way === 'nearest' && up.minus(n).lte(n.minus(under)));
      return toNumber(isUp ? up : under, field);
    });
  },
};

const numberSchema = z.strictObject({
  do: z.literal('number'),
  pattern: z.string().trim(),
  start: z.int().min(0).max(1_000_000_000),
  step: z.int().min(1).max(1_000_000),
});
/** A run of numbers: each # of the pattern is a figure, ART-#### is ART-0001, ART-0002 … Longer numbers take what they need. */
export const number: OperationKind<typeof numberSchema> = {
  do: 'number',
  schema: numberSchema,
  fits: ({ kind }) => kind === 'text' || kind === 'identifier' || kind === 'integer',
  prepare: ({ pattern, start, step }) => {
    if (pattern === '') return refuse({ is: 'nothing-given', part: 'pattern' });
    const figures = /#+/.exec(pattern);
    if (!figures) return refuse({ is: 'no-digits', pattern });
    const before = pattern.slice(0, figures.index),
      after = pattern.slice(figures.index + figures[0].length);
    return ready((_, { index }) =>
      becomes(before + String(start + index * step).padStart(figures[0].length, '0') + after),
    );
  },
};
