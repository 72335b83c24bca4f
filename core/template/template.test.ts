// Blank templates, made by a library that is not ours, read and made into rulebooks.
import ExcelJS from 'exceljs';
import { describe, expect, it } from 'vitest';
import { compileFields, firstFields } from '../product';
import { parseRulebook } from '../rulebook';
import { readListSource } from '../sheet';
import { draftRulebook, readTemplate, type SaidOfTemplate, type TemplateSettings, understandTemplate } from '.';
import { readLevel } from './understand-template';

const fields = compileFields(firstFields);
const settings: TemplateSettings = {
  name: 'Pantry Lane',
  category: 'Storage jars',
  country: 'IE',
  currency: 'EUR',
  language: 'en',
  columns: {},
};

/** A workbook with instructions, a sheet that explains each field, one of values, and the one to fill. */
async function makeTemplate(): Promise<Uint8Array> {
  const book = new ExcelJS.Workbook();
  book
    .addWorksheet('Read me first')
    .addRows([['How to fill this in'], ['Write one item a row. Save. Bring it to the counter.']]);
  book.addWorksheet('Fields').addRows([
    ['Name of field', 'Needed', 'What it means', 'Example', 'Most characters'],
    ['Your code', 'Required', 'The code under which you keep it', 'JAR-1', '40'],
    ['Item name', 'Required', 'As buyers read it', 'Glass jar, 1 l', '1,200'],
    ['Closure', 'Required', 'How it is shut', 'Clip', ''],
    ['Story', 'Recommended', 'What there is to say', '', '2000'],
    ['Width (cm)', 'Optional', 'Across', '12.5', ''],
  ]);
  const lists = book.addWorksheet('Lists', { state: 'hidden' });
  lists.addRows([
    ['Closure', 'Colour'],
    ['Clip', 'Clear'],
    ['Screw', 'Green'],
    ['Cork', 'Brown'],
    ['', 'Black'],
  ]);
  const fill = book.addWorksheet('To fill');
  fill.addRows([
    ['Pantry Lane, autumn'],
    [
      'Your code',
      'Item name',
      'Brand',
      'EAN',
      'Closure',
      'Colour',
      'Story',
      'Width (cm)',
      'Asking price',
      'Pieces',
      'Photo 1',
      'Photo 2',
    ],
    [
      'code',
      'item_name',
      'brand',
      'ean',
      'closure',
      'colour',
      'story',
      'width',
      'asking_price',
      'pieces',
      'photo_1',
      'photo_2',
    ],
    [
      'required',
      'required',
      'required',
      'optional',
      'required',
      'optional',
      'recommended',
      'optional',
      'required',
      'required',
      'required',
      'optional',
    ],
  ]);
  const drop = (column: string, formula: string): void => {
    for (let row = 5; row < 9; row++)
      fill.getCell(`${column}${row}`).dataValidation = { type: 'list', formulae: [formula], allowBlank: true };
  };
  book.definedNames.add('Lists!$B$2:$B$5', 'colours');
  drop('E', 'Lists!$A$2:$A$4');
  drop('F', 'colours');
  return new Uint8Array(await book.xlsx.writeBuffer());
}
const read = async (bytes: Uint8Array, said: SaidOfTemplate = {}) =>
  understandTemplate(
    await readTemplate(async function* () {
      yield await Promise.resolve(bytes);
    }),
    fields,
    said,
  );

