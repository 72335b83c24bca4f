// Values of the wrong type, with the remedy that each has. Ways of writing numbers: common practice of two groups of countries.
import { expect, it } from 'vitest';
import { compileCategory } from '../../rulebook';
import { listing, smallRulebook } from '../../tests/builders';
import { prepareChecks } from '..';

const book = smallRulebook((d) => {
  const { attributes } = d as unknown as { attributes: { key: string; type: string }[] };
  attributes.find((a) => a.key === 'floor')!.type = 'decimal';
  attributes.find((a) => a.key === 'sale_end')!.type = 'moment';
});
const judge = prepareChecks(compileCategory(book, 'pans')!, (id) => id === 'wrong-type');
const of = (field: string, value: string | string[]) =>
  judge(listing({ [field]: value }))
    .filter((f) => f.field === field)
    .map((f) => [f.message, ...f.remedies.map((r) => ('value' in r ? [r.value, r.safe] : r.kind))]);

it.each<[string, string | string[], unknown[]]>([
  ['quantity', '12', []],
  ['quantity', '-3', []],
  ['quantity', '12.0', [['whole', ['12', true]]]],
  ['quantity', '12.5', [['whole', 'fill']]],
  ['quantity', 'twelve', [['number', 'fill']]],
  // Read with a comma alone it is a number, and no whole one.
  ['quantity', '12,5', [['number', 'fill']]],
  ['price', '12.50', []],
  ['price', '12,50', [['number', ['12.50', false]]]],
  // Either way of writing reads something else.
  ['price', '1,234', [['number', 'fill']]],
  ['price', '1.234,50', [['number', ['1234.50', false]]]],
  ['price', 'dear', [['number', 'fill']]],
  ['floor', '1.5', []],
  ['floor', '1,5', [['number', ['1.5', false]]]],
  ['sale_start', '2026-11-28', []],
  ['sale_start', '28/11/2026', [['date', 'fill']]],
  ['washable', 'yes', []],
  ['washable', 'Y', [['yesNo', ['yes', true]]]],
  ['washable', 'N', [['yesNo', ['no', true]]]],
  ['washable', 'often', [['yesNo', 'choose']]],
  ['diameter', '28 cm', []],
  ['diameter', 'large', [['measure', 'fill']]],
  ['sale_end', '2026-11-28T08:00:00Z', []],
  ['sale_end', 'soon', [['moment', 'fill']]],
  ['colour', ['blk', 'blu'], [['single', ['blk', false]]]],
  ['colour', ['blk'], []],
  ['hues', ['blk', 'blu'], []],
])('%s %j', (field, value, found) => {
  expect(of(field, value)).toEqual(found);
});
it('a moment without a zone is told with that of the market', () => {
  const [[message, remedy]] = of('sale_end', '2026-11-28T08:00') as [[string, [string, boolean]]];
  expect([message, remedy[0].startsWith('2026-11-28T08:00'), remedy[1]]).toEqual(['momentWithoutZone', true, false]);
  expect(remedy[0].length).toBeGreaterThan('2026-11-28T08:00'.length);
});
