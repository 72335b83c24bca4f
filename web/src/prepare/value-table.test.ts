import type { ValueRow } from '@basileus/contract';
import type { Rulebook } from '@basileus/core/rulebook';
import { describe, expect, it } from 'vitest';
import { readValueTable, writeValueTable } from './value-table';

const entry = (code: string, label: string) => ({ code, label, also: [] });
const rulebook = {
  attributes: [{ key: 'colour', label: 'Colour', codes: 'hues' }],
  codeLists: { hues: { label: 'Hues', entries: [entry('blu', 'Blue'), entry('g1', 'Green'), entry('g2', 'green')] } },
} as unknown as Rulebook;
const row = (ours: string, theirs: string | null): ValueRow => ({
  attribute: 'colour',
  label: 'Colour',
  ours,
  items: 3,
  theirs,
  by: theirs === null ? 'nothing' : 'chosen',
  node: null,
  proposals: [],
});

describe('a table of values', () => {
  it('goes out with what the list calls a value, or its code where two are called the same, and comes back as it was', () => {
    const rows = [row('Navy, "deep"', 'blu'), row('Moss', 'g2'), row('=cmd', null)];
    const text = writeValueTable(rows, rulebook);
    expect(text.split('\r\n')).toEqual([
      'Attribute,Our value,Items,Their value',
      'Colour,"Navy, ""deep""",3,Blue',
      'Colour,Moss,3,g2',
      `Colour,"'=cmd",3,`,
    ]);
    expect(readValueTable(`\uFEFF${text}`)).toEqual([
      { attribute: 'Colour', ours: 'Navy, "deep"', theirs: 'Blue' },
      { attribute: 'Colour', ours: 'Moss', theirs: 'g2' },
      { attribute: 'Colour', ours: '=cmd', theirs: '' },
    ]);
  });
  it('is understood with its columns in another order, and pasted from a spreadsheet without a head', () => {
    expect(readValueTable('their value;OUR VALUE;Attribute\nBlue;Navy;Colour')).toEqual([
      { attribute: 'Colour', ours: 'Navy', theirs: 'Blue' },
    ]);
    expect(readValueTable('Colour\tNavy\tBlue\n\nColour\tMoss\t\n')).toEqual([
      { attribute: 'Colour', ours: 'Navy', theirs: 'Blue' },
      { attribute: 'Colour', ours: 'Moss', theirs: '' },
    ]);
    expect(readValueTable('  ')).toEqual([]);
  });
});
