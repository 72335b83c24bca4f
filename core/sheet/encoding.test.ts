// How a file's bytes are judged, at the edges of what is counted. Byte ranges from RFC 3629, 4.
import iconv from 'iconv-lite';
import { describe, expect, it } from 'vitest';
import { createEncodingJudge, isUtf8, sniffFile } from '.';

const judge = (...chunks: number[][]) => {
  const j = createEncodingJudge();
  for (const c of chunks) j.push(Uint8Array.from(c));
  return j.judge();
};

describe('a text is UTF-8', () => {
  it.each<[string, number[][]]>([
    ['of nothing', []],
    ['of ASCII', [[0x41, 0x7f]]],
    ['of two bytes, the least', [[0xc2, 0x80]]],
    ['of two bytes, the most', [[0xdf, 0xbf]]],
    ['of three bytes', [[0xe0, 0xa0, 0x80, 0xef, 0xbf, 0xbf]]],
    ['of four bytes', [[0xf0, 0x90, 0x80, 0x80, 0xf4, 0x8f, 0xbf, 0xbf]]],
    ['cut between chunks', [[0xe2, 0x82], [0xac]]],
    ['with one letter for every byte that breaks it', [[0xc3, 0xa4, 0xe4, 0x41]]],
  ])('%s', (_, chunks) => {
    expect(judge(...chunks)).toBe('utf-8');
  });
});
describe('a text is Windows-1252', () => {
  it.each<[string, number[][]]>([
    ['of a lead that UTF-8 never has, low', [[0xc1, 0x41]]],
    ['of a lead that UTF-8 never has, high', [[0xf5, 0x41]]],
    ['of a letter that follows no lead', [[0x80]]],
    ['of a letter before ASCII', [[0x67, 0x72, 0xfc, 0x6e]]],
    ['that ends in a lead', [[0x41, 0xe4]]],
    ['with more that breaks UTF-8 than keeps to it', [[0xc3, 0xa4, 0xe4, 0x41, 0xfc, 0x41]]],
    ['of a lead of three before two', [[0xe0, 0xa0, 0x41]]],
  ])('%s', (_, chunks) => {
    expect(judge(...chunks)).toBe('windows-1252');
  });
});

describe('a text is Shift_JIS', () => {
  const of = (s: string) => [...iconv.encode(s, 'shift_jis')];
  it.each<[string, number[][]]>([
    ['of words in kana and characters', [of('SKU,名前\nA-1,鉄のフライパン 24cm\n')]],
    ['cut in the middle of a pair', [of('鉄のフライパン').slice(0, 3), of('鉄のフライパン').slice(3)]],
    ['with half-width katakana beside them', [of('ﾌﾗｲﾊﾟﾝ のせ')]],
    ['behind much that is ASCII', [new Array<number>(5000).fill(0x41), of('なべ')]],
  ])('%s', (_, chunks) => {
    expect(judge(...chunks)).toBe('shift_jis');
  });
  it.each([
    'Crème brûlée für Söhne, 5 €',
    'Größe – „fein“ ‚Über‘ àéèêëîïôùûüÿç',
    '‚Ü‘ und größere Größen für Mädchen; Köln, Ärmel, öfter, süß, Maß, Straße',
    'ØRE på RÅ æble, ÆØÅ og åre',
  ])('and European letters are not: %s', (text) => {
    expect(judge([...iconv.encode(text, 'win1252')])).toBe('windows-1252');
  });
  it('is judged so from the first bytes too', () => {
    expect(sniffFile(Uint8Array.from(of('SKU,名前\nA-1,なべのふた\n')))).toEqual({
      kind: 'text',
      encoding: 'shift_jis',
      mark: false,
    });
  });
});

describe('the first bytes', () => {
  const text = (s: string, encoding: 'utf16le' | 'utf8' = 'utf8') => new Uint8Array(Buffer.from(s, encoding));
  const swapped = (s: string) => new Uint8Array(Buffer.from(s, 'utf16le').swap16());
  it.each<[string, Uint8Array, object]>([
    ['nothing', new Uint8Array(), { kind: 'empty' }],
    ['a zip', Uint8Array.from([0x50, 0x4b, 3, 4]), { kind: 'workbook' }],
    ['an empty zip', Uint8Array.from([0x50, 0x4b, 5, 6]), { kind: 'workbook' }],
    ['UTF-8 with its mark', text('\ufeffSKU'), { kind: 'text', encoding: 'utf-8', mark: true }],
    ['UTF-16 with its mark', text('\ufeffSKU', 'utf16le'), { kind: 'text', encoding: 'utf-16le', mark: true }],
    ['UTF-16 of the other order', swapped('\ufeffSKU'), { kind: 'text', encoding: 'utf-16be', mark: true }],
    [
      'UTF-16 without a mark',
      text('SKU;Title\nA-1;Pan', 'utf16le'),
      { kind: 'text', encoding: 'utf-16le', mark: false },
    ],
    ['the same of the other order', swapped('SKU;Title\nA-1;Pan'), { kind: 'text', encoding: 'utf-16be', mark: false }],
    ['plain letters', text('SKU;Title'), { kind: 'text', encoding: 'utf-8', mark: false }],
    [
      'letters of Windows',
      Uint8Array.from([0x67, 0xfc, 0x6e]),
      { kind: 'text', encoding: 'windows-1252', mark: false },
    ],
  ])('of %s', (_, bytes, kind) => {
    expect(sniffFile(bytes)).toEqual(kind);
  });
  it('may hold some control characters in a hundred, and three in any case', () => {
    const withControls = (letters: number, controls: number) =>
      sniffFile(Uint8Array.from([...Array<number>(letters).fill(0x41), ...Array<number>(controls).fill(1)])).kind;
    expect([withControls(1, 3), withControls(1, 4)]).toEqual(['text', 'binary']);
    expect([withControls(195, 7), withControls(193, 8)]).toEqual(['text', 'binary']);
  });
  it('take a tab, a line break, a return and a new page for text', () => {
    expect(sniffFile(Uint8Array.from([9, 10, 13, 12, 9, 10, 13, 12])).kind).toBe('text');
    expect(sniffFile(Uint8Array.from([11, 8, 14, 31])).kind).toBe('binary');
  });
  it('are UTF-8 though a character is cut off at the end, and not though one is broken within', () => {
    expect(isUtf8(Uint8Array.from([0x41, 0xe2, 0x82]))).toBe(true);
    expect(isUtf8(Uint8Array.from([0xe2, 0x82, 0x41]))).toBe(false);
  });
});
