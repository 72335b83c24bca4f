import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  calmDown,
  computeDistance,
  computeLikeness,
  countCharacters,
  countUtf8Bytes,
  createPhraseFinder,
  cutAtWord,
  findContact,
  findDecoration,
  findForbiddenTag,
  findNearest,
  findShouting,
  fold,
  foldLoosely,
  stem,
  stripDecoration,
  stripForbiddenTags,
} from './index';

describe('length', () => {
  const anyText = fc.string({ unit: 'binary', maxLength: 60 });
  it('in characters is that of the language’s own iterator, in bytes that of TextEncoder (RFC 3629)', () => {
    fc.assert(
      fc.property(anyText, (text) => {
        expect(countCharacters(text)).toBe([...text].length);
        expect(countUtf8Bytes(text)).toBe(Buffer.byteLength(text, 'utf8'));
      }),
      { numRuns: 500 },
    );
  });
  // RFC 3629, section 7, gives these sequences with their octets.
  it.each([
    ['A≢Α.', 4, 7],
    ['한국어', 3, 9],
    ['日本語', 3, 9],
    ['\u{feff}\u{233b4}', 2, 7],
    // The first and the last of each length in the table of section 3.
    ['\u007f\u0080', 2, 3],
    ['\u07ff\u0800', 2, 5],
    ['\uffff\u{10000}', 2, 7],
  ])('of %s is %i characters and %i bytes', (text, characters, bytes) => {
    expect(countCharacters(text)).toBe(characters);
    expect(countUtf8Bytes(text)).toBe(bytes);
  });
  it('is cut at a word, never in one and never through a character', () => {
    expect(cutAtWord('Hearth frying pan of iron', 18)).toBe('Hearth frying pan');
    expect(cutAtWord('Hearth frying pan, heavy', 18)).toBe('Hearth frying pan');
    expect(cutAtWord('one two three', 7)).toBe('one two');
    expect(cutAtWord('Short', 18)).toBe('Short');
    expect(cutAtWord('\u{233b4}\u{233b4}\u{233b4}', 2)).toBe('\u{233b4}\u{233b4}');
    fc.assert(
      fc.property(anyText, fc.integer({ min: 1, max: 30 }), (text, max) => {
        expect(countCharacters(cutAtWord(text, max))).toBeLessThanOrEqual(max);
      }),
    );
  });
});

describe('contact details', () => {
  // Numbers and names that are kept for examples: Ofcom's numbers for drama use, NANPA's 555-01xx, RFC 2606 for names (from memory).
  it.each([
    ['Ring 01632 960 123 now', 'phone', '01632 960 123'],
    ['Ring +44 20 7946 0958', 'phone', '+44 20 7946 0958'],
    ['Ring 020 79 46 09 58, in pairs', 'phone', '020 79 46 09 58'],
    ['Ring +1 (202) 555-0143', 'phone', '+1 (202) 555-0143'],
    ['Write to pans@hearth.example', 'mail', 'pans@hearth.example'],
    ['@hearth: write to pans@hearth.example', 'mail', 'pans@hearth.example'],
    ['Look at www.hearth.example/pans.', 'link', 'www.hearth.example/pans'],
    ['Look at https://hearth.example', 'link', 'https://hearth.example'],
    ['Look at hearth.co.uk for more', 'link', 'hearth.co.uk'],
  ])('in “%s”: a %s', (text, kind, found) => {
    expect(findContact(text)).toEqual({ kind, found });
  });
  it.each([
    'Pan 28 cm, 2.5 kg, 0.5 l',
    'Barcode 0036000291452',
    'ISBN 0-306-40615-2 and 978-0-306-40615-7',
    'From 01-02-2026',
    'Serves 2.5 portions',
    'Barcode 4006381333931',
    'Teapot 1.1 l, 350 ml',
    'At home @ the stove',
    'Works at 220-240 V, 50/60 Hz, 1850-2200 W',
    'Ready.Steady',
  ])('are not seen in “%s”', (text) => {
    expect(findContact(text)).toBeUndefined();
  });
});

