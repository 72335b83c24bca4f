// Sentences of bulk changes: each whole, with the value and the remedy.
import { describe, expect, it } from 'vitest';
import { everyItem } from '../choose';
import { fields } from '../tests/house-fields';
import { type ChangeOperation, nameBulk, type RowProblem, wordRowProblem, wordStep, wordStepProblem } from '.';

const stepOf = (operation: ChangeOperation, field = 'price'): string => wordStep({ field, operation }, fields);

describe('what a step does', () => {
  it.each<[ChangeOperation, string]>([
    [{ do: 'set', value: '9.99' }, 'Price becomes “9.99”'],
    [{ do: 'raise', by: 'percent', of: '10' }, 'Price raised by 10 %'],
    [{ do: 'raise', by: 'percent', of: '-2.5' }, 'Price lowered by 2.5 %'],
    [{ do: 'raise', by: 'amount', of: '3' }, 'Price raised by 3'],
    [{ do: 'round', ending: '.99', way: 'down' }, 'Price rounded down to .99'],
    [{ do: 'formula', formula: ' = [Cost] * 2' }, 'Price = [Cost] * 2'],
    [{ do: 'copy', from: 'cost' }, 'Price from Cost'],
    [{ do: 'rewrite', find: 'red', by: '', exactCase: false, wholeWords: false }, '“red” taken out of Price'],
    [{ do: 'rewrite', find: 'red', by: 'blue', exactCase: false, wholeWords: false }, '“red” becomes “blue” in Price'],
    [{ do: 'number', pattern: 'A-##', start: 1, step: 1 }, 'Price numbered A-##'],
    [{ do: 'clear' }, 'Price emptied'],
    [{ do: 'leave', margin: '18', ending: '' }, 'Price that leaves 18 %'],
    [{ do: 'leave', margin: '12.5', ending: '.99' }, 'Price that leaves 12.5 %, up to .99'],
    [{ do: 'follow' }, 'Price as the catalog has it'],
  ])('%j', (operation, says) => {
    expect(stepOf(operation)).toBe(says);
  });
  it('says entries as a list, and long texts by their beginning', () => {
    expect(stepOf({ do: 'add', items: ['a', 'b'] }, 'highlights')).toBe('“a, b” added to Highlights');
    expect(stepOf({ do: 'remove', items: ['a'] }, 'highlights')).toBe('“a” taken out of Highlights');
    expect(stepOf({ do: 'swap', from: 'a', to: 'b' }, 'highlights')).toBe('“a” becomes “b” in Highlights');
    const sixty = 'x'.repeat(60);
    expect(stepOf({ do: 'set', value: sixty }, 'title')).toBe(`Title becomes “${sixty}”`);
    expect(stepOf({ do: 'set', value: `${sixty}y` }, 'title')).toBe(`Title becomes “${'x'.repeat(59)}…”`);
  });
});

describe('what is wrong with a step', () => {
  it.each<[Parameters<typeof wordStepProblem>[0], string]>([
    [
      { is: 'elsewhere', field: 'Title' },
      'Title stands elsewhere than the first field; change items and the listings of each market one after the other.',
    ],
    [{ is: 'nothing-given', part: 'items' }, 'Say the entries.'],
    [{ is: 'nothing-given', part: 'pattern' }, 'Say the pattern.'],
    [{ is: 'not-a-number', part: 'of', value: 'x' }, '“x” is not a number; write digits with a point, such as 12.5.'],
    [{ is: 'cannot-hold', field: 'Price', from: 'Highlights' }, 'Price cannot hold what stands in Highlights.'],
    [{ is: 'formula', at: { from: 0, to: 1 }, problem: { is: 'nothing' } }, 'Write a formula, such as [Price] * 1.1.'],
  ])('%j', (problem, says) => {
    expect(wordStepProblem(problem)).toBe(says);
  });
});

describe('why a row is left alone', () => {
  const sayOf = (fault: RowProblem['fault'], value: RowProblem['value'] = null): string =>
    wordRowProblem({ field: 'price', value, fault }, fields);
  it.each<[RowProblem['fault'], string]>([
    [
      { kind: 'not-on-market' },
      'The item is not wanted on this market; say in the catalog under Markets … that it is.',
    ],
    [{ kind: 'no-category' }, 'It has no category on this market yet, so its fields are not known; choose one first.'],
    [
      { kind: 'not-in-category', category: 'Pans' },
      'Price is not asked of “Pans”; what stands there would be refused.',
    ],
    [{ kind: 'not-in-rows', of: 'variants' }, 'Price belongs to what is sold; give it to the variants of this family.'],
    [{ kind: 'not-in-rows', of: 'family' }, 'Price stands in the row of the family, for all of its variants.'],
    [{ kind: 'divided-by-zero' }, 'Something is divided by zero in this row.'],
    [{ kind: 'no-day', text: 'soon' }, '“soon” is not a day.'],
  ])('%j', (fault, says) => {
    expect(sayOf(fault)).toBe(says);
  });
  it('names the value that cannot stand there', () => {
    expect(sayOf({ kind: 'not-a-number' } as never, '12 apples')).toContain('12 apples');
  });
});

describe('what a bulk change is called', () => {
  const steps = (...names: string[]) => names.map((field) => ({ field, operation: { do: 'clear' } as const }));
  const call = (...names: string[]): string => nameBulk(steps(...names), everyItem, 67, fields, (m) => m);
  it('says its fields while they are few, each once, and how many items', () => {
    expect(call('price')).toBe('Price, 67 items');
    expect(call('price', 'cost', 'price', 'stock')).toBe('Price, Cost, Stock, 67 items');
    expect(call('price', 'cost', 'stock', 'brand')).toBe('4 fields, 67 items');
    expect(nameBulk(steps('price'), everyItem, 1, fields, (m) => m)).toBe('Price, 1 item');
  });
});
