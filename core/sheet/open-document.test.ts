// OpenDocument spreadsheets as LibreOffice writes them, held against the .xlsx that it made them of, and single cases of
// OASIS OpenDocument 1.3, part 3.
import ExcelJS from 'exceljs';
import { strToU8, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { convertWithSpreadsheet } from '../tests/spreadsheet';
import { createSheetNotes, openWorkbook, SheetError, sheetBounds, type Workbook } from '.';

const source = (bytes: Uint8Array, size = 65_536) =>
  async function* () {
    for (let i = 0; i < bytes.length; i += size) yield await Promise.resolve(bytes.subarray(i, i + size));
  };
const collect = async (rows: AsyncIterable<string[][]>) => {
  const all: string[][] = [];
  for await (const batch of rows) all.push(...batch);
  return all;
};
const names = ['office', 'table', 'text', 'style', 'meta'].map(
  (n) => `xmlns:${n}="urn:oasis:names:tc:opendocument:xmlns:${n}:1.0"`,
);
const make = (tables: string, styles = '', meta = '') =>
  zipSync({
    mimetype: [strToU8('application/vnd.oasis.opendocument.spreadsheet'), { level: 0 }],
    'content.xml': strToU8(
      `<?xml version="1.0"?><office:document-content ${names.join(' ')}><office:automatic-styles>${styles}</office:automatic-styles><office:body><office:spreadsheet>${tables}</office:spreadsheet></office:body></office:document-content>`,
    ),
    ...(meta === ''
      ? {}
      : { 'meta.xml': strToU8(`<office:document-meta ${names.join(' ')}>${meta}</office:document-meta>`) }),
  });
const table = (rows: string, name = 'one', style = '') =>
  `<table:table table:name="${name}" table:style-name="${style}">${rows}</table:table>`;
const text = (t: string, more = '') =>
  `<table:table-cell office:value-type="string" ${more}><text:p>${t}</text:p></table:table-cell>`;
const row = (cells: string, more = '') => `<table:table-row ${more}>${cells}</table:table-row>`;
/** What stands first in rows that the sheet does not show. */
const listHidden = async (workbook: Workbook): Promise<(string | undefined)[]> => {
  const notes = createSheetNotes();
  return (await collect(workbook.rows(undefined, notes))).filter((r) => notes.hidden.has(r)).map((r) => r[0]);
};
const read = async (bytes: Uint8Array, name?: string) => collect((await openWorkbook(source(bytes))).rows(name));

describe('an OpenDocument spreadsheet', () => {
  it('that LibreOffice made of a workbook reads as the workbook, in pieces of any size, with its properties', async () => {
    const b = new ExcelJS.Workbook();
    const s = b.addWorksheet('Preise');
    s.addRow(['SKU', 'Größe', 'Barcode', 'Tag', 'ja', 'Text']);
    s.addRow(['A-1', 12.5, 5901234123457, new Date('2026-11-27T00:00:00Z'), true, 'two  spaces & <signs>']);
    s.addRow(['A-2', '0012', '9520000001025', new Date('2026-11-27T13:45:00Z'), false, 'one\nline more']);
    s.getCell('A6').value = 'A-3';
    s.getCell('C6').value = { richText: [{ text: 'zwei ' }, { text: 'Teile' }] };
    s.getRow(3).hidden = true;
    s.getCell('B6').note = 'a note of somebody';
    s.getCell('E6').value = 0.1 + 0.2;
    b.addWorksheet('Away', { state: 'hidden' }).addRow(['n']);
    b.addWorksheet('Notes').addRow(['x', '', 'y']);
    const xlsx = new Uint8Array(await b.xlsx.writeBuffer());
    const ods = new Uint8Array(convertWithSpreadsheet('book.xlsx', xlsx, 'ods'));
    const made = await openWorkbook(source(ods)),
      first = await openWorkbook(source(xlsx));
    expect([made.kind, first.kind]).toEqual(['open-document', 'workbook']);
    expect(made.sheets).toEqual(first.sheets);
    const truths: Record<string, string> = { TRUE: '1', FALSE: '0' };
    // LibreOffice keeps yes and no of a cell without their own format as the numbers that they are.
    const rows = (await collect(first.rows())).map((r) => r.map((c) => truths[c] ?? c));
    expect(rows[2]).toEqual(['A-2', '0012', '9520000001025', '2026-11-27 13:45', '0', 'one\nline more']);
    for (const size of [7, 501, 100_000])
      expect(await collect((await openWorkbook(source(ods, size))).rows())).toEqual(rows);
    for (const workbook of [first, made]) expect(await listHidden(workbook)).toEqual(['A-2']);
    expect(await collect(made.rows('Notes'))).toEqual([['x', '', 'y']]);
    expect(await collect(made.rows('Away'))).toEqual([['n']]);
  });
  it('has cells and rows that stand for many, and no end of blank ones', async () => {
    const rows =
      row('<table:table-cell table:number-columns-repeated="2"/>' + text('a', 'table:number-columns-repeated="2"')) +
      row(text('b') + '<table:table-cell table:number-columns-repeated="16000"/>', 'table:number-rows-repeated="2"') +
      row('<table:table-cell table:number-columns-repeated="16384"/>', 'table:number-rows-repeated="3"') +
      row('<table:covered-table-cell/>' + text('c')) +
      row('<table:table-cell table:number-columns-repeated="16384"/>', 'table:number-rows-repeated="1048569"');
    expect(await read(make(table(rows)))).toEqual([['', '', 'a', 'a'], ['b'], ['b'], [], [], [], ['', 'c']]);
  });
  it('does not show rows that are filtered away or hidden', async () => {
    const rows =
      row(text('a')) +
      row(text('b'), 'table:visibility="filter"') +
      row(text('c'), 'table:visibility="visible"') +
      row(text('d'), 'table:visibility="collapse" table:number-rows-repeated="2"');
    expect(await listHidden(await openWorkbook(source(make(table(rows)))))).toEqual(['b', 'd', 'd']);
  });
  it('has texts of several lines, with spaces that are counted, and notes that are none of them', async () => {
    const cell =
      '<table:table-cell office:value-type="string"><office:annotation><text:p>by a colleague</text:p></office:annotation>' +
      '<text:p>one<text:s text:c="3"/>\n <text:span>two</text:span><text:tab/>x</text:p><text:p>three<text:line-break/>four</text:p></table:table-cell>';
    expect(await read(make(table(row(cell))))).toEqual([['one    two\tx\nthree\nfour']]);
  });
  it('takes what stands between paragraphs for nothing, and no table within a cell for its own', async () => {
    const inner = table(row(text('inner')), 'inner');
    const cell = `<table:table-cell office:value-type="string">${inner}<text:p>a</text:p>\n  <text:p>b</text:p>\n</table:table-cell>`;
    expect(await read(make(table(row(cell) + row(text('c')))))).toEqual([['a\nb'], ['c']]);
  });
  it('keeps values as they are, not as they are shown', async () => {
    const value = (type: string, more: string, shown: string) =>
      `<table:table-cell office:value-type="${type}" ${more}><text:p>${shown}</text:p></table:table-cell>`;
    const cells =
      value('float', 'office:value="9520000001025"', '9.52E+12') +
      value('currency', 'office:value="12.5"', '£12.50') +
      value('percentage', 'office:value="0.15"', '15%') +
      value('date', 'office:date-value="2026-11-27"', '27/11/26') +
      value('date', 'office:date-value="2026-11-27T00:00:00"', '27/11/26') +
      value('date', 'office:date-value="2026-11-27T09:05:30"', 'Friday') +
      value('boolean', 'office:boolean-value="true"', 'WAHR') +
      value('string', 'office:string-value="meant"', 'shown') +
      value('float', 'office:value="1.5E-7"', '0');
    expect(await read(make(table(row(cells))))).toEqual([
      ['9520000001025', '12.5', '0.15', '2026-11-27', '2026-11-27', '2026-11-27 09:05', 'TRUE', 'meant', '0.00000015'],
    ]);
  });
  it('shows the first sheet that is not hidden, and tells its properties', async () => {
    const styles =
      '<style:style style:name="off" style:family="table"><style:table-properties table:display="false"/></style:style>';
    const meta = '<office:meta><meta:user-defined meta:name="mark">abc</meta:user-defined></office:meta>';
    const bytes = make(table(row(text('h')), 'away', 'off') + table(row(text('s')), 'here'), styles, meta);
    const book = await openWorkbook(source(bytes));
    expect(book.sheets).toEqual([
      { name: 'away', hidden: true },
      { name: 'here', hidden: false },
    ]);
    expect(book.properties).toEqual({ mark: 'abc' });
    expect(await collect(book.rows())).toEqual([['s']]);
  });
  it('that is a text document, or has no sheet, is refused with what to do', async () => {
    const letter = zipSync({
      'content.xml': strToU8(
        `<office:document-content ${names.join(' ')}><office:body><office:text/></office:body></office:document-content>`,
      ),
    });
    await expect(openWorkbook(source(letter))).rejects.toThrow(/a document, not a spreadsheet/);
    await expect(openWorkbook(source(make('')))).rejects.toThrow(SheetError);
  });
  it('has bounds as any sheet: repeated cells past the last column, and rows past the last', async () => {
    await expect(
      read(make(table(row(text('x', `table:number-columns-repeated="${sheetBounds.columns + 1}"`))))),
    ).rejects.toMatchObject({
      reason: 'too-many-columns',
      message: expect.stringMatching(/row 1\b.*XFE/i) as string,
    });
    await expect(
      read(make(table(row(text('x'), `table:number-rows-repeated="${sheetBounds.rows + 1}"`)))),
    ).rejects.toMatchObject({ reason: 'too-many-rows' });
  });
});
