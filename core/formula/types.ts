// What an expression of a formula can be, and how fields of ours are read as one.
import type { FieldKind } from '../product';
import { canonicalNumber, Exact, exact, parseMeasure, readDate } from '../quantity';
import type { Value } from '../listing/values';

/** `nothing` is what is always empty, such as `if` without an else whose condition cannot hold. */
export type FormulaType = 'number' | 'text' | 'yes-no' | 'date' | 'measure' | 'list' | 'nothing';

/** A worked out value: numbers exact, days and measures as text; null is empty. Empty is not zero. */
export type Worked = Exact | string | boolean | readonly string[] | null;

/** What a row is worked out from. */
export interface FormulaRow {
  values: Readonly<Record<string, Value>>;
  /** The day that counts as today, ISO 8601. */
  today: string;
}
export type Run = (row: FormulaRow) => Worked;

const typeOfKind: Readonly<Record<FieldKind, FormulaType>> = {
  text: 'text',
  'long-text': 'text',
  identifier: 'text',
  number: 'number',
  money: 'number',
  integer: 'number',
  date: 'date',
  measure: 'measure',
  'yes-no': 'yes-no',
  list: 'list',
};
export const toFormulaType = (kind: FieldKind): FormulaType => typeOfKind[kind];

/** A stored value as a type; null where it is empty or, against its field's kind, something else. */
export function readStored(type: FormulaType, value: Value | undefined): Worked {
  if (value === undefined || value.length === 0) return null;
  if (type === 'list') return typeof value === 'string' ? [value] : value;
  const text = typeof value === 'string' ? value : value.join(' | ');
  switch (type) {
    case 'number':
      return canonicalNumber.test(text) ? exact(text) : null;
    case 'date':
      return readDate(text, 'day-first') ?? null;
    case 'measure':
      return parseMeasure(text) ? text : null;
    case 'yes-no':
      return text === 'yes' ? true : text === 'no' ? false : null;
    default:
      return text;
  }
}

/** Most places that a number keeps when it becomes text: a third is 0.333333. */
const shownPlaces = 6;

/** A worked out value as text, as `&` joins it: empty is no text at all. */
export function toWords(value: Worked): string {
  if (value === null) return '';
  if (typeof value === 'string') return value;
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (value instanceof Exact) return value.toDecimalPlaces(shownPlaces).toFixed();
  return value.join(', ');
}
