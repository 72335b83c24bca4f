import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  canonicalNumber,
  commaLocale,
  convertUnit,
  detectDateOrder,
  detectNumberLocale,
  isReadEitherWay,
  readMeasure,
  readMeasures,
  exact,
  fitUnit,
  fitsCurrency,
  formatMoney,
  getMinorUnits,
  isKnownCurrency,
  knownCurrencies,
  normaliseNumber,
  padMoney,
  parseMeasure,
  pointLocale,
  raiseToEnding,
  readDate,
  readNumber,
  scanNumber,
  writeNumber,
} from '.';

describe('reading numbers under a stated locale', () => {
  it.each([
    ['1.299,50', '1299.50'],
    ['1 299,50', '1299.50'],
    ['1\u00a0299,50', '1299.50'],
    ["1'299,50", '1299.50'],
    ['12,5', '12.5'],
    ['€ 12,50', '12.50'],
    ['-3,10', '-3.10'],
    ['007', '7'],
  ])('reads %s with a decimal comma as %s', (text, number) => {
    expect(readNumber(text, commaLocale)).toEqual({ ok: true, number });
  });
  it.each([
    ['1,299.50', '1299.50'],
    ['12.50', '12.50'],
    ['£12.50', '12.50'],
    ['1299', '1299'],
    ['.5', '0.5'],
  ])('reads %s with a decimal point as %s', (text, number) => {
    expect(readNumber(text, pointLocale)).toEqual({ ok: true, number });
  });
  it('never guesses: a number of the other locale is named as such, not read as a thousandth', () => {
    expect(readNumber('1.299,50', pointLocale)).toMatchObject({ ok: false, reason: 'other-locale' });
    expect(readNumber('12.50', commaLocale)).toMatchObject({ ok: false, reason: 'other-locale' });
    expect(readNumber('12,50', pointLocale)).toMatchObject({ ok: false, reason: 'other-locale' });
  });
  it.each(['abc', '1.2.3', '12.', '1,2.3,4', '--1', '12 kg'])('refuses %s', (t) => {
    expect(readNumber(t, pointLocale).ok).toBe(false);
  });
  it('says which locale a column is written in, or that it cannot be told', () => {
    expect(detectNumberLocale(['12,50', '1.299,00'])).toBe(commaLocale);
    expect(detectNumberLocale(['12.50', '1,299.00'])).toBe(pointLocale);
    expect(detectNumberLocale(['12', '1.299'])).toBe('undetermined');
    expect(detectNumberLocale(['12.50', '12,50'])).toBe('undetermined');
    // Most decide where each can be read in one way alone; one that has two meanings leaves it to the person.
    expect(detectNumberLocale(['12.50', '12,50', '0,5', '7'])).toBe(commaLocale);
    expect(detectNumberLocale(['12.50', '12,50', '0,5', '1.299'])).toBe('undetermined');
    expect(detectNumberLocale(['12,50', 'cheap'])).toBe('undetermined');
    expect([detectNumberLocale(['12.50', '1.299']), detectNumberLocale(['12,50', '1.299'])]).toEqual([
      pointLocale,
      commaLocale,
    ]);
    expect(detectNumberLocale(['12.50', '0.5', ' ', '12,50'])).toBe(pointLocale);
  });
  it.each([
    ['1.299', true],
    ['1,299', true],
    ['12.299.000', false],
    ['0.125', false],
    ['12.50', false],
    ['1299', false],
    ['1.0', false],
  ])('%s can be read as two numbers: %s', (text, isEither) => {
    expect(isReadEitherWay(text)).toBe(isEither);
  });
  it.each([
    ['24 cm', '24', 'cm', false],
    ['24,5 cm', '24.5', 'cm', true],
    ['0.125 Kilogramm', '0.125', 'Kilogramm', false],
    ['1,250.5 g', '1250.5', 'g', false],
    ['1 250 g', '1250', 'g', false],
    ['-4 °C', '-4', '°C', false],
    ['24', '24', undefined, false],
  ])('reads the measure “%s” with a decimal point', (text, amount, unit, isOtherSign) => {
    expect(readMeasure(text, pointLocale)).toEqual({ amount, unit, isOtherSign });
  });
  it('reads a measure with a decimal comma, thousands and all', () => {
    expect(readMeasure('1.250,5 g', commaLocale)).toEqual({ amount: '1250.5', unit: 'g', isOtherSign: false });
    expect(readMeasure('1.250 g', commaLocale)?.amount).toBe('1250');
    expect(readMeasure('0.25 l', commaLocale)).toEqual({ amount: '0.25', unit: 'l', isOtherSign: true });
  });
  it.each(['10-12 cm', '10 – 12 cm', '1 1/2 in', '24:30', '2 24 cm', '24. cm', 'cm', '', '1.2.3 kg'])(
    'makes no measure of “%s”',
    (text) => {
      expect(readMeasure(text, pointLocale)).toBeUndefined();
    },
  );
  it('reads several measures of one text, those without a unit in that of the last', () => {
    const said = (text: string) => readMeasures(text, pointLocale)?.map((m) => [m.amount, m.unit]);
    expect(said('30 x 20 × 10 cm')).toEqual([
      ['30', 'cm'],
      ['20', 'cm'],
      ['10', 'cm'],
    ]);
    expect(said('3 cm * 20 BY 10 mm')).toEqual([
      ['3', 'cm'],
      ['20', 'mm'],
      ['10', 'mm'],
    ]);
    expect(said('3x4')).toEqual([
      ['3', undefined],
      ['4', undefined],
    ]);
    expect([said('3 x wide'), said('wide x 3'), said(`3 x ${'4'.repeat(197)}`)]).toEqual([
      undefined,
      undefined,
      undefined,
    ]);
    expect(said(`3 x ${'4'.repeat(196)}`)).toHaveLength(2);
    expect(readMeasures('3,5 x 4', pointLocale)?.map((m) => m.isOtherSign)).toEqual([true, false]);
  });
  it('takes no longer text for a measure', () => {
    expect(readMeasure(`${'1'.repeat(199)}g`, pointLocale)?.unit).toBe('g');
    expect(readMeasure(`${'1'.repeat(200)}g`, pointLocale)).toBeUndefined();
  });
  it('reads back what it writes, in both locales', () => {
    fc.assert(
      fc.property(fc.bigInt({ min: 0n, max: 10n ** 15n }), fc.integer({ min: 0, max: 6 }), (n, places) => {
        const number = exact(n.toString()).dividedBy(exact(10).pow(places)).toFixed(places);
        for (const l of [pointLocale, commaLocale]) {
          const r = readNumber(writeNumber(number, l.decimal), l);
          if (!r.ok || normaliseNumber(r.number) !== normaliseNumber(number)) return false;
        }
        return true;
      }),
      { seed: 3 },
    );
  });
});

