// Conditions while they are being written.
import { type Clause, type FieldClause, type FieldTest, listTests, readSkus } from '@basileus/core/choose';
import type { FieldBook, ProductField } from '@basileus/core/product';

/** A condition about a field as its line shows it: whatever the test, all of its boxes. */
export interface FieldLine {
  field: string;
  is: FieldTest;
  value: string;
  /** The second box of “between”. */
  to: string;
}

/** The line of a field with its likeliest question, keeping what was typed. */
export const startLine = (field: ProductField, value = ''): FieldLine => ({
  field: field.key,
  is: listTests(field)[0]!,
  value,
  to: '',
});

/** Several values as one line: divided by semicolons where there is one, so that a value may hold a comma; else by commas. */
const readSeveral = (line: string): string[] =>
  line.includes(';')
    ? line
        .split(';')
        .map((v) => v.trim())
        .filter(Boolean)
    : readSkus(line);
const writeSeveral = (values: readonly string[]): string =>
  values.some((v) => v.includes(',')) ? `${values.join('; ')};` : values.join(', ');

export const toClause = ({ field, is, value, to }: FieldLine): FieldClause => {
  switch (is) {
    case 'empty':
    case 'filled':
    case 'typed':
    case 'from-catalog':
      return { is, field };
    case 'between':
      return { is, field, from: value, to };
    case 'one-of':
    case 'none-of':
      return { is, field, values: readSeveral(value) };
    default:
      return { is, field, value };
  }
};

export const toLine = (c: FieldClause): FieldLine => ({
  field: c.field,
  is: c.is,
  value: 'value' in c ? c.value : c.is === 'between' ? c.from : 'values' in c ? writeSeveral(c.values) : '',
  to: c.is === 'between' ? c.to : '',
});

/** The same question of another field where it can be asked there, else that field's likeliest. */
export function moveLine(line: FieldLine, field: ProductField): FieldLine {
  return listTests(field).includes(line.is) ? { ...line, field: field.key } : startLine(field, line.value);
}

/** Filters of the catalog's own row, as conditions. */
export function toClauses(
  given: { category: string; brand: string; lacks: string; import: number; finding: string },
  book: FieldBook,
): Clause[] {
  const [check = '', message = '', ...source] = given.finding.split('.');
  return [
    ...(given.category === '' ? [] : [{ is: 'within' as const, field: 'category', value: given.category }]),
    ...(given.brand === '' ? [] : [{ is: 'equals' as const, field: 'brand', value: given.brand }]),
    ...(given.lacks !== '' && book.get(given.lacks) ? [{ is: 'empty' as const, field: given.lacks }] : []),
    ...(given.import > 0 ? [{ is: 'import' as const, import: given.import }] : []),
    ...(given.finding === '' ? [] : [{ is: 'finding' as const, check, message, field: source.join('.') }]),
  ];
}
