import { describe, expect, it } from 'vitest';
import { prepareChange, wordRowProblem, wordStep } from '../change';
import { type Finding, wordFinding } from '../checks';
import { findClauseProblem, listTests, wordClause, wordClauseProblem } from '../choose';
import { extendFields, findCellFault, readMarketKey, toKept, toShown } from '../product';
import { smallRulebook } from '../tests/builders';
import { fields } from '../tests/house-fields';
import { attributeTypes } from './terms';
import { createLabeler, createWorder, listMarketFields } from '.';

const rulebook = smallRulebook();
const book = extendFields(fields, listMarketFields({ key: 'stall', name: 'Stall' }, rulebook));
const nameOf = () => 'Stall';

describe('fields of the listings of a market', () => {
  it('stand behind those of the items, told apart by their keys, and called by the market', () => {
    expect(book.all.slice(0, fields.all.length)).toEqual(fields.all);
    expect(book.labelOf('stall/colour')).toBe('Colour on Stall');
    expect(book.findNamed('colour ON stall')?.key).toBe('stall/colour');
    // What a field of the house is called stays that.
    expect(book.findNamed('Price')?.key).toBe('price');
    expect(readMarketKey('stall/title@de')).toEqual({ market: 'stall', attribute: 'title@de' });
    expect(readMarketKey('fact.title@de')).toBeUndefined();
    expect(new Set(book.all.map((f) => f.key)).size).toBe(book.all.length);
  });
  it('are of a kind of ours, whatever the market has', () => {
    const kinds = new Map(rulebook.attributes.map((a) => [a.type, book.get(`stall/${a.key}`)!.kind] as const));
    expect([...kinds.keys()].filter((t) => !attributeTypes.includes(t))).toEqual([]);
    expect(kinds.get('money')).toBe('money');
    expect(kinds.get('one-of')).toBe('text');
    expect(kinds.get('identifier')).toBe('identifier');
    expect(book.get('stall/price')).toMatchObject({ currency: 'GBP', rows: 'sellable', market: 'stall' });
  });
  it('keep codes, and show and take the words for them', () => {
    const colour = book.get('stall/colour')!;
    expect(toKept(colour, 'BLUE')).toBe('blu');
    expect(toKept(colour, 'blu')).toBe('blu');
    expect(toShown(colour, 'grn')).toBe('Green');
    expect(findCellFault(book, colour.key, 'Bleu', { kind: 'single' })).toEqual({ kind: 'not-in-list', near: 'Blue' });
    expect(listTests(colour)).not.toContain('contains');
    expect(wordClause({ is: 'equals', field: colour.key, value: 'blu' }, book, nameOf)).toBe('Colour on Stall is Blue');
    expect(
      wordClauseProblem(findClauseProblem({ is: 'one-of', field: colour.key, values: ['Blue', 'Bleu'] }, book)!),
    ).toBe('Colour on Stall has no word “Bleu”; choose one of its list.');
    expect(wordStep({ field: colour.key, operation: { do: 'set', value: 'grn' } }, book)).toBe(
      'Colour on Stall becomes “Green”',
    );
  });
  it('may be asked whether they were typed; those of items may not', () => {
    expect(findClauseProblem({ is: 'typed', field: 'stall/price' }, book)).toBeUndefined();
    expect(findClauseProblem({ is: 'typed', field: 'price' }, book)).toEqual({ is: 'not-for-field', field: 'Price' });
    expect(listTests(book.get('stall/category')!)).not.toContain('typed');
    expect(listTests(book.get('stall/~margin')!)).toContain('under');
    expect(listTests(book.get('stall/~margin')!)).not.toContain('typed');
  });
  it('with moments take a day as when it begins there, or its last second where it ends something', () => {
    const moment = (edge: 'first' | 'last') => ({
      ...book.get('stall/price')!,
      kind: 'date' as const,
      moment: { timeZone: 'Asia/Kuwait', edge },
    });
    // UTC+3 the whole year: IANA time zone database.
    expect(toKept(moment('first'), '2026-11-27')).toBe('2026-11-27T00:00:00+03:00');
    expect(toKept(moment('last'), '2026-11-27')).toBe('2026-11-27T23:59:59+03:00');
    const withMoment = extendFields(fields, [moment('first')]);
    expect(findCellFault(withMoment, 'stall/price', '2026-11-27T00:00:00+03:00', { kind: 'single' })).toBeUndefined();
    expect(findCellFault(withMoment, 'stall/price', 'soon', { kind: 'single' })).toEqual({ kind: 'not-a-day' });
  });
});

