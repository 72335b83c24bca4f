import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { computeUsual, judgeMeasure } from '.';

const spoons = ['42 g', '45 g', '48 g', '50 g', '50 g', '52 g', '0.055 kg', '60 g', '24 kg'];

describe('what is usual', () => {
  it('is the middle of the measures, in the unit of most of them, whatever one of them is', () => {
    expect(computeUsual(spoons)).toEqual({ amount: '50', unit: 'g', count: 9 });
  });
  it.each([
    ['too few', spoons.slice(0, 7)],
    ['none with a unit', Array.from({ length: 20 }, () => '24')],
    ['as different as goods of no one kind', ['1 g', '2 g', '5 g', '50 g', '60 g', '500 g', '600 g', '900 g', '2 kg']],
    ['nothing over nought', Array.from({ length: 20 }, () => '0 g')],
  ])('is nothing of measures that are %s', (_, texts) => {
    expect(computeUsual(texts)).toBeUndefined();
  });
  it('is told by two figures, since it is no measurement', () => {
    expect(computeUsual(Array.from({ length: 9 }, () => '12.46 cm'))).toMatchObject({ amount: '12' });
    expect(computeUsual(Array.from({ length: 9 }, () => '1246 g'))).toMatchObject({ amount: '1200' });
  });
  it('leaves out what measures something else', () => {
    expect(computeUsual([...Array.from({ length: 8 }, () => '30 cm'), '2 kg', 'large'])).toEqual({
      amount: '30',
      unit: 'cm',
      count: 8,
    });
  });
  it('is the same in whatever unit and order the measures come', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 40, max: 120 }), { minLength: 9, maxLength: 60 }), (grams) => {
        const inGrams = computeUsual(grams.map((g) => `${g} g`))!,
          inKilos = computeUsual([...grams].reverse().map((g) => `${g / 1000} kg`))!;
        expect(Number(inKilos.amount) * 1000).toBeCloseTo(Number(inGrams.amount), 6);
      }),
      { seed: 41 },
    );
  });
});

describe('the edges of what is usual', () => {
  const of = (...grams: number[]) => computeUsual(grams.map((g) => `${g} g`));
  it('are four times the middle for a quarter of the goods on either side, and may be met', () => {
    // Nine measures: the third, the fifth and the seventh stand at a quarter, the middle and three quarters.
    expect(of(10, 10, 10, 40, 40, 40, 40, 40, 40)).toMatchObject({ amount: '40' });
    expect(of(9, 9, 9, 40, 40, 40, 40, 40, 40)).toBeUndefined();
    expect(of(9, 9, 40, 40, 40, 40, 40, 40, 40)).toMatchObject({ amount: '40' });
    expect(of(40, 40, 40, 40, 40, 40, 160, 160, 160)).toMatchObject({ amount: '40' });
    expect(of(40, 40, 40, 40, 40, 40, 161, 161, 161)).toBeUndefined();
    expect(of(40, 40, 40, 40, 40, 40, 40, 161, 161)).toMatchObject({ amount: '40' });
  });
  it('are eight measures at the least', () => {
    expect(of(1, 1, 1, 1, 1, 1, 1, 1)).toMatchObject({ count: 8 });
    expect(of(1, 1, 1, 1, 1, 1, 1)).toBeUndefined();
  });
  it('are told in the unit of most, and of two that are as many in the one that the alphabet has first', () => {
    const five = (unit: string) => Array.from({ length: 5 }, () => `1 ${unit}`);
    expect(computeUsual([...five('kg'), ...five('g').map((t) => t.replace('1', '1000'))])).toMatchObject({ unit: 'g' });
    expect(computeUsual([...five('g').map((t) => t.replace('1', '1000')), ...five('kg')])).toMatchObject({ unit: 'g' });
    expect(computeUsual([...five('kg'), '1 kg', ...five('g').map((t) => t.replace('1', '1000'))])).toMatchObject({
      unit: 'kg',
    });
  });
  it('begin thirty times over or under, and what was meant lies within four times', () => {
    const usual = { amount: '10', unit: 'cm', count: 9 };
    expect(judgeMeasure('299 cm', usual, ['cm'])).toBeUndefined();
    expect(judgeMeasure('300 cm', usual, ['cm'])).toMatchObject({ times: 30, isOver: true });
    // 40 and 4 are both possible, 40.1 is not.
    expect(judgeMeasure('400 cm', usual, ['cm'])?.meant).toBeUndefined();
    expect(judgeMeasure('401 cm', usual, ['cm'])?.meant).toEqual({ amount: '4.01', unit: 'cm' });
    // 2.5 and 25 are, 2.4 is not.
    expect(judgeMeasure('0.25 cm', usual, ['cm'])?.meant).toBeUndefined();
    expect(judgeMeasure('0.24 cm', usual, ['cm'])?.meant).toEqual({ amount: '24', unit: 'cm' });
    expect(judgeMeasure('0.3 cm', usual, ['cm'])).toMatchObject({ isOver: false });
    expect(judgeMeasure('0 cm', usual, ['cm'])).toBeUndefined();
    expect(judgeMeasure('300 cm', { ...usual, amount: '0' }, ['cm'])).toBeUndefined();
  });
});

describe('a measure beside what is usual', () => {
  const usual = { amount: '24', unit: 'cm', count: 50 };
  it.each([
    ['24 cm', undefined],
    ['7 m', undefined],
    ['0.9 cm', undefined],
    ['24 m', { isOver: true, meant: { amount: '24', unit: 'cm' } }],
    ['24 mm', undefined],
    ['0.24 cm', { isOver: false, meant: { amount: '0.24', unit: 'm' } }],
    ['240 m', { isOver: true, meant: { amount: '240', unit: 'mm' } }],
    ['3000 m', { isOver: true, meant: undefined }],
    ['24 kg', undefined],
    ['24', undefined],
    ['large', undefined],
    ['-24 m', undefined],
  ])('%s', (text, found) => {
    const far = judgeMeasure(text, usual, ['cm', 'mm', 'm']);
    if (found === undefined) expect(far).toBeUndefined();
    else expect(far).toMatchObject(found);
  });
  it('is put into a unit that is accepted', () => {
    expect(judgeMeasure('24 kg', { amount: '24', unit: 'g', count: 9 }, ['kg'])?.meant).toEqual({
      amount: '0.024',
      unit: 'kg',
    });
  });
});
