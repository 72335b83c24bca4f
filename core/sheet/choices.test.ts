// Drop-downs of sheets: as ECMA-376 writes them (part 1, 18.3.1.32), as its extension does, and as exceljs does, which is not ours.
import ExcelJS from 'exceljs';
import { describe, expect, it } from 'vitest';
import { type ColumnChoice, createChoiceReader, readListSource } from './choices';
import { openWorkbook } from './workbook';

const names = new Map([
  ['hues', 'Lists!$A$2:$A$9'],
  ['again', '=hues'],
  ['one', 'two'],
  ['two', 'three'],
  ['three', 'four'],
  ['four', 'five'],
  ['five', '"a,b"'],
  ['loop', 'loop'],
]);
const cells = (sheet: string | undefined, column: number, firstRow: number, lastRow: number) => ({
  sheet,
  column,
  firstRow,
  lastRow,
});

describe('where a drop-down has its list from', () => {
  it.each([
    ['"Black, Blue ,,Red"', ['Black', 'Blue', 'Red']],
    ['="Black"', ['Black']],
    [' "" ', []],
    ['$A$2:$A$9', cells(undefined, 0, 1, 8)],
    ['AB3', cells(undefined, 27, 2, 2)],
    ['C2:C7', cells(undefined, 2, 1, 6)],
    ['Lists!$B$1:$B$4', cells('Lists', 1, 0, 3)],
    ["'It''s a list'!$A$1:$A$2", cells("It's a list", 0, 0, 1)],
    ['Lists!$D:$D', cells('Lists', 3, 0, 1_048_575)],
    ['D2:D', cells(undefined, 3, 1, 1)],
    ['Hues', cells('Lists', 0, 1, 8)],
    ['=again', cells('Lists', 0, 1, 8)],
    ['two', ['a', 'b']],
    // Names that lead nowhere, too far, or to what is worked out.
    ['one', undefined],
    ['loop', undefined],
    ['nobody', undefined],
    ['A1:B2', undefined],
    ['$A', undefined],
    ['INDIRECT($A$1)', undefined],
    ['OFFSET(Lists!$A$1,0,0,3)', undefined],
    ['"open', undefined],
    ['', undefined],
  ])('%s', (formula, list) => {
    expect(readListSource(formula, names)).toEqual(list);
  });
});

function readChoices(part: string, size = part.length): ColumnChoice[] {
  const found: ColumnChoice[] = [];
  const take = createChoiceReader(names, (c) => void found.push(c));
  for (let i = 0; i < part.length; i += size) take(part.slice(i, i + size), i + size >= part.length);
  return found;
}

describe('drop-downs of a sheet', () => {
  const part =
    '<worksheet><dataValidations count="5">' +
    '<dataValidation type="list" sqref="B2:C9 AA3 $E$4:$E$9"><formula1>"x,y"</formula1></dataValidation>' +
    '<dataValidation type="whole" sqref="D2"><formula1>1</formula1><formula2>"p,q"</formula2></dataValidation>' +
    '<dataValidation type="list" sqref="F2"><formula1>INDIRECT(A1)</formula1></dataValidation>' +
    '<dataValidation type="list" sqref="G2 total H5"><formula1>hues</formula1><formula2>never</formula2></dataValidation>' +
    '</dataValidations><extLst><ext><x14:dataValidations><x14:dataValidation type="list">' +
    "<x14:formula1><xm:f>'My lists'!$A$1:$A$3</xm:f></x14:formula1><xm:sqref>I2:I99</xm:sqref>" +
    '</x14:dataValidation></x14:dataValidations></ext></extLst></worksheet>';
  const hues = cells('Lists', 0, 1, 8);
  const all = [
    { from: 1, to: 2, firstRow: 1, list: ['x', 'y'] },
    { from: 26, to: 26, firstRow: 2, list: ['x', 'y'] },
    { from: 4, to: 4, firstRow: 3, list: ['x', 'y'] },
    { from: 6, to: 6, firstRow: 1, list: hues },
    { from: 7, to: 7, firstRow: 4, list: hues },
    { from: 8, to: 8, firstRow: 1, list: cells('My lists', 0, 0, 2) },
  ];
  it('are those that are lists, each for its columns; what is no cell or is worked out is passed by', () => {
    expect(readChoices(part)).toEqual(all);
  });
  it('are the same wherever the part is cut', () => {
    for (const size of [1, 7, 50]) expect(readChoices(part, size)).toEqual(all);
  });
  it('of a workbook that exceljs wrote are those of the sheet that was asked for', async () => {
    const workbook = new ExcelJS.Workbook();
    const validate = (sheet: ExcelJS.Worksheet, cell: string, formula: string) => {
      sheet.getCell(cell).dataValidation = { type: 'list', formulae: [formula] };
    };
    const goods = workbook.addWorksheet('Goods'),
      lists = workbook.addWorksheet('Lists');
    lists.addRows([['Hue'], ['Black'], ['Blue']]);
    workbook.definedNames.add('Lists!$A$2:$A$3', 'Hues');
    validate(goods, 'B2', '"Pan,Pot"');
    validate(goods, 'C3', 'Hues');
    validate(lists, 'D4', '"no"');
    const bytes = new Uint8Array(await workbook.xlsx.writeBuffer());
    const there = await openWorkbook(async function* () {
      yield await Promise.resolve(bytes);
    });
    expect(await there.choices('Goods')).toEqual([
      { from: 1, to: 1, firstRow: 1, list: ['Pan', 'Pot'] },
      { from: 2, to: 2, firstRow: 2, list: cells('Lists', 0, 1, 2) },
    ]);
    expect(await there.choices('Nowhere')).toEqual([]);
  });
});
