// Documents of JSON as they come back: whole, or page after page in one text.
import { describe, expect, it } from 'vitest';
import type { Form } from '../../rulebook/schema';
import type { Cell } from './cell';
import { createJsonLinesWriter, readJson } from './json';
import { readRecords } from '.';

const container = { kind: 'json', encoding: 'utf-8', records: 'body.rows' } as const;
const read = (text: string) => readJson(container, ['ref'], text, ([ref]) => (ref === '' ? undefined : ref));
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

describe('lines of JSON', () => {
  const columns = [
    'say.name',
    'say.points[]',
    'notes[].id',
    'notes[].why',
    'say',
    'constructor',
    'toString.of',
    '__proto__.x',
    '__proto__.__proto__',
  ];
  const readOne = (line: string): unknown => {
    const reading = readRecords({ kind: 'json-lines', encoding: 'utf-8' }, columns, line);
    return reading.ok ? reading.records[0] : reading.reason;
  };
  it('are read by paths that begin alike, entries of a list side by side', () => {
    expect(
      readOne('{"say":{"name":"Pan","points":["a","b"]},"notes":[{"id":7,"why":"x"},{"why":true}],"more":1}'),
    ).toEqual({
      'say.name': 'Pan',
      'say.points[]': ['a', 'b'],
      'notes[].id': ['7', ''],
      'notes[].why': ['x', 'true'],
    });
  });
  it.each<[string, string, Record<string, Cell>]>([
    ['a text where a group should be', '{"say":"Pan"}', { say: 'Pan' }],
    ['null where a text should be', '{"say":{"name":null}}', { 'say.name': null }],
    ['null where a list should be', '{"notes":null}', { 'notes[].id': null, 'notes[].why': null }],
    ['a list where a group should be', '{"say":[{"name":"Pan"}]}', {}],
    ['an empty list, and an empty text', '{"say":{"name":"","points":[]}}', {}],
  ])('with %s say what can be read', (_, line, cells) => {
    expect(readOne(line)).toEqual(cells);
  });
  it('say nothing under names that every object has, and what stands there where one does', () => {
    expect(readOne('{}')).toEqual({});
    expect(readOne('{"constructor":"c","toString":{"of":"t"},"__proto__":{"x":"p"}}')).toEqual({
      constructor: 'c',
      'toString.of': 't',
      '__proto__.x': 'p',
    });
  });

  const form = {
    slots: [
      { key: 'a', as: 'text' },
      { key: 'n', as: 'number' },
    ],
  } as unknown as Pick<Form, 'slots'>;
  const write = (a: string, n = ''): string => createJsonLinesWriter(form).record((slot) => (slot === 0 ? a : n));
  it.each([
    'plain',
    'a "quoted" word',
    'back\\slash',
    'line\nbreak and \t tab',
    '\u0000\u001f\u007f',
    'ガラス 🍳 \u2028',
    'half \ud83c',
    'half \udf73',
  ])('hold the text %j as JSON.stringify writes it (RFC 8259, 7)', (text) => {
    expect(write(text)).toBe(`${JSON.stringify({ a: text })}\n`);
  });
  it('hold numbers in the digits that they have, and what is none as a text', () => {
    expect(write('x', '44.50')).toBe('{"a":"x","n":44.50}\n');
    expect(write('x', '044')).toBe('{"a":"x","n":"044"}\n');
  });
});