describe('money', () => {
  // ISO 4217: 2 for most, 0 for JPY, 3 for KWD.
  it.each([
    ['GBP', 2],
    ['EUR', 2],
    ['JPY', 0],
    ['KWD', 3],
  ])('%s has %i places', (c, n) => {
    expect(getMinorUnits(c)).toBe(n);
  });
  it('formats and judges by the currency', () => {
    expect(formatMoney('1299.5', 'JPY')).toBe('1300');
    expect(formatMoney('1.2345', 'KWD')).toBe('1.235');
    expect(fitsCurrency('12.5', 'JPY')).toBe(false);
  });
  it('refuses a currency it does not know rather than guess', () => {
    expect(() => getMinorUnits('XXQ')).toThrow('XXQ');
  });
  it('adds a tenth ten times to exactly one', () => {
    expect(
      Array.from({ length: 10 }, () => '0.1')
        .reduce((s, x) => s.plus(x), exact(0))
        .eq(1),
    ).toBe(true);
  });
  it.each([
    ['23.5955', '.99', '23.99'],
    ['23.99', '.99', '23.99'],
    ['23.995', '.99', '24.99'],
    ['23.10', '.00', '24'],
    ['0.2', '.95', '0.95'],
  ])('raises %s to the ending %s as %s', (a, e, r) => {
    expect(raiseToEnding(a, e).toFixed()).toBe(r);
  });
});

describe('measures', () => {
  // International yard and pound agreement of 1959: the inch is 25.4 mm, the pound 453.59237 g.
  it.each([
    ['11', 'in', 'cm', '27.94'],
    ['1', 'lb', 'g', '453.59237'],
    ['1.5', 'l', 'ml', '1500'],
    ['2200', 'W', 'kW', '2.2'],
    ['1', 'm', 'in', '39.37007874'],
  ])('%s %s in %s is %s', (amount, unit, to, is) => {
    expect(convertUnit({ amount, unit }, to)!.toDecimalPlaces(8).toFixed()).toBe(is);
  });
  it('does not turn lengths into weights', () => {
    expect(convertUnit({ amount: '1', unit: 'cm' }, 'kg')).toBeUndefined();
  });
  it.each([
    ['24 cm', '24', 'cm'],
    ['24cm', '24', 'cm'],
    ['1.5 Litres', '1.5', 'l'],
    ['11"', '11', 'in'],
    ['24', '24', undefined],
    ['3 furlongs', '3', 'furlongs'],
  ])('reads %s', (t, amount, unit) => {
    expect(parseMeasure(t)).toEqual({ amount, unit });
  });
  it('says that words are no measure', () => {
    expect(parseMeasure('large')).toBeUndefined();
  });
});

describe('an amount of our own', () => {
  it.each([
    ['12.5', '12.50'],
    ['12', '12.00'],
    ['0', '0.00'],
    ['012.30', '12.30'],
    ['1.2345', '1.2345'],
    ['7.1000', '7.10'],
  ])('%s is read as %s', (text, is) => {
    expect(padMoney(text)).toBe(is);
  });
});

