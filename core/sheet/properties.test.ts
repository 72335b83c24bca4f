// Custom properties of a document (ECMA-376 part 2, docProps/custom.xml).
import { expect, it } from 'vitest';
import { sheetBounds } from './bounds';
import { readProperties } from './properties';

function read(inner: string): Record<string, string> {
  const found: Record<string, string> = {};
  readProperties(found)(`<Properties xmlns:vt="v">${inner}</Properties>`, true);
  return found;
}
const property = (name: string, value: string): string =>
  `<property name="${name}"><vt:lpwstr>${value}</vt:lpwstr></property>`;

it('are read by their names; what stands beside them is none', () => {
  expect(read(`a${property('One', 'first')} b ${property('Two', 'x<!-- -->y')}c`)).toEqual({ One: 'first', Two: 'xy' });
});
it('are fifty at the most, and none longer than a cell may be', () => {
  const many = Array.from({ length: 60 }, (_, i) => property(`P${i}`, String(i))).join('');
  expect(Object.keys(read(many))).toHaveLength(50);
  expect(read(property('Long', 'x'.repeat(sheetBounds.cellCharacters + 99)))['Long']).toHaveLength(
    sheetBounds.cellCharacters + 1,
  );
});
