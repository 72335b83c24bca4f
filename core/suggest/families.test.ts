// Families in a flat list. Common practice, no source.
import { describe, expect, it } from 'vitest';
import { findFamilies, type LooseItem } from '.';

const axes = ['fact.colour', 'fact.size', 'fact.volume'];
let id = 0;
const item = (sku: string, title: string, more: Record<string, string> = {}): LooseItem => ({
  id: ++id,
  sku,
  fields: { title, brand: 'Withy & Wren', category: 'Cloths', ...more },
});
const find = (items: LooseItem[], taken: string[] = []) =>
  findFamilies(items, axes, (sku) => taken.includes(sku)).map((f) => [
    f.sku,
    f.title,
    f.axes.join('+'),
    f.members.map((m) => `${m.sku}: ${m.says.join(', ')}`).join('; '),
  ]);
const sized = (title: string, ...sizes: string[]) =>
  sizes.map((s) => item(`TT-0${s}`, title, { 'fact.size': s, 'fact.colour': 'Red' }));

describe('families among items', () => {
  it('are called the same, and told apart by no more fields than are needed', () => {
    expect(find(sized('Tablecloth', 'S', 'M', 'L'))).toEqual([
      ['TT-0', 'Tablecloth', 'fact.size', 'TT-0S: S; TT-0M: M; TT-0L: L'],
    ]);
    const grid = ['S', 'M'].flatMap((s) =>
      ['Red', 'Blue'].map((c) => item(`G-${s}-${c}`, 'Runner', { 'fact.size': s, 'fact.colour': c, 'fact.volume': s })),
    );
    expect(find(grid)[0]!.slice(0, 3)).toEqual(
      ['G', 'Runner', 'fact.colour+fact.size'].map((t, i) => (i ? t : 'G-S-Red-FAM')),
    );
  });
  it('are called the same but for what they differ by, wherever that stands', () => {
    const cloths = [
      item('C-1', 'Round Cloth, Red, 2 l', { 'fact.colour': 'Red', 'fact.volume': '2 l' }),
      item('C-2', 'Round Cloth, Dark-Blue, 2 l', { 'fact.colour': 'dark blue', 'fact.volume': '2 l' }),
      item('C-3', 'Red Round Cloth', { 'fact.colour': 'Red' }),
    ];
    expect(find(cloths.slice(0, 2))[0]!.slice(1, 3)).toEqual(['Round Cloth', 'fact.colour']);
    // Two of one colour are told apart by nothing that all of them have.
    expect(find(cloths)).toEqual([]);
    // No word within another.
    expect(
      find([
        item('A-1', 'Redware cup', { 'fact.colour': 'Red' }),
        item('A-2', 'Blueware cup', { 'fact.colour': 'Blue' }),
      ]),
    ).toEqual([]);
  });
  it('have one brand and one own category', () => {
    const [a, b] = sized('Cloth', 'S', 'M');
    const other = (field: string) => ({ ...b!, fields: { ...b!.fields, [field]: 'Another' } });
    expect([find([a!, other('brand')]), find([a!, other('category')]), find([a!])]).toEqual([[], [], []]);
    expect(find([a!, b!])).toHaveLength(1);
  });
  it('are none where two are the same, or nothing is said', () => {
    expect(find(sized('Cloth', 'S', 's'))).toEqual([]);
    expect(find([item('A-1', 'Cloth'), item('A-2', 'Cloth')])).toEqual([]);
    expect(find([item('A-1', '', { 'fact.size': 'S' }), item('A-2', '', { 'fact.size': 'M' })])).toEqual([]);
    expect(find([item('A-1', 'S', { 'fact.size': 'S' }), item('A-2', 'M', { 'fact.size': 'M' })])).toEqual([]);
  });
  it('get a SKU that nothing has', () => {
    const cloths = sized('Cloth', 'S', 'M');
    expect(find(cloths, ['TT-0'])[0]![0]).toBe('TT-0-FAM');
    expect(find(cloths, ['TT-0', 'TT-0-FAM'])[0]![0]).toBe('TT-0-FAM2');
    expect(find([...cloths, ...sized('Napkin', 'S', 'M')]).map((f) => f[0])).toEqual(['TT-0', 'TT-0-FAM']);
    const own = [item('AB', 'Cup', { 'fact.size': 'S' }), item('AB-2', 'Cup', { 'fact.size': 'M' })];
    expect(find(own)[0]![0]).toBe('AB-FAM');
    // Nothing, or one sign, says nothing of a family.
    const odd = [item('A1', 'Cup', { 'fact.size': 'S' }), item('B2', 'Cup', { 'fact.size': 'M' })];
    expect(find(odd)[0]![0]).toBe('A1-FAM');
  });
  it('are called as the first of them without what it differs by, where their titles begin with nothing of all', () => {
    const cups = ['Red', 'Blue'].map((c) => item(`CUP-${c}`, `${c} cup`, { 'fact.colour': c }));
    expect(find(cups)[0]!.slice(0, 2)).toEqual(['CUP', 'cup']);
  });
});