describe('decoration, shouting and promotion', () => {
  it.each([
    ['★ Pan', '★', 'Pan'],
    ['Pan ~~ iron', '~~', 'Pan iron'],
    ['Pan!!', '!!', 'Pan'],
    ['Pan 🔥 iron', '🔥', 'Pan iron'],
  ])('“%s” is decorated with %s', (text, found, stripped) => {
    expect(findDecoration(text)).toBe(found);
    expect(stripDecoration(text)).toBe(stripped);
  });
  it.each(['Hearth™ Pan', 'Crème brûlée dish', 'Pan, 28 × 5 cm', 'Now! A pan', 'Size 10 # 4', '250 °C'])(
    '“%s” is not decorated',
    (text) => {
      expect(findDecoration(text)).toBeUndefined();
    },
  );
  it('shouts with two long words in capitals, or with half of its words', () => {
    expect(findShouting('HEAVY Pan of IRONWARE for you')).toEqual(['HEAVY', 'IRONWARE']);
    expect(findShouting('HEAVY pan')).toEqual(['HEAVY']);
    expect(findShouting('Pan HEAVY and black for the daily kitchen')).toEqual([]);
    expect(findShouting('ПОСУДА ЧУГУН')).toEqual(['ПОСУДА', 'ЧУГУН']);
    expect(findShouting('Pan XXL, USB, LED')).toEqual([]);
    expect(findShouting('GREAT HEAVY pan')).toEqual(['GREAT', 'HEAVY']);
    expect(calmDown('HEAVY Pan of IRONWARE, XXL')).toBe('Heavy Pan of Ironware, XXL');
  });
  it('finds phrases only where they stand whole', () => {
    const find = createPhraseFinder(['sale', 'best price', 'no. 1']);
    expect(find('Now on SALE')).toBe('SALE');
    expect(find('The Best Price in town')).toBe('Best Price');
    expect(find('The no. 1 pan')).toBe('no. 1');
    expect(find('Wholesale saleable pan no 1')).toBeUndefined();
    for (const [text, found] of [
      ['BEST PRICE ever', 'BEST PRICE'],
      ['Größe: Sale', 'Sale'],
      ['beſt price', 'beſt price'],
      ['ΣALE', undefined],
      ['a saleroom', undefined],
    ] as const)
      expect(find(text)).toBe(found);
    expect(createPhraseFinder(['ευκαιρίας'])('ΕΥΚΑΙΡΊΑΣ')).toBe('ΕΥΚΑΙΡΊΑΣ');
    expect(createPhraseFinder([])('anything')).toBeUndefined();
  });
});

describe('markup', () => {
  it('is refused beyond the allowed tags, and with attributes', () => {
    expect(findForbiddenTag('<p>A <b>pan</b></p>', ['p', 'b'])).toBeUndefined();
    expect(findForbiddenTag('<p>A <i>pan</i></p>', ['p', 'b'])).toBe('<i>');
    expect(findForbiddenTag('<p onclick="x()">A pan</p>', ['p'])).toBe('<p onclick="x()">');
    expect(findForbiddenTag('<P>A <BR>pan</P>', ['p', 'br'])).toBeUndefined();
    expect(findForbiddenTag('<p>A pan</p', ['p'])).toBe('</p');
    expect(findForbiddenTag('<p>A <pre>pan</p>', ['p'])).toBe('<pre>');
    expect(findForbiddenTag('<p>A pan</p><', ['p'])).toBeUndefined();
    expect(findForbiddenTag('smaller < larger > smallest', [])).toBeUndefined();
  });
  it('that is stripped leaves nothing forbidden behind', () => {
    expect(stripForbiddenTags('<p class="a">A <i>pan</i><script>x()</script></p>', ['p'])).toBe('<p>A pan</p>');
    const piece = fc.constantFrom('<p>', '</p>', '<b x=1>', '<script>', '</script>', 'pan', ' < ', '<br/>', 'a > b');
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 12 }), (pieces) => {
        expect(findForbiddenTag(stripForbiddenTags(pieces.join(''), ['p', 'b']), ['p', 'b'])).toBeUndefined();
      }),
    );
  });
});

