import { describe, expect, it } from 'vitest';
import { fields } from '../tests/house-fields';
import {
  type Clause,
  everyItem,
  findClauseProblem,
  isEveryItem,
  listTests,
  narrow,
  readSkus,
  spreadMeasure,
  whichSchema,
  wordClause,
  wordClauseProblem,
  wordWhich,
} from '.';

const nameOf = (key: string): string => ({ quillhaven: 'Quillhaven' })[key] ?? key;

describe('a condition', () => {
  it.each<[Clause, string]>([
    [{ is: 'over', field: 'price', value: '10' }, 'Price over 10'],
    [{ is: 'over', field: 'sale_start', value: '2026-11-27' }, 'Sale start after 2026-11-27'],
    [{ is: 'equals', field: 'highlights', value: 'New' }, 'Highlights has the entry New'],
    [{ is: 'between', field: 'price', from: '5', to: '9' }, 'Price between 5 and 9'],
    [{ is: 'empty', field: 'brand' }, 'Brand is empty'],
    [{ is: 'one-of', field: 'brand', values: ['A', 'B', 'C', 'D', 'E'] }, 'Brand is one of A, B, C and 2 more'],
    [{ is: 'within', field: 'category', value: 'Mugs' }, 'Own category is, or is under, Mugs'],
    [{ is: 'state', market: 'quillhaven', state: 'live' }, 'live on Quillhaven'],
    [{ is: 'state', market: '', state: 'refused' }, 'refused on any market'],
    [{ is: 'finding', check: 'demanded-missing', message: 'must', field: 'gtin' }, '“GTIN” is missing'],
    [{ is: 'import', import: 7 }, 'written by import 7'],
    [{ is: 'change-set', set: 9 }, 'changed by change 9'],
    [{ is: 'changed', since: '2026-11-01' }, 'changed since 2026-11-01'],
  ])('%j in words', (clause, words) => {
    expect(wordClause(clause, fields, nameOf)).toBe(words);
    expect(findClauseProblem(clause, fields)).toBeUndefined();
  });
  it.each<[Clause, string]>([
    [{ is: 'equals', field: 'fact.none', value: 'x' }, 'There is no field “fact.none” any more; choose another.'],
    [{ is: 'over', field: 'brand', value: '5' }, 'This cannot be asked of Brand; choose another condition.'],
    [{ is: 'within', field: 'brand', value: 'x' }, 'This cannot be asked of Brand; choose another condition.'],
    [{ is: 'equals', field: 'brand', value: ' ' }, 'Say what Brand is compared with.'],
    [{ is: 'one-of', field: 'brand', values: [] }, 'Say what Brand is compared with.'],
    [
      { is: 'over', field: 'price', value: 'ten' },
      'Price is compared with numbers; “ten” is none. Write digits with a point, such as 12.5.',
    ],
    [
      { is: 'between', field: 'price', from: '1', to: 'x' },
      'Price is compared with numbers; “x” is none. Write digits with a point, such as 12.5.',
    ],
    [
      { is: 'under', field: 'sale_start', value: 'soon' },
      'Sale start is compared with days; “soon” is none. Write it as 2026-11-27 or 27/11/2026.',
    ],
    [
      { is: 'over', field: 'fact.volume', value: '24' },
      'Volume is compared with measures; “24” is none. Write a number and its unit, such as 24 cm.',
    ],
    [{ is: 'equals', field: 'fact.induction', value: 'true' }, 'Induction is yes or no, not “true”.'],
  ])('%j is refused', (clause, words) => {
    expect(wordClauseProblem(findClauseProblem(clause, fields)!)).toBe(words);
  });
  it('may leave the unit to the field, and write an ending as people do', () => {
    expect(findClauseProblem({ is: 'over', field: 'fact.width', value: '24' }, fields)).toBeUndefined();
    expect(findClauseProblem({ is: 'ends', field: 'price', value: '.99' }, fields)).toBeUndefined();
    expect(findClauseProblem({ is: 'over', field: 'price', value: '.99' }, fields)).toBeDefined();
  });
  it('can be asked of every field in some way', () => {
    expect(fields.all.filter((f) => listTests(f).length < 3)).toEqual([]);
  });
});

describe('which items', () => {
  it('is every item where nothing is said, and is filled up from little', () => {
    expect(whichSchema.parse({})).toEqual(everyItem);
    expect(isEveryItem(everyItem)).toBe(true);
    expect(isEveryItem({ ...everyItem, rows: 'variant' })).toBe(false);
  });
  it.each([
    [{}, 'all rows'],
    [{ rows: 'variant' }, 'variants'],
    [
      {
        rows: 'sold',
        clauses: [
          { is: 'empty', field: 'brand' },
          { is: 'over', field: 'price', value: '5' },
        ],
      },
      'all that is sold: Brand is empty, Price over 5',
    ],
    [
      {
        match: 'any',
        clauses: [
          { is: 'empty', field: 'brand' },
          { is: 'empty', field: 'cost' },
        ],
      },
      'Brand is empty or Cost is empty',
    ],
    [
      {
        match: 'any',
        clauses: [
          { is: 'empty', field: 'brand' },
          { is: 'empty', field: 'cost' },
        ],
        also: [{ is: 'over', field: 'price', value: '5' }],
      },
      'Brand is empty or Cost is empty; Price over 5',
    ],
    [{ skus: ['A'] }, 'A'],
    [{ ids: [1, 2] }, '2 marked rows'],
    [{ skus: ['A', 'B'], search: 'mug' }, '2 named SKUs; “mug”'],
  ])('%j in words', (given, words) => {
    expect(wordWhich(whichSchema.parse(given), fields, nameOf)).toBe(words);
  });
  it('is narrowed by more conditions, and never widened, though one of several is enough for it', () => {
    const [a, b, c]: Clause[] = ['brand', 'cost', 'price'].map((field) => ({ is: 'empty', field }));
    expect(narrow({ ...everyItem, clauses: [a!] }, [c!])).toMatchObject({ match: 'all', clauses: [a, c], also: [] });
    const oneOf = { ...everyItem, match: 'any' as const, clauses: [a!, b!] };
    expect(narrow(oneOf, [c!])).toEqual({ ...oneOf, also: [c] });
    // One alone is no choice between several.
    expect(narrow({ ...oneOf, clauses: [a!] }, [c!])).toMatchObject({ match: 'all', clauses: [a, c] });
    expect(isEveryItem({ ...everyItem, also: [c!] })).toBe(false);
  });
  it('reads pasted SKUs, whatever divides them', () => {
    expect(readSkus('A-1\r\nB 2\t"C,3"\n\n A-1 ;D')).toEqual(['A-1', 'B 2', '"C', '3"', 'D']);
    expect(readSkus('"A"\n"B"')).toEqual(['A', 'B']);
  });
});

it('an amount is put into every unit that measures the same', () => {
  expect(spreadMeasure('2.5 cm', undefined, ['mm', 'cm', 'kg'])).toEqual({ mm: '25', cm: '2.5' });
  expect(spreadMeasure('2.5', 'cm', ['mm'])).toEqual({ mm: '25' });
  expect(spreadMeasure('2.5', undefined, ['mm'])).toEqual({});
  expect(spreadMeasure('wide', 'cm', ['mm'])).toEqual({});
});
