// What spreadsheets, web pages and other programs make of cells on the way, as it comes into a row of ours.
import { describe, expect, it } from 'vitest';
import { compileFields, firstFields } from '../product';
import { planRow, readRow, wordProblem } from '.';

const fields = compileFields(firstFields);
const read = (field: string, cell: string, rest: { acceptMended?: boolean; held?: string } = {}) => {
  const { values, problems } = readRow(
    [cell],
    {
      columns: [{ index: 0, field }],
      decimalSign: '.',
      listSeparator: '|',
      mode: 'both',
      blankClears: false,
      acceptMended: rest.acceptMended ?? true,
    },
    rest.held === undefined ? undefined : { [field]: rest.held },
    fields,
  );
  return { is: values[field], level: problems[0]?.level, says: problems.map((p) => wordProblem(p, fields)).join(' ') };
};

describe('what stands in the place of a value', () => {
  it.each(['#REF!', '#N/A', '#NAME?', '#DIV/0!', '#WERT!', '#NV', 'Err:502'])('“%s” is taken into no field', (cell) => {
    for (const field of [
      'title',
      'brand',
      'price',
      'gtin',
      'fact.width',
      'highlights',
      'sale_start',
      'fact.dishwasher',
    ])
      expect({ field, ...read(field, cell) }).toMatchObject({ field, is: undefined, level: 'blocker' });
    expect(read('title', cell).says).toMatch(/where a formula failed/);
  });
  it('is told apart from a column that is too narrow, and from a text that begins alike', () => {
    expect(read('price', '########').says).toMatch(/column is too narrow/);
    expect(read('title', '#1 pan')).toEqual({ is: '#1 pan', level: undefined, says: '' });
    expect(read('title', '##').is).toBe('##');
    expect(read('title', 'Err:502 and more').is).toBe('Err:502 and more');
  });
});

describe('a date that was something else', () => {
  it.each([
    '04-Mar',
    '3. Apr',
    '02.Okt',
    '1-déc',
    'Mar-04',
    '2026-04-03 00:00:00',
    '2026-04-03T00:00:00.000Z',
    '2026-04-03',
    '01/02/2026',
    '4 maj',
    '04-mrz',
    '3 févr.',
    'January 12',
    '12. März 2026',
  ])('“%s” is kept in a text with a word, and taken into no measure, number or barcode', (cell) => {
    expect(read('fact.size', cell)).toMatchObject({ is: cell, level: 'caution' });
    expect(read('fact.size', cell).says).toMatch(/turned into a date/);
    for (const field of ['fact.width', 'price', 'stock', 'gtin'])
      expect({ field, ...read(field, cell) }).toMatchObject({ field, is: undefined, level: 'blocker' });
  });
  it.each([
    'Mar 1 kitchen',
    '3/4',
    '1-2',
    '24 cm',
    'March',
    '2026',
    '12:30',
    'Sept',
    '01/02/26 model',
    '2 Aprons',
    '1 apron',
    '6 Set',
    'Set 4',
    '3 Marble',
    '12 Decor',
    '4 Mayfair',
    'Pan 4',
  ])('“%s” is none', (cell) => {
    expect(read('fact.size', cell)).toEqual({ is: cell, level: undefined, says: '' });
  });
  it('is what we hold, where only that can have become it', () => {
    expect(read('fact.size', '04-Mar', { held: '3/4' })).toMatchObject({ is: '3/4', level: 'caution' });
    expect(read('fact.size', '2026-04-03', { held: '3/4' }).says).toMatch(/3\/4 is what we hold for this SKU\.$/);
    expect(read('fact.size', '04-Mar', { held: '3/4', acceptMended: false }).is).toBe('04-Mar');
    expect(read('fact.size', '04-Mar', { held: '3/5' })).toMatchObject({ is: '04-Mar' });
    expect(read('fact.size', '04-Mar', { held: '3/5' }).says).not.toMatch(/we hold/);
  });
  it('is no damage where a date belongs', () => {
    expect(read('sale_start', '04-Mar-2026')).toEqual({ is: '2026-03-04', level: undefined, says: '' });
  });
});

describe('a day as its number', () => {
  // ECMA-376 part 1, 18.17.4.1: day 1 is the first of January 1900, and 1900 counts as a leap year.
  it.each([
    ['45992', '2025-12-01'],
    ['45992.75', '2025-12-01'],
    ['32874', '1990-01-01'],
    ['73050', '2099-12-31'],
  ])('%s is %s', (cell, day) => {
    expect(read('sale_start', cell)).toMatchObject({ is: day, level: 'caution' });
    expect(read('sale_start', cell, { acceptMended: false })).toMatchObject({ is: undefined, level: 'blocker' });
  });
  it.each(['32873', '73051', '4599', '459920', '45992 x'])('%s is none', (cell) => {
    expect(read('sale_start', cell)).toMatchObject({ is: undefined, level: 'blocker' });
    expect(read('sale_start', cell).says).toMatch(/is not a day/);
  });
});

