// What can be asked of a field, by its kind, and what is wrong with a question.
import { type FieldBook, type FieldKind, type ProductField, readMarketKey, toKept } from '../product';
import { canonicalNumber, convertUnit, isKnownUnit, parseMeasure, readDate } from '../quantity';
import type { Clause, FieldTest } from './which';
import { isBare, isFieldClause } from './which';

const texts: readonly FieldTest[] = [
  'contains',
  'lacks',
  'equals',
  'differs',
  'starts',
  'ends',
  'one-of',
  'none-of',
  'empty',
  'filled',
];
const numbers: readonly FieldTest[] = [
  'equals',
  'differs',
  'over',
  'at-least',
  'under',
  'at-most',
  'between',
  'ends',
  'empty',
  'filled',
];
const byKind: Readonly<Record<FieldKind, readonly FieldTest[]>> = {
  text: texts,
  'long-text': texts,
  identifier: texts,
  number: numbers,
  money: numbers,
  integer: numbers,
  date: ['equals', 'over', 'at-least', 'under', 'at-most', 'between', 'empty', 'filled'],
  measure: ['equals', 'over', 'at-least', 'under', 'at-most', 'empty', 'filled'],
  'yes-no': ['equals', 'empty', 'filled'],
  list: ['equals', 'differs', 'contains', 'lacks', 'one-of', 'none-of', 'empty', 'filled'],
};

const ofCodes: readonly FieldTest[] = ['equals', 'differs', 'one-of', 'none-of', 'empty', 'filled'];
const ofListings: readonly FieldTest[] = ['typed', 'from-catalog'];

/** What can be asked of a field, the likeliest first. Of a list, `equals` is whether it has an entry. */
export function listTests(field: ProductField): readonly FieldTest[] {
  // Parts of codes are no words.
  const tests = field.words ? ofCodes : byKind[field.kind];
  const market = readMarketKey(field.key);
  // Where it stands and what is worked out is typed by nobody.
  if (market) return market.attribute === 'category' || field.made ? tests : [...tests, ...ofListings];
  return field.key === 'category' ? ['within', ...tests] : tests;
}

export type ClauseProblem =
  | { is: 'unknown-field'; name: string }
  | { is: 'not-for-field'; field: string }
  | { is: 'nothing-given'; field: string }
  | { is: 'not-a-word'; field: string; value: string }
  | { is: 'not-a-number' | 'not-a-day' | 'not-a-measure' | 'not-yes-or-no'; field: string; value: string };

const values = (c: Clause): readonly string[] =>
  'value' in c ? [c.value] : c.is === 'between' ? [c.from, c.to] : 'values' in c ? c.values : [];

/** The first thing that is wrong with a question about a field; undefined where it can be asked. */
export function findClauseProblem(clause: Clause, book: FieldBook): ClauseProblem | undefined {
  if (!isFieldClause(clause)) return undefined;
  const field = book.get(clause.field);
  if (!field) return { is: 'unknown-field', name: clause.field };
  const { label } = field;
  if (!listTests(field).includes(clause.is)) return { is: 'not-for-field', field: label };
  if (isBare(clause.is)) return undefined;
  const given = values(clause);
  if (given.length === 0 || given.some((v) => v.trim() === '')) return { is: 'nothing-given', field: label };
  for (const value of given) {
    if (field.words && field.words[toCode(field, value)] === undefined)
      return { is: 'not-a-word', field: label, value };
    const is = findFault(field, clause.is, value.trim());
    if (is) return { is, field: label, value };
  }
  return undefined;
}

function findFault(
  { kind, unit }: ProductField,
  test: FieldTest,
  value: string,
): 'not-a-number' | 'not-a-day' | 'not-a-measure' | 'not-yes-or-no' | undefined {
  if (kind === 'money' || kind === 'number' || kind === 'integer')
    return canonicalNumber.test(test === 'ends' && value.startsWith('.') ? `0${value}` : value)
      ? undefined
      : 'not-a-number';
  if (kind === 'date') return readDate(value, 'day-first') ? undefined : 'not-a-day';
  if (kind === 'yes-no') return value === 'yes' || value === 'no' ? undefined : 'not-yes-or-no';
  if (kind !== 'measure') return undefined;
  const read = parseMeasure(value);
  return read && isKnownUnit(read.unit ?? unit ?? '') ? undefined : 'not-a-measure';
}

/** An amount in every unit that measures the same, as plain numbers: what stored measures are compared with. */
export function spreadMeasure(
  value: string,
  unit: string | undefined,
  units: readonly string[],
): Record<string, string> {
  const read = parseMeasure(value.trim());
  const from = read?.unit ?? unit;
  if (!read || from === undefined) return {};
  return Object.fromEntries(
    units.flatMap((u) => {
      const amount = convertUnit({ amount: read.amount, unit: from }, u);
      return amount ? [[u, amount.toFixed()]] : [];
    }),
  );
}

/** The code of a word of a closed list, as it is kept; what is no such word stays as it is. */
export function toCode(field: ProductField, word: string): string {
  const kept = toKept(field, word.trim());
  return typeof kept === 'string' ? kept : word;
}
