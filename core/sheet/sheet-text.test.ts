import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { parseSheet, readSheetText, sheetFoot, sheetHead, writeSheetRow } from './sheet-text';

describe('the text of a sheet', () => {
  it('is read as it was written, with its gaps, over columns of two letters', () => {
    const wide = Array.from({ length: 30 }, (_, i) =>
      i === 5 ? '' : i === 28 ? { number: '12.50' } : `cell ${i} & <${i}>`,
    );
    const text = sheetHead(1) + writeSheetRow(1, ['a', '', 'c']) + writeSheetRow(4, wide) + sheetFoot;
    const rows = readSheetText(text)!;
    expect(rows.length).toBe(4);
    expect(rows[0]).toEqual(['a', '', 'c']);
    expect([rows[1], rows[2]]).toEqual([[], []]);
    expect(rows[3]).toEqual(wide.map((c) => (typeof c === 'string' ? c : c.number)));
  });
  it('that is none, or is cut off, is none', () => {
    expect(readSheetText('<rows><row r="1"/></rows>')).toBeUndefined();
    expect(readSheetText(sheetHead(1) + writeSheetRow(1, ['a']))).toBeUndefined();
    expect(readSheetText('')).toBeUndefined();
  });
  it('is read as a parser of XML reads it, whatever its cells hold (property)', () => {
    const piece = fc.constantFrom(
      'a',
      ' ',
      '&',
      '<',
      '>',
      '"',
      '\r',
      '\n',
      '\t',
      '_x000D_',
      '_',
      '&amp;',
      'ガ',
      '🍳',
      '</t>',
    );
    const cell = fc.oneof(
      fc.array(piece, { maxLength: 6 }).map((p) => p.join('')),
      fc.integer({ min: -99, max: 99 }).map((n) => ({ number: String(n) })),
    );
    const sheet = fc.array(fc.tuple(fc.integer({ min: 1, max: 3 }), fc.array(cell, { maxLength: 30 })), {
      maxLength: 6,
    });
    fc.assert(
      fc.property(sheet, (rows) => {
        let at = 0;
        const text = sheetHead(1) + rows.map(([gap, cells]) => writeSheetRow((at += gap), cells)).join('') + sheetFoot;
        const read = readSheetText(text);
        expect(read).toEqual(parseSheet(text));
        expect(read?.length).toBe(at);
      }),
      { seed: 7 },
    );
  });
  it('of another hand is read by the parser', () => {
    const other = (inner: string): string => `<worksheet><sheetData>${inner}</sheetData></worksheet>`;
    expect(readSheetText(other('<row r="2"><c r="B2" t="str"><f>A1</f><v>1 &#43; 1</v></c></row>'))).toEqual([
      [],
      ['', '1 + 1'],
    ]);
    expect(readSheetText(other('<row r="1"><c r="A1"><v>1</v></c></row><!-- end -->'))).toEqual([['1']]);
    expect(
      readSheetText(other('<row r="1"><c r="A1"><v>1</v></c></row><row r="2" ht="15"><c r="A2"><v>2</v></c></row>')),
    ).toEqual([['1'], ['2']]);
    expect(readSheetText(other('<row r="1"><c r="A1"><v>1</v></c>'))).toBeUndefined();
    expect(readSheetText(other('<row r="1"><c r="A1"><v>1 & 1</v></c></row>'))).toBeUndefined();
    expect(readSheetText(other('<row r="1"><c r="A1"><v>\u0001</v></c></row>'))).toBeUndefined();
  });
});
