import { canonicalNumber, exact, parseMeasure } from '../quantity';
import { type RowRole, type Values, isFilled } from '../listing/values';
import type { Circumstance, Condition } from './schema-basics';
import { say, sayWord, term } from '../text';

/**
 * Members of the European Union, by ISO 3166. Published: Treaty on European Union, article 52, as amended; 27 since 2020.
 * Northern Ireland, to which much of its law on goods applies as well, is not told apart from the rest of its country.
 */
const union = new Set('AT BE BG CY CZ DE DK EE ES FI FR GR HR HU IE IT LT LU LV MT NL PL PT RO SE SI SK'.split(' '));
/** True where goods that go to a country go to one of those that are named, of which `EU` may be one. */
export const isDestination = (country: string, named: readonly string[]): boolean =>
  named.includes(country) || (named.includes('EU') && union.has(country));

const isCircumstance = (c: Condition): c is Circumstance =>
  'role' in c || 'mode' in c || 'site' in c || 'destination' in c;

/**
 * A condition with what is known of the circumstances put in: true or false where nothing of the row counts any more.
 * `tell` answers undefined for what is not known yet.
 */
export function settleCondition(c: Condition, tell: (c: Circumstance) => boolean | undefined): Condition | boolean {
  if ('all' in c) {
    const parts = c.all.map((x) => settleCondition(x, tell));
    if (parts.includes(false)) return false;
    const left = parts.filter((p) => typeof p !== 'boolean');
    return left.length === 0 ? true : left.length === 1 ? left[0]! : { all: left };
  }
  if ('any' in c) {
    const parts = c.any.map((x) => settleCondition(x, tell));
    if (parts.includes(true)) return true;
    const left = parts.filter((p) => typeof p !== 'boolean');
    return left.length === 0 ? false : left.length === 1 ? left[0]! : { any: left };
  }
  if ('not' in c) {
    const part = settleCondition(c.not, tell);
    return typeof part === 'boolean' ? !part : { not: part };
  }
  return isCircumstance(c) ? (tell(c) ?? c) : c;
}

/** Demands with their conditions settled: what never holds is left out, what always does has no condition. */
export const settleDemands = <D extends { when?: Condition | undefined }>(
  demands: readonly D[],
  tell: (c: Circumstance) => boolean | undefined,
): D[] =>
  demands.flatMap((d) => {
    if (d.when === undefined) return d;
    const when = settleCondition(d.when, tell);
    if (when === false) return [];
    if (when !== true) return { ...d, when };
    const { when: _, ...always } = d;
    return always as D;
  });

/**
 * A condition made ready: one function call per row, nothing interpreted. Where a row goes, and whether it is an offer, is
 * settled before; of a condition on that none holds.
 */
export function compileCondition(c: Condition): (values: Values, role?: RowRole) => boolean {
  if ('all' in c) {
    const inner = c.all.map(compileCondition);
    return (v, role) => inner.every((f) => f(v, role));
  }
  if ('any' in c) {
    const inner = c.any.map(compileCondition);
    return (v, role) => inner.some((f) => f(v, role));
  }
  if ('not' in c) {
    const inner = compileCondition(c.not);
    return (v, role) => !inner(v, role);
  }
  if ('role' in c) return (_, role = 'single') => c.role.includes(role);
  if ('mode' in c || 'site' in c || 'destination' in c) return () => false;
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

const roleNames = { single: term`an item by itself`, parent: term`a family`, variant: term`a variant` } as const;

/** The condition as a half sentence for people: "battery_type is filled". */
export function describeCondition(
  c: Condition,
  labelOf: (key: string) => string,
  codeLabel: (key: string, code: string) => string,
): string {
  if ('all' in c) return c.all.map((x) => describeCondition(x, labelOf, codeLabel)).join(say` and `);
  if ('any' in c) return c.any.map((x) => describeCondition(x, labelOf, codeLabel)).join(say` or `);
  if ('not' in c) return say`not (${describeCondition(c.not, labelOf, codeLabel)})`;
  if ('role' in c) return say`it is ${c.role.map((r) => sayWord(roleNames[r])).join(say` or `)}`;
  if ('mode' in c) return c.mode === 'offer' ? say`it joins an entry that is there` : say`it makes an entry of its own`;
  if ('site' in c) return say`it is sold at ${c.site.join(say` or `)}`;
  if ('destination' in c) return say`it goes to ${c.destination.join(say` or `)}`;
  if ('filled' in c) return say`${labelOf(c.attribute)} is ${c.filled ? say`filled` : say`empty`}`;
  if ('is' in c) return say`${labelOf(c.attribute)} is ${c.is.map((x) => codeLabel(c.attribute, x)).join(say` or `)}`;
  return say`${labelOf(c.attribute)} is over ${c.over}`;
}
