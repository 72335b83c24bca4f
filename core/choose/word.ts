// Which items, in words.
import { wordCause } from '../checks';
import { type FieldBook, type ProductField, toShown } from '../product';
import { plural, say, sayWord, term } from '../text';
import { type ClauseProblem, toCode } from './tests';
import { type Clause, type FieldTest, isFieldClause, type RowChoice, type Which } from './which';

const plain: Readonly<Record<FieldTest, string>> = {
  equals: term`is`,
  differs: term`is not`,
  contains: term`contains`,
  lacks: term`does not contain`,
  starts: term`begins with`,
  ends: term`ends in`,
  over: term`over`,
  'at-least': term`at least`,
  under: term`under`,
  'at-most': term`at most`,
  between: term`between`,
  'one-of': term`is one of`,
  'none-of': term`is none of`,
  within: term`is, or is under,`,
  empty: term`is empty`,
  filled: term`is filled`,
  typed: term`was typed for this market`,
  'from-catalog': term`is as the catalog has it`,
};
const ofDays: Partial<Record<FieldTest, string>> = {
  equals: term`is`,
  over: term`after`,
  'at-least': term`on or after`,
  under: term`before`,
  'at-most': term`on or before`,
};
const ofLists: Partial<Record<FieldTest, string>> = {
  equals: term`has the entry`,
  differs: term`has not the entry`,
  contains: term`has an entry with`,
  lacks: term`has no entry with`,
  'one-of': term`has one of the entries`,
  'none-of': term`has none of the entries`,
};

/** What a test is called for a field of its kind. */
export const wordTest = (test: FieldTest, field: ProductField | undefined): string =>
  sayWord((field?.kind === 'date' ? ofDays[test] : field?.kind === 'list' ? ofLists[test] : undefined) ?? plain[test]);

const rows: Readonly<Record<RowChoice, string>> = {
  all: term`all rows`,
  sold: term`all that is sold`,
  single: term`singles`,
  family: term`families`,
  variant: term`variants`,
  bundle: term`bundles`,
};
export const wordRows = (choice: RowChoice): string => sayWord(rows[choice]);

const mostShown = 3;
const several = (values: readonly string[]): string =>
  values.length > mostShown
    ? say`${values.slice(0, mostShown).join(', ')} and ${values.length - mostShown} more`
    : values.join(', ');

/** One condition: “Price over 10”. `nameOf` gives a market's name by its key. */
export function wordClause(c: Clause, book: FieldBook, nameOf: (market: string) => string): string {
  if (isFieldClause(c)) {
    const field = book.get(c.field);
    const what = `${book.labelOf(c.field)} ${wordTest(c.is, field)}`;
    const shown = (value: string): string => toShown(field, field?.words ? toCode(field, value) : value);
    if ('value' in c) return `${what} ${shown(c.value)}`;
    if (c.is === 'between') return say`${what} ${c.from} and ${c.to}`;
    return 'values' in c ? `${what} ${several(c.values.map(shown))}` : what;
  }
  switch (c.is) {
    case 'state':
      return say`${sayWord(c.state)} on ${c.market === '' ? say`any market` : nameOf(c.market)}`;
    case 'finding':
      return wordCause(c, { market: say`the market`, labelOf: book.labelOf });
    case 'import':
      return say`written by import ${c.import}`;
    case 'change-set':
      return say`changed by change ${c.set}`;
    case 'changed':
      return say`changed since ${c.since}`;
  }
}

/** Which items, as one line. */
export function wordWhich(w: Which, book: FieldBook, nameOf: (market: string) => string): string {
  const said = w.clauses.map((c) => wordClause(c, book, nameOf)),
    also = w.also.map((c) => wordClause(c, book, nameOf));
  const parts = [
    ...(w.skus.length > 0 ? [w.skus.length === 1 ? w.skus[0]! : plural(w.skus.length, 'named SKU', 'named SKUs')] : []),
    ...(w.ids.length > 0 ? [plural(w.ids.length, 'marked row', 'marked rows')] : []),
    ...(w.search === '' ? [] : [`“${w.search}”`]),
    ...(said.length > 0 ? [said.join(w.match === 'any' ? say` or ` : ', ')] : []),
    ...(also.length > 0 ? [also.join(', ')] : []),
  ];
  const of = wordRows(w.rows);
  return parts.length === 0 ? of : w.rows === 'all' ? parts.join('; ') : `${of}: ${parts.join('; ')}`;
}

/** What is wrong with a condition, and the remedy. */
export function wordClauseProblem(p: ClauseProblem): string {
  switch (p.is) {
    case 'unknown-field':
      return say`There is no field “${p.name}” any more; choose another.`;
    case 'not-for-field':
      return say`This cannot be asked of ${p.field}; choose another condition.`;
    case 'nothing-given':
      return say`Say what ${p.field} is compared with.`;
    case 'not-a-word':
      return say`${p.field} has no word “${p.value}”; choose one of its list.`;
    case 'not-a-number':
      return say`${p.field} is compared with numbers; “${p.value}” is none. Write digits with a point, such as 12.5.`;
    case 'not-a-day':
      return say`${p.field} is compared with days; “${p.value}” is none. Write it as 2026-11-27 or 27/11/2026.`;
    case 'not-a-measure':
      return say`${p.field} is compared with measures; “${p.value}” is none. Write a number and its unit, such as 24 cm.`;
    case 'not-yes-or-no':
      return say`${p.field} is yes or no, not “${p.value}”.`;
  }
}
