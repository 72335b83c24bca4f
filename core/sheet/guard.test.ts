import { describe, expect, it } from 'vitest';
import { openFormulaText, unguard, unguardCode } from '.';

describe('a text that was guarded against a spreadsheet', () => {
  it.each([
    ['="0952000000012"', '0952000000012'],
    [' ="A ""b""" ', 'A "b"'],
    ['=""', ''],
    // What gives more than just a text stays as it was written.
    ['="a"&"b"', '="a"&"b"'],
    ['=SUM("1")', '=SUM("1")'],
    ['x="1"', 'x="1"'],
    ['=1', '=1'],
  ])('%s is %s', (cell, text) => {
    expect(openFormulaText(cell)).toBe(text);
  });
  it('loses its apostrophe where it would be run, and a code loses any', () => {
    expect(["'=1+1", "' -3", "'Round the corner"].map(unguard)).toEqual(['=1+1', ' -3', "'Round the corner"]);
    expect(["'0952", "'FP-1", "''x", "O'1"].map(unguardCode)).toEqual(['0952', 'FP-1', "''x", "O'1"]);
  });
});
