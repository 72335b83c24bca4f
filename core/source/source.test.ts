import { describe, expect, it } from 'vitest';
import { compileFields, firstFields } from '../product';
import {
  createClashJudge,
  createFamilyMaker,
  findSharedTitle,
  guessRules,
  prepareSource,
  type SourceRules,
  sourceRules,
} from '.';

const columns = ['Article', 'Variant', 'Unit', 'Barcode', 'Cost', 'Blocked', 'On hand'];
const today = '2026-11-27';
const rules = (more: Partial<SourceRules> = {}): SourceRules =>
  sourceRules.parse({ sku: 'textjoin("-", [Article], [Variant])', ...more });
const form = (r: SourceRules, row: Record<string, string>) => {
  const made = prepareSource(r, columns);
  if (!made.ok) throw new Error(JSON.stringify(made));
  return made.former.form(row, today);
};

describe('the SKU of a row of a business system', () => {
  it.each([
    ['textjoin("-", [Article], [Variant])', { Article: 'AP-1', Variant: 'CHA' }, 'AP-1-CHA'],
    ['textjoin("-", [Article], [Variant])', { Article: 'AP-1', Variant: '' }, 'AP-1'],
    // A number keeps its zeros: it is a code.
    ['[Article] & "/" & [Unit]', { Article: '00107', Unit: 'PCS' }, '00107/PCS'],
    ['ifempty([Barcode], [Article])', { Article: 'A', Barcode: '9520000004811' }, '9520000004811'],
    ['ifempty([Barcode], [Article])', { Article: 'A', Barcode: '' }, 'A'],
  ])('is formed by %s', (sku, row, expected) => {
    expect(form(rules({ sku }), row as Record<string, string>)).toMatchObject({ is: 'formed', sku: expected });
  });
  it('is missed where nothing is formed', () => {
    expect(form(rules(), { Article: ' ', Variant: '' })).toEqual({ is: 'no-sku' });
  });
  it('is never its own family', () => {
    const r = rules({ family: '[Article]' });
    expect(form(r, { Article: 'A', Variant: 'X' })).toMatchObject({ sku: 'A-X', family: 'A' });
    expect(form(r, { Article: 'A', Variant: '' })).toMatchObject({ sku: 'A', family: '' });
  });
});

describe('rows', () => {
  it('come where the rule says yes, and are left out where it says no or nothing', () => {
    const r = rules({ only: 'and([Unit] = "PCS", not([Blocked] = "yes"))' });
    expect(form(r, { Article: 'A', Unit: 'PCS', Blocked: 'no' }).is).toBe('formed');
    expect(form(r, { Article: 'A', Unit: 'BOX', Blocked: 'no' }).is).toBe('left-out');
    expect(form(r, { Article: 'A', Unit: 'PCS', Blocked: 'yes' }).is).toBe('left-out');
  });
  it('give their fields as texts, reckoned exactly', () => {
    const r = rules({
      fields: [
        { field: 'cost', from: '[Cost]', owner: 'theirs' },
        { field: 'price', from: 'ending(margin(value([Cost]), 40%), .99)', owner: 'first' },
        { field: 'highlights', from: 'split("a,b", ",")', owner: 'first' },
      ],
    });
    expect(form(r, { Article: 'A', Cost: '8.5000' })).toMatchObject({ values: ['8.5000', '14.99', 'a|b'] });
  });
  it('lose the markup of whoever wrote them, but for what a long text keeps', () => {
    const r = rules({
      fields: [
        { field: 'description', from: '[Unit]', owner: 'first' },
        { field: 'title', from: '[Barcode]', owner: 'first' },
      ],
    });
    const made = prepareSource(r, columns, (f) => (f === 'description' ? 'long-text' : 'text'));
    const row = {
      Article: 'A',
      Unit: '<div style="color:red"><h3>Jug</h3><p class="x">Holds <b>1 l</b>.</p></div>',
      Barcode: '<b>Jug</b> &amp; lid',
    };
    if (!made.ok) throw new Error('not right');
    const formed = made.former.form(row, today);
    expect(formed.is === 'formed' && formed.values.map((v, i) => made.former.tidy(v, i))).toEqual([
      'Jug<p>Holds <b>1 l</b>.</p>',
      'Jug & lid',
    ]);
  });
  it('that cannot be worked out are faults of their part', () => {
    const r = rules({ fields: [{ field: 'cost', from: 'value([Cost]) * 2', owner: 'theirs' }] });
    expect(form(r, { Article: 'A', Cost: 'ask' })).toMatchObject({ is: 'fault', part: 0 });
  });
});

describe('rules', () => {
  it.each([
    ['a column that there is not', rules({ sku: '[Artikel]' }), 'sku'],
    ['a rule that is neither yes nor no', rules({ only: '[Unit]' }), 'only'],
    ['a formula that is not whole', rules({ fields: [{ field: 'cost', from: '[Cost', owner: 'theirs' }] }), 0],
  ])('are refused for %s', (_, r, part) => {
    expect(prepareSource(r, columns)).toMatchObject({ ok: false, part });
  });
  it('are guessed out of what the columns are called', () => {
    const book = compileFields(firstFields);
    const guessed = guessRules(columns, (h) => book.findNamed(h)?.key);
    expect(guessed.sku).toBe('textjoin("-", [Article], [Variant])');
    expect(guessed.fields).toContainEqual({ field: 'cost', from: '[Cost]', owner: 'theirs' });
    expect(prepareSource(guessed, columns).ok).toBe(true);
    expect(new Set(guessed.fields.map((f) => f.field)).size).toBe(guessed.fields.length);
    expect(guessRules(['Number', 'Name'], () => undefined).sku).toBe('[Number]');
  });
});

it('rows that would be one SKU clash, all of them named up to ten', () => {
  const judge = createClashJudge();
  for (let row = 1; row <= 12; row++) judge.note('A', row);
  judge.note('B', 13);
  expect(judge.list()).toEqual([{ sku: 'A', rows: [1, 2, 3, 4, 5, 6, 7, 8, 9, 10], count: 12 }]);
  expect([judge.isClash('A'), judge.isClash('B'), judge.isClash('C')]).toEqual([true, false, false]);
});

describe('the row of a family that the system has not', () => {
  it.each([
    [['Pellow Tumbler Amber', 'Pellow Tumbler Smoke'], 'Pellow Tumbler'],
    [['Mug, red', 'Mug, blue'], 'Mug'],
    [['Mug'], 'Mug'],
    [['Mug', 'Bowl'], ''],
  ])('is called by the words that its variants begin with: %j', (titles, title) => {
    expect(findSharedTitle(titles)).toBe(title);
  });
  it('holds what all of them share and a family can hold, and its SKU where they share no word', () => {
    const maker = createFamilyMaker(['title', 'brand', 'category', 'price'], (f) => f !== 'price');
    maker.note('F', ['Mug red', 'Pellow', 'Mugs', '9.99']);
    maker.note('F', ['Mug blue', 'Pellow', 'Cups', '9.99']);
    maker.note('G', ['Bowl', '', 'Bowls', '1.00']);
    maker.note('G', ['Dish', '', 'Bowls', '1.00']);
    expect(maker.list()).toEqual([
      { sku: 'F', values: ['Mug', 'Pellow', '', ''] },
      { sku: 'G', values: ['G', '', 'Bowls', ''] },
    ]);
  });
});
