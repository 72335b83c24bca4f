// What a field of ours can hold, and the sentence that says why not.
import { describe, expect, it } from 'vitest';
import type { Value } from '../listing/values';
import { fieldOf, fields } from '../tests/house-fields';
import { type CellFault, findCellFault, findValueFault, wordCellFault } from '.';

const say = (field: string, value: Value): string | undefined => {
  const fault = findValueFault(fieldOf(field), value);
  return fault && wordCellFault(fault, fields.labelOf(field), value);
};

describe('a value for a field of ours', () => {
  it.each([
    ['price', '10000000000', /^Price “10000000000” is larger than 999,999,999\.99/],
    ['price', '999999999.99', undefined],
    ['price', '12.999', /^Price “12.999” has 3 places after the point; 2 are kept/],
    ['price', '12.990', undefined],
    ['cost', '1.2345', undefined],
    ['cost', '1.23456', /5 places after the point; 4 are kept/],
    ['price', '-1', /is not a price/],
    ['price', '0', /is no price/],
    ['sale_price', '0.00', /is no price/],
    ['cost', '0', undefined],
    ['stock', '2147483648', /is larger than 2,147,483,647/],
    ['stock', '2147483647', undefined],
    ['stock', '0', undefined],
    ['stock', '1.5', /is not a whole number/],
    ['fact.pages', 'ninety', /is not a whole number/],
    ['sku', 'S'.repeat(5000), /^SKU has 5,000 characters; 60 are the most/],
    ['sku', 'S'.repeat(60), undefined],
    ['title', '\ud83d', /“□” holds half of a character/],
    ['title', 'a\0b', /holds a zero character/],
    ['sale_start', '2026-11-27', undefined],
    ['sale_start', 'soon', /^Sale start “soon” is not a day/],
    ['sale_start', '27/11/2026', /is not a day/],
    ['sale_end', '2026-02-29', /is not a day/],
    ['fact.diameter', '24 cm', undefined],
    ['fact.diameter', 'large', /is not a measure/],
    ['fact.dishwasher', 'yes', undefined],
    ['fact.dishwasher', 'maybe', /is neither yes nor no/],
    // Counted as a person counts: an emoji is one character, though it takes two places in memory.
    ['brand', '😀'.repeat(200), undefined],
    ['brand', '😀'.repeat(201), /^Brand has 201 characters; 200 are the most/],
    ['highlights', Array.from({ length: 201 }, () => 'x'), /has 201 entries; 200 are the most/],
    ['highlights', ['x'.repeat(5001)], /an entry of 5,000?|5,001 characters/],
    ['title', ['a', 'b'], /takes one value, not 2/],
  ])('%s %.20s', (field, value, says) => {
    if (says) expect(say(field, value)).toMatch(says);
    else expect(say(field, value)).toBeUndefined();
  });
});

describe('a cell of an item', () => {
  it.each([
    ['price', '9.99', 'family', 'not-on-a-family'],
    ['stock', '4', 'family', 'not-on-a-family'],
    ['stock', '4', 'bundle', 'follows-parts'],
    ['price', null, 'family', undefined],
    ['brand', 'Hearth', 'family', undefined],
    ['price', '9.99', 'variant', undefined],
    ['title', null, 'single', 'title-stays'],
    ['title', '', 'single', 'title-stays'],
    ['sku', 'X', 'single', 'not-changed-here'],
    // Which family it is in is said as a cell too; whether that family is there only the catalog knows.
    ['parent_sku', 'X', 'variant', undefined],
    ['parent_sku', null, 'variant', undefined],
    ['parent_sku', 'X', 'family', 'in-no-family'],
    ['parent_sku', null, 'bundle', 'in-no-family'],
    ['axes', ['fact.colour'], 'family', undefined],
    ['axes', null, 'family', undefined],
    ['axes', ['title'], 'family', 'not-changed-here'],
    ['axes', ['fact.colour'], 'single', 'not-a-family'],
    ['nonsense', 'X', 'single', 'not-changed-here'],
  ])('%s = %s on a %s: %s', (field, after, kind, fault) => {
    expect(findCellFault(fields, field, after, { kind })?.kind).toBe(fault);
  });
});

it.each<[CellFault, string]>([
  [{ kind: 'in-no-family', is: 'family' }, 'A family is in no other family; put its variants there.'],
  [{ kind: 'in-no-family', is: 'bundle' }, 'A bundle is in no family.'],
  [{ kind: 'no-such-family', sku: 'X' }, 'There is no family X; add it first, or name one that there is.'],
  [{ kind: 'not-a-family' }, 'Only a family says by what its variants differ.'],
])('says of a family what is wrong: %j', (fault, words) => {
  expect(wordCellFault(fault, 'Family SKU', 'X')).toBe(words);
});

describe('a day with a time', () => {
  it('stands only where a market has moments', () => {
    const day = fields.get('sale_start')!,
      moment = '2026-11-27T00:00:00+03:00';
    expect(findValueFault(day, moment)).toEqual({ kind: 'not-a-day' });
    expect(findValueFault({ ...day, moment: { timeZone: 'Asia/Kuwait', edge: 'first' } }, moment)).toBeUndefined();
    expect(findValueFault({ ...day, moment: { timeZone: 'Asia/Kuwait', edge: 'first' } }, 'soon')).toEqual({
      kind: 'not-a-day',
    });
    expect(findValueFault(day, '2026-11-27')).toBeUndefined();
  });
});
