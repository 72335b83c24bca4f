// Cells with several measures each. Common practice, no source: "30 x 20 x 10 cm" under one heading.
import { describe, expect, it } from 'vitest';
import { compileFields, firstFields } from '../product';
import { type ImportReading, planRow, understandSheet, wordProblem } from '.';

const fields = compileFields(firstFields);
const sizes = ['fact.length', 'fact.width', 'fact.height'];
const reading = (more: Partial<ImportReading> = {}): ImportReading => ({
  columns: [
    { index: 0, field: 'sku' },
    { index: 1, field: 'title' },
    ...sizes.map((field, at) => ({ index: 2, field, part: { at, of: 3 } })),
  ],
  ...{ decimalSign: '.', listSeparator: '|', mode: 'both', blankClears: false, acceptMended: true },
  ...more,
});
const read = (cell: string, more?: Partial<ImportReading>) => {
  const { action, changes, problems } = planRow(['A', 'Pan', cell], reading(more), undefined, {
    fields,
    seen: new Map(),
  });
  return [action, changes.slice(1).map((c) => c.after), problems.map((p) => wordProblem(p, fields))];
};

describe('a cell with three measures', () => {
  it.each([
    ['30 x 20 x 10 cm', ['30 cm', '20 cm', '10 cm']],
    ['300×200×95.5 mm', ['300 mm', '200 mm', '95.5 mm']],
    ['30 cm * 20 cm * 10 mm', ['30 cm', '20 cm', '10 mm']],
    ['12 by 8 by 4 in', ['12 in', '8 in', '4 in']],
    // The unit of the field.
    ['30x20x10', ['30 cm', '20 cm', '10 cm']],
  ])('“%s” fills three fields', (cell, values) => {
    expect(read(cell)).toEqual(['create', values, []]);
  });
  it('is told once where only the other decimal sign can read it, and refused where nothing mended is taken', () => {
    const says = 'Length “9,5 x 9 x 10” is written with the other decimal sign; only 9.5 x 9 x 10 can be meant.';
    expect(read('9,5 x 9 x 10')).toEqual(['create', ['9.5 cm', '9 cm', '10 cm'], [says]]);
    expect(read('9,5 x 9 x 10', { acceptMended: false })).toEqual(['refuse', [], [says]]);
    expect(read('9,5 x 9 x 10', { decimalSign: ',' })[2]).toEqual([]);
  });
  it.each(['30 x 20', '30 x 20 x 10 x 5', 'Ø 27 x 2.5', 'L 30 x B 20 x H 10', 'round', '27.11.2026'])(
    '“%s” is refused, once',
    (cell) => {
      expect(read(cell)).toEqual(['refuse', [], [`Length “${cell}” is not 3 measures, such as 30 x 20 x 10 cm.`]]);
    },
  );
  it('is read as another where a person has said so, all of it', () => {
    const replacements = [{ field: 'fact.length', from: 'Ø 27 x 2', to: '27 x 27 x 2' }];
    expect(read('Ø 27 x 2', { replacements })).toEqual(['create', ['27 cm', '27 cm', '2 cm'], []]);
  });
});

describe('a column with three measures in each cell', () => {
  const guess = (heading: string, cells: string[], more: string[] = []) => {
    const rows = [
      ['SKU', 'Title', heading, ...more],
      ...cells.map((c, i) => [`A-${i}`, 'Pan', c, ...more.map(() => '4')]),
    ];
    return understandSheet(rows, fields)
      .columns.slice(2)
      .map((c) => [c.field, c.parts?.length, c.why]);
  };
  it('is told by its heading and its cells', () => {
    expect(guess('Maße', ['9,5 x 9 x 10', '1 x 2 x 3', 'round'])).toEqual([['fact.length', 3, 'words']]);
    expect(guess('Maße', ['9,5 x 9 x 10', 'small', 'round'])).toEqual([[undefined, undefined, 'none']]);
    expect(guess('Maße', ['9 x 10', '1 x 2'])[0]![1]).toBeUndefined();
    expect(guess('Maße', [''])[0]![1]).toBeUndefined();
    expect(guess('Notes', ['1 x 2 x 3'])[0]![1]).toBeUndefined();
    expect(guess('Length', ['1 x 2 x 3'])[0]![1]).toBeUndefined();
  });
  it('gives way to a column of one of them', () => {
    expect(guess('Maße', ['1 x 2 x 3', '1 x 2 x 3'], ['Width'])).toEqual([
      [undefined, undefined, 'taken'],
      ['fact.width', undefined, 'name'],
    ]);
  });
});