describe('a text', () => {
  it('is mended however often it was read in the wrong encoding', () => {
    expect(read('title', 'CafÃ© pan').is).toBe('Café pan');
    expect(read('title', 'CafÃƒÂ© pan').is).toBe('Café pan');
    expect(read('description', 'Itâ€™s good').is).toBe('It’s good');
    expect(read('highlights', 'CrÃ¨me|Even base').is).toEqual(['Crème', 'Even base']);
  });
  it('loses signs that another program has written otherwise, unless it is markup', () => {
    expect(read('brand', 'Withy &amp; Wren')).toMatchObject({ is: 'Withy & Wren', level: 'caution' });
    expect(read('title', 'Caf&eacute; &#8222;Pan&#x201c; 8\\" wide').is).toBe('Café „Pan“ 8" wide');
    expect(read('description', '<p>Withy &amp; Wren</p>')).toMatchObject({ is: '<p>Withy &amp; Wren</p>', says: '' });
    expect(read('brand', 'Withy &amp; Wren', { acceptMended: false }).is).toBe('Withy &amp; Wren');
    expect(read('title', 'Pan & lid; &co; a&b').says).toBe('');
  });
  it('loses what nobody sees', () => {
    expect(read('brand', '\ufeffBrindle\u200bwick\u2060').is).toBe('Brindlewick');
    expect(read('brand', 'Brindle\u00adwick').is).toBe('Brindlewick');
    expect(read('description', 'Brat\u00adpfanne').is).toBe('Brat\u00adpfanne');
    // What joins and parts letters of some scripts is seen.
    expect(read('title', 'می\u200cخواهم').is).toBe('می\u200cخواهم');
  });
});

describe('a barcode', () => {
  it.each([
    'EAN 9520000001094',
    'ean-13: 9520000001094',
    'GTIN: 9520000001094',
    '９５２００００００１０９４',
    '952-0000-00109-4',
  ])('is read from “%s”', (cell) => {
    expect(read('gtin', cell)).toEqual({ is: '9520000001094', level: undefined, says: '' });
  });
  it.each(['9520000001131/9520000001148', 'EAN 9520000001095', 'EAN'])('is not guessed from “%s”', (cell) => {
    expect(read('gtin', cell)).toMatchObject({ is: cell, level: 'caution' });
  });
});

describe('yes and no', () => {
  it.each([
    ['WAHR', 'yes'],
    ['FALSCH', 'no'],
    ['VRAI', 'yes'],
    ['FAUX', 'no'],
    ['Ja', 'yes'],
    ['nej', 'no'],
    ['ИСТИНА', 'yes'],
    ['はい', 'yes'],
    ['لا', 'no'],
    ['✓', 'yes'],
    ['0', 'no'],
  ])('%s is %s', (cell, is) => {
    expect(read('fact.dishwasher', cell).is).toBe(is);
  });
  it('are not made of other words', () => {
    expect(read('fact.dishwasher', 'top rack')).toMatchObject({ is: undefined, level: 'blocker' });
  });
});

describe('a measure', () => {
  it.each(['10-12 cm', '1 1/2 in', '24:30'])('is not made of “%s”', (cell) => {
    const fields = compileFields(firstFields);
    const planned = planRow(
      ['NEW-1', 'Pan', cell],
      {
        columns: ['sku', 'title', 'fact.width'].map((field, index) => ({ index, field })),
        ...{ decimalSign: '.', listSeparator: '|', mode: 'both', blankClears: false, acceptMended: true },
      },
      undefined,
      { fields, seen: new Map() },
    );
    expect([planned.action, wordProblem(planned.problems[0]!, fields)]).toEqual([
      'refuse',
      `Width “${cell}” is not a measure; write a number and its unit, such as 24 cm.`,
    ]);
  });
});

describe('a number', () => {
  it.each(['-', 'on request', '<100', '12 sets'])('is not made of “%s”, which says how it is written', (cell) => {
    expect(read('stock', cell).says).toBe(`Stock “${cell}” is not a whole number; write digits only, such as 12.`);
    expect(read('price', '-').says).toBe('Price “-” is not a number; write it as 12.50.');
  });
});
