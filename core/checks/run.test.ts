// Findings in their order, and words of checks that are no more.
import { expect, it } from 'vitest';
import { listing, pans } from '../tests/builders';
import { categoryMissing, explainCause, getCheck, prepareChecks, saysEmpty, wordCause, wordFinding } from '.';
import { joinWords } from './word';

const wording = { market: 'Stall', labelOf: (k: string) => pans.byKey.get(k)?.attribute.label ?? k };

it('findings of one check stand in the order of the fields', () => {
  const found = prepareChecks(
    pans,
    (id) => id === 'demanded-missing',
  )(listing({ quantity: undefined, brand: undefined, price: undefined, title: undefined, diameter: undefined }));
  expect(found.map((f) => f.field)).toEqual(
    pans.attributes.map((a) => a.attribute.key).filter((k) => found.some((f) => f.field === k)),
  );
  expect(found.length).toBeGreaterThan(4);
});
it('a value that is empty is none', () => {
  expect(prepareChecks(pans)(listing({ colour: '', pages: '' })).map((f) => f.field)).not.toContain('colour');
});
it('a listing without a category lacks that alone', () => {
  const finding = categoryMissing();
  expect(finding).toEqual({
    ...{ check: 'category-missing', message: 'missing', level: 'blocker', field: 'category', value: '', params: {} },
    remedies: [{ kind: 'fill', field: 'category' }],
  });
  expect(wordFinding(finding, wording)).not.toContain('category-missing');
  expect(getCheck('category-missing')).toBeDefined();
});
it('a finding of a check that is no more says what is known of it', () => {
  const cause = { check: 'gone', message: 'lost', field: 'title' };
  expect(wordFinding({ ...categoryMissing(), ...cause }, wording)).toBe('Title: gone, lost.');
  expect(wordCause(cause, wording)).toBe('Title: gone, lost');
  expect(explainCause(cause)).toEqual({ why: '', source: '' });
});
it.each([
  ['demanded-missing', 'must', true],
  ['demanded-missing', 'mustBecause', true],
  ['family-rules', 'axisMissing', true],
  ['family-rules', 'duplicate', false],
  ['wrong-type', 'axisMissing', false],
])('%s/%s says of a field that it is empty: %s', (check, message, isSo) => {
  expect(saysEmpty({ check, message })).toBe(isSo);
});
it.each([
  [[], 'or', ''],
  [['a'], 'or', 'a'],
  [['a', 'b'], 'or', 'a or b'],
  [['a', 'b', 'c'], 'and', 'a, b and c'],
])('%j with %s is “%s”', (words, last, text) => {
  expect(joinWords(words, last)).toBe(text);
});
