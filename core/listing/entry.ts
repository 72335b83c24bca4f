// Whether an entry of a market is of our item: what it says against what we say, each in its own spelling or unit.
import { isSameItem } from '../identifiers';
import { convertUnit, exact, parseMeasure } from '../quantity';
import type { Rulebook, RulebookAttribute } from '../rulebook/schema';
import { fold } from '../text';
import { isFilled, toText, type Value, type Values } from './values';

/** The facts of an entry, by attribute, of which we say something else. What we say nothing of contradicts nothing. */
export function findContradictions({ attributes }: Rulebook, facts: Values, ours: Values): string[] {
  return Object.keys(facts).filter((field) => {
    const attribute = attributes.find((a) => a.key === field);
    return attribute !== undefined && isFilled(ours[field]) && !agrees(attribute, facts[field]!, ours[field]!);
  });
}

/** True where both say the same, each in its own spelling or unit. */
function agrees({ type }: RulebookAttribute, theirs: Value, ours: Value): boolean {
  const a = toText(theirs),
    b = toText(ours);
  if (a === b || fold(a) === fold(b)) return true;
  switch (type) {
    case 'identifier':
      return isSameItem(a, b);
    case 'integer':
    case 'decimal':
      return isSameNumber(a, b);
    case 'measure':
      return isSameMeasure(a, b);
    default:
      return false;
  }
}

function isSameNumber(a: string, b: string): boolean {
  const n = parseMeasure(a)?.amount,
    m = parseMeasure(b)?.amount;
  return n !== undefined && m !== undefined && exact(n).eq(exact(m));
}

function isSameMeasure(a: string, b: string): boolean {
  const x = parseMeasure(a),
    y = parseMeasure(b);
  if (x?.unit === undefined || y?.unit === undefined) return false;
  return convertUnit({ amount: x.amount, unit: x.unit }, y.unit)?.eq(exact(y.amount)) ?? false;
}
