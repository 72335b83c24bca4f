// Workbooks with a sheet for each group of goods. Common practice, no source.
import { describe, expect, it } from 'vitest';
import { findHeadings, mostOverHeadings, nameLine } from '.';

const header = ['SKU', 'Title ', 'Price', ''];

describe('the headings of another sheet', () => {
  it('are the same words in the same places, whatever stands over them', () => {
    expect(findHeadings([['Pots'], [], ['sku', 'TITLE', ' Price']], header)).toBe(2);
    expect(findHeadings([['SKU', 'Title', 'Price', '', '']], header)).toBe(0);
    expect(findHeadings([['SKU', 'Price', 'Title']], header)).toBe(-1);
    expect(findHeadings([['SKU', 'Title', 'Price', 'Stock']], header)).toBe(-1);
    expect(findHeadings([['SKU', 'Title']], header)).toBe(-1);
    expect(findHeadings([], header)).toBe(-1);
  });
  it('stand among its first rows', () => {
    const over = (n: number) => [...Array.from({ length: n }, () => ['']), ['SKU', 'Title', 'Price']];
    expect(findHeadings(over(mostOverHeadings - 1), header)).toBe(mostOverHeadings - 1);
    expect(findHeadings(over(mostOverHeadings), header)).toBe(-1);
  });
  it('tell nothing where there is only one of them', () => {
    expect(findHeadings([['SKU']], ['SKU', ''])).toBe(-1);
    expect(findHeadings([['SKU', 'Price']], ['SKU', 'Price'])).toBe(0);
  });
});

describe('a line', () => {
  it('is named by its sheet where several were read', () => {
    const starts = [
      { name: 'Pans', from: 1 },
      { name: 'Pots', from: 121 },
    ];
    expect([1, 120, 121, 150].map((n) => nameLine(n, starts))).toEqual([
      '1 (Pans)',
      '120 (Pans)',
      '1 (Pots)',
      '30 (Pots)',
    ]);
    expect(nameLine(12, [])).toBe('12');
  });
});
