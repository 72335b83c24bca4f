// The same cells worked out here and by LibreOffice, which reckons in binary and is held to twelve figures.
import { describe, expect, it } from 'vitest';
import { compileFields, firstFields } from '../product';
import { Exact } from '../quantity';
import { workOutSheet } from '../tests/spreadsheet';
import { compileFormula } from '.';

const items = [
  ['MP-MUG-06', 'Pellow mug, 350 ml', 'Pellow', 12.5, 6, 14, '2026-11-27'],
  ['KET-2', 'kettle  with   spout', 'Hearth & Ash', 89.99, 41.2, 0, '2026-02-28'],
  ['TOW-LIN-3', 'TEA TOWEL o’linen', 'Loom', 7.25, 2.115, 250, '2024-02-29'],
  ['BOOK-9', 'élan: bread', 'Quire', 24, 11.004, 3, '2026-12-31'],
  ['KN-20', 'chef’s knife (20 cm)', 'Arrow', 64.95, 30, 7, '2027-01-31'],
  ['GL-4', 'glass 4-piece', 'Brine', 0.99, 0.125, 1000, '2025-10-05'],
  ['POT-24', 'Pot, 24 cm', 'hearth', 45.5, 22.75, 11, '2026-07-01'],
  ['MAG-1', 'the Table — quarterly', 'Quire', 9.5, 3.333, 49, '2026-03-15'],
] as const;
const columns = ['[SKU]', '[Title]', '[Brand]', '[Price]', '[Cost]', '[Stock]', '[Sale start]'];

/** Ours, and theirs where it is written otherwise; fields stand in both as ours have them. */
const pairs: readonly (readonly [string, string?])[] = [
  ['[Price] * 1.15'],
  ['[Price] - [Cost] * 2'],
  ['round([Price] * 85%, 2)', 'ROUND([Price]*85%;2)'],
  ['roundup([Price] / 3, 1)', 'ROUNDUP([Price]/3;1)'],
  ['rounddown([Cost] / 7, 3)', 'ROUNDDOWN([Cost]/7;3)'],
  ['round([Stock], -1)', 'ROUND([Stock];-1)'],
  ['ceiling([Price], 0.5)', 'CEILING([Price];0.5)'],
  ['floor([Price], 0.25)', 'FLOOR([Price];0.25)'],
  ['int(-[Price])', 'INT(-[Price])'],
  ['mod([Stock], 7)', 'MOD([Stock];7)'],
  ['mod(-[Stock], 7)', 'MOD(-[Stock];7)'],
  ['abs([Cost] - [Price])', 'ABS([Cost]-[Price])'],
  ['min([Price], [Cost], 8)', 'MIN([Price];[Cost];8)'],
  ['max([Stock], 10)', 'MAX([Stock];10)'],
  ['sum([Price], [Cost], [Stock])', 'SUM([Price];[Cost];[Stock])'],
  ['average([Price], [Cost])', 'AVERAGE([Price];[Cost])'],
  ['[Cost] / (1 - 40%)'],
  ['1 + 2 * 3 - [Stock] / 4'],
  ['[Brand] & " " & [SKU]', '[Brand]&" "&[SKU]'],
  ['1 + 1 & "x"', '1+1&"x"'],
  ['upper([Title])', 'UPPER([Title])'],
  ['lower([Title])', 'LOWER([Title])'],
  ['proper([Title])', 'PROPER([Title])'],
  ['trim([Title])', 'TRIM([Title])'],
  ['len([Title])', 'LEN([Title])'],
  ['left([SKU], 3)', 'LEFT([SKU];3)'],
  ['right([SKU], 2)', 'RIGHT([SKU];2)'],
  ['mid([Title], 3, 5)', 'MID([Title];3;5)'],
  ['find("-", [SKU])', 'FIND("-";[SKU])'],
  ['substitute([SKU], "-", "")', 'SUBSTITUTE([SKU];"-";"")'],
  ['rept(left([Brand]), 3)', 'REPT(LEFT([Brand]);3)'],
  ['text([Price] * 1.1, 2)', 'TEXT([Price]*1.1;"0.00")'],
  ['if([Stock] > 10, "many", if([Stock] > 0, "few", "none"))', 'IF([Stock]>10;"many";IF([Stock]>0;"few";"none"))'],
  ['if(and([Price] > 10, [Stock] > 0), 1, 0)', 'IF(AND([Price]>10;[Stock]>0);1;0)'],
  ['if(or([Price] > 50, not([Stock] > 0)), 1, 0)', 'IF(OR([Price]>50;NOT([Stock]>0));1;0)'],
  ['if([Brand] = "HEARTH", 1, 0)', 'IF([Brand]="HEARTH";1;0)'],
  ['if([Brand] <> "Quire", 1, 0)', 'IF([Brand]<>"Quire";1;0)'],
  ['[Sale start] + 30'],
  ['[Sale start] - date(2026, 1, 1)', '[Sale start]-DATE(2026;1;1)'],
  ['year([Sale start])', 'YEAR([Sale start])'],
  ['month([Sale start])', 'MONTH([Sale start])'],
  ['monthday([Sale start])', 'DAY([Sale start])'],
  ['weekday([Sale start])', 'WEEKDAY([Sale start];2)'],
  ['addmonths([Sale start], 1)', 'EDATE([Sale start];1)'],
  ['value(right([SKU])) + 1', 'VALUE(RIGHT([SKU]))+1'],
];

/** What both give in one writing: numbers to twelve figures, days counted as the program counts them. */
function level(value: string): string {
  if (/^\d{4}-\d\d-\d\d/.test(value))
    return String(Math.round((Date.parse(value.slice(0, 10)) - Date.parse('1899-12-30')) / 86_400_000));
  return /^-?\d+(\.\d+)?(E[+-]?\d+)?$/i.test(value) ? Number(Number(value).toPrecision(12)).toString() : value;
}

describe('formulas beside a spreadsheet program', () => {
  const fields = compileFields(firstFields);
  const theirs = workOutSheet(
    items.map((item, r) => [
      ...item.slice(0, 3).map((text) => ({ text: String(text) })),
      ...item.slice(3, 6).map((number) => ({ number: Number(number) })),
      { day: item[6] },
      ...pairs.map(([ours, other]) => ({
        formula: (other ?? ours).replace(/\[[^\]]+\]/g, (f) => `[.${'ABCDEFG'[columns.indexOf(f)]!}${r + 1}]`),
      })),
    ]),
  );
  it('are compared over some hundreds of cells', () => {
    expect(theirs.length * pairs.length).toBeGreaterThanOrEqual(200);
  });
  it.each(pairs.map(([ours], i) => [ours, i] as const))('%s', (ours, i) => {
    const made = compileFormula(ours, fields);
    if (!made.ok) throw new Error(JSON.stringify(made.fault));
    const results = items.map(([sku, title, brand, price, cost, stock, day]) => {
      const values = {
        sku,
        title,
        brand,
        price: String(price),
        cost: String(cost),
        stock: String(stock),
        sale_start: day,
      };
      const result = made.formula.run({ values, today: '2026-11-26' });
      if (!result.ok) return result.fault.kind;
      const { value } = result;
      return level(value instanceof Exact ? value.toFixed() : String(value ?? ''));
    });
    expect(results).toEqual(theirs.map((row) => level(row[columns.length + i] ?? '')));
  });
});
