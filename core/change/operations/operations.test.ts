// Operations of bulk changes that cannot be done, and cells that they leave alone.
import { describe, expect, it } from 'vitest';
import type { Value } from '../../listing/values';
import { extendFields, type ProductField } from '../../product';
import { fieldOf, fields } from '../../tests/house-fields';
import { type ChangeOperation, prepareChange } from '..';

const made = (key: string, kind: string): ProductField =>
  ({ ...fieldOf('mpn'), key, label: key, kind }) as ProductField;
const kinds = ['text', 'long-text', 'list', 'identifier', 'measure', 'money', 'number', 'integer', 'date', 'yes-no'];
const book = extendFields(fields, [
  ...kinds.map((kind) => made(`a ${kind}`, kind)),
  ...kinds.map((kind) => made(`b ${kind}`, kind)),
]);
function refusal(field: string, operation: ChangeOperation): object | undefined {
  const prepared = prepareChange([{ field, operation }], book);
  return prepared.ok ? undefined : prepared.problem;
}
function after(field: string, operation: ChangeOperation, values: Record<string, Value>): Value | null | undefined {
  const prepared = prepareChange([{ field, operation }], book);
  if (!prepared.ok) throw new Error(JSON.stringify(prepared.problem));
  const { changes, problem } = prepared.change.run({ kind: 'single', values }, { today: '2026-11-28', index: 0 });
  if (problem) throw new Error(JSON.stringify(problem));
  return changes[0]?.after;
}

it.each<[string, ChangeOperation, string]>([
  ['highlights', { do: 'add', items: [] }, 'items'],
  ['highlights', { do: 'remove', items: [] }, 'items'],
  ['highlights', { do: 'swap', from: '', to: 'b' }, 'from'],
  ['highlights', { do: 'swap', from: 'a', to: '' }, 'to'],
  ['highlights', { do: 'swap', from: '', to: '' }, 'from'],
  ['brand', { do: 'copy', from: '' }, 'from'],
  ['price', { do: 'raise', by: 'amount', of: '' }, 'of'],
  ['price', { do: 'round', ending: '', way: 'up' }, 'ending'],
  ['mpn', { do: 'number', pattern: '', start: 1, step: 1 }, 'pattern'],
  ['title', { do: 'rewrite', find: '', by: 'x', exactCase: false, wholeWords: false }, 'find'],
])('%s: %j is not done, since nothing is given for %s', (field, operation, part) => {
  expect(refusal(field, operation)).toEqual({ is: 'nothing-given', part });
});
it.each<[string, ChangeOperation, object]>([
  ['price', { do: 'raise', by: 'amount', of: '1,5' }, { is: 'not-a-number', part: 'of', value: '1,5' }],
  ['price', { do: 'round', ending: '-1', way: 'up' }, { is: 'not-a-number', part: 'ending', value: '-1' }],
  ['price', { do: 'round', ending: '1000', way: 'up' }, { is: 'not-a-number', part: 'ending', value: '1000' }],
  ['price', { do: 'round', ending: 'x', way: 'up' }, { is: 'not-a-number', part: 'ending', value: 'x' }],
  ['mpn', { do: 'number', pattern: 'ART', start: 1, step: 1 }, { is: 'no-digits', pattern: 'ART' }],
  ['brand', { do: 'copy', from: 'ghost' }, { is: 'unknown-field', name: 'ghost' }],
])('%s: %j is refused', (field, operation, problem) => {
  expect(refusal(field, operation)).toEqual(problem);
});
it('the largest ending is under a thousand', () => {
  expect(after('price', { do: 'round', ending: '999', way: 'up' }, { price: '12.50' })).toBe('999.00');
});

describe('what stands in another field', () => {
  const taken: Record<string, readonly string[]> = {
    text: kinds,
    'long-text': kinds,
    list: ['text', 'long-text', 'list'],
    identifier: ['text', 'identifier'],
    measure: ['text', 'long-text', 'measure', 'money', 'number', 'integer'],
    money: ['money', 'number', 'integer'],
    number: ['money', 'number', 'integer'],
    integer: ['money', 'number', 'integer'],
    date: ['date'],
    'yes-no': ['yes-no'],
  };
  it.each(kinds)('is taken into a field of %s where it may stand there', (to) => {
    const held = kinds.filter((from) => refusal(`a ${to}`, { do: 'copy', from: `b ${from}` }) === undefined);
    expect(held).toEqual(kinds.filter((k) => taken[to]!.includes(k)));
  });
  it('has the form of the field that takes it; nothing leaves the cell as it is', () => {
    expect(after('a list', { do: 'copy', from: 'b list' }, { 'b list': ['x', 'y'] })).toEqual(['x', 'y']);
    expect(after('a list', { do: 'copy', from: 'b text' }, { 'b text': 'x' })).toEqual(['x']);
    expect(after('a text', { do: 'copy', from: 'b list' }, { 'b list': ['x', 'y'] })).toBe('x, y');
    expect(after('a text', { do: 'copy', from: 'b list' }, { 'a text': 'old', 'b list': [] })).toBeUndefined();
    expect(after('a text', { do: 'copy', from: 'b text' }, { 'a text': 'old', 'b text': '' })).toBeUndefined();
    expect(after('a text', { do: 'copy', from: 'b text' }, { 'a text': 'old' })).toBeUndefined();
  });
});

