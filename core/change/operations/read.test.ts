// What is read from the texts of an item into a field of it that is empty.
import { describe, expect, it } from 'vitest';
import type { Value, Values } from '../../listing/values';
import { extendFields, type ProductField } from '../../product';
import { fieldOf, fields } from '../../tests/house-fields';
import { listOperations, prepareChange } from '..';

const made = (key: string, kind: ProductField['kind'], more: Partial<ProductField> = {}): ProductField => ({
  ...fieldOf('mpn'),
  ...{ key, label: key, kind },
  ...more,
});
const book = extendFields(fields, [
  made('Colour', 'text', { values: ['Blue', 'Navy blue', 'Black'] }),
  made('Material', 'text'),
  made('Parts', 'list', { values: ['Lid', 'Handle'] }),
  made('Diameter', 'measure', { unit: 'cm' }),
  made('Weight', 'measure', { unit: 'g' }),
  made('Pages', 'integer'),
  made('Washable', 'yes-no'),
  made('Released', 'date'),
]);
const read = (field: string, values: Values, words: string[] = [], alone = false): Value | null | undefined => {
  const prepared = prepareChange([{ field, operation: { do: 'read', words, alone } }], book);
  if (!prepared.ok) throw new Error(JSON.stringify(prepared.problem));
  const { changes, problem } = prepared.change.run({ kind: 'single', values }, { today: '2026-11-29', index: 0 });
  if (problem) throw new Error(JSON.stringify(problem));
  return changes[0]?.after;
};
const title = (text: string, more: Values = {}): Values => ({ title: text, ...more });

describe('a choice', () => {
  it.each<[string, Values, Value | undefined]>([
    ['the title names', title('Hearth Pan, blue'), 'Blue'],
    ['the title names in more words', title('Hearth Pan, NAVY-BLUE'), 'Navy blue'],
    ['only the description names', title('Hearth Pan', { description: '<p>It is black.</p>' }), 'Black'],
    ['only a highlight names', title('Hearth Pan', { highlights: ['Light', 'Deep blue'] }), 'Blue'],
    ['the title names before the rest', title('Blue Pan', { description: 'Also in black.' }), 'Blue'],
    ['the title names twice', title('Blue Pan, blue'), 'Blue'],
    ['the title names with another', title('Blue Pan, black', { description: 'Blue.' }), undefined],
    ['the rest names with another', title('Pan', { description: 'Blue or black.' }), undefined],
    ['is taken back', title('Pan without blue'), undefined],
    ['nothing names', title('Hearth Pan'), undefined],
    ['is given already', title('Blue Pan', { Colour: 'Black' }), undefined],
    ['is given as nothing', title('Blue Pan', { Colour: '' }), 'Blue'],
  ])('that %s', (_, values, after) => {
    expect(read('Colour', values)).toBe(after);
  });
  it('takes words of a person, with others for each, in place of its list', () => {
    const words = ['Cast iron = iron, gusseisen', 'Steel'];
    expect(read('Material', title('Pfanne aus Gusseisen'), words)).toBe('Cast iron');
    expect(read('Material', title('Steel pan'), words)).toBe('Steel');
    expect(read('Colour', title('Azure Pan'), ['Blue = azure'])).toBe('Blue');
    expect(read('Colour', title('Black Pan'), ['Blue = azure'])).toBeUndefined();
  });
  it('of a market becomes its code, by its word or a further one', () => {
    const field = made('m/hue', 'text', {
      ...{ market: 'm', group: 'Market', label: 'Hue on Market', values: ['b1', 'g1'] },
      ...{ words: { b1: 'Blue', g1: 'Green' }, also: { b1: ['Navy'] } },
    });
    const there = extendFields(fields, [field]);
    const run = (text: string, words: string[] = []) => {
      const prepared = prepareChange([{ field: 'm/hue', operation: { do: 'read', words, alone: false } }], there);
      if (!prepared.ok) throw new Error('');
      return prepared.change.run({ kind: 'single', values: title(text) }, { today: '2026-11-29', index: 0 }).changes[0]
        ?.after;
    };
    expect(['Blue pan', 'Navy pan', 'Olive pan'].map((t) => run(t))).toEqual(['b1', 'b1', undefined]);
    expect(run('Olive pan', ['Green = olive'])).toBe('g1');
  });
  it('without a list needs words', () => {
    const prepared = prepareChange([{ field: 'Material', operation: { do: 'read', words: [], alone: false } }], book);
    expect(prepared).toMatchObject({ ok: false, problem: { is: 'nothing-given', part: 'words' } });
  });
});

it('a list takes all that the texts name, each once', () => {
  const values = title('Pan with lid', { highlights: ['Lid of glass', 'Wooden handle'] });
  expect(read('Parts', values)).toEqual(['Lid', 'Handle']);
  expect(read('Parts', title('Pan without lid'))).toBeUndefined();
});

describe('an amount', () => {
  it('is told by the name of its field, or by words of a person', () => {
    const values = title('Pan', { description: 'Diameter 28 cm, blade 18 cm.' });
    expect(read('Diameter', values)).toBe('28 cm');
    expect(read('Diameter', values, ['blade'])).toBe('18 cm');
    expect(read('Diameter', title('Pan 28 cm'))).toBeUndefined();
    expect(read('Diameter', title('Pan 28 cm'), [], true)).toBe('28 cm');
    expect(read('Weight', title('Tea 125 g'), [], true)).toBe('125 g');
    expect(read('Pages', title('Cookbook, 96 pages'))).toBe('96');
  });
  it('of a market is told by its name there, without that of the market', () => {
    const field = made('m/dia', 'measure', { market: 'm', group: 'Market', label: 'Diameter on Market', unit: 'cm' });
    const prepared = prepareChange(
      [{ field: 'm/dia', operation: { do: 'read', words: [], alone: false } }],
      extendFields(fields, [field]),
    );
    if (!prepared.ok) throw new Error('');
    const { changes } = prepared.change.run(
      { kind: 'single', values: title('Pan', { description: 'Diameter 28 cm' }) },
      { today: '2026-11-29', index: 0 },
    );
    expect(changes[0]?.after).toBe('28 cm');
  });
});

it.each([
  ['Washable in hot water', 'yes'],
  ['Not washable', 'no'],
  ['Washable; the handle is not washable', undefined],
  ['Light', undefined],
])('yes or no in “%s” is %s', (text, after) => {
  expect(read('Washable', title(text))).toBe(after);
});

it('is offered for what texts can tell, not for the texts themselves', () => {
  const offered = (key: string) => listOperations(book.get(key)!).includes('read');
  expect(['Colour', 'Parts', 'Diameter', 'Pages', 'Washable', 'category'].filter(offered)).toHaveLength(6);
  expect(
    ['title', 'highlights', 'description', 'brand', 'mpn', 'pictures', 'price', 'gtin', 'Released'].filter(offered),
  ).toEqual([]);
});
