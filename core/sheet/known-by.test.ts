// By what the rows of a file are known. Common practice, no source: a supplier's lists have the supplier's numbers and the makers'
// barcodes, and none of our SKUs. The ISBN is an example of ISO 2108 (from memory, arithmetic verified).
import { describe, expect, it } from 'vitest';
import { compileFields, firstFields } from '../product';
import { chooseKnownBy, type ImportReading, keepKnownBy, type KnownAs, planRow, readKey, wordProblem } from '.';

const fields = compileFields(firstFields);
const reading: ImportReading = {
  columns: ['sku', 'gtin', 'mpn', 'title', 'price'].map((field, index) => ({ index, field })),
  ...{ decimalSign: '.', listSeparator: '|', mode: 'both', blankClears: false, acceptMended: true, knownBy: 'gtin' },
};
const columns = (...named: string[]) => named.map((field) => ({ field }));

describe('what rows are known by', () => {
  it('is the SKU, or else the barcode, or else the part number', () => {
    expect(chooseKnownBy(columns('gtin', 'mpn', 'sku'))).toBe('sku');
    expect(chooseKnownBy(columns('mpn', 'gtin'))).toBe('gtin');
    expect(chooseKnownBy(columns('title', 'mpn'))).toBe('mpn');
    expect(chooseKnownBy(columns('title'))).toBe('sku');
  });
  it('stays what was wanted as long as a column holds it', () => {
    expect(keepKnownBy('gtin', columns('sku', 'gtin'))).toBe('gtin');
    expect(keepKnownBy('gtin', columns('sku', 'mpn'))).toBe('sku');
    expect(keepKnownBy('sku', columns('gtin'))).toBe('gtin');
  });
});

describe('the key of a row', () => {
  const key = (gtin: string, more: Partial<ImportReading> = {}) =>
    readKey(['4711', gtin, ' HP-24 '], { ...reading, ...more }, 'gtin', fields);
  it.each([
    ['9520000000011', '09520000000011'],
    ['036000291452', '00036000291452'],
    ['0036000291452', '00036000291452'],
    ['EAN 9520 0000 0001 1', '09520000000011'],
    ['0-306-40615-2', '09780306406157'],
    // Zeros that a spreadsheet took away, proven by the check digit.
    ['36000291452', '00036000291452'],
    ['9.52E+12', ''],
    ['9520000000018', ''],
    ['none', ''],
    ['', ''],
  ])('with the barcode %s is %s', (cell, is) => {
    expect(key(cell)).toMatchObject({ key: is, value: cell });
  });
  it('is what a person has said that the cell is read as', () => {
    expect(key('?', { replacements: [{ field: 'gtin', from: '?', to: '9520000000011' }] }).key).toBe('09520000000011');
  });
  it('may be a part number as it stands there, and is none of a file without such a column', () => {
    expect(readKey(['4711', '', ' HP-24 '], reading, 'mpn', fields)).toEqual({
      key: 'HP-24',
      value: 'HP-24',
      sku: 'HP-24',
    });
    expect(readKey(['4711'], { ...reading, columns: [] }, 'mpn', fields)).toEqual({ key: '', value: '', sku: '' });
    expect([key('EAN 9520 0000 0001 1').sku, key('036000291452').sku, key('none').sku]).toEqual([
      '9520000000011',
      '036000291452',
      '',
    ]);
  });
});

describe('a row that is known by its barcode', () => {
  const ours = { sku: 'MUG-1', gtin: '036000291452', title: 'Mug', price: '9.00' };
  const plan = (
    cells: string[],
    skus: string[],
    { isHeld = true, ...more }: { isHeld?: boolean; mode?: 'update' } = {},
  ) =>
    planRow(cells, { ...reading, ...more }, isHeld ? ours : undefined, {
      fields,
      seen: new Map([['MUG-2', 7]]),
      known: { by: 'gtin', value: cells[1]!, skus } satisfies KnownAs,
    });
  const said = (p: ReturnType<typeof plan>) => p.problems.map((x) => wordProblem(x, fields));
  const cells = ['4711', '0036000291452', '', 'Mug', '9.50'];
  it('changes the item that has it, whatever number the supplier has, and leaves the barcode as it is written here', () => {
    expect(plan(cells, ['MUG-1'])).toEqual({
      sku: 'MUG-1',
      action: 'update',
      changes: [{ field: 'price', before: '9.00', after: '9.50' }],
      problems: [],
    });
    expect(plan(['', ...cells.slice(1)], ['MUG-1']).sku).toBe('MUG-1');
  });
  it('is refused where several items have it, or an earlier row was the same', () => {
    const several = plan(cells, ['MUG-1', 'MUG-3'], { isHeld: false });
    expect([several.action, said(several)]).toEqual([
      'refuse',
      [
        'GTIN “0036000291452” is that of several items, MUG-1, MUG-3; give each its own, or bring this row with its SKU.',
      ],
    ]);
    expect(plan(cells, ['MUG-2']).problems).toMatchObject([{ fact: { is: 'sku-again', row: 7 } }]);
  });
  it('is a new item where none has it and its SKU is free, unless only known ones are changed', () => {
    const created = plan(cells, [], { isHeld: false });
    expect([created.sku, created.action, created.changes.map((c) => c.field)]).toEqual([
      '4711',
      'create',
      ['gtin', 'title', 'price'],
    ]);
    const refused = plan(cells, [], { isHeld: false, mode: 'update' });
    expect([refused.action, said(refused)]).toEqual([
      'refuse',
      ['No item of the catalog has GTIN “0036000291452”; a new one needs a SKU of its own.'],
    ]);
  });
  it('is a new item under what it is known by, where that is wanted and it has no SKU', () => {
    const plan = (made: string | undefined, mode: 'both' | 'update' = 'both', skus: string[] = []) =>
      planRow(['', ...cells.slice(1)], { ...reading, mode }, undefined, {
        ...{ fields, seen: new Map() },
        known: { by: 'gtin', value: cells[1]!, skus, ...(made === undefined ? {} : { made }) },
      });
    const created = plan('0036000291452');
    expect([created.sku, created.action, created.changes.map((c) => c.field)]).toEqual([
      '0036000291452',
      'create',
      ['gtin', 'title', 'price'],
    ]);
    expect([plan(undefined).action, plan('0036000291452', 'update').action]).toEqual(['refuse', 'refuse']);
  });
  it('never changes the item that has the supplier’s number for a SKU by chance', () => {
    const chance = plan(['MUG-1', ...cells.slice(1)], []);
    expect([chance.action, chance.problems.at(-1)!.fact]).toEqual(['refuse', { is: 'not-known', skus: [] }]);
  });
  it('is refused without a barcode and a SKU', () => {
    const blank = plan(['', '', '', 'Mug', '9.50'], [], { isHeld: false });
    expect([blank.action, said(blank)]).toEqual([
      'refuse',
      ['The row has no GTIN, by which the rows of this file are known.'],
    ]);
  });
});
