// Documents of JSON as they come back: whole, or page after page in one text.
import { describe, expect, it } from 'vitest';
import { readJson } from './json';

const container = { kind: 'json', encoding: 'utf-8', records: 'body.rows' } as const;
const read = (text: string) => readJson(container, ['ref'], text, (cells) => cells['ref']);
const refs = (text: string): unknown => {
  const reading = read(text);
  return reading.ok ? reading.records : reading.reason;
};

describe('a document of JSON', () => {
  it('is read whole, over as many lines as it has, with a mark before it or without', () => {
    const whole = JSON.stringify({ body: { rows: [{ ref: 'A' }, { ref: 'B' }] } }, null, 2);
    expect(refs(whole)).toEqual(['A', 'B']);
    expect(refs(`\ufeff${whole}`)).toEqual(['A', 'B']);
  });
  it('is read as pages, one a line, where it is no whole', () => {
    expect(refs('{"body":{"rows":[{"ref":"A"}]}}\n\n{"body":{"rows":[{"ref":"B"}]}}\n')).toEqual(['A', 'B']);
  });
  it('tells what stands beside the records, of the last page', () => {
    const reading = read('{"body":{"rows":[]},"next":"2"}\n{"body":{"rows":[]},"next":"3"}');
    expect(reading.ok && [reading.beside('next'), reading.beside('none'), reading.beside('body')]).toEqual([
      '3',
      undefined,
      undefined,
    ]);
  });
  it.each([
    ['no JSON', 'Sorry, busy', 'This is no JSON: “Sorry, busy”.'],
    ['a page of which is none', '{"body":{"rows":[]}}\nSorry', 'This is no JSON: “{"body":{"rows":[]}}\nSorry”.'],
    ['without the list', '{"body":{"list":[]}}', 'There is no list at “body.rows”.'],
    [
      'a list of which one entry is no record',
      '{"body":{"rows":[{"ref":"A"},7]}}',
      'Entry 2 of “body.rows” is no object of JSON.',
    ],
  ])('that is %s is refused', (_, text, reason) => {
    expect(refs(text)).toBe(reason);
  });
});
