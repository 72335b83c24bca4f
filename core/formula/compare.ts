// Comparing what was worked out. Texts are compared without regard to case, as spreadsheets do.
import { Exact, exact, parseMeasure, convertUnit } from '../quantity';
import { toNaturalKey } from '../text';
import { toWords, type Worked } from './types';

const isEmpty = (v: Worked): boolean => v === null || v === '';

/** Whether two are the same; empty is the same as empty, and as nothing else. */
export function isSame(a: Worked, b: Worked): boolean {
  if (isEmpty(a) || isEmpty(b)) return isEmpty(a) && isEmpty(b);
  return order(a, b) === 0;
}

/** Which comes first: under zero the first, over zero the second; undefined where one is empty or they are of no one kind. */
export function order(a: Worked, b: Worked): number | undefined {
  if (isEmpty(a) || isEmpty(b)) return undefined;
  if (a instanceof Exact && b instanceof Exact) return a.comparedTo(b);
  const measured = orderMeasures(a, b);
  if (measured !== undefined) return measured;
  const x = toWords(a).toLowerCase(),
    y = toWords(b).toLowerCase();
  if (x === y) return 0;
  const p = toNaturalKey(x),
    q = toNaturalKey(y);
  return p < q ? -1 : p > q ? 1 : x < y ? -1 : 1;
}

/** 25 mm against 3 cm: by size, where both measure the same. */
function orderMeasures(a: Worked, b: Worked): number | undefined {
  if (typeof a !== 'string' || typeof b !== 'string') return undefined;
  const x = parseMeasure(a),
    y = parseMeasure(b);
  if (x?.unit === undefined || y?.unit === undefined) return undefined;
  const converted = convertUnit({ amount: x.amount, unit: x.unit }, y.unit);
  return converted?.comparedTo(exact(y.amount));
}
