// Which elements are read plainly and which are left to a parser (saxes, which is not ours), however a document is cut.
import fc from 'fast-check';
import { SaxesParser } from 'saxes';
import { describe, expect, it } from 'vitest';
import { createPlainReader, isPlain, type LastTold, readEntities } from './plain-xml';

/** Elements of digits are plain. What was told, in order, and what the parser was given. */
function open() {
  const told: string[] = [],
    last: LastTold = { closed: '' };
  let given = '',
    text = '';
  const parser = new SaxesParser();
  parser.on('opentag', () => {
    last.closed = '';
    text = '';
  });
  parser.on('text', (t) => (text += t));
  parser.on('closetag', ({ name }) => {
    last.closed = name;
    if (name === 'e') told.push(`parsed ${text}`);
  });
  const plain = /\s*<e>(\d+)<\/e>|\s*<e\/>/y;
  const take = createPlainReader(
    'e',
    (all, at, end) => {
      plain.lastIndex = at;
      const found = plain.exec(all);
      if (!found || (found[1] !== undefined && end < 0)) return -1;
      told.push(`plain ${found[1] ?? ''}`);
      return plain.lastIndex;
    },
    (piece, isLast) => {
      given += piece;
      parser.write(piece);
      if (isLast) parser.close();
    },
    last,
  );
  return { told, take, given: () => given };
}
const read = (text: string, ...cuts: number[]) => {
  const { told, take, given } = open();
  const at = [0, ...cuts, text.length];
  for (let i = 1; i < at.length; i++) take(text.slice(at[i - 1], at[i]), i === at.length - 1);
  return { told, given: given() };
};

describe('elements that are read plainly', () => {
  it('are those behind the first, which comes with what stands before it', () => {
    const { told, given } = read('<?xml version="1.0"?><r><e>1</e><e>2</e>\n<e>3</e><e/><x>4</x></r>');
    expect(told).toEqual(['parsed 1', 'plain 2', 'plain 3', 'plain ']);
    expect(given).toBe('<?xml version="1.0"?><r><e>1</e><x>4</x></r>');
  });
  it('begin again after one that is not', () => {
    expect(read('<r><e>1</e><e>2</e><e>x</e><e>3</e></r>').told).toEqual([
      'parsed 1',
      'plain 2',
      'parsed x',
      'plain 3',
    ]);
  });
  it('are none where another element has begun, or ended after the last', () => {
    expect(read('<r><e>1</e><d><e>2</e></d><e>3</e><e>4</e></r>').told).toEqual([
      'parsed 1',
      'parsed 2',
      'parsed 3',
      'plain 4',
    ]);
  });
  it.each([
    ['<r><e>1</e><!-- </e><e>2</e><e/> --><e>3</e><e>4</e></r>', ['parsed 1', 'parsed 3', 'plain 4']],
    ['<r><e/><!-- </e><e>2</e> --><e>3</e><e>4</e></r>', ['parsed ', 'parsed 3', 'plain 4']],
    ['<r><e>1</e><?go </e><e>2</e>?><e>3</e><e>4</e></r>', ['parsed 1', 'parsed 3', 'plain 4']],
    ['<r><e>1</e><f>a</e></f></r>', 'refused'],
    ['<r><e>1</e><e>2</e>', 'refused'],
    ['<r><e>1</e></r><e>2</e>', 'refused'],
  ])('are never part of a comment or of anything else: %s', (text, told) => {
    let is: unknown;
    try {
      is = read(text).told;
    } catch {
      is = 'refused';
    }
    expect(is).toEqual(told);
  });
  it('are waited for where the text ends within one', () => {
    const { told, take, given } = open();
    take('<r><e>1</e><e>2', false);
    expect(told).toEqual(['parsed 1']);
    take('3</', false);
    take('e><e', false);
    expect(told).toEqual(['parsed 1', 'plain 23']);
    take('>4</e></r>', true);
    expect(told).toEqual(['parsed 1', 'plain 23', 'plain 4']);
    expect(given()).toBe('<r><e>1</e></r>');
  });
  it('are not waited for past some millions of characters', () => {
    const { take, given } = open();
    take('<r><e>1</e><e>', false);
    const million = '2'.repeat(1_000_000);
    for (let i = 0; i < 3; i++) take(million, false);
    expect(given().length).toBe('<r><e>1</e>'.length);
    take(million, false);
    expect(given().length).toBe('<r><e>1</e><e>'.length + 4_000_000);
  });
  it('are the same wherever the text is cut (property)', () => {
    const element = fc.constantFrom('<e>12</e>', '<e/>', '\n <e>7</e>', '<e>x</e>', '<d/>', '<!-- </e> -->', 'text');
    fc.assert(
      fc.property(fc.array(element, { maxLength: 8 }), fc.array(fc.nat(), { maxLength: 5 }), (some, places) => {
        const text = `<r>${some.join('')}</r>`;
        const cuts = [...new Set(places.map((p) => p % text.length))].sort((a, b) => a - b);
        const values = (told: string[]): string[] => told.map((t) => t.replace(/^\w+ /, ''));
        expect(values(read(text, ...cuts).told)).toEqual(values(read(text).told));
      }),
      { numRuns: 1500 },
    );
  });
});

it.each([
  ['a & b', false],
  ['a &amp; b &lt;&gt;&quot;&apos;', true],
  ['&#65;', false],
  ['&nbsp;', false],
  [']]>', false],
  ['a\r', false],
  ['a\n\tb', true],
  ['ガラス مقلاة', true],
  ['\u0001', false],
  ['\ufffe', false],
  // Two halves of one sign are left to the parser, which looks whether both are there.
  ['🍳', false],
])('%j is plain: %s', (text, is) => {
  expect(isPlain(text)).toBe(is);
});
it('the five entities of XML are read (XML 1.0, 4.6)', () => {
  expect(readEntities('a &amp;amp; b &lt;&gt;&quot;&apos;')).toBe('a &amp; b <>"\'');
  expect(readEntities('plain')).toBe('plain');
});
