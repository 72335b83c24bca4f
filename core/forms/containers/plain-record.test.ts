// Records read without a parser of XML, held to what the parser (saxes, which is not ours) reads of the same document.
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { prepareRecord } from './plain-record';
import { readRecords } from '.';

const columns = ['@ref', '@odd', 'name', 'name.@in', 'list[]', 'list[].@at', 'deep.of', 'deep.of.@k', 'fact[n=a]'];
const read = (text: string) =>
  readRecords({ kind: 'xml', encoding: 'utf-8', root: 'all', record: 'one' }, columns, text);
const documentOf = (records: string): string => `<?xml version="1.0"?>\n<all told="x">${records}</all>`;
/** The same document as no record of it is read plainly: a space that a parser passes over. */
const spelledOut = (text: string): string => text.replace(/<one(?=[ />])/g, '<one  ');
/** Both readings, which are to be the same. */
function readBoth(records: string) {
  const text = documentOf(records);
  const reading = read(text),
    parsed = read(spelledOut(text));
  if (parsed.ok && reading.ok) {
    expect(reading.records).toEqual(parsed.records);
    expect(reading.beside('@told')).toBe(parsed.beside('@told'));
  } else expect(reading.ok).toBe(parsed.ok);
  return reading;
}

const texts = fc.constantFrom(
  ...['', 'a', ' ', '\n  ', 'Pan &amp; lid', '&lt;b&gt;', 'ガラス', 'مقلاة', '🍳', '&#65;', '&no;', 'a & b', ']]>'],
  ...['a\r\nb', '\u0001', '<![CDATA[x</one>]]>', '<!-- </one> -->', '<?x y?>', '</one', '<one/>', '<one>x</one>'],
);
const attributes = fc.constantFrom(
  ...['', ' ref="A"', ' ref="A" odd="&quot;1&quot;"', ' ref="A" ref="B"', " ref='A'", ' ref="a<b"', ' constructor="x"'],
  ...[' ref="a\nb"', ' ref = "A"', ' in="x"', ' at="1"', ' n="a"', ' k="&amp;"', '  ref="A"', ' ref="😀"'],
);
const element = fc
  .tuple(fc.constantFrom('name', 'list', 'of', 'fact', 'x:name', 'constructor'), attributes, texts, fc.boolean())
  .map(([name, said, text, alone]) => (alone ? `<${name}${said}/>` : `<${name}${said}>${text}</${name}>`));
const record = fc
  .tuple(attributes, fc.array(element, { maxLength: 3 }), fc.array(element, { maxLength: 2 }), texts, texts)
  .map(
    ([said, flat, deep, inside, after]) =>
      `<one${said}>${flat.join(inside)}<deep>${deep.join('')}</deep></one>${after}`,
  );

describe('records of XML without a parser', () => {
  it('are what the parser reads (property)', () => {
    let faulty = 0,
      whole = 0;
    fc.assert(
      fc.property(fc.array(record, { minLength: 1, maxLength: 4 }), (some) => {
        if (readBoth(some.join('')).ok) whole++;
        else faulty++;
      }),
      { numRuns: 4000 },
    );
    expect(Math.min(faulty, whole)).toBeGreaterThan(300);
  });
  it('are read so from the second on, and the others left to the parser', () => {
    const taken: string[] = [];
    const take = prepareRecord('one', (node) => void taken.push(node.text));
    const at = (text: string): number => take(text, 0, text.indexOf('</one>'));
    const good = '\n <one ref="A"><name in="x">a &amp; b</name>t</one>';
    expect(at(`${good}<one/>`)).toBe(good.length);
    expect(taken).toEqual(['t']);
    // Nested in one of its own name, an end tag that is another's, too deep, not whole, another element.
    const deep = (n: number): string => `<one>${'<a>'.repeat(n)}${'</a>'.repeat(n)}</one>`;
    for (const other of [
      '<one><one>x</one></one>',
      '<one><a></b></one>',
      '<one><a></one>',
      '<ones></ones></one>',
      deep(31),
    ])
      expect(at(other)).toBe(-1);
    expect(at(deep(30))).toBe(deep(30).length);
    expect(take('<one>', 0, -1)).toBe(-1);
  });
  it('are refused where the parser refuses them: too deep, or cut off', () => {
    const deep = (n: number): string => `<one/>\n<one>${'<a>'.repeat(n)}${'</a>'.repeat(n)}</one>`;
    expect(readBoth(deep(30)).ok).toBe(true);
    expect(readBoth(deep(31)).ok).toBe(false);
    expect(readBoth('<one></one><one><name>x').ok).toBe(false);
    expect(readBoth('<one></one></all><one></one>').ok).toBe(false);
  });
});
