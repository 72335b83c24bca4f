// Texts made to be hard: markup that hides, and long texts on which a careless pattern never ends. These do not measure
// time; a pattern that tries every letter from every letter would take hours on them and the run would end it.
import fc from 'fast-check';
import { parseFragment, serialize } from 'parse5';
import { fields } from '../tests/house-fields';
import { describe, expect, it } from 'vitest';
import { prepareChecks } from '../checks';
import { detectNumberLocale, parseMeasure, pointLocale, readNumber } from '../quantity';
import { compileCategory, parseRulebook, type Rulebook } from '../rulebook';
import { understandSheet } from '../sheet';
import { listing, pans, smallDocument } from '../tests/builders';
import {
  computeLikeness,
  cutAtWord,
  dropBroken,
  findContact,
  findDecoration,
  findForbiddenTag,
  isWhole,
  stripDecoration,
  stripForbiddenTags,
  takeCharacters,
} from '.';

describe('markup that hides', () => {
  it.each([
    ['<img src=x onerror=alert(1) ', '<img src=x onerror=alert(1)'],
    ['A pan <img src=x onerror="alert(1)"', '<img src=x onerror="alert(1)"'],
    ['<p>A pan</p', '</p'],
    ['<svg/onload=alert(1)>', '<svg/onload=alert(1)>'],
    ['<p\nonclick=x()>A pan</p>', '<p\nonclick=x()>'],
    ['</p onclick=x()>', '</p onclick=x()>'],
    ['<body onload=x()>', '<body onload=x()>'],
    ['<!-- <p> -->', '<!-- <p> -->'],
    ['<?php x ?>', '<?php x ?>'],
    ['<!doctype html>', '<!doctype html>'],
    ['A pan </', '</'],
    ['<P CLASS="x">', '<P CLASS="x">'],
    ['<math><mi//xlink:href="data:x">', '<math>'],
    ['<a href="javas&#99;ript:x()">x</a>', '<a href="javas&#99;ript:x()">'],
  ])('is seen in %j', (text, found) => {
    expect(findForbiddenTag(text, ['p', 'b'])).toBe(found);
  });
  it.each(['a < b > c', '1 <2', 'under <', '<3', 'x <= y', '<p>A <b>pan</b></p>', 'a & b &lt;p&gt;'])(
    'is not seen in %j',
    (text) => {
      expect(findForbiddenTag(text, ['p', 'b'])).toBeUndefined();
    },
  );
  // parse5's tree builder is the judge: what we leave must parse to nothing but allowed elements without attributes.
  const piece = fc.constantFrom(
    ...[
      '<p>',
      '</p>',
      '<b x=1>',
      '<script>',
      '</script>',
      '<img src=x onerror=y ',
      '<',
      '</',
      '>',
      '"',
      "'",
      '<!--',
      '-->',
    ],
    ...['pan', ' < ', '<br/>', 'a > b', '<sty', 'le>', '<svg/onload=x>', '&lt;', '<scr<b>ipt>', '\n', '=', '<?x'],
  );
  it('is gone after cleaning, whatever it was made of, and no attribute is left', () => {
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 14 }), fc.constantFrom([], ['p', 'b']), (pieces, allowed) => {
        const clean = stripForbiddenTags(pieces.join(''), allowed);
        expect(findForbiddenTag(clean, allowed)).toBeUndefined();
        const names = [...serialize(parseFragment(`${clean}<i>`)).matchAll(/<([a-z]+)([^>]*)>/g)];
        for (const [, name, attributes] of names) {
          expect(['i', ...allowed]).toContain(name);
          expect(attributes).toBe('');
        }
      }),
      { numRuns: 1500 },
    );
  });
  it('takes what stands in a script with it, and keeps the plain signs of a text', () => {
    expect(stripForbiddenTags('A <script>steal("<b>")</script>pan', [])).toBe('A pan');
    expect(stripForbiddenTags('For pans <b>under</b> 28 cm & lids < 20 cm', [])).toBe(
      'For pans under 28 cm & lids < 20 cm',
    );
  });
});

