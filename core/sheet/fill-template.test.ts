// Templates made by a library that is not ours, filled here, and opened by that library again.
import ExcelJS from 'exceljs';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { SheetError } from './bounds';
import { fillTemplate } from './fill-template';

async function makeBlank(): Promise<Uint8Array> {
  const book = new ExcelJS.Workbook();
  book.addWorksheet('Read me').addRow(['How to fill this in']);
  const sheet = book.addWorksheet('To fill', { views: [{ state: 'frozen', ySplit: 2 }] });
  sheet.addRows([
    ['Code', 'Name', 'Colour'],
    ['code', 'name', 'colour'],
    ['EXAMPLE', 'An example of ours', 'Red'],
  ]);
  sheet.getCell('C3').dataValidation = { type: 'list', formulae: ['"Red,Blue"'] };
  sheet.getColumn(2).width = 44;
  sheet.getColumn(2).alignment = { wrapText: true };
  sheet.getCell('A3').numFmt = '@';
  sheet.getRow(1).font = { bold: true };
  return new Uint8Array(await book.xlsx.writeBuffer());
}
const open = async (bytes: Uint8Array): Promise<ExcelJS.Workbook> => {
  const book = new ExcelJS.Workbook();
  await book.xlsx.load(bytes.buffer as ArrayBuffer);
  return book;
};

describe('a blank template', () => {
  it('is filled under its headings; the example goes, all else stays as it was', async () => {
    const blank = await makeBlank();
    const filled = fillTemplate(blank, 'To fill', 2, [
      ['A-1', 'Jug & <basin>', 'Blue'],
      ['A-2', '=1+1', ''],
      ['007', '', 'two\nlines'],
    ]);
    const sheet = (await open(filled)).getWorksheet('To fill')!;
    const rows: unknown[] = [];
    sheet.eachRow((row) => rows.push((row.values as unknown[]).slice(1)));
    expect(rows).toEqual([
      ['Code', 'Name', 'Colour'],
      ['code', 'name', 'colour'],
      ['A-1', 'Jug & <basin>', 'Blue'],
      ['A-2', '=1+1'],
      ['007', undefined, 'two\nlines'],
    ]);
    expect(sheet.getCell('C3').dataValidation).toMatchObject({ type: 'list', formulae: ['"Red,Blue"'] });
    expect([sheet.getColumn(2).width, sheet.getRow(1).font.bold]).toEqual([44, true]);
    // Cells look as the template has them, so that a number that somebody types over stays the text that it is.
    expect([sheet.getCell('A5').numFmt, sheet.getCell('B4').alignment?.wrapText]).toEqual(['@', true]);
    const [before, after] = [unzipSync(blank), unzipSync(filled)];
    expect(Object.keys(after)).toEqual(Object.keys(before));
    const changed = Object.keys(before).filter((n) => Buffer.compare(before[n]!, after[n]!) !== 0);
    expect(changed).toEqual(['xl/worksheets/sheet2.xml']);
  });
  it('loses the note of how its formulas follow one another, which names cells that are gone', async () => {
    const parts = unzipSync(await makeBlank());
    const put = (name: string, text: string): void => void (parts[name] = strToU8(text));
    const text = (name: string): string => strFromU8(parts[name]!);
    put('xl/calcChain.xml', '<calcChain xmlns="x"><c r="C3" i="2"/></calcChain>');
    put(
      '[Content_Types].xml',
      text('[Content_Types].xml').replace(
        '</Types>',
        '<Override PartName="/xl/calcChain.xml" ContentType="y"/></Types>',
      ),
    );
    const rels = 'xl/_rels/workbook.xml.rels';
    put(
      rels,
      text(rels).replace(
        '</Relationships>',
        '<Relationship Id="rId99" Type="z" Target="calcChain.xml"/></Relationships>',
      ),
    );
    const filled = unzipSync(fillTemplate(zipSync(parts), 'To fill', 2, [['A-1', 'Jug', 'Red']]));
    expect(Object.keys(filled)).not.toContain('xl/calcChain.xml');
    expect(strFromU8(filled['[Content_Types].xml']!) + strFromU8(filled[rels]!)).not.toContain('calcChain');
    expect(strFromU8(filled[rels]!)).toContain('worksheets/sheet2.xml');
  });
  it('that unpacks to more than any has, or is torn, is refused', async () => {
    const blank = await makeBlank();
    expect(() => fillTemplate(blank, 'To fill', 2, [], 10_000)).toThrow(/unpacks to far more/);
    expect(() => fillTemplate(blank.subarray(0, blank.length / 2), 'To fill', 2, [])).toThrow(SheetError);
  });
  it('says so where its sheet is not there', async () => {
    const blank = await makeBlank();
    expect(() => fillTemplate(blank, 'Another', 2, [])).toThrow(/has no sheet “Another” any more/);
    // Nothing but headings, where there is nothing to fill it with.
    const sheet = (await open(fillTemplate(blank, 'To fill', 2, []))).getWorksheet('To fill')!;
    expect(sheet.rowCount).toBe(2);
  });
});
