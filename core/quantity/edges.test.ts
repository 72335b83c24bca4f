// Numbers and measures at the edges of what can be read.
import { describe, expect, it } from 'vitest';
import { computeUsual, readNumber } from '.';

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
