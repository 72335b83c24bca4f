// Numbers and measures at the edges of what can be read.
import { describe, expect, it } from 'vitest';
import { computeUsual, detectNumberLocale, pointLocale, readDate, readNumber } from '.';

const point = { decimal: '.', group: ',' } as never;
describe('a number', () => {
  it('that is nothing, or longer than any, is none', () => {
    expect(readNumber('', point)).toMatchObject({ ok: false, reason: 'empty' });
    expect(readNumber(' £ ', point)).toMatchObject({ ok: false, reason: 'empty' });
    expect(readNumber('1'.repeat(500), point)).toMatchObject({ ok: false, reason: 'not-a-number' });
  });
  it('may have a minus of its own, or a true one', () => {
    expect(readNumber('-5', point)).toMatchObject({ ok: true, number: '-5' });
    expect(readNumber('\u22125', point)).toMatchObject({ ok: true, number: '-5' });
  });
});

describe('a number with signs', () => {
  it('may begin with its decimal sign, and ends with a figure', () => {
    expect(readNumber('.5', pointLocale)).toMatchObject({ ok: true, number: '0.5' });
    expect(readNumber('5.', pointLocale)).toMatchObject({ ok: false, reason: 'not-a-number' });
    expect(readNumber('1.2.3', pointLocale)).toMatchObject({ ok: false });
    expect(readNumber('1,23', pointLocale)).toMatchObject({ ok: false, reason: 'other-locale' });
    expect(readNumber('12a', pointLocale)).toMatchObject({ ok: false, reason: 'not-a-number' });
    expect(readNumber('1,2,3 4', pointLocale)).toMatchObject({ ok: false, reason: 'grouping-out-of-place' });
  });
  it('tells the sign of a file where one reads more, and no text differs', () => {
    expect(detectNumberLocale(['12.5', '7'])).toMatchObject({ decimal: '.' });
    expect(detectNumberLocale(['12,5', '7'])).toMatchObject({ decimal: ',' });
    expect(detectNumberLocale(['12,5', '12.5'])).toBe('undetermined');
    expect(detectNumberLocale(['12,5', '12.5', '7.25'])).toMatchObject({ decimal: '.' });
    expect(detectNumberLocale(['12,5', '12.5', '7.25', '1.299'])).toBe('undetermined');
    expect(detectNumberLocale(['7', '8'])).toBe('undetermined');
    expect(detectNumberLocale(['7.5', 'seven'])).toBe('undetermined');
    expect(detectNumberLocale(['7.5', ' '])).toMatchObject({ decimal: '.' });
  });
});

describe('a day', () => {
  it('lies between 1900 and 2200', () => {
    expect(['31.12.1899', '1.1.1900', '31.12.2199', '1.1.2200'].map((t) => readDate(t, 'day-first'))).toEqual([
      undefined,
      '1900-01-01',
      '2199-12-31',
      undefined,
    ]);
  });
  it('is none of a text without figures, or of a long one', () => {
    expect(['November', '', ' '].map((t) => readDate(t, 'day-first'))).toEqual([undefined, undefined, undefined]);
    expect(readDate('27.11.2026', 'day-first')).toBe('2026-11-27');
  });
});

describe('the unit of what is usual', () => {
  it('is that of most, and of as many the first by its letters', () => {
    const some = (n: number, unit: string, amount: string): string[] =>
      Array.from({ length: n }, () => `${amount} ${unit}`);
    expect(computeUsual([...some(4, 'mm', '240'), ...some(5, 'cm', '24')])?.unit).toBe('cm');
    expect(computeUsual([...some(5, 'mm', '240'), ...some(4, 'cm', '24')])?.unit).toBe('mm');
    expect(computeUsual([...some(4, 'mm', '240'), ...some(4, 'cm', '24')])?.unit).toBe('cm');
    expect(computeUsual([...some(4, 'cm', '24'), ...some(4, 'mm', '240')])?.unit).toBe('cm');
  });
});
