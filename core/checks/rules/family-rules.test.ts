// Families where a market has no row for the family itself, where it knows of none, and what each sentence names. Common practice.
import { describe, expect, it } from 'vitest';
import { compileCategory, type Rulebook } from '../../rulebook';
import { listing, smallRulebook } from '../../tests/builders';
import { prepareChecks } from '..';

const judgeBy = (book: Rulebook, category = 'pans') =>
  prepareChecks(compileCategory(book, category)!, (id) => id === 'family-rules');
const rows = judgeBy(smallRulebook());
const without = judgeBy(
  smallRulebook((d) => {
    (d as unknown as { families: object }).families = { parents: 'none', maxVariants: 3 };
  }),
);
const variant = (values: object = {}, more: object = {}) =>
  listing({ colour: 'blk', ...values }, { sku: 'B', role: 'variant', parentSku: 'FAM', axes: ['colour'], ...more });
const head = (more: object = {}) =>
  listing({ item_number: undefined }, { sku: 'FAM', role: 'parent', axes: ['colour'], ...more });
const other = (sku: string, values: Record<string, string> = {}) => ({
  ...{ sku, role: 'variant' as const },
  values: { colour: 'blu', brand: 'Hearth', material: 'iron', ...values },
});
const parent = { sku: 'FAM', role: 'parent' as const, values: {} };
const said = (found: ReturnType<typeof rows>) => found.map((f) => [f.message, f.field, f.params]);

describe('a family that is divided', () => {
  it('by nothing is told by what its category allows', () => {
    expect(said(rows(variant({}, { axes: [] })))).toEqual([
      ['noAxis', 'colour', { parent: 'FAM', category: 'Pans', allowed: ['Colour', 'Diameter'] }],
    ]);
  });
  it('by what its category does not allow is told so at that field', () => {
    expect(said(rows(variant({ washable: 'yes' }, { axes: ['colour', 'washable'] })))).toEqual([
      ['axisNotAllowed', 'washable', { category: 'Pans', allowed: ['Colour', 'Diameter'] }],
    ]);
  });
  it('by more fields than the market takes', () => {
    const one = judgeBy(
      smallRulebook((d) => {
        (d as unknown as { families: object }).families = { maxAxes: 1 };
      }),
    );
    const both = { axes: ['colour', 'diameter'] };
    expect(said(one(variant({}, both)))).toEqual([['tooManyAxes', 'colour', { count: 2, max: 1 }]]);
    expect(one(variant())).toEqual([]);
    expect(rows(variant({}, both))).toEqual([]);
  });
  it('in a category that takes none says so once, at its first field or at the number', () => {
    const lamps = judgeBy(smallRulebook(), 'lamps');
    expect(said(lamps(variant()))).toEqual([['noFamilies', 'colour', { category: 'Lamps' }]]);
    expect(said(lamps(head({ axes: [] })))).toEqual([['noFamilies', 'item_number', { category: 'Lamps' }]]);
  });
});

describe('variants of a family with a row of its own', () => {
  it('need that row, and are counted at it alone', () => {
    const four = ['A', 'B', 'C', 'D'].map((sku) => other(sku, { colour: sku }));
    expect(said(rows(variant(), { family: [other('A')] }))).toEqual([['parentMissing', 'colour', { parent: 'FAM' }]]);
    expect(rows(variant(), { family: [parent, ...four] })).toEqual([]);
    expect(said(rows(head(), { family: four }))).toEqual([['tooLarge', 'colour', { count: 4, max: 3 }]]);
    expect(rows(head(), { family: four.slice(1) })).toEqual([]);
  });
  it('are some', () => {
    expect(said(rows(head(), { family: [] }))).toEqual([['noVariants', 'colour', {}]]);
    expect(said(rows(head({ axes: [] }), { family: [] })).map(([m, f]) => [m, f])).toEqual([
      ['noVariants', 'item_number'],
      ['noAxis', 'colour'],
    ]);
    // Where nobody knows its family nothing is said of it.
    expect(rows(head())).toEqual([]);
    expect(rows(variant())).toEqual([]);
  });
});

describe('variants of a family without a row', () => {
  it('agree with the first of them by its SKU', () => {
    const family = [other('C', { material: 'steel' }), other('A', { material: 'tin' })];
    expect(said(without(variant(), { family }))).toEqual([
      ['sharedDiffers', 'material', { parent: 'FAM', shared: 'tin' }],
    ]);
    // The first one sets the tone.
    expect(without(variant({}, { sku: 'AA' }), { family: [other('C', { material: 'steel' })] })).toEqual([]);
    expect(without(variant(), { family: [] })).toEqual([]);
  });
  it('are counted with the one that is looked at', () => {
    const three = ['C', 'D', 'E'].map((sku) => other(sku, { colour: sku }));
    expect(said(without(variant(), { family: three }))).toEqual([['tooLarge', 'colour', { count: 4, max: 3 }]]);
    expect(without(variant(), { family: three.slice(1) })).toEqual([]);
  });
  it('need no row, and are told apart', () => {
    expect(said(without(variant(), { family: [other('C', { colour: 'blk' })] }))).toEqual([
      ['duplicate', 'colour', { other: 'C' }],
    ]);
  });
});

it('twins over two fields are mended at the first of them', () => {
  const twin = { sku: 'C', role: 'variant' as const, values: { colour: 'blk', diameter: '28 cm' } };
  const found = rows(variant({}, { axes: ['colour', 'diameter'] }), { family: [parent, twin] });
  expect(found.map((f) => [f.message, f.field, f.value, f.remedies])).toEqual([
    ['duplicate', 'colour', 'blk, 28 cm', [{ kind: 'fill', field: 'colour' }]],
  ]);
});
it('a market whose files tell of no families takes each variant as an item', () => {
  const none = judgeBy(
    smallRulebook((d) => {
      const { forms } = d as unknown as { forms: { slots: { holds: { what: string } }[] }[] };
      forms[0]!.slots = forms[0]!.slots.filter((s) => !['row-role', 'parent-sku', 'axes'].includes(s.holds.what));
    }),
  );
  expect(none(variant({ colour: undefined }, { axes: [] }), { family: [] })).toEqual([]);
});