describe('a change of listings', () => {
  const run = (
    steps: Parameters<typeof prepareChange>[0],
    values: Record<string, string>,
    listing: Parameters<Extract<ReturnType<typeof prepareChange>, { ok: true }>['change']['run']>[0]['listing'],
  ) => {
    const made = prepareChange(steps, book);
    if (!made.ok) throw new Error('refused');
    return made.change.run(
      { kind: 'single', values, ...(listing ? { listing } : {}) },
      { today: '2026-11-27', index: 0 },
    );
  };
  const takes = { refuse: () => undefined };
  it('reads fields of the item and of the listing', () => {
    expect(
      run(
        [{ field: 'stall/price', operation: { do: 'formula', formula: '[Price] + [Price on Stall]' } }],
        { price: '2.00', 'stall/price': '3.50' },
        takes,
      ).changes,
    ).toEqual([{ field: 'stall/price', before: '3.50', after: '5.50' }]);
  });
  it('makes a word that a formula gives the code for it', () => {
    expect(
      run([{ field: 'stall/colour', operation: { do: 'formula', formula: '"blue"' } }], {}, takes).changes,
    ).toEqual([{ field: 'stall/colour', before: null, after: 'blu' }]);
  });
  it('follows what the catalog gives, and empties what it gives nothing for', () => {
    const follow = [{ field: 'stall/price', operation: { do: 'follow' as const } }];
    expect(run(follow, { 'stall/price': '9' }, { ...takes, given: { 'stall/price': '7' } }).changes).toEqual([
      { field: 'stall/price', before: '9', after: '7' },
    ]);
    expect(run(follow, { 'stall/price': '9' }, { ...takes, given: {} }).changes).toEqual([
      { field: 'stall/price', before: '9', after: null },
    ]);
    expect(prepareChange([{ field: 'price', operation: { do: 'follow' } }], book)).toMatchObject({
      ok: false,
      problem: { is: 'not-for-field' },
    });
  });
  it('leaves alone what cannot be filled, with the reason, and lets it be emptied', () => {
    const refuse = () => ({ kind: 'not-in-category' as const, category: 'Pans' });
    const filled = run([{ field: 'stall/colour', operation: { do: 'set', value: 'Blue' } }], {}, { refuse });
    expect(filled.changes).toEqual([]);
    expect(wordRowProblem(filled.problem!, book)).toBe(
      'Colour on Stall is not asked of “Pans”; what stands there would be refused.',
    );
    expect(
      run([{ field: 'stall/colour', operation: { do: 'clear' } }], { 'stall/colour': 'blu' }, { refuse }).changes,
    ).toEqual([{ field: 'stall/colour', before: 'blu', after: null }]);
  });
  it.each([
    ['variants', 'Price on Stall belongs to what is sold; give it to the variants of this family.'],
    ['family', 'Price on Stall stands in the row of the family, for all of its variants.'],
  ] as const)('says where in a family a field stands: %s', (of, says) => {
    const fault = { kind: 'not-in-rows' as const, of };
    expect(wordRowProblem({ field: 'stall/price', value: '9', fault }, book)).toBe(says);
  });
  it('is of one market alone', () => {
    const clear = { do: 'clear' as const };
    expect(
      prepareChange(
        [
          { field: 'stall/price', operation: clear },
          { field: 'price', operation: clear },
        ],
        book,
      ),
    ).toEqual({ ok: false, step: 1, problem: { is: 'elsewhere', field: 'Price' } });
  });
});

describe('values in words', () => {
  const wordOf = createWorder(rulebook);
  it('are what people call codes, one, several of a list, or several of which a sentence tells', () => {
    expect(wordOf('colour', 'blu')).toBe('Blue');
    expect(wordOf('hues', 'blu | grn')).toBe('Blue | Green');
    expect(wordOf('colour', 'grn, 24 cm')).toBe('Green, 24 cm');
    expect([wordOf('colour', 'odd'), wordOf('title', 'blu'), wordOf('none', 'blu')]).toEqual(['odd', 'blu', 'blu']);
  });
  it('stand in what is said of a finding', () => {
    const finding: Finding = {
      check: 'family-rules',
      message: 'duplicate',
      level: 'blocker',
      field: 'colour',
      value: 'grn',
      params: { other: 'B-2' },
      remedies: [],
    };
    const wording = { market: 'Stall', labelOf: createLabeler(rulebook) };
    expect(wordFinding(finding, { ...wording, wordOf })).toBe(
      'Colour “Green” is the same as on B-2; two variants cannot be told apart.',
    );
    expect(wordFinding(finding, wording)).toContain('“grn”');
    const differs = { ...finding, message: 'sharedDiffers', params: { parent: 'B', shared: 'blu' } };
    expect(wordFinding(differs, { ...wording, wordOf })).toContain('Colour is “Green”, but the family B has “Blue”');
  });
});
