import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Value } from '../listing/values';
import { compileFields, firstFields, plainField } from '../product';
import { fields } from '../tests/house-fields';
import {
  applyChanges,
  type ChangeOperation,
  type ChangeStep,
  changeSteps,
  listOperations,
  operationNames,
  prepareChange,
  reverseChanges,
  wordStep,
  wordStepProblem,
} from '.';

const mug: Record<string, Value> = {
  sku: 'MP-MUG-06',
  title: 'Pellow mug, red',
  brand: 'Pellow',
  category: 'Mugs',
  price: '12.50',
  cost: '6.00',
  stock: '14',
  highlights: ['Dishwasher safe', 'Stacks'],
  'fact.width': '8 cm',
};
const step = (field: string, operation: ChangeOperation): ChangeStep => ({ field, operation });
function run(steps: ChangeStep[], values = mug, kind = 'single', index = 0) {
  const made = prepareChange(steps, fields);
  if (!made.ok) throw new Error(wordStepProblem(made.problem));
  return made.change.run({ kind, values }, { today: '2026-11-26', index });
}
it('names all that an item must be loaded with: what it writes, and what it reads for that', () => {
  const made = prepareChange(
    [
      step('price', { do: 'formula', formula: '[Cost] * 2 + value(left([Part number], 1))' }),
      step('title', { do: 'copy', from: 'brand' }),
    ],
    fields,
  );
  expect(made.ok && [...made.change.reads].sort()).toEqual(['brand', 'cost', 'mpn', 'price', 'title']);
});
const after = (field: string, operation: ChangeOperation, held: Value | null): Value | null | undefined => {
  const { [field]: _, ...rest } = mug;
  const made = run([step(field, operation)], held === null ? rest : { ...rest, [field]: held });
  return made.problem ? undefined : made.changes.length === 0 ? held : made.changes[0]!.after;
};
const refused = (s: ChangeStep, book = fields): string => {
  const made = prepareChange([s], book);
  if (made.ok) throw new Error('It was taken.');
  return wordStepProblem(made.problem);
};