describe('scanning a number', () => {
  const text = fc.string({ unit: fc.constantFrom('0', '7', '9', '.', '-', ' ', 'c', ','), maxLength: 9 });
  it('takes exactly the canonical numbers, and is near the exact value (property)', () => {
    fc.assert(
      fc.property(text, (t) => {
        const near = scanNumber(t);
        expect(Number.isNaN(near)).toBe(!canonicalNumber.test(t));
        if (!Number.isNaN(near)) expect(near).toBeCloseTo(Number(t), 6);
      }),
      { numRuns: 2000 },
    );
  });
  it('takes a unit behind a space only where one may stand', () => {
    expect(scanNumber('24.5 cm', true)).toBeCloseTo(24.5);
    expect(scanNumber('-3 °C', true)).toBe(-3);
    expect(scanNumber('24.5 cm')).toBeNaN();
    expect(scanNumber('24.5cm', true)).toBeNaN();
    expect(scanNumber(' 24', true)).toBeNaN();
  });
});

// Factors of the international yard and pound; the amounts by hand.
describe('fitting a measure into the units that are taken', () => {
  it.each([
    ['2.41', 'kg', ['g'], 0, '2410 g'],
    ['1.58', 'lb', ['kg'], 2, '0.72 kg'],
    ['0.5', 'oz', ['kg'], 2, '0.014175 kg'],
    ['2', 'g', ['kg'], 2, '0.002 kg'],
    ['1', 'in', ['cm', 'mm'], undefined, '2.54 cm'],
    ['100', 'g', ['oz'], undefined, '3.527396 oz'],
    ['28.456', 'cm', ['mm', 'cm'], 0, '28.456 cm'],
  ])('%s %s into %s with %s places is %s', (amount, unit, accepted, decimals, fitted) => {
    const fit = fitUnit({ amount, unit }, accepted, decimals);
    expect(`${fit!.amount} ${fit!.unit}`).toBe(fitted);
  });
  it('has nothing to offer where the dimensions differ', () => {
    expect(fitUnit({ amount: '3', unit: 'kg' }, ['cm', 'l'])).toBeUndefined();
  });
});

// Written forms of a day; the calendar against the platform's own Date.
describe('reading a day', () => {
  it.each([
    ['2026-11-27', '2026-11-27'],
    ['27/11/2026', '2026-11-27'],
    ['27.11.2026', '2026-11-27'],
    ['7.1.26', '2026-01-07'],
    ['20261127', '2026-11-27'],
    ['27 Nov 2026', '2026-11-27'],
    ['27. November 2026', '2026-11-27'],
    ['27. Dezember 2026', '2026-12-27'],
    ['Nov 27, 2026', '2026-11-27'],
    ['2026年11月27日', '2026-11-27'],
    ['2026-11-27T00:00:00Z', '2026-11-27'],
    ['27/11/2026 00:00', '2026-11-27'],
    ['soon', undefined],
    ['29/02/2026', undefined],
    ['29/02/2028', '2028-02-29'],
    ['11/27/2026', undefined],
    ['27/11', undefined],
    ['45987', undefined],
    ['27/11/0026', undefined],
    ['', undefined],
  ])('“%s” with the day first is %s', (text, day) => {
    expect(readDate(text, 'day-first')).toBe(day);
  });
  it('takes the month first where that is said', () => {
    expect(readDate('11/27/2026', 'month-first')).toBe('2026-11-27');
    expect(readDate('27/11/2026', 'month-first')).toBeUndefined();
  });
  it('gives every day back that it is written as (property)', () => {
    const day = fc.date({ min: new Date('1901-01-01'), max: new Date('2199-12-31'), noInvalidDate: true });
    fc.assert(
      fc.property(day, (d) => {
        const iso = d.toISOString().slice(0, 10);
        const [y, m, n] = iso.split('-') as [string, string, string];
        expect(readDate(iso, 'day-first')).toBe(iso);
        expect(readDate(`${n}/${m}/${y}`, 'day-first')).toBe(iso);
        expect(readDate(`${Number(m)}/${Number(n)}/${y}`, 'month-first')).toBe(iso);
      }),
      { seed: 5 },
    );
  });
  it.each([
    [['27/11/2026', '1/2/2026'], 'day-first'],
    [['11/27/2026', ''], 'month-first'],
    [['1/2/2026'], 'undetermined'],
    [['27/11/2026', '11/27/2026'], 'undetermined'],
  ])('%s stand with the %s', (texts, order) => {
    expect(detectDateOrder(texts)).toBe(order);
  });
});

// Source: ISO 4217 list one, minor units; held against those that the platform has from the CLDR. Where the two differ, the
// platform gives what people usually write (no fils in IQD, no sen in IDR), and the list what an account has.
describe('minor units of currencies', () => {
  const usual: Readonly<Record<string, number>> = { IQD: 3, HUF: 2, IDR: 2 };
  it.each(knownCurrencies)('%s', (currency) => {
    const { maximumFractionDigits } = new Intl.NumberFormat('en', { style: 'currency', currency }).resolvedOptions();
    expect(getMinorUnits(currency)).toBe(usual[currency] ?? maximumFractionDigits);
  });
  it('are not guessed for a currency that nobody knows', () => {
    expect(() => getMinorUnits('XXX')).toThrow('Unknown currency XXX');
    expect(isKnownCurrency('XXX')).toBe(false);
    expect(isKnownCurrency('GBP')).toBe(true);
  });
});
