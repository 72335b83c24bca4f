import { isSameValue, type Value } from '../listing/values';
import { canonicalNumber, normaliseNumber } from '../quantity';
import type { FieldBook } from './fields';

/** True if two values of a field of ours are the same: numbers as numbers (12.5 is 12.50), the rest as text. */
export function isSameField(fields: FieldBook, field: string, a: Value | null, b: Value | null): boolean {
  if (isSameValue(a ?? undefined, b ?? undefined)) return true;
  const kind = fields.get(field)?.kind;
  if (kind !== 'money' && kind !== 'number' && kind !== 'integer') return false;
  return (
    typeof a === 'string' &&
    typeof b === 'string' &&
    canonicalNumber.test(a) &&
    canonicalNumber.test(b) &&
    normaliseNumber(a) === normaliseNumber(b)
  );
}
