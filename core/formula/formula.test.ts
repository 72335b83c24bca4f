import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compileFields, extendFields, type FieldBook, firstFields } from '../product';
import { Exact } from '../quantity';
import type { Value } from '../listing/values';
import { compileFormula, completeFormula, formulaFunctions, wordFormulaProblem, wordRowFault } from '.';
import { toWords } from './types';

const fields: FieldBook = compileFields(firstFields);
const item: Record<string, Value> = {
  sku: 'MP-MUG-06',
  title: 'Pellow mug, 350 ml',
  brand: 'Pellow',
  price: '12.50',
  cost: '6.00',
  stock: '0',
  sale_start: '2026-11-27',
  highlights: ['Dishwasher safe', 'Stacks'],
  'fact.width': '24 cm',
  'fact.induction': 'yes',
};
/** The result for the item as text, or the sentence of what is wrong with its row. */
function work(text: string, values = item): string | null {
  const made = compileFormula(text, fields);
  if (!made.ok) throw new Error(wordFormulaProblem(made.fault.problem));
  const result = made.formula.run({ values, today: '2026-11-26' });
  return result.ok ? (result.value === null ? null : toWords(result.value)) : wordRowFault(result.fault);
}
const refuse = (text: string): { says: string; at: string } => {
  const made = compileFormula(text, fields);
  if (made.ok) throw new Error(`${text} was taken.`);
  return { says: wordFormulaProblem(made.fault.problem), at: text.slice(made.fault.at.from, made.fault.at.to) };
};