describe('what an operation makes of a value', () => {
  it.each<[string, ChangeOperation, Value | null, Value | null]>([
    ['brand', { do: 'set', value: 'Hearth' }, 'Pellow', 'Hearth'],
    ['brand', { do: 'set', value: 'Hearth' }, null, 'Hearth'],
    ['highlights', { do: 'set', value: 'New' }, ['a', 'b'], ['New']],
    ['fact.width', { do: 'set', value: '9' }, '8 cm', '9 cm'],
    ['brand', { do: 'clear' }, 'Pellow', null],
    ['price', { do: 'raise', by: 'percent', of: '10' }, '12.50', '13.75'],
    ['price', { do: 'raise', by: 'percent', of: '-15' }, '12.50', '10.63'],
    ['price', { do: 'raise', by: 'amount', of: '-0.51' }, '12.50', '11.99'],
    ['price', { do: 'raise', by: 'percent', of: '10' }, null, null],
    ['stock', { do: 'raise', by: 'percent', of: '10' }, '14', '15'],
    ['price', { do: 'round', ending: '.99', way: 'up' }, '12.50', '12.99'],
    ['price', { do: 'round', ending: '.99', way: 'up' }, '12.99', '12.99'],
    ['price', { do: 'round', ending: '.99', way: 'down' }, '12.50', '11.99'],
    ['price', { do: 'round', ending: '.99', way: 'nearest' }, '12.40', '11.99'],
    ['price', { do: 'round', ending: '.99', way: 'nearest' }, '12.49', '12.99'],
    ['price', { do: 'round', ending: '.00', way: 'down' }, '12.99', '12.00'],
    ['price', { do: 'round', ending: '9.99', way: 'up' }, '12.50', '19.99'],
    ['price', { do: 'round', ending: '4.95', way: 'down' }, '12.50', '4.95'],
    ['price', { do: 'formula', formula: 'ending(margin([Cost], 40%), .99)' }, '12.50', '10.99'],
    ['price', { do: 'formula', formula: '[List price] * 2' }, '12.50', '12.50'],
    ['price', { do: 'formula', formula: '[Cost] / 7' }, '12.50', '0.86'],
    ['brand', { do: 'formula', formula: 'upper([Brand])' }, 'Pellow', 'PELLOW'],
    ['highlights', { do: 'formula', formula: '[Brand]' }, ['a'], ['Pellow']],
    ['fact.width', { do: 'formula', formula: 'amount([Width], "mm") * 2' }, '8 cm', '160 cm'],
    ['brand', { do: 'copy', from: 'category' }, 'Pellow', 'Mugs'],
    ['brand', { do: 'copy', from: 'fact.colour' }, 'Pellow', 'Pellow'],
    ['highlights', { do: 'copy', from: 'title' }, ['a'], ['Pellow mug, red']],
    ['description', { do: 'copy', from: 'highlights' }, null, 'Dishwasher safe, Stacks'],
    [
      'title',
      { do: 'rewrite', find: 'MUG', by: 'cup', exactCase: false, wholeWords: false },
      'Pellow mug, mugs',
      'Pellow cup, cups',
    ],
    [
      'title',
      { do: 'rewrite', find: 'mug', by: 'cup', exactCase: false, wholeWords: true },
      'Pellow mug, mugs',
      'Pellow cup, mugs',
    ],
    [
      'title',
      { do: 'rewrite', find: 'MUG', by: 'cup', exactCase: true, wholeWords: false },
      'Pellow mug',
      'Pellow mug',
    ],
    [
      'title',
      { do: 'rewrite', find: 'red', by: '', exactCase: false, wholeWords: true },
      'Pellow red mug',
      'Pellow mug',
    ],
    ['title', { do: 'rewrite', find: '(a+)+$', by: '$&', exactCase: false, wholeWords: false }, 'x (a+)+$', 'x $&'],
    ['title', { do: 'rewrite', find: 'é', by: 'e', exactCase: false, wholeWords: true }, 'café é', 'café e'],
    [
      'highlights',
      { do: 'rewrite', find: 'safe', by: 'proof', exactCase: false, wholeWords: false },
      ['Oven safe', 'Stacks'],
      ['Oven proof', 'Stacks'],
    ],
    ['highlights', { do: 'add', items: ['New', 'stacks'] }, ['Stacks'], ['Stacks', 'New']],
    ['highlights', { do: 'add', items: ['New'] }, null, ['New']],
    ['highlights', { do: 'remove', items: ['STACKS'] }, ['Stacks', 'New'], ['New']],
    ['highlights', { do: 'remove', items: ['Stacks'] }, ['Stacks'], null],
    ['highlights', { do: 'swap', from: 'stacks', to: 'Stackable' }, ['New', 'Stacks'], ['New', 'Stackable']],
    ['highlights', { do: 'swap', from: 'a', to: 'b' }, ['a', 'b'], ['b']],
    ['highlights', { do: 'swap', from: 'Stacks', to: 'stacks' }, ['Stacks'], ['stacks']],
    ['mpn', { do: 'number', pattern: 'ART-####', start: 7, step: 1 }, null, 'ART-0007'],
  ])('%s: %j of %j', (field, operation, held, made) => {
    expect(after(field, operation, held)).toEqual(made);
  });
  it('numbers rows by their place, and lets numbers grow past their figures', () => {
    const numbered = (index: number) =>
      run([step('mpn', { do: 'number', pattern: 'A-##/26', start: 98, step: 1 })], mug, 'single', index).changes[0]!
        .after;
    expect([0, 1, 2].map(numbered)).toEqual(['A-98/26', 'A-99/26', 'A-100/26']);
  });
});

