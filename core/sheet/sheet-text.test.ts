import { describe, expect, it } from 'vitest';
import { readSheetText, sheetFoot, sheetHead, writeSheetRow } from './sheet-text';

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
});
