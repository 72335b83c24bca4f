import { describe, expect, it } from 'vitest';
import { findOptions } from './ListPicker';

const options = [
  { code: 'a1', label: 'Stainless steel' },
  { code: 'a2', label: 'Steel, enamelled' },
  { code: 'st', label: 'Cast iron' },
  { code: 'ö', label: 'Öl' },
];
const found = (typed: string) => findOptions(options, typed).map((o) => o.code);

describe('entries of a list as one types', () => {
  it('have every word in their name or code, those that begin so first', () => {
    expect(found('STEEL')).toEqual(['a2', 'a1']);
    expect(found('steel stain')).toEqual(['a1']);
    expect(found('st')).toEqual(['a1', 'a2', 'st'].sort((a, b) => Number(a === 'st') - Number(b === 'st')));
    expect(found('öl')).toEqual(['ö']);
    expect(found('tin')).toEqual([]);
  });
  it('are all of them while nothing is typed', () => {
    expect(found(' ')).toEqual(['a1', 'a2', 'st', 'ö']);
  });
});