describe('a change of several fields', () => {
  it('takes its steps one after the other, each seeing what the last has made', () => {
    const { changes } = run([
      step('price', { do: 'raise', by: 'percent', of: '10' }),
      step('price', { do: 'round', ending: '.99', way: 'up' }),
      step('sale_price', { do: 'formula', formula: '[Price] * 85%' }),
    ]);
    expect(changes).toEqual([
      { field: 'price', before: '12.50', after: '13.99' },
      { field: 'sale_price', before: null, after: '11.89' },
    ]);
  });
  it('leaves the whole row alone where one field cannot hold what it would be given', () => {
    const made = run([
      step('brand', { do: 'set', value: 'Hearth' }),
      step('price', { do: 'raise', by: 'amount', of: '-20' }),
    ]);
    expect(made).toEqual({ changes: [], problem: { field: 'price', value: '-7.50', fault: { kind: 'not-a-price' } } });
  });
  it('says where a formula fails in a row', () => {
    const made = run([step('price', { do: 'formula', formula: '10 / ([Stock] - 14)' })]);
    expect(made).toEqual({ changes: [], problem: { field: 'price', value: null, fault: { kind: 'divided-by-zero' } } });
  });
  it('passes by what a family does not have, and changes what it has', () => {
    const { sku, title, brand } = mug as Record<string, string>;
    const { changes, problem } = run(
      [step('price', { do: 'set', value: '9.99' }), step('brand', { do: 'set', value: 'Hearth' })],
      { sku: sku!, title: title!, brand: brand! },
      'family',
    );
    expect({ changes, problem }).toEqual({
      changes: [{ field: 'brand', before: 'Pellow', after: 'Hearth' }],
      problem: null,
    });
  });
  it('leaves the stock of a bundle to its parts', () => {
    const { changes, problem } = run(
      [step('stock', { do: 'set', value: '5' }), step('brand', { do: 'set', value: 'Hearth' })],
      mug,
      'bundle',
    );
    expect({ fields: changes.map((c) => c.field), problem }).toEqual({ fields: ['brand'], problem: null });
  });
  it('counts what comes out the same as no change: 12.5 is 12.50', () => {
    expect(run([step('price', { do: 'set', value: '12.5' })]).changes).toEqual([]);
  });
  it('is taken back by the reverse of its changes, and done again is the same (property)', () => {
    const operations = fc.constantFrom<ChangeStep>(
      step('price', { do: 'raise', by: 'percent', of: '7' }),
      step('price', { do: 'round', ending: '.95', way: 'up' }),
      step('brand', { do: 'clear' }),
      step('highlights', { do: 'add', items: ['New'] }),
      step('highlights', { do: 'remove', items: ['Stacks'] }),
      step('title', { do: 'rewrite', find: 'mug', by: 'beaker', exactCase: false, wholeWords: false }),
      step('stock', { do: 'raise', by: 'amount', of: '3' }),
    );
    fc.assert(
      fc.property(
        fc.array(operations, { minLength: 1, maxLength: 6 }),
        fc.integer({ min: 1, max: 99_999 }),
        (steps, pence) => {
          const values = { ...mug, price: (pence / 100).toFixed(2) };
          const { changes } = run(steps, values);
          const made = applyChanges(values, changes);
          expect(applyChanges(made, reverseChanges(changes))).toEqual(values);
          const again = ['round', 'clear', 'add', 'remove'];
          if (steps.every((s) => again.includes(s.operation.do)))
            expect(run(steps, made as typeof mug).changes).toEqual([]);
        },
      ),
    );
  });
});

describe('an operation that cannot be done', () => {
  const listed = compileFields({
    ...firstFields,
    fields: [
      ...firstFields.fields,
      plainField({ key: 'shade', label: 'Shade', group: 'Make' }, { values: ['Dark', 'Light'] }),
    ],
  });
  it.each<[ChangeStep, string]>([
    [step('fact.none', { do: 'clear' }), 'There is no field “fact.none” any more; choose another.'],
    [step('sku', { do: 'set', value: 'A' }), 'SKU is not changed in bulk.'],
    [step('parent_sku', { do: 'clear' }), 'Family SKU is not changed in bulk.'],
    [step('title', { do: 'clear' }), 'This cannot be done to Title; choose another change.'],
    [step('brand', { do: 'raise', by: 'percent', of: '1' }), 'This cannot be done to Brand; choose another change.'],
    [
      step('price', { do: 'rewrite', find: '1', by: '2', exactCase: false, wholeWords: false }),
      'This cannot be done to Price; choose another change.',
    ],
    [step('brand', { do: 'set', value: '' }), 'Say the value.'],
    [step('price', { do: 'raise', by: 'percent', of: '' }), 'Say by how much.'],
    [
      step('price', { do: 'raise', by: 'percent', of: '10%' }),
      '“10%” is not a number; write digits with a point, such as 12.5.',
    ],
    [
      step('price', { do: 'round', ending: '-1', way: 'up' }),
      '“-1” is not a number; write digits with a point, such as 12.5.',
    ],
    [
      step('price', { do: 'set', value: 'soon' }),
      'Price “soon” is not a price; write digits with a point, such as 12.50.',
    ],
    [step('shade', { do: 'clear' }), 'There is no field “shade” any more; choose another.'],
    [
      step('fact.shade', { do: 'set', value: 'Drak' }),
      'Shade “Drak” is not in the list of values of this field; “Dark” is.',
    ],
    [
      step('price', { do: 'formula', formula: '[Brand]' }),
      'Price takes a number, and this formula gives a text. value( ) reads a number from a text.',
    ],
    [step('price', { do: 'formula', formula: '[Prize]' }), 'There is no field “Prize”; “Price” is nearest.'],
    [step('price', { do: 'copy', from: 'brand' }), 'Price cannot hold what stands in Brand.'],
    [
      step('mpn', { do: 'number', pattern: 'ART', start: 1, step: 1 }),
      '“ART” has no place for the number; write # for each figure, such as ART-####.',
    ],
    [step('highlights', { do: 'add', items: [] }), 'Say the entries.'],
  ])('%j', (s, says) => {
    expect(refused(s, listed)).toBe(says);
  });
  it('says of several steps which one it is', () => {
    const made = prepareChange([step('brand', { do: 'clear' }), step('title', { do: 'clear' })], fields);
    expect(made).toMatchObject({ ok: false, step: 1 });
  });
});

