// Sentences of bulk changes and of formulas: each whole, with the value and the remedy.
import { describe, expect, it } from 'vitest';
import { everyItem } from '../choose';
import { type FormulaProblem, type RowFault, wordFormulaProblem, wordRowFault } from '../formula';
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

describe('what is wrong with a formula', () => {
  it.each<[FormulaProblem, string]>([
    [
      { is: 'value-missing', after: '' },
      'Something is missing: a field in square brackets, a number or a text in quotes.',
    ],
    [
      { is: 'value-missing', after: '+' },
      'Something after “+” is missing: a field in square brackets, a number or a text in quotes.',
    ],
    [
      { is: 'of-the-day' },
      'today( ) gives another day tomorrow, and what is filled here stays as it is; name a day, or a field that holds one.',
    ],
    [{ is: 'unknown-field', name: 'Prise', near: 'Price' }, 'There is no field “Prise”; “Price” is nearest.'],
    [{ is: 'unknown-field', name: 'Zz', near: null }, 'There is no field “Zz”.'],
    [{ is: 'arguments', function: 'if', given: 1, least: 2, most: 3 }, 'if( ) takes 2 to 3; 1 is given.'],
    [{ is: 'arguments', function: 'int', given: 2, least: 1, most: 1 }, 'int( ) takes 1; 2 are given.'],
    [{ is: 'arguments', function: 'sum', given: 0, least: 1, most: null }, 'sum( ) takes 1 or more; 0 are given.'],
    [{ is: 'arguments', function: 'today', given: 1, least: 0, most: 0 }, 'today( ) takes nothing; 1 is given.'],
    [
      { is: 'result', field: 'Price', wanted: ['number'], found: 'text' },
      'Price takes a number, and this formula gives a text. value( ) reads a number from a text.',
    ],
    [
      { is: 'result', field: 'Stock', wanted: ['number'], found: 'list' },
      'Stock takes a number, and this formula gives a list. count( ) gives how many entries it has.',
    ],
    [
      { is: 'result', field: 'Title', wanted: ['text', 'number', 'date'], found: 'list' },
      'Title takes a text, a number or a day, and this formula gives a list. count( ) gives how many entries it has.',
    ],
    [
      { is: 'result', field: 'Brand', wanted: ['text'], found: 'list' },
      'Brand takes a text, and this formula gives a list. textjoin( ) makes one text of its entries.',
    ],
    [
      { is: 'result', field: 'Sale starts', wanted: ['date'], found: 'text' },
      'Sale starts takes a day, and this formula gives a text. day( ) reads a day from a text.',
    ],
    [
      { is: 'result', field: 'Sale starts', wanted: ['date'], found: 'number' },
      'Sale starts takes a day, and this formula gives a number.',
    ],
  ])('%j', (problem, says) => {
    expect(wordFormulaProblem(problem)).toBe(says);
  });
  it.each<[RowFault, string]>([
    [{ kind: 'no-measure', text: 'wide', unit: null }, '“wide” is not a measure.'],
    [{ kind: 'no-measure', text: '3 kg', unit: 'cm' }, '“3 kg” cannot be given in “cm”.'],
    [{ kind: 'out-of-range', function: 'round', value: '0.5' }, 'round( ) cannot take 0.5.'],
    [{ kind: 'out-of-range', function: '^', value: '99' }, '^ cannot take 99.'],
    [{ kind: 'result-too-long', most: 20_000 }, 'The result would have more than 20,000 characters.'],
  ])('%j', (fault, says) => {
    expect(wordRowFault(fault)).toBe(says);
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
