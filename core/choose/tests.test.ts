// What can be asked of fields by their kinds, of fields of listings, and of words of closed lists.
import { describe, expect, it } from 'vitest';
import { extendFields, type ProductField } from '../product';
import { fieldOf, fields } from '../tests/house-fields';
import { findClauseProblem, listTests } from '.';
import { toCode } from './tests';

const made = (key: string, more: Partial<ProductField> = {}): ProductField => ({
  ...fieldOf('brand'),
  key,
  label: key,
  ...more,
});
const hue = made('stall/hue', { words: { blk: 'Black' }, values: ['blk'] });
const book = extendFields(fields, [hue, made('stall/title'), made('stall/category', { words: { p: 'Pans' } })]);

describe('what can be asked', () => {
  const ofCodes = ['equals', 'differs', 'one-of', 'none-of', 'empty', 'filled'];
  it('of a closed list is which of its words it is, never a part of one', () => {
    expect(listTests(made('hue', { words: { blk: 'Black' } }))).toEqual(ofCodes);
    expect(listTests(fieldOf('brand'))).toContain('contains');
  });
  it('of a field of listings is also whose it is; of their category it is not', () => {
    expect(listTests(book.get('stall/hue')!)).toEqual([...ofCodes, 'typed', 'from-catalog']);
    expect(listTests(book.get('stall/title')!).slice(-2)).toEqual(['typed', 'from-catalog']);
    expect(listTests(book.get('stall/category')!)).toEqual(ofCodes);
    expect(listTests(fieldOf('brand'))).not.toContain('typed');
  });
  it('of our own category is whether it stands under another', () => {
    expect(listTests(fieldOf('category'))[0]).toBe('within');
    expect(listTests(fieldOf('brand'))[0]).not.toBe('within');
  });
});

describe('a question', () => {
  const problemOf = (clause: Parameters<typeof findClauseProblem>[0]) => findClauseProblem(clause, book)?.is;
  it.each<[Parameters<typeof findClauseProblem>[0], string | undefined]>([
    [{ is: 'equals', field: 'stall/hue', value: 'Black' }, undefined],
    [{ is: 'equals', field: 'stall/hue', value: ' blk ' }, undefined],
    [{ is: 'equals', field: 'stall/hue', value: 'Red' }, 'not-a-word'],
    [{ is: 'one-of', field: 'stall/hue', values: ['Black', 'Red'] }, 'not-a-word'],
    [{ is: 'contains', field: 'stall/hue', value: 'Bl' }, 'not-for-field'],
    [{ is: 'one-of', field: 'brand', values: [] }, 'nothing-given'],
    [{ is: 'one-of', field: 'brand', values: ['a', ' '] }, 'nothing-given'],
    [{ is: 'between', field: 'price', from: '', to: '5' }, 'nothing-given'],
    [{ is: 'between', field: 'price', from: '1', to: 'x' }, 'not-a-number'],
    [{ is: 'equals', field: 'fact.induction', value: 'yes' }, undefined],
    [{ is: 'equals', field: 'fact.induction', value: 'no' }, undefined],
    [{ is: 'equals', field: 'fact.induction', value: 'Yes' }, 'not-yes-or-no'],
    [{ is: 'empty', field: 'ghost' }, 'unknown-field'],
    [{ is: 'state', market: '', state: 'live' }, undefined],
  ])('%j: %s', (clause, problem) => {
    expect(problemOf(clause)).toBe(problem);
  });
});

it('a word of a closed list is asked for by its code', () => {
  expect([toCode(hue, ' black '), toCode(hue, 'blk'), toCode(hue, 'Red')]).toEqual(['blk', 'blk', 'Red']);
});
