// Decimals against decimal.js, the general-purpose library for them.
import { Decimal } from 'decimal.js';
import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { countDecimals, exact, normaliseNumber, roundToPlaces, scanNumber } from '.';

const digits = (most: number) => fc.stringMatching(new RegExp(`^[0-9]{1,${most}}$`));
const number = fc
  .tuple(
    fc.constantFrom('', '-'),
    fc.constantFrom('', '0', '000'),
    digits(18),
    fc.option(digits(14)),
    fc.constantFrom('', '0', '00'),
  )
  .map(([sign, zeros, whole, places, more]) => `${sign}${zeros}${whole}${places === null ? '' : `.${places}${more}`}`);
const Wide = Decimal.clone({ precision: 60, toExpNeg: -60, toExpPos: 60, rounding: Decimal.ROUND_HALF_UP });
const plain = (d: Decimal): string => (d.isZero() ? '0' : d.toFixed());

describe('a number as text', () => {
  it.each([
    ['0', '0'],
    ['-0', '0'],
    ['-0.00', '0'],
    ['000', '0'],
    ['0.10', '0.1'],
    ['00.5', '0.5'],
    ['10.00', '10'],
    ['100', '100'],
    ['-007.50', '-7.5'],
    ['0.001', '0.001'],
  ])('%s without needless zeros is %s', (text, short) => {
    expect(normaliseNumber(text)).toBe(short);
  });
  it('loses needless zeros as decimal.js does (property)', () => {
    fc.assert(
      fc.property(number, (text) => {
        expect(normaliseNumber(text)).toBe(plain(new Wide(text)));
      }),
      { seed: 3, numRuns: 2000 },
    );
  });
  it('is rounded half up as decimal.js does, whatever the places (property)', () => {
    fc.assert(
      fc.property(number, fc.integer({ min: 0, max: 6 }), (text, places) => {
        const rounded = roundToPlaces(text, places);
        expect(rounded).toBe(plain(new Wide(text).toDecimalPlaces(places)));
        expect(countDecimals(rounded)).toBeLessThanOrEqual(places);
      }),
      { seed: 4, numRuns: 2000 },
    );
  });
  it('is scanned as what it is near (property)', () => {
    fc.assert(
      fc.property(number, (text) => {
        const near = scanNumber(text);
        expect(Math.abs(near - Number(text))).toBeLessThanOrEqual(Math.abs(Number(text)) * 1e-12);
        expect(scanNumber(`${text} cm`, true)).toBe(near);
        expect(scanNumber(`${text} cm`)).toBeNaN();
      }),
      { seed: 5 },
    );
  });
  it.each(['', '-', '.', '.5', '5.', '1e3', '1,5', ' 1', '1.2.3', '--1', '٣'])(
    'that is none, %j, is refused',
    (text) => {
      expect(() => normaliseNumber(text)).toThrow(/Not a canonical number/);
      expect(() => roundToPlaces(text, 2)).toThrow(/Not a canonical number/);
      expect(() => exact(text)).toThrow(/Not a canonical number/);
      expect(scanNumber(text)).toBeNaN();
    },
  );
});
