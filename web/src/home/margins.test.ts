import { marginEdges } from '@basileus/core/pricing';
import { describe, expect, it } from 'vitest';
import { nameMarginBand, toMarginClauses } from './margins';

const bands = Array.from({ length: marginEdges.length + 1 }, (_, i) => i);

describe('bands of margins', () => {
  it('are called by where they begin and end', () => {
    expect(bands.map(nameMarginBand)).toEqual([
      'at a loss',
      '0 to 10 %',
      '10 to 20 %',
      '20 to 30 %',
      '30 to 40 %',
      '40 % and more',
    ]);
  });
  it('ask for what stands in them and in no other', () => {
    const field = 'stall/~margin';
    expect(toMarginClauses(field, 0)).toEqual([{ is: 'under', field, value: '0' }]);
    expect(toMarginClauses(field, 2)).toEqual([
      { is: 'at-least', field, value: '10' },
      { is: 'under', field, value: '20' },
    ]);
    expect(toMarginClauses(field, 5)).toEqual([{ is: 'at-least', field, value: '40' }]);
  });
});
