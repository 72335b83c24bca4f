// What a sheet says beside its texts. Common practice, no source: a German house types “4,20 €” into one cell and a number into the next.
import ExcelJS from 'exceljs';
import { describe, expect, it } from 'vitest';
import { compileFields, firstFields } from '../product';
import { convertWithSpreadsheet } from '../tests/spreadsheet';
import { createSheetNotes, openWorkbook, planRow, understandSheet, writeNumbersAsTexts } from '.';

const fields = compileFields(firstFields);
const columns = ['sku', 'title', 'price', 'fact.width', 'stock'].map((field, index) => ({ index, field }));
const reading = { columns, listSeparator: '|', mode: 'both', blankClears: false, acceptMended: true } as const;

/** Rows of a workbook, with what is noted of them. */
async function open(bytes: Uint8Array) {
  const notes = createSheetNotes(),
    rows: string[][] = [];
  const workbook = await openWorkbook(async function* () {
    yield await Promise.resolve(bytes);
  });
  for await (const batch of workbook.rows(undefined, notes)) rows.push(...batch);
  return { rows, notes };
}
const book = new ExcelJS.Workbook(),
  sheet = book.addWorksheet('Preise');
sheet.addRow(['SKU', 'Title', 'Price', 'Width', 'Stock']);
sheet.addRow([1.125, 'Pan', 1.125, 24.125, 1000]);
sheet.addRow(['A-2', 'Pot', '1.299,50', '24,5 cm', new Date('2026-11-27T00:00:00Z')]);
sheet.addRow(['A-3', 'Lid', '4,20', '1.250 mm', '']);
for (const [sku, price] of [
  ['A-4', 5.1],
  ['A-5', 6.2],
] as const)
  sheet.addRow([sku, 'Cup', price]);
const xlsx = new Uint8Array(await book.xlsx.writeBuffer()),
  ods = new Uint8Array(convertWithSpreadsheet('book.xlsx', xlsx, 'ods'));

describe.each([
  ['.xlsx', xlsx],
  ['.ods', ods],
])('numbers of an %s', (_, bytes) => {
  it('are told apart from texts and days', async () => {
    const { rows, notes } = await open(bytes);
    expect(rows.map((r) => [...(notes.numbers.get(r) ?? [])])).toEqual([[], [0, 2, 3, 4], [], [], [2], [2]]);
  });
  it('say nothing of how its texts are written', async () => {
    const { rows, notes } = await open(bytes);
    expect(understandSheet(rows, fields, 0, notes).decimalSign).toBe(',');
    expect(understandSheet(rows, fields, 0).decimalSign).toBe('undetermined');
  });
  it('stay the numbers that they are where its texts have a decimal comma', async () => {
    const { rows, notes } = await open(bytes);
    const plan = (row: string[]) =>
      planRow(row, { ...reading, decimalSign: ',' }, undefined, { fields, seen: new Map() }).changes.map(
        (c) => c.after,
      );
    const written = rows.slice(1).map((r) => writeNumbersAsTexts(r, notes, { columns, decimalSign: ',' }, fields));
    // A code is no number, whatever the cell holds.
    expect(written[0]).toEqual(['1.125', 'Pan', '1,125', '24,125', '1000']);
    expect([plan(written[0]!), plan(written[2]!)]).toEqual([
      ['Pan', '1.13', '24.125 cm', '1000'],
      ['Lid', '4.20', '1250 mm'],
    ]);
    expect(writeNumbersAsTexts(rows[1]!, notes, { columns, decimalSign: '.' }, fields)).toBe(rows[1]);
  });
});

describe('the decimal sign of a file', () => {
  it.each([
    ['0,45 kg', ','],
    ['0.45 kg', '.'],
    ['1.250 g', '.'],
    ['about 4', '.'],
  ])('is told by weights such as “%s” as well, where they can be read in one way: %s', (weight, sign) => {
    const rows = [['SKU', 'Title', 'Weight'], ...[1, 2, 3].map((i) => [`A-${i}`, 'Pan', weight])];
    expect(understandSheet(rows, fields).decimalSign).toBe(sign);
  });
});
