import { describe, expect, it } from 'vitest';
import { getMean, sumTexts } from './sums';

describe('a column of a selection', () => {
  it('is added up exactly, to the places that it has', () => {
    // In binary fractions 0.1 + 0.2 is 0.30000000000000004.
    expect(sumTexts(['0.1', '0.2', '', '12'], true)).toEqual({
      filled: 3,
      numbers: 3,
      sum: '12.3',
      least: '0.1',
      most: '12.0',
      unit: '',
    });
  });
  it('adds up nothing of texts, though they be digits', () => {
    expect(sumTexts(['9521101530012', '9521101530029'], false)).toMatchObject({ filled: 2, numbers: 0, sum: null });
  });
  it('adds up measures of one unit, and leaves those of several', () => {
    expect(sumTexts(['1.2 kg', '0.35 kg'], false)).toMatchObject({
      sum: '1.55',
      least: '0.35',
      most: '1.20',
      unit: 'kg',
    });
    expect(sumTexts(['1.2 kg', '350 g'], false)).toMatchObject({ filled: 2, numbers: 0, sum: null });
  });
  it('counts what is no number and leaves it out', () => {
    expect(sumTexts(['soon', '3', '-4.50'], true)).toMatchObject({
      filled: 3,
      numbers: 2,
      sum: '-1.50',
      least: '-4.50',
    });
    expect(sumTexts(['', ''], true)).toMatchObject({ filled: 0, sum: null });
  });
  it('has a mean of those that are numbers', () => {
    expect(getMean(sumTexts(['1', '2', '', '2'], true))).toBe('1.67');
    expect(getMean(sumTexts(['1.005', '1.006'], true))).toBe('1.006');
    expect(getMean(sumTexts([''], true))).toBeNull();
  });
});