// Which words are the same and which are only alike; kana voicing and the Turkish and Nordic letters from memory.
describe('folding', () => {
  it.each([
    ['Cast Iron', '  cast\u00a0 IRON '],
    ['Stainless-steel', 'stainless steel'],
    ['ｶﾞﾗｽ', 'ガラス'],
    ['Ｐａｎ', 'pan'],
    ['Cafe\u0301', 'Café'],
    ['①', '1'],
  ])('“%s” and “%s” are the same word', (a, b) => {
    expect(fold(a)).toBe(fold(b));
  });
  it.each([
    ['ガラス', 'カラス'],
    ['パン', 'バン'],
    ['schön', 'schon'],
    ['10.5', '105'],
    ['1-2', '1 2'],
    ['für', 'fur'],
  ])('“%s” and “%s” are not', (a, b) => {
    expect(fold(a)).not.toBe(fold(b));
  });
  it.each([
    ['schön', 'SCHON', true],
    ['  Crème-Brûlée,  DISH ', 'creme brulee dish', true],
    ['ёлка', 'елка', true],
    ['ガラス', 'カラス', false],
    ['が', 'か', false],
    ['किताब', 'कतब', false],
  ])('“%s” and “%s” are alike: %s', (a, b, isAlike) => {
    expect(foldLoosely(a) === foldLoosely(b)).toBe(isAlike);
  });
});

describe('likeness', () => {
  // The textbook pairs of edit distance; the last tells optimal string alignment (3) from unrestricted swaps (2). From memory.
  it.each([
    ['kitten', 'sitting', 3],
    ['saturday', 'sunday', 3],
    ['', 'pan', 3],
    ['pan', 'pna', 1],
    ['blak', 'black', 1],
    ['abcd', 'abdc', 1],
    ['ca', 'abc', 3],
  ])('%s to %s takes %i edits', (a, b, distance) => {
    expect(computeDistance(a, b)).toBe(distance);
    expect(computeDistance(b, a)).toBe(distance);
  });
  it('is a distance: none to itself, the same both ways, never longer by a detour over one edit', () => {
    const word = fc.string({ unit: fc.constantFrom('a', 'b', 'c'), maxLength: 7 });
    fc.assert(
      fc.property(word, word, (a, b) => {
        expect(computeDistance(a, a)).toBe(0);
        expect(computeDistance(a, b)).toBe(computeDistance(b, a));
        expect(computeDistance(a, `${b}x`)).toBeLessThanOrEqual(computeDistance(a, b) + 1);
      }),
    );
    expect(computeDistance('pan', 'saucepans', 2)).toBe(3);
  });
  it('knows the same words in another order or number', () => {
    expect(computeLikeness('Frying pans', 'frying pan')).toBeGreaterThan(0.9);
    expect(computeLikeness('pan, frying', 'frying pan')).toBeGreaterThan(0.9);
    expect(computeLikeness('Black', 'Blak')).toBeGreaterThan(0.7);
    expect(computeLikeness('Black', 'Glass')).toBeLessThan(0.5);
    expect(computeLikeness('kettle', 'tablecloth')).toBeLessThan(0.4);
    expect(computeLikeness('', 'Glass')).toBe(0);
    expect(['berries', 'glass', 'pans', 'gas'].map(stem)).toEqual(['berry', 'glass', 'pan', 'gas']);
  });
  it('proposes the nearest first and nothing far away', () => {
    const colours = ['Black', 'Blue', 'Blush', 'Green'];
    expect(findNearest('Blak', colours, (c) => [c])[0]?.candidate).toBe('Black');
    expect(findNearest('zzzzzz', colours, (c) => [c])).toEqual([]);
    expect(findNearest('bl', colours, (c) => [c], 1, 0)).toHaveLength(1);
  });
});
