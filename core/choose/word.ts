// Which items, in words.
import { wordCause } from '../checks';
import { type FieldBook, type ProductField, toShown } from '../product';
import { plural } from '../text';
import { type ClauseProblem, toCode } from './tests';
import { type Clause, type FieldTest, isFieldClause, type RowChoice, type Which } from './which';

const plain: Readonly<Record<FieldTest, string>> = {
  equals: 'is',
  differs: 'is not',
  contains: 'contains',
  lacks: 'does not contain',
  starts: 'begins with',
  ends: 'ends in',
  over: 'over',
  'at-least': 'at least',
  under: 'under',
  'at-most': 'at most',
  between: 'between',
  'one-of': 'is one of',
  'none-of': 'is none of',
  within: 'is, or is under,',
  empty: 'is empty',
  filled: 'is filled',
  typed: 'was typed for this market',
  'from-catalog': 'is as the catalog has it',
};
const ofDays: Partial<Record<FieldTest, string>> = {
  equals: 'is',
  over: 'after',
  'at-least': 'on or after',
  under: 'before',
  'at-most': 'on or before',
};
const ofLists: Partial<Record<FieldTest, string>> = {
  equals: 'has the entry',
  differs: 'has not the entry',
  contains: 'has an entry with',
  lacks: 'has no entry with',
  'one-of': 'has one of the entries',
  'none-of': 'has none of the entries',
};

/** What a test is called for a field of its kind. */
export const wordTest = (test: FieldTest, field: ProductField | undefined): string =>
  (field?.kind === 'date' ? ofDays[test] : field?.kind === 'list' ? ofLists[test] : undefined) ?? plain[test];

const rows: Readonly<Record<RowChoice, string>> = {
  all: 'all rows',
  sold: 'all that is sold',
  single: 'singles',
  family: 'families',
  variant: 'variants',
  bundle: 'bundles',
};
export const wordRows = (choice: RowChoice): string => rows[choice];

const mostShown = 3;
const several = (values: readonly string[]): string =>
  values.length > mostShown
    ? `${values.slice(0, mostShown).join(', ')} and ${values.length - mostShown} more`
    : values.join(', ');

/** One condition: “Price over 10”. `nameOf` gives a market's name by its key. */
export function wordClause(c: Clause, book: FieldBook, nameOf: (market: string) => string): string {
  if (isFieldClause(c)) {
    const field = book.get(c.field);
    const what = `${book.labelOf(c.field)} ${wordTest(c.is, field)}`;
    const shown = (value: string): string => toShown(field, field?.words ? toCode(field, value) : value);
    if ('value' in c) return `${what} ${shown(c.value)}`;
    if (c.is === 'between') return `${what} ${c.from} and ${c.to}`;
    return 'values' in c ? `${what} ${several(c.values.map(shown))}` : what;
  }
  switch (c.is) {
    case 'state':
      return `${c.state} on ${c.market === '' ? 'any market' : nameOf(c.market)}`;
    case 'finding':
      return wordCause(c, { market: 'the market', labelOf: book.labelOf });
    case 'import':
      return `written by import ${c.import}`;
    case 'change-set':
      return `changed by change ${c.set}`;
    case 'changed':
      return `changed since ${c.since}`;
  }
}

/** Which items, as one line. */
export function wordWhich(w: Which, book: FieldBook, nameOf: (market: string) => string): string {
  const said = w.clauses.map((c) => wordClause(c, book, nameOf)),
    also = w.also.map((c) => wordClause(c, book, nameOf));
  const parts = [
    ...(w.skus.length > 0
      ? [w.skus.length === 1 ? w.skus[0]! : `${w.skus.length.toLocaleString('en-GB')} named SKUs`]
      : []),
    ...(w.ids.length > 0 ? [plural(w.ids.length, 'marked row', 'marked rows')] : []),
    ...(w.search === '' ? [] : [`“${w.search}”`]),
    ...(said.length > 0 ? [said.join(w.match === 'any' ? ' or ' : ', ')] : []),
    ...(also.length > 0 ? [also.join(', ')] : []),
  ];
  const of = rows[w.rows];
  return parts.length === 0 ? of : w.rows === 'all' ? parts.join('; ') : `${of}: ${parts.join('; ')}`;
}

/** What is wrong with a condition, and the remedy. */
export function wordClauseProblem(p: ClauseProblem): string {
  switch (p.is) {
    case 'unknown-field':
      return `There is no field “${p.name}” any more; choose another.`;
    case 'not-for-field':
      return `This cannot be asked of ${p.field}; choose another condition.`;
    case 'nothing-given':
      return `Say what ${p.field} is compared with.`;
    case 'not-a-word':
      return `${p.field} has no word “${p.value}”; choose one of its list.`;
    case 'not-a-number':
      return `${p.field} is compared with numbers; “${p.value}” is none. Write digits with a point, such as 12.5.`;
    case 'not-a-day':
      return `${p.field} is compared with days; “${p.value}” is none. Write it as 2026-11-27 or 27/11/2026.`;
    case 'not-a-measure':
      return `${p.field} is compared with measures; “${p.value}” is none. Write a number and its unit, such as 24 cm.`;
    case 'not-yes-or-no':
      return `${p.field} is yes or no, not “${p.value}”.`;
  }
}