describe('a very long text', () => {
  const n = 300_000;
  const long = {
    'signs of mail': '@'.repeat(n),
    'letters before a sign of mail': `${'a'.repeat(n)}@`,
    'almost mail': 'a@b.'.repeat(n / 4),
    'hyphens after www.': `www. ${'a-'.repeat(n / 2)}`,
    'names without an ending': `${'a-'.repeat(n / 2)} x.com`,
    spaces: `1${' '.repeat(n)}2`,
    'spaces and commas': `a${' ,'.repeat(n / 2)}b`,
    'lines after spaces': `1${' '.repeat(n)}a\nb`,
    'currency signs': `${'€ '.repeat(n / 2)}x`,
    digits: '1'.repeat(n),
    'digits that might dial': '0123 '.repeat(n / 5),
    decoration: '★ '.repeat(n / 2),
    tags: '<a '.repeat(n / 3),
    'signs of tags': '<'.repeat(n),
    'tags in tags': '<'.repeat(n / 3) + 'b>'.repeat(n / 3),
    scripts: '<script>'.repeat(n / 8),
    comments: '<!--'.repeat(n / 4),
    capitals: `${'A'.repeat(n)}a`,
    points: `x.com/${'.'.repeat(n)}`,
  };
  it.each(Object.entries(long))('of %s is judged, cut, read and cleaned to the end', (_, text) => {
    findContact(text);
    findDecoration(text);
    stripDecoration(text);
    stripForbiddenTags(text, []);
    stripForbiddenTags(text, ['p', 'b']);
    expect(findForbiddenTag(stripForbiddenTags(text, []), [])).toBeUndefined();
    expect(cutAtWord(text, 100_000).length).toBeLessThanOrEqual(100_000);
    readNumber(text, pointLocale);
    detectNumberLocale([text]);
    parseMeasure(text);
    expect(computeLikeness(text, 'title')).toBe(0);
    const judged = prepareChecks(pans)(
      listing({ title: text, description: text, box: [text], diameter: text, price: text, highlights: [text, text] }),
    );
    expect(judged.length).toBeGreaterThan(0);
  });
  it('as a column’s name is like no field', () => {
    const { columns } = understandSheet(
      [
        ['SKU', 'Title '.repeat(40_000), 'x'.repeat(200_000)],
        ['A-1', 'b', 'c'],
      ],
      fields,
      0,
    );
    expect(columns.map((c) => c.field)).toEqual(['sku', undefined, undefined]);
  });
});

describe('a pattern of a rulebook', () => {
  const withPattern = (regex: string) =>
    parseRulebook(
      smallDocument((d) => {
        const first = (d as unknown as { attributes: Record<string, unknown>[] }).attributes[0]!;
        first['pattern'] = { regex, says: 'letters' };
      }),
    );
  it('that would run away elsewhere is answered here, whatever the text', () => {
    const reading = withPattern('^(?:[a-zA-Z ]+)+$');
    expect(reading.ok).toBe(true);
    const check = prepareChecks(compileCategory((reading as unknown as { rulebook: Rulebook }).rulebook, 'pans')!);
    const found = check(listing({ title: `${'a '.repeat(40)}!` })).filter((f) => f.check === 'pattern-mismatch');
    expect(found).toHaveLength(1);
    expect(check(listing({ title: 'Hearth pan' })).filter((f) => f.check === 'pattern-mismatch')).toEqual([]);
  });
  it.each(['(?=a)b', '(a)\\1', '(?<!x)y', 'a{1,2000}', '('])(
    '%s is refused, since no linear engine has it',
    (regex) => {
      expect(withPattern(regex)).toMatchObject({ ok: false, faults: [{ path: 'attributes[0].pattern.regex' }] });
    },
  );
  it.each(['script', 'img', 'a', 'iframe', 'svg'])('may not allow the tag %s', (tag) => {
    const reading = parseRulebook(
      smallDocument((d) => {
        const first = (d as unknown as { attributes: Record<string, unknown>[] }).attributes[0]!;
        first['tags'] = ['p', tag];
      }),
    );
    expect(reading).toMatchObject({ ok: false, faults: [{ path: 'attributes[0].tags[1]' }] });
  });
});

describe('whole characters', () => {
  const anyText = fc.string({ unit: 'binary', maxLength: 40 });
  it('stay whole when a text is cut, and are counted as a reader counts them', () => {
    fc.assert(
      fc.property(anyText, fc.nat(30), (text, most) => {
        const cut = takeCharacters(text, most);
        expect([...cut]).toEqual([...text].slice(0, most));
      }),
    );
    expect(isWhole('a😀')).toBe(true);
    expect(isWhole('a\ud83d')).toBe(false);
    expect(dropBroken('a\ud83d\0b\ude00😀')).toBe('ab😀');
  });
});
