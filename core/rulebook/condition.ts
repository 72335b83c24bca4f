import { canonicalNumber, exact, parseMeasure } from '../quantity';
import { type Values, isFilled } from '../listing/values';
import type { Condition } from './schema';

/** A condition made ready: one function call per row, nothing interpreted. */
export function compileCondition(c: Condition): (values: Values) => boolean {
  if ('all' in c) {
    const inner = c.all.map(compileCondition);
    return (v) => inner.every((f) => f(v));
  }
  if ('any' in c) {
    const inner = c.any.map(compileCondition);
    return (v) => inner.some((f) => f(v));
  }
  if ('not' in c) {
    const inner = compileCondition(c.not);
    return (v) => !inner(v);
  }
  const key = c.attribute;
  if ('filled' in c) return c.filled ? (v) => isFilled(v[key]) : (v) => !isFilled(v[key]);
  if ('is' in c) {
    const wanted = new Set(c.is);
    return (v) => {
      const value = v[key];
      return typeof value === 'string' ? wanted.has(value) : value !== undefined && value.some((x) => wanted.has(x));
    };
  }
  const bound = exact(c.over);
  return (v) => {
    const value = v[key];
    const number = typeof value === 'string' ? parseMeasure(value)?.amount : undefined;
    return number !== undefined && canonicalNumber.test(number) && exact(number).gt(bound);
  };
}

/** The condition as a half sentence for people: "battery_type is filled". */
export function describeCondition(
  c: Condition,
  labelOf: (key: string) => string,
  codeLabel: (key: string, code: string) => string,
): string {
  if ('all' in c) return c.all.map((x) => describeCondition(x, labelOf, codeLabel)).join(' and ');
  if ('any' in c) return c.any.map((x) => describeCondition(x, labelOf, codeLabel)).join(' or ');
  if ('not' in c) return `not (${describeCondition(c.not, labelOf, codeLabel)})`;
  if ('filled' in c) return `${labelOf(c.attribute)} is ${c.filled ? 'filled' : 'empty'}`;
  if ('is' in c) return `${labelOf(c.attribute)} is ${c.is.map((x) => codeLabel(c.attribute, x)).join(' or ')}`;
  return `${labelOf(c.attribute)} is over ${c.over}`;
}