describe('operations', () => {
  it('are offered where they can be done', () => {
    const offered = (key: string) => listOperations(fields.get(key)!);
    expect(offered('price')).toEqual(['set', 'clear', 'raise', 'round', 'formula', 'copy']);
    expect(offered('highlights')).toEqual(['set', 'clear', 'formula', 'copy', 'rewrite', 'add', 'remove', 'swap']);
    expect(offered('mpn')).toContain('number');
    expect(offered('sku')).toEqual([]);
  });
  it('are read as data, unknown ones and parts refused', () => {
    expect(
      changeSteps.safeParse([{ field: 'price', operation: { do: 'raise', by: 'percent', of: '5' } }]).success,
    ).toBe(true);
    expect(changeSteps.safeParse([{ field: 'price', operation: { do: 'double' } }]).success).toBe(false);
    expect(changeSteps.safeParse([{ field: 'price', operation: { do: 'clear', more: 1 } }]).success).toBe(false);
    expect(changeSteps.safeParse([]).success).toBe(false);
  });
  it('all have words', () => {
    const of: Record<(typeof operationNames)[number], [ChangeOperation, string]> = {
      set: [{ do: 'set', value: 'x' }, 'Price becomes “x”'],
      clear: [{ do: 'clear' }, 'Price emptied'],
      raise: [{ do: 'raise', by: 'percent', of: '-10' }, 'Price lowered by 10 %'],
      leave: [{ do: 'leave', margin: '18', ending: '.99' }, 'Price that leaves 18 %, up to .99'],
      round: [{ do: 'round', ending: '.99', way: 'up' }, 'Price rounded up to .99'],
      formula: [{ do: 'formula', formula: '= [Cost] * 2' }, 'Price = [Cost] * 2'],
      copy: [{ do: 'copy', from: 'cost' }, 'Price from Cost'],
      read: [{ do: 'read', words: [], alone: false }, 'Price read from the texts'],
      rewrite: [{ do: 'rewrite', find: 'a', by: '', exactCase: false, wholeWords: false }, '“a” taken out of Price'],
      add: [{ do: 'add', items: ['a', 'b'] }, '“a, b” added to Price'],
      remove: [{ do: 'remove', items: ['a'] }, '“a” taken out of Price'],
      swap: [{ do: 'swap', from: 'a', to: 'b' }, '“a” becomes “b” in Price'],
      number: [{ do: 'number', pattern: 'A-#', start: 1, step: 1 }, 'Price numbered A-#'],
      follow: [{ do: 'follow' }, 'Price as the catalog has it'],
    };
    expect(operationNames.map((n) => wordStep(step('price', of[n][0]), fields))).toEqual(
      operationNames.map((n) => of[n][1]),
    );
  });
});

describe('numbering', () => {
  it('takes steps of one and more, from nought on, and no others', () => {
    const isTaken = (start: number, by: number): boolean =>
      changeSteps.safeParse([{ field: 'mpn', operation: { do: 'number', pattern: 'A-##', start, step: by } }]).success;
    expect([isTaken(0, 1), isTaken(0, 1_000_000), isTaken(1_000_000_000, 1)]).toEqual([true, true, true]);
    expect([isTaken(-1, 1), isTaken(0, 0), isTaken(0, 1_000_001), isTaken(1_000_000_001, 1)]).toEqual(
      Array(4).fill(false),
    );
    expect(
      run([step('mpn', { do: 'number', pattern: 'A-##', start: 98, step: 5 })], mug, 'single', 1).changes[0]!.after,
    ).toBe('A-103');
  });
});
