// Sentences of formulas: each whole, with what was written and the remedy.
import { describe, expect, it } from 'vitest';
import { type FormulaProblem, type RowFault, wordFormulaProblem, wordRowFault } from '.';

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