describe('cells that are left alone', () => {
  it.each<[string, ChangeOperation, Record<string, Value>]>([
    ['highlights', { do: 'swap', from: 'c', to: 'b' }, { highlights: ['a', 'b'] }],
    ['highlights', { do: 'remove', items: ['c'] }, { highlights: ['a', 'b'] }],
    ['highlights', { do: 'add', items: ['A', 'b'] }, { highlights: ['a', 'b'] }],
    ['price', { do: 'round', ending: '.99', way: 'up' }, {}],
    ['price', { do: 'raise', by: 'amount', of: '1' }, {}],
    ['title', { do: 'rewrite', find: 'a', by: 'b', exactCase: false, wholeWords: false }, {}],
  ])('%s: %j of %j', (field, operation, values) => {
    expect(after(field, operation, values)).toBeUndefined();
  });
  it('a text has one space where something was taken out; a long one keeps its own', () => {
    const gone: ChangeOperation = { do: 'rewrite', find: 'red', by: '', exactCase: false, wholeWords: false };
    expect(after('title', gone, { title: 'a red  mug' })).toBe('a mug');
    expect(after('description', gone, { description: 'a red  mug ' })).toBe('a   mug ');
    expect(after('highlights', gone, { highlights: ['red', ' red ', 'red mug'] })).toEqual([' mug']);
    expect(after('highlights', gone, { highlights: ['red'] })).toBeNull();
  });
  it('whole numbers stay whole, others have six places', () => {
    const third: ChangeOperation = { do: 'raise', by: 'percent', of: '-66.6666666' };
    expect(after('a integer', third, { 'a integer': '10' })).toBe('3');
    expect(after('a number', third, { 'a number': '1' })).toBe('0.333333');
  });
});

it('follows the catalog where a listing is meant, and not in its category', () => {
  const listed = extendFields(fields, [made('stall/title', 'text'), made('stall/category', 'text')]);
  const follow = (field: string) => prepareChange([{ field, operation: { do: 'follow' } }], listed);
  const ready = follow('stall/title');
  if (!ready.ok) throw new Error('It was not taken.');
  const run = (given?: Record<string, Value>) =>
    ready.change.run(
      { kind: 'single', values: { 'stall/title': 'typed' }, listing: { given, refuse: () => undefined } },
      {
        today: '2026-11-28',
        index: 0,
      },
    ).changes;
  expect(run({ 'stall/title': 'from us' })).toEqual([{ field: 'stall/title', before: 'typed', after: 'from us' }]);
  expect(run({})).toEqual([{ field: 'stall/title', before: 'typed', after: null }]);
  expect(run()).toEqual([]);
  for (const other of ['stall/category', 'title']) {
    const refused = follow(other);
    expect(refused.ok || refused.problem.is).toBe('not-for-field');
  }
});

it('what cannot be put into a field of a listing can be taken out of it', () => {
  const listed = extendFields(fields, [made('stall/title', 'text')]);
  const run = (operation: ChangeOperation) => {
    const prepared = prepareChange([{ field: 'stall/title', operation }], listed);
    if (!prepared.ok) throw new Error(JSON.stringify(prepared.problem));
    const refuse = () => ({ kind: 'no-category' }) as const;
    return prepared.change.run(
      { kind: 'single', values: { 'stall/title': 'typed' }, listing: { refuse } },
      { today: '2026-11-28', index: 0 },
    );
  };
  expect(run({ do: 'set', value: 'new' })).toEqual({
    changes: [],
    problem: { field: 'stall/title', value: 'new', fault: { kind: 'no-category' } },
  });
  expect(run({ do: 'clear' }).changes).toEqual([{ field: 'stall/title', before: 'typed', after: null }]);
});
