import { describe, expect, it } from 'vitest';
import { smallRulebook } from '../tests/builders';
import { compareRulebooks } from './compare';
import { findRenames } from './renames';

interface Loose {
  tree: { key: string; parent?: string; was?: string[]; demands?: { attribute: string }[] }[];
  attributes: { key: string; was?: string[]; by?: string }[];
  roles: Record<string, string>;
  demands: { attribute: string }[];
  codeLists: Record<string, { entries: { code: string; was?: string[] }[] }>;
}
const change = (edit: (d: Loose) => void) =>
  smallRulebook((d) => {
    edit(d as unknown as Loose);
  });
const before = smallRulebook();
const list = 'colour';
/** Brand is called maker, and each reference to it. */
const callMaker = (d: Loose) => {
  const brand = d.attributes.find((a) => a.key === 'brand')!;
  Object.assign(brand, { key: 'maker', was: ['brand'] });
  for (const demand of [...d.demands, ...d.tree.flatMap((n) => n.demands ?? [])])
    if (demand.attribute === 'brand') demand.attribute = 'maker';
  const text = JSON.stringify(d, (k, v: unknown) => (k === 'attribute' && v === 'brand' ? 'maker' : v));
  Object.assign(d, JSON.parse(text));
  d.roles['brand'] = 'maker';
};

describe('what a new version calls otherwise', () => {
  it('is what says that it had a name which only the version before has', () => {
    const after = change((d) => {
      callMaker(d);
      for (const n of d.tree) {
        if (n.parent === 'home') n.parent = 'house';
        if (n.key === 'home') Object.assign(n, { key: 'house', was: ['dwelling', 'home'] });
      }
      const entry = d.codeLists[list]!.entries[0]!;
      Object.assign(entry, { code: 'newcode', was: [entry.code] });
    });
    const old = before.codeLists[list]!.entries[0]!.code;
    const { nodes, attributes, codes } = findRenames(before, after);
    expect([[...nodes], [...attributes]]).toEqual([[['home', 'house']], [['brand', 'maker']]]);
    expect([...(codes.get('colour') ?? [])]).toEqual([[old, 'newcode']]);
  });
  it('is nothing where the old name is still there, or never was', () => {
    const after = change((d) => {
      d.attributes.find((a) => a.key === 'title')!.was = ['brand', 'headline'];
    });
    expect(findRenames(before, after)).toEqual({ nodes: new Map(), attributes: new Map(), codes: new Map() });
  });
  it('is said in the comparison, and is neither new nor gone', () => {
    const after = change(callMaker);
    const changes = compareRulebooks(before, after);
    expect(changes.map((c) => c.says)).toContain(
      'Brand is called maker and no more brand; what was said and typed goes along.',
    );
    expect(changes.filter((c) => c.kind !== 'changed')).toEqual([]);
    expect(compareRulebooks(after, after)).toEqual([]);
  });
});
