// Cells that are one over several rows. Common practice, no source: suppliers write a family's name once beside its variants.
import ExcelJS from 'exceljs';
import { strToU8, unzipSync, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { convertWithSpreadsheet } from '../tests/spreadsheet';
import { compileFields, firstFields } from '../product';
import { createSheetNotes, keepMerged, openWorkbook, understandSheet } from '.';
import { createMergeFiller, createMergeReader } from './merges';

const book = new ExcelJS.Workbook(),
  sheet = book.addWorksheet('Preise');
for (const cells of [
  ['SKU', 'Title', 'Colour', 'Price', 'Stock', 'Note'],
  ['B-1', 'Bowl', 'red', 4.5, 12, 'wide'],
  ['B-2', '', 'blue', '', '', ''],
  ['B-3', '', '', '', '', ''],
  ['', '', '', '', '', ''],
  ['P-1', 'Plate', 'red', 5, 3, ''],
  ['P-2', 'Plate two', '', 6, '', ''],
])
  sheet.addRow(cells.map((c) => (c === '' ? null : c)));
for (const range of ['B2:B5', 'D2:D4', 'E2:E3', 'F2:G2', 'C6:C7', 'E6:E7']) sheet.mergeCells(range);
const xlsx = new Uint8Array(await book.xlsx.writeBuffer()),
  ods = new Uint8Array(convertWithSpreadsheet('book.xlsx', xlsx, 'ods'));
const columns = ['sku', 'title', 'fact.colour', 'price', 'stock'].map((field, index) => ({ index, field }));

describe.each([
  ['.xlsx', xlsx],
  ['.ods', ods],
])('a cell of an %s that goes down', (_, bytes) => {
  const open = async (notes?: ReturnType<typeof createSheetNotes>) => {
    const workbook = await openWorkbook(async function* () {
      for (let i = 0; i < bytes.length; i += 997) yield await Promise.resolve(bytes.subarray(i, i + 997));
    });
    const rows: string[][] = [];
    for await (const batch of workbook.rows(undefined, notes)) rows.push(...batch);
    return rows.map((r) => r.slice(0, 5));
  };
  it('says the same in each of its rows that hold anything', async () => {
    const notes = createSheetNotes();
    expect((await open(notes)).map((r) => r.join('|'))).toEqual([
      'SKU|Title|Colour|Price|Stock',
      'B-1|Bowl|red|4.5|12',
      'B-2|Bowl|blue|4.5|12',
      'B-3|Bowl||4.5',
      expect.stringMatching(/^\|*$/),
      'P-1|Plate|red|5|3',
      'P-2|Plate two|red|6|3',
    ]);
  });
  it('says so to nobody who did not ask', async () => {
    expect((await open())[2]!.filter((c) => c !== '')).toEqual(['B-2', 'blue']);
  });
});

describe('a very large sheet', () => {
  it('is not gone through for them', async () => {
    const long = 'x'.repeat(30_000);
    const inline = (rows: number): Uint8Array =>
      zipSync(
        {
          ...unzipSync(xlsx),
          'xl/worksheets/sheet1.xml': strToU8(
            `<worksheet><sheetData>${Array.from({ length: rows }, (_, i) => `<row r="${i + 1}"><c r="A${i + 1}" t="inlineStr"><is><t>${long}</t></is></c>${i === 0 ? '<c r="B1" t="inlineStr"><is><t>down</t></is></c>' : ''}</row>`).join('')}</sheetData><mergeCells count="1"><mergeCell ref="B1:B2"/></mergeCells></worksheet>`,
          ),
        },
        { level: 0 },
      );
    const second = async (bytes: Uint8Array) => {
      const workbook = await openWorkbook(async function* () {
        yield await Promise.resolve(bytes);
      });
      const rows: string[][] = [];
      for await (const batch of workbook.rows(undefined, createSheetNotes())) rows.push(...batch);
      return rows[1]![1];
    };
    expect([await second(inline(330)), await second(inline(340))]).toEqual(['down', undefined]);
  });
});

describe('headings in two rows', () => {
  const fields = compileFields(firstFields);
  /** Cells behind a mark go down from the row before. */
  const understand = (rows: string[][], headerRow?: number) => {
    const notes = createSheetNotes();
    const read = rows.map((r) => {
      const cells = r.map((c) => c.replace('^', ''));
      notes.merged.set(cells, new Set(r.flatMap((c, i) => (c.startsWith('^') ? i : []))));
      return cells;
    });
    const u = understandSheet(read, fields, headerRow, notes);
    return [u.headerRow, u.columns.map((c) => `${c.name}: ${c.field} ${c.currency ?? ''}`.trim())];
  };
  const top = ['Bestell-Nr.', 'Artikel', 'Preise in EUR', '', 'Bestand'],
    low = ['^Bestell-Nr.', '^Artikel', 'EK', 'UVP', '^Bestand'];
  const body = [1, 2, 3].map((i) => [
    `T-${i}`,
    i === 1 ? 'Cloth model one' : '^Cloth model one',
    '12.50',
    '29.95',
    '4',
  ]);
  it('are those of the lower one, under the common ones above', () => {
    expect(understand([['Kollektion'], top, low, ...body])).toEqual([
      2,
      [
        'Bestell-Nr.: sku',
        'Artikel: title',
        'EK, Preise in EUR: cost EUR',
        'UVP, Preise in EUR: fact.price@eur',
        'Bestand: stock',
      ],
    ]);
    // Where somebody has said which row it is, it is that.
    expect(understand([['Kollektion'], top, low, ...body], 1)[0]).toBe(1);
  });
  it('are in one row where most of the next is its own, or amounts', () => {
    expect(understand([top, ['T-0', '^Artikel', 'EK', '9', '^Bestand'], ...body])[0]).toBe(0);
    expect(understand([top, ['^Bestell-Nr.', '^Artikel', '12.50', '^', '^Bestand'], ...body])[0]).toBe(0);
    expect(understand([top, ['^Bestell-Nr.', 'Name', 'EK', '', '^Bestand'], ...body])[0]).toBe(1);
  });
});

describe('what goes down', () => {
  it('is noted, numbers among it, and kept but for what is each item’s own', async () => {
    const notes = createSheetNotes(),
      rows: string[][] = [];
    const workbook = await openWorkbook(async function* () {
      yield await Promise.resolve(xlsx);
    });
    for await (const batch of workbook.rows(undefined, notes)) rows.push(...batch);
    const told = (map: WeakMap<readonly string[], ReadonlySet<number>>) => rows.map((r) => [...(map.get(r) ?? [])]);
    expect(told(notes.merged)).toEqual([[], [], [1, 3, 4], [1, 3], [], [], [2, 4]]);
    expect(told(notes.numbers)).toEqual([[], [3, 4], [3, 4], [3], [], [3, 4], [3, 4]]);
    expect(rows.map((r) => keepMerged(r, notes, columns))).toEqual([false, false, true, true, false, false, true]);
    expect(rows.map((r) => r[4] ?? '')).toEqual(['Stock', '12', '', '', '', '3', '']);
    expect(keepMerged(rows[2]!, notes, [columns[4]!])).toBe(false);
  });
  it('is found wherever the text of a sheet is cut', () => {
    const text = `<row/>${'x'.repeat(300)}<mergeCells><x:mergeCell ref="AB2:AC9"/><mergeCell  foo="1" ref="A3:B3"/><mergeCell ref="C4:C5"/></mergeCells>`;
    for (let cut = 0; cut < text.length; cut++) {
      const reader = createMergeReader();
      for (const piece of [text.slice(0, cut), text.slice(cut)]) reader.take(piece);
      expect(reader.list()).toEqual([
        { column: 27, from: 2, to: 9 },
        { column: 2, from: 4, to: 5 },
      ]);
    }
  });
  it('ends with its last row, and with the next that begins in its column', () => {
    const filler = createMergeFiller(),
      fill = (at: number) => {
        const row = ['', 'x'];
        return [filler.fill(at, row, []), row[0]];
      };
    filler.open({ column: 0, to: 3 }, 'one', false);
    expect([fill(2), fill(3), fill(4)]).toEqual([
      [[0], 'one'],
      [[0], 'one'],
      [[], ''],
    ]);
    filler.open({ column: 0, to: 9 }, 'two', false);
    filler.open({ column: 0, to: 9 }, 'three', false);
    filler.open({ column: 1, to: 9 }, '', false);
    expect([fill(5), filler.fill(6, ['', ''], [])]).toEqual([[[0], 'three'], []]);
  });
});
