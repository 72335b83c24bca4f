// What an import leaves out, and what it says of it.
import { describe, expect, it } from 'vitest';
import { fields, sayProblem } from '../tests/house-fields';
import { type ImportReading, leaveOutOfFamily, planRow } from '.';

const reading: ImportReading = {
  columns: [
    { index: 0, field: 'sku' },
    { index: 1, field: 'parent_sku' },
    { index: 2, field: 'stock' },
    { index: 3, field: 'price' },
  ],
  decimalSign: '.',
  listSeparator: '|',
  mode: 'both',
  blankClears: true,
  acceptMended: true,
};
const held = { sku: 'A', title: 'Pan', parent_sku: 'FAM', stock: '5', price: '9.00' };
const plan = (cells: string[], kind: 'single' | 'family' | 'variant' | 'bundle') =>
  planRow(cells, reading, held, { fields, seen: new Map(), kind });

describe('an item that is there', () => {
  it('keeps its family with a word where the file names another, and without one where it says nothing new', () => {
    const other = plan(['A', 'OTHER', '5', '9.00'], 'variant');
    expect(other.problems.map(sayProblem)).toEqual([
      'Family SKU “OTHER” is left out: an item that is there keeps its family, FAM.',
    ]);
    for (const cell of ['', 'FAM']) {
      const p = plan(['A', cell, '5', '9.00'], 'variant');
      expect([p.action, p.problems]).toEqual(['same', []]);
    }
  });
  it('of which stock follows from others keeps it', () => {
    const p = plan(['A', 'FAM', '7', '9.00'], 'bundle');
    expect(p.problems.map(sayProblem)).toEqual(['Stock “7” is left out: it follows from that of other items.']);
    expect(p.changes).toEqual([]);
    expect(plan(['A', 'FAM', '7', '9.00'], 'single').changes).toEqual([{ field: 'stock', before: '5', after: '7' }]);
  });
  it('that is a family takes no price', () => {
    const p = plan(['A', 'FAM', '5', '8.00'], 'family');
    expect(p.problems.map(sayProblem)).toEqual([
      'Price “8.00” is left out: it belongs to the variants of this family.',
    ]);
    expect(p.changes).toEqual([]);
  });
});

describe('what belongs to the variants of a family', () => {
  it('is its number, its money and its stock, and no text', () => {
    expect(fields.all.filter((f) => fields.isOfSellable(f.key)).map((f) => f.key)).toEqual([
      'gtin',
      'cost',
      'price',
      'sale_price',
      'sale_start',
      'sale_end',
      'stock',
      'fact.price@eur',
      'fact.sale_price@eur',
      'fact.price@sek',
      'fact.sale_price@sek',
      'fact.price@usd',
      'fact.sale_price@usd',
      'fact.price@kwd',
      'fact.sale_price@kwd',
      'fact.price@jpy',
      'fact.sale_price@jpy',
    ]);
    expect(fields.isOfSellable('no such field')).toBe(false);
  });
  it('is left out of a variant’s row where the market takes it in that of the family', () => {
    const left = {
      field: 'brand',
      value: 'Other',
      kind: 'left-out',
      fact: { is: 'of-family' },
      level: 'caution',
    } as const;
    expect(sayProblem(left)).toBe(
      'Brand “Other” is left out: it stands in the row of the family, for all of its variants.',
    );
  });
  it('is left out of a row that turns out to be one', () => {
    const title = { field: 'title', before: null, after: 'Jug' };
    expect(leaveOutOfFamily([title], fields)).toEqual({ changes: [title], problems: [] });
    const { changes, problems } = leaveOutOfFamily([title, { field: 'price', before: null, after: '9.00' }], fields);
    expect(changes).toEqual([title]);
    expect(problems).toEqual([
      { field: 'price', value: '9.00', kind: 'left-out', fact: { is: 'of-variants' }, level: 'caution' },
    ]);
  });
});
