// Widths, held against Python's unicodedata (Unicode Standard Annex #11 and the compatibility decompositions).
import { execFileSync } from 'node:child_process';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { countColumns, fitWidths } from '.';

const blocks = [
  [0x20, 0x7e],
  [0xa1, 0x24f],
  [0x3000, 0x30ff],
  [0x4e00, 0x9fa5],
  [0xac00, 0xd7a3],
  [0xff01, 0xffdc],
] as const;

describe('columns', () => {
  it('are those of Python’s tables in the blocks of East Asian writing', () => {
    const program = `
import json, unicodedata as u
print(json.dumps({c: 0 if u.category(chr(c))[0] == "M" else 2 if u.east_asian_width(chr(c)) in "FW" else 1
  for a, b in ${JSON.stringify(blocks)} for c in range(a, b + 1) if u.category(chr(c)) != "Cn"}))`;
    const known = JSON.parse(
      execFileSync('/usr/bin/python3', ['-c', program], { encoding: 'utf8', maxBuffer: 10_000_000 }),
    ) as Record<string, number>;
    expect(Object.keys(known).length).toBeGreaterThan(30_000);
    for (const [c, columns] of Object.entries(known))
      expect(countColumns(String.fromCodePoint(Number(c))), Number(c).toString(16)).toBe(columns);
  });
  it('add up', () => {
    expect(countColumns('ガラス bowl')).toBe(11);
    expect(countColumns('カ\u3099')).toBe(2);
  });
});

describe('a text in the widths that are asked for', () => {
  it.each([
    ['ｶﾞﾗｽのｺｯﾌﾟ', { katakana: 'full' }, 'ガラスのコップ'],
    ['ガラスのコップ', { katakana: 'half' }, 'ｶﾞﾗｽのｺｯﾌﾟ'],
    ['ＡＢｃ１２', { latin: 'half' }, 'ABc１２'],
    ['ＡＢｃ１２', { latin: 'half', digits: 'half' }, 'ABc12'],
    ['A4', { latin: 'full', digits: 'full' }, 'Ａ４'],
    ['（A－4）', { signs: 'half' }, '(A-4)'],
    ['(A-4)', { signs: 'full' }, '（A－4）'],
    ['a　b', { spaces: 'half' }, 'a b'],
    ['a b', { spaces: 'full' }, 'a　b'],
    ['ヴァイオリン', { katakana: 'half' }, 'ｳﾞｧｲｵﾘﾝ'],
  ] as const)('%s by %j is %s', (text, widths, fitted) => {
    expect(fitWidths(text, widths)).toBe(fitted);
  });
  it('is the same when it is fitted again, and the same text by compatibility', () => {
    const character = fc.oneof(
      fc.integer({ min: 0x20, max: 0x7e }),
      fc.integer({ min: 0x30a1, max: 0x30fc }),
      fc.integer({ min: 0xff01, max: 0xff9f }),
    );
    const width = fc.option(fc.constantFrom('full' as const, 'half' as const), { nil: undefined });
    fc.assert(
      fc.property(
        fc.array(character, { maxLength: 12 }).map((cs) => String.fromCodePoint(...cs)),
        fc.record({ katakana: width, latin: width, digits: width, signs: width, spaces: width }),
        (text, widths) => {
          const fitted = fitWidths(text, widths);
          expect(fitWidths(fitted, widths)).toBe(fitted);
          expect(fitted.normalize('NFKC')).toBe(text.normalize('NFKC'));
        },
      ),
    );
  });
});
