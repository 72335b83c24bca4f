// What a formula gives, as a field keeps it. Places of currencies: ISO 4217.
import { describe, expect, it } from 'vitest';
import type { ProductField } from '../product';
import { Exact } from '../quantity';
import { findResultFault, toFieldValue } from './field';
import type { FormulaType } from './types';

const field = (kind: string, more: object = {}): ProductField =>
  ({ key: 'f', label: 'Field', kind, ...more }) as unknown as ProductField;
const pounds = field('money', { currency: 'GBP' }),
  yen = field('money', { currency: 'JPY' }),
  text = field('text'),
  number = field('number'),
  list = field('list');

describe('a formula for a field', () => {
  const types: readonly FormulaType[] = ['text', 'number', 'measure', 'date', 'yes-no', 'list'];
  it.each<[ProductField, readonly FormulaType[]]>([
    [text, ['text', 'number', 'measure', 'date', 'yes-no']],
    [field('measure'), ['text', 'number', 'measure']],
    [list, ['text', 'list']],
    [number, ['number']],
    [pounds, ['number']],
    [field('date'), ['date']],
    [field('yes-no'), ['yes-no']],
  ])('%j takes %j', (of, taken) => {
    expect(types.filter((type) => findResultFault(type, of, 9) === undefined)).toEqual(taken);
    // Nothing is taken by all: it leaves the field as it is.
    expect(findResultFault('nothing', of, 9)).toBeUndefined();
  });
  it('that gives another type is at fault as a whole', () => {
    expect(findResultFault('text', number, 12)).toEqual({
      at: { from: 0, to: 12 },
      problem: { is: 'result', field: 'Field', wanted: ['number'], found: 'text' },
    });
  });
});

describe('what a formula gives', () => {
  it.each<[Parameters<typeof toFieldValue>[0], ProductField, unknown]>([
    [null, text, null],
    [true, text, 'yes'],
    [false, field('yes-no'), 'no'],
    [new Exact('12.5'), pounds, '12.50'],
    [new Exact('12.345'), pounds, '12.35'],
    [new Exact('12.5'), yen, '13'],
    // Under nothing by less than a penny is nothing.
    [new Exact('-0.004'), pounds, '0.00'],
    [new Exact('-0.4'), yen, '0'],
    [new Exact('-0.006'), pounds, '-0.01'],
    [new Exact('-10'), pounds, '-10.00'],
    [new Exact('1').div(3), number, '0.333333'],
    [new Exact('2'), number, '2'],
    ['', text, null],
    ['Pan', text, 'Pan'],
    ['Pan', list, ['Pan']],
    ['', list, null],
    [[], list, null],
    [['a', 'b'], list, ['a', 'b']],
  ])('%s', (worked, of, value) => {
    expect(toFieldValue(worked, of)).toEqual(value);
  });
});