describe('a formula', () => {
  it.each([
    ['[Price] * 1.1', '13.75'],
    ['=[Price] * 1.1', '13.75'],
    ['[price]-[cost]', '6.5'],
    ['[Price] * 85%', '10.625'],
    ['-[Price] + 20', '7.5'],
    ['1 + 2 * 3', '7'],
    ['(1 + 2) * 3', '9'],
    ['10 - 2 - 3', '5'],
    ['100 / 10 / 5', '2'],
    ['0.1 + 0.2', '0.3'],
    ['[Brand] & " " & [Price] & " GBP"', 'Pellow 12.50 GBP'],
    ['[Brand] & [Colour]', 'Pellow'],
    ['"say ""hot"""', 'say "hot"'],
    ['1 + 1 & "x"', '2x'],
    ['"a" & "b" = "AB"', 'yes'],
    ['[Width]', '24 cm'],
    ['amount([Width], "mm") / 2 & " mm"', '120 mm'],
    ['[Width] > "200 mm"', 'yes'],
    ['[Width] > "30 cm"', 'no'],
    ['[Sale start] + 2', '2026-11-29'],
    ['[Sale start] - today()', '1'],
    ['[Sale start] > "2026-11-26"', 'yes'],
    ['[Sale start] < "27/11/2026"', 'no'],
    ['if([Induction], "for induction", "not")', 'for induction'],
    ['[Induction] = "yes"', 'yes'],
    ['if(no, "a", "b")', 'b'],
    ['if(yes, "a", "b")', 'a'],
    ['textjoin("; ", [Highlights], [Colour], [Brand])', 'Dishwasher safe; Stacks; Pellow'],
    ['IF([Stock] = 0, "gone", "here")', 'gone'],
    ['ending(margin([Cost], 40%), .99)', '10.99'],
    ['ending(12.99, .99)', '12.99'],
    ['ending(12.991, .99)', '13.99'],
    ['ending(12.40, 9.99)', '19.99'],
    ['ending(12.40, 0)', '13'],
    ['margin(6, 40%) = markup(6, 40%)', 'no'],
    // Margin is not markup: 40 % on cost is a margin of 28.57 % (arithmetic of the handbook).
    ['round(1 - 6 / markup(6, 40%), 4)', '0.2857'],
  ])('%s gives %s', (text, result) => {
    expect(work(text)).toBe(result);
  });

  it.each([
    ['[List price] * 2', null],
    ['[List price] + 0', null],
    ['ending([List price], .99)', null],
    ['[List price] = 0', 'no'],
    ['[List price] < 5', 'no'],
    ['[List price] > 5', 'no'],
    ['isempty([List price])', 'yes'],
    ['isempty([Stock])', 'no'],
    ['[Colour] = ""', 'yes'],
    ['[List price] = ""', 'yes'],
    ['ifempty([List price], [Price])', '12.5'],
    ['sum([List price], [Price], [Cost])', '18.5'],
    ['average([List price], 4)', '4'],
    ['if([List price] > 0, 1)', null],
    ['len([Colour])', '0'],
  ])('knows that empty is not zero: %s gives %s', (text, result) => {
    expect(work(text)).toBe(result);
  });

  it('works out of a choice only what it needs', () => {
    expect(work('if([Stock] = 0, "none", 100 / [Stock])')).toBe('none');
    expect(work('ifempty([Price], 1 / 0)')).toBe('12.5');
  });

  it.each([
    ['[Price] / [Stock]', 'Something is divided by zero in this row.'],
    ['mod(3, 0)', 'Something is divided by zero in this row.'],
    ['value([Title])', '“Pellow mug, 350 ml” is not a number.'],
    ['day([Brand])', '“Pellow” is not a day.'],
    ['date(2026, 2, 30)', '“2026-02-30” is not a day.'],
    ['amount([Width], "kg")', '“24 cm” cannot be given in “kg”.'],
    ['left([Brand], -1)', 'left( ) cannot take -1.'],
    ['margin([Cost], 100%)', 'margin( ) cannot take 1.'],
    ['rept([Title], 30000)', 'The result would have more than 32,767 characters.'],
    ['rept("x", 32767) & "y"', 'The result would have more than 32,767 characters.'],
  ])('says why a row gives nothing: %s', (text, says) => {
    expect(work(text)).toBe(says);
  });

  it.each([
    ['', 'Write a formula, such as [Price] * 1.1.', ''],
    ['[Pirce] * 2', 'There is no field “Pirce”; “Price” is nearest.', '[Pirce]'],
    ['rond([Price])', 'There is no function rond( ); round( ) is nearest.', 'rond'],
    ['Price * 2', '“Price” is no word of a formula; for the field write [Price].', 'Price'],
    ['[Price] * ', 'Something after “*” is missing: a field in square brackets, a number or a text in quotes.', '*'],
    ['round(, 2)', 'Something after “(” is missing: a field in square brackets, a number or a text in quotes.', '('],
    ['round([Price]', 'A bracket is not closed; add ).', 'round('],
    ['([Price] + 1', 'A bracket is not closed; add ).', '('],
    ['[Price] + 1)', 'This bracket closes none that was opened; take it out.', ')'],
    ['"red', 'A text is not closed; end it with ".', '"red'],
    ['[Price', 'The name of a field is not closed; end it with ].', '[Price'],
    ["'red'", 'A text stands between double quotes, as in "red".', "'"],
    ['round([Price]; 2)', 'What a function takes is divided by commas, not by “;”.', ';'],
    ['round([Price] 2)', 'A comma is missing between what the function takes.', ' 2'],
    ['[Price] 2', '“2” cannot stand here; an operator such as + or & was expected, or the end.', '2'],
    ['[Stock] > 1 ? 2 : 3', '“?” is no part of a formula; write if(condition, then, else).', '?'],
    ['round()', 'round( ) takes 1 to 2; 0 are given.', 'round()'],
    ['if([Stock] = 0)', 'if( ) takes 2 to 3; 1 is given.', 'if([Stock] = 0)'],
    ['[Brand] * 2', '“*” takes a number here, and this is a text. value( ) reads a number from a text.', '[Brand]'],
    [
      '[Width] * 2',
      '“*” takes a number here, and this is a measure. amount( ) gives the number of a measure.',
      '[Width]',
    ],
    [
      'upper([Highlights])',
      'upper( ) takes a text here, and this is a list. textjoin( ) makes one text of its entries.',
      '[Highlights]',
    ],
    ['if([Price], 1, 2)', 'if( ) takes yes or no here, and this is a number.', '[Price]'],
    ['[Price] > "dear"', '“>” takes a number here, and this is a text. value( ) reads a number from a text.', '"dear"'],
    ['if(yes, [Highlights], "x")', 'One choice is a text and the other a list; give both as the same.', '[Highlights]'],
    ['if(yes, "x", [Highlights])', 'One choice is a text and the other a list; give both as the same.', '[Highlights]'],
    ['if(yes, "x", 1 = 1)', 'One choice is a text and the other', '1 = 1'],
    [`${'('.repeat(60)}1${')'.repeat(60)}`, 'Brackets stand at most 40 deep in each other; take some apart.', '('],
    [`${'-'.repeat(60)}1`, 'Brackets stand at most 40 deep in each other; take some apart.', '-'],
    ['1'.repeat(2001), 'A formula has at most 2000 characters; this one has 2001.', '1'],
    ['constructor(1)', 'There is no function constructor( ).', 'constructor'],
    ['a.b', '“.” cannot stand here; an operator such as + or & was expected, or the end.', '.'],
    ['1 = 2 = = 3', '“=” cannot stand here; an operator such as + or & was expected, or the end.', '='],
  ])('is refused with its place: %s', (text, says, at) => {
    const refused = refuse(text);
    expect({ says: refused.says.slice(0, says.length), at: refused.at }).toEqual({ says, at });
  });

  it('names the fields that it reads, once each', () => {
    const made = compileFormula('if([Price] > 1, [Price], [Cost])', fields);
    expect(made.ok && made.formula.fields).toEqual(['price', 'cost']);
  });

  it('never throws, whatever is written (property)', () => {
    const bits = fc.constantFrom(
      ...'()[],;"+-*/&=<>%. \n?:{}`'.split(''),
      '[Price]',
      '[Brand]',
      'if(',
      'round(',
      '12.5',
      '"x"',
      'yes',
      '.99',
      '1e5',
      'é',
      '💡',
    );
    let taken = 0;
    fc.assert(
      fc.property(fc.array(bits, { maxLength: 14 }), (parts) => {
        const text = parts.join('');
        const made = compileFormula(text, fields);
        if (made.ok) {
          taken++;
          made.formula.run({ values: item, today: '2026-11-26' });
        } else {
          const { from, to } = made.fault.at;
          expect(from >= 0 && to >= from && from <= text.length).toBe(true);
          expect(wordFormulaProblem(made.fault.problem)).not.toMatch(/undefined|null/);
        }
      }),
      { numRuns: 3000 },
    );
    expect(taken).toBeGreaterThan(20);
  });

  it('reckons as decimals do (property)', () => {
    const number = fc
      .tuple(fc.integer({ min: 0, max: 1_000_000 }), fc.integer({ min: 0, max: 9999 }))
      .map(([a, b]) => `${a}.${String(b).padStart(4, '0')}`);
    fc.assert(
      fc.property(number, number, number, (a, b, c) => {
        const made = compileFormula(`${a} + ${b} * ${c} - ${a} / 8`, fields);
        const result = made.ok ? made.formula.run({ values: {}, today: '' }) : undefined;
        const byHand = new Exact(a).plus(new Exact(b).times(c)).minus(new Exact(a).dividedBy(8));
        expect(result).toEqual({ ok: true, value: byHand });
      }),
    );
  });
});

