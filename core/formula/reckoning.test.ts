// Signs of formulas with nothing, days, measures and lists on either side, and bounds of functions. As OpenFormula has them
// (OASIS OpenDocument 1.2 part 2, 6.16), where it has them; days and measures are ours.
import { describe, expect, it } from 'vitest';
import type { Value } from '../listing/values';
import { compileFields, firstFields } from '../product';
import { compileFormula, wordFormulaProblem, wordRowFault } from '.';
import { toWords } from './types';

const fields = compileFields(firstFields);
const item: Record<string, Value> = {
  title: 'Pellow mug',
  price: '12.50',
  cost: '6.00',
  stock: '0',
  sale_start: '2026-11-27',
  sale_end: '2026-12-01',
  highlights: ['Dishwasher safe', 'Stacks'],
  'fact.width': '24 cm',
};
function work(text: string): string | null {
  const made = compileFormula(text, fields);
  if (!made.ok) return wordFormulaProblem(made.fault.problem);
  const result = made.formula.run({ values: item, today: '2026-11-26' });
  return result.ok ? (result.value === null ? null : toWords(result.value)) : wordRowFault(result.fault);
}

describe('what a formula reckons', () => {
  it.each<[string, string | null]>([
    ['[Price] - [Cost]', '6.5'],
    ['[Price] - [List price]', null],
    ['[List price] - [Price]', null],
    ['-[Price]', '-12.5'],
    ['+[Price]', '12.5'],
    ['-[List price]', null],
    ['[List price]%', null],
    ['[Price]%', '0.125'],
    ['[Sale end] - [Sale start]', '4'],
    ['[Sale start] + 3', '2026-11-30'],
    ['[Sale start] - 3', '2026-11-24'],
    ['[Sale start] + [List price]', null],
    ['[Title] & [List price]', 'Pellow mug'],
    ['[List price] & [List price]', null],
  ])('%s is %s', (text, result) => {
    expect(work(text)).toBe(result);
  });
  it.each([
    ['[Price] <= 12.5', 'yes'],
    ['[Price] <= 12.4', 'no'],
    ['[Price] >= 12.5', 'yes'],
    ['[Price] >= 12.6', 'no'],
    ['[Price] < 12.5', 'no'],
    ['[Price] > 12.5', 'no'],
    ['[Price] <> 12.5', 'no'],
    ['[Sale start] = "27/11/2026"', 'yes'],
    ['"27/11/2026" = [Sale start]', 'yes'],
    ['"28/11/2026" < [Sale start]', 'no'],
    ['[Width] = "240 mm"', 'yes'],
    // Numbers within texts are compared as numbers, and what is then alike letter by letter.
    ['"KET-2" < "KET-10"', 'yes'],
    ['"KET-10" < "KET-2"', 'no'],
    ['"KET-02" < "KET-2"', 'yes'],
    ['"KET-2" < "KET-02"', 'no'],
    ['"ket-2" = "KET-2"', 'yes'],
    ['"240 mm" = [Width]', 'yes'],
    ['"25 cm" <= [Width]', 'no'],
  ])('%s: %s', (text, result) => {
    expect(work(`if(${text}, "yes", "no")`)).toBe(result);
  });
});

describe('what a function takes', () => {
  it.each<[string, string | null]>([
    ['round(2.5)', '3'],
    // Space may stand before the bracket.
    ['round  (2.5)', '3'],
    ['round(-2.5)', '-3'],
    ['round(1234, -2)', '1200'],
    ['round(1.005, 2)', '1.01'],
    ['roundup(1201, -2)', '1300'],
    ['rounddown(1299, -2)', '1200'],
    ['round(1, 20)', '1'],
    ['round(1, 21)', 'round( ) cannot take 21.'],
    ['round(1, -21)', 'round( ) cannot take -21.'],
    ['round(1, 0.5)', 'round( ) cannot take 0.5.'],
    ['ceiling(7.1)', '8'],
    ['ceiling(7.1, -0.5)', '7.5'],
    ['ceiling(7.1, 0)', '0'],
    ['floor(7.9)', '7'],
    ['floor(-7.1, 0.5)', '-7.5'],
    ['int(-1.5)', '-2'],
    ['mod(-3, 2)', '1'],
    ['mod(3, 0)', 'Something is divided by zero in this row.'],
    ['sum([Price], [List price])', '12.5'],
    ['sum([List price])', null],
    ['average([Price], [Cost], [List price])', '9.25'],
    ['min([Price], [Cost])', '6'],
    ['max([Price], [Cost])', '12.5'],
    ['amount("24 cm")', '24'],
    ['amount("24 cm", "inch")', '9.448819'],
    ['amount("24", "cm")', '“24” cannot be given in “cm”.'],
    ['amount("24 cm", "kg")', '“24 cm” cannot be given in “kg”.'],
    ['amount("24 cm", "stones")', '“24 cm” cannot be given in “stones”.'],
    ['amount([Title])', '“Pellow mug” is not a measure.'],
  ])('%s is %s', (text, result) => {
    expect(work(text)).toBe(result);
  });
});
