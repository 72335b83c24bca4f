// What a field for a column would hold. Common practice, no source.
import { describe, expect, it } from 'vitest';
import { guessKind } from '.';

describe('a column without a field', () => {
  it.each([
    ['yes-no', ['yes', 'No', 'ja']],
    ['yes-no', ['TRUE']],
    ['integer', ['1', '0']],
    ['integer', ['4', ' 120 ', '']],
    // Customs tariff numbers, postcodes and the like.
    ['text', ['69120023', '69111000']],
    ['text', ['0042', '17']],
    ['number', ['4.5', '12']],
    ['number', ['4,5', '-1']],
    ['measure', ['4,5 cm', '12 mm']],
    ['text', ['3-5 Tage', '2 Tage']],
    ['text', ['4.5', 'on request']],
    ['date', ['27.11.2026', '2026-11-28']],
    ['date', ['11/27/2026']],
    ['text', ['oak', 'ash']],
    ['text', []],
    ['text', ['']],
    ['text', ['x'.repeat(120)]],
    ['long-text', ['oak', 'x'.repeat(121)]],
  ] as const)('would be %s for %j', (kind, samples) => {
    expect(guessKind(samples)).toBe(kind);
  });
  it('holds measures where its heading names their unit', () => {
    expect([guessKind(['4.5', '12'], true), guessKind(['12', '7 kg'], true), guessKind(['oak'], true)]).toEqual([
      'measure',
      'measure',
      'text',
    ]);
  });
});