describe('a blank template', () => {
  it('tells which sheet is to be filled, from which row, and what each column asks', async () => {
    const reading = (await read(await makeTemplate()))!;
    expect(reading).toMatchObject({ sheet: 'To fill', heads: { labels: 1, keys: 2 }, firstRow: 4 });
    const of = (label: string) => reading.columns.find((c) => c.label === label)!;
    expect(reading.columns.map((c) => [c.label, c.field, c.level])).toEqual([
      ['Your code', undefined, 'must'],
      ['Item name', 'title', 'must'],
      ['Brand', 'brand', 'must'],
      ['EAN', 'gtin', 'may'],
      ['Closure', undefined, 'must'],
      ['Colour', 'fact.colour', 'may'],
      ['Story', undefined, 'should'],
      ['Width (cm)', 'fact.width', 'may'],
      ['Asking price', 'price', 'must'],
      ['Pieces', 'fact.pieces', 'must'],
      ['Photo 1', 'pictures', 'must'],
      ['Photo 2', 'pictures', 'may'],
    ]);
    expect(of('Closure')).toMatchObject({
      values: ['Clip', 'Screw', 'Cork'],
      levelFrom: 'row',
      help: 'How it is shut',
      example: 'Clip',
    });
    expect(of('Colour').values).toEqual(['Clear', 'Green', 'Brown', 'Black']);
    expect([of('Item name').maxCharacters, of('Story').maxCharacters]).toEqual([1200, 2000]);
  });
  it('becomes a rulebook that is valid, once somebody has said which column is the SKU', async () => {
    const reading = (await read(await makeTemplate()))!;
    expect(draftRulebook(reading, settings, fields, '2026.11')).toEqual({ faults: ['no-sku'] });
    const made = draftRulebook(
      reading,
      { ...settings, columns: { 0: { field: 'sku' }, 9: { field: 'stock' } } },
      fields,
      '2026.11',
    );
    if ('faults' in made) throw new Error(made.faults.join());
    const parsed = parseRulebook(made.document);
    expect(parsed.ok ? [] : parsed.faults).toEqual([]);
    if (!parsed.ok) return;
    const { rulebook } = parsed;
    const asked = rulebook.attributes.map((a) => [a.key, a.type]);
    expect(asked).toEqual(
      expect.arrayContaining([
        ['item_name', 'text'],
        ['closure', 'one-of'],
        ['width', 'measure'],
        ['asking_price@ie', 'money'],
        ['pieces', 'integer'],
      ]),
    );
    expect(rulebook.roles).toMatchObject({
      title: 'item_name',
      identifier: 'ean',
      quantity: 'pieces',
      price: 'asking_price@ie',
    });
    expect(rulebook.forms[0]!.slots.map((s) => [s.label, s.holds.what])).toEqual([
      ['Your code', 'sku'],
      ['Item name', 'value'],
      ['Brand', 'value'],
      ['EAN', 'value'],
      ['Closure', 'value'],
      ['Colour', 'value'],
      ['Story', 'value'],
      ['Width (cm)', 'amount'],
      ['Asking price', 'value'],
      ['Pieces', 'value'],
      ['Photo 1', 'item'],
      ['Photo 2', 'item'],
    ]);
    expect(rulebook.pictures).toMatchObject({ min: 1 });
    expect(rulebook.sku.max).toBe(40);
  });
  it('of one heading row says by stars what must be filled, lists in the cells themselves, and leaves gaps where it has them', async () => {
    const book = new ExcelJS.Workbook();
    const sheet = book.addWorksheet('Items');
    sheet.addRow(['SKU*', 'Title *', '', 'Fragile', 'Price', 'Stock']);
    sheet.getCell('D2').dataValidation = { type: 'list', formulae: ['"Ja,Nein"'] };
    const reading = (await read(new Uint8Array(await book.xlsx.writeBuffer())))!;
    expect(reading.columns.map((c) => [c.index, c.label, c.heading, c.level, c.values])).toEqual([
      [0, 'SKU', 'SKU*', 'must', []],
      [1, 'Title', 'Title *', 'must', []],
      [3, 'Fragile', 'Fragile', 'may', ['Ja', 'Nein']],
      [4, 'Price', 'Price', 'may', []],
      [5, 'Stock', 'Stock', 'may', []],
    ]);
    const made = draftRulebook(reading, settings, fields, '2026.11');
    if ('faults' in made) throw new Error(made.faults.join());
    const parsed = parseRulebook(made.document);
    expect(parsed.ok ? [] : parsed.faults).toEqual([]);
    // The gap keeps its place, so that what follows stands in its own column.
    expect(parsed.ok && parsed.rulebook.forms[0]!.slots.map((s) => s.label)).toEqual([
      'SKU*',
      'Title *',
      'Column 3',
      'Fragile',
      'Price',
      'Stock',
    ]);
  });
  it('is read as a person says where it was misread: another sheet, another first row', async () => {
    const book = new ExcelJS.Workbook();
    book.addWorksheet('Old').addRows([['SKU', 'Title', 'Price', 'Stock', 'Brand', 'Colour']]);
    book.addWorksheet('New').addRows([
      ['SKU', 'Title', 'Price'],
      ['nötig', 'nötig', 'egal'],
      ['A-1', 'Example', '1.00'],
    ]);
    const bytes = new Uint8Array(await book.xlsx.writeBuffer());
    expect(await read(bytes)).toMatchObject({ sheet: 'Old', firstRow: 1 });
    expect(await read(bytes, { sheet: 'New' })).toMatchObject({ sheet: 'New', firstRow: 1 });
    const said = (await read(bytes, { sheet: 'New', firstRow: 2 }))!;
    expect([said.firstRow, said.heads, said.columns.map((c) => c.label)]).toEqual([
      2,
      { labels: 0, keys: undefined },
      ['SKU', 'Title', 'Price'],
    ]);
    expect(await read(bytes, { sheet: 'Gone' })).toBeUndefined();
  });
  it('is none where no sheet has headings', async () => {
    const book = new ExcelJS.Workbook();
    book.addWorksheet('Notes').addRows([['Only'], ['words']]);
    expect(await read(new Uint8Array(await book.xlsx.writeBuffer()))).toBeUndefined();
  });
});

describe('what a drop-down offers', () => {
  const names = new Map([
    ['colours', "'My lists'!$C$2:$C$9"],
    ['loop', 'loop'],
  ]);
  it.each([
    ['"a, b,c"', ['a', 'b', 'c']],
    ['Lists!$A$2:$A$9', { sheet: 'Lists', column: 0, firstRow: 1, lastRow: 8 }],
    ["'It''s here'!$AB$3", { sheet: "It's here", column: 27, firstRow: 2, lastRow: 2 }],
    ['$B$2:$B$4', { sheet: undefined, column: 1, firstRow: 1, lastRow: 3 }],
    ['Lists!$A:$A', { sheet: 'Lists', column: 0, firstRow: 0, lastRow: 1_048_575 }],
    ['Colours', { sheet: 'My lists', column: 2, firstRow: 1, lastRow: 8 }],
    ['loop', undefined],
    ['INDIRECT(A1)', undefined],
    ['Lists!$A$2:$B$9', undefined],
  ])('%s', (formula, list) => {
    expect(readListSource(formula, names)).toEqual(list);
  });
  it.each([
    ['Required', 'must'],
    ['Optional (if known)', 'may'],
    ['Conditionally required', 'should'],
    ['Pflichtfeld', 'must'],
    ['blue', undefined],
  ])('a level is said by %s', (cell, level) => {
    expect(readLevel(cell)).toBe(level);
  });
});