describe('each function', () => {
  it.each(formulaFunctions.map((f) => [f.name, f.example, f.result] as const))(
    '%s: %s gives %s',
    (_, example, result) => {
      expect(work(example)).toBe(result);
    },
  );
  it('has a name of its own and says what it does', () => {
    expect(new Set(formulaFunctions.map((f) => f.name)).size).toBe(formulaFunctions.length);
    expect(formulaFunctions.filter((f) => !/^[A-Z].*\.$/.test(f.about) || !f.example.includes(`${f.name}(`))).toEqual(
      [],
    );
  });
});

describe('what is written is completed', () => {
  it.each([
    ['[Pri', 4, '[Price]'],
    ['[Price] + [co', 13, '[Cost]'],
    ['rou', 3, 'round('],
    ['if([Stock] = 0, ma', 18, 'margin('],
  ])('%s', (text, caret, insert) => {
    const made = completeFormula(text, caret, fields)!;
    expect(made.options.map((o) => o.insert)).toContain(insert);
    expect(text.slice(made.from, made.to)).toBe(/(\[\w*|[a-z]+)$/.exec(text)![0]);
  });
  it('has what begins so first, what has it within behind, and each once', () => {
    const labels = completeFormula('[pri', 4, fields, 50)!.options.map((o) => o.label);
    expect(labels[0]).toBe('Price');
    const within = labels.findIndex((l) => !l.toLowerCase().startsWith('pri'));
    expect(labels.slice(within)).toContain('Sale price');
    expect(labels.slice(within).some((l) => l.toLowerCase().startsWith('pri'))).toBe(false);
    expect(new Set(labels).size).toBe(labels.length);
  });
  it('takes the closing bracket along, and says nothing in a text or where nothing fits', () => {
    expect(completeFormula('[Pri] * 2', 4, fields)).toMatchObject({ from: 0, to: 5 });
    expect(completeFormula('"rou', 4, fields)).toBeUndefined();
    expect(completeFormula('zzz', 3, fields)).toBeUndefined();
    expect(completeFormula('1 + ', 4, fields)).toBeUndefined();
  });
});

describe('edges', () => {
  const gives = (text: string, values: Record<string, string>, book = fields) => {
    const made = compileFormula(text, book);
    if (!made.ok) throw new Error(wordFormulaProblem(made.fault.problem));
    return made.formula.run({ values, today: '2026-11-27' });
  };
  it('nothing may take the place of a text', () => {
    expect(gives('substitute("red mug", "red ", "")', {})).toEqual({ ok: true, value: 'mug' });
  });
  it('a moment of a market counts as its day', () => {
    const book = extendFields(fields, [
      {
        ...fields.get('sale_start')!,
        key: 'stall/from',
        label: 'From on Stall',
        market: 'stall',
        moment: { timeZone: 'Asia/Kuwait', edge: 'first' },
      },
    ]);
    expect(gives('[From on Stall] + 1', { 'stall/from': '2026-11-27T00:00:00+03:00' }, book)).toEqual({
      ok: true,
      value: '2026-11-28',
    });
  });
  it('what is completed takes the bracket along that stands there already, and no other sign', () => {
    expect(completeFormula('roun(1)', 4, fields)).toMatchObject({ from: 0, to: 5 });
    expect(completeFormula('roun + 1', 4, fields)).toMatchObject({ from: 0, to: 4 });
  });
});
