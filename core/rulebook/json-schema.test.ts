// The schema of a category as ajv reads it, which is not ours: what is taken and what is refused (JSON Schema 2020-12).
import { Ajv2020 } from 'ajv/dist/2020.js';
import addFormats from 'ajv-formats';
import { describe, expect, it } from 'vitest';
import { goodValues, smallRulebook } from '../tests/builders';
import { compileCategory, makeCategorySchema, makeFormatSchema } from '.';

type Demand = { attribute: string; level: string; when?: object };
const bookWith = (
  demands: Demand[],
  change: (d: { attributes: Record<string, unknown>[] }) => void = () => undefined,
) =>
  smallRulebook((d) => {
    const document = d as unknown as { demands: Demand[]; attributes: Record<string, unknown>[] };
    document.demands.push(...demands);
    change(document);
  });
function validatorOf(book: ReturnType<typeof smallRulebook>, category = 'pans') {
  const ajv = new Ajv2020({ strict: false, allErrors: true });
  (addFormats as unknown as (a: Ajv2020) => void)(ajv);
  const validate = ajv.compile(makeCategorySchema(book, compileCategory(book, category)!));
  return (values: object): boolean => validate({ ...goodValues, ...values });
}
const takes = validatorOf(bookWith([]));
const { diameter: _, ...noDiameter } = goodValues;

describe('a value', () => {
  it.each<[object, boolean]>([
    [{}, true],
    [{ title: 'Pan' }, false],
    [{ title: 'Five!' }, true],
    [{ title: 'x'.repeat(40) }, true],
    [{ title: 'x'.repeat(41) }, false],
    [{ colour: 'blk' }, true],
    [{ colour: 'Black' }, false],
    [{ hues: ['blk', 'blu'] }, true],
    [{ hues: ['blk', 'blk'] }, false],
    [{ hues: ['blk', 'blu', 'grn'] }, false],
    [{ hues: ['red'] }, false],
    [{ hues: 'blk' }, false],
    [{ points: ['a', 'b', 'c'] }, true],
    [{ points: ['a', 'b', 'c', 'd'] }, false],
    // Fewer than a market would like are taken.
    [{ points: ['a'] }, true],
    [{ pictures: ['https://p.example/1.jpg'] }, true],
    [{ pictures: ['no address'] }, false],
    [{ washable: 'yes' }, true],
    [{ washable: 'Yes' }, false],
    [{ quantity: '-3' }, true],
    [{ quantity: '3.5' }, false],
    [{ price: '12.50' }, true],
    [{ price: '12,50' }, false],
    [{ price: '12.' }, false],
    [{ diameter: '28.5 cm' }, true],
    [{ diameter: '28 kg' }, false],
    [{ diameter: '28' }, false],
    [{ sale_start: '2026-11-28' }, true],
    [{ sale_start: '2026-02-30' }, false],
  ])('%j: %s', (values, is) => {
    expect(takes(values)).toBe(is);
  });
  it('of a moment, a decimal and a pattern', () => {
    const book = bookWith([], (d) => {
      d.attributes.find((a) => a['key'] === 'sale_end')!['type'] = 'moment';
      d.attributes.find((a) => a['key'] === 'floor')!['type'] = 'decimal';
    });
    const lamps = validatorOf(book, 'lamps');
    expect([{ sale_end: '2026-11-28T08:00:00Z' }, { sale_end: '2026-11-28' }].map(lamps)).toEqual([true, false]);
    expect([{ floor: '1.25' }, { floor: 'low' }].map(lamps)).toEqual([true, false]);
    expect([{ un_number: 'UN3481' }, { un_number: '3481' }].map(lamps)).toEqual([true, false]);
  });
});

describe('what must be there', () => {
  const filled = { attribute: 'colour', filled: true },
    black = { attribute: 'colour', is: ['blk'] },
    inBlack = { attribute: 'hues', is: ['blk'] };
  /** Whether pages may be left out beside these values. */
  const mayLack = (when: object, values: object): boolean =>
    validatorOf(bookWith([{ attribute: 'pages', level: 'must', when }]))(values);
  it('is refused where it is not', () => {
    const validate = validatorOf(bookWith([]));
    expect(validate({ diameter: '28 cm' })).toBe(true);
    const schema = makeCategorySchema(bookWith([]), compileCategory(bookWith([]), 'pans')!);
    expect((schema['required'] as string[]).toSorted()).toEqual(
      ['brand', 'diameter', 'item_number', 'price', 'quantity', 'title'].toSorted(),
    );
    expect(schema['title']).toBe('Stall: Pans');
    expect(Object.keys(noDiameter)).not.toContain('diameter');
  });
  it.each<[string, object, object, boolean]>([
    ['filled, and it is', filled, { colour: 'blk' }, false],
    ['filled, and it is not', filled, {}, true],
    ['empty, and it is', { ...filled, filled: false }, {}, false],
    ['empty, and it is not', { ...filled, filled: false }, { colour: 'blk' }, true],
    ['one of some', black, { colour: 'blk' }, false],
    ['one of others', black, { colour: 'blu' }, true],
    ['one in a list', inBlack, { hues: ['blu', 'blk'] }, false],
    ['none in a list', inBlack, { hues: ['blu'] }, true],
    ['both', { all: [black, inBlack] }, { colour: 'blk', hues: ['blk'] }, false],
    ['only one of both', { all: [black, inBlack] }, { colour: 'blk' }, true],
    ['one of either', { any: [black, inBlack] }, { hues: ['blk'] }, false],
    ['none of either', { any: [black, inBlack] }, { colour: 'blu' }, true],
    ['not so', { not: black }, { colour: 'blu' }, false],
    ['not so, but it is', { not: black }, { colour: 'blk' }, true],
    // A schema compares no numbers: it lets through what the checks find.
    ['a number over another', { attribute: 'quantity', over: '10' }, { quantity: '12' }, true],
    [
      'with a part that it cannot tell',
      { all: [black, { attribute: 'quantity', over: '10' }] },
      { colour: 'blk' },
      true,
    ],
    [
      'with an other that it cannot tell',
      { any: [{ attribute: 'quantity', over: '99' }, black] },
      { colour: 'blk' },
      true,
    ],
    ['not what it cannot tell', { not: { attribute: 'quantity', over: '99' } }, {}, true],
  ])('under a condition: %s', (_name, when, values, is) => {
    expect(mayLack(when, values)).toBe(is);
  });
  it('is let go under a condition of another level', () => {
    const relaxed = validatorOf(
      bookWith([
        { attribute: 'pages', level: 'must' },
        { attribute: 'pages', level: 'may', when: black },
      ]),
    );
    expect([{ colour: 'blu' }, { colour: 'blk' }, { pages: '3' }].map(relaxed)).toEqual([false, true, true]);
    // Where nobody can tell when it is let go, it is not asked for.
    const unclear = validatorOf(
      bookWith([
        { attribute: 'pages', level: 'must' },
        { attribute: 'pages', level: 'may', when: { attribute: 'quantity', over: '10' } },
      ]),
    );
    expect(unclear({})).toBe(true);
  });
});

it('the form of documents has the name of the format', () => {
  expect(makeFormatSchema()).toMatchObject({ title: 'basileus-rulebook/2', type: 'object' });
});
