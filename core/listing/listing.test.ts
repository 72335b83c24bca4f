import { describe, expect, it } from 'vitest';
import { compileCategory } from '../rulebook';
import { computeBundleStock, computePublishable } from '../stock';
import { proposeCategories } from '../suggest';
import { reversePatch, squashPatches } from '../change';
import { listLeaves } from '../rulebook';
import { smallRulebook } from '../tests/builders';
import {
  computeDistance,
  computeLikeness,
  countCharacters,
  countUtf8Bytes,
  cutAtWord,
  findContact,
  findShouting,
  fold,
} from '../text';
import { type Correspondences, resolveListing } from '.';

const pans = compileCategory(smallRulebook(), 'pans')!;
const none: Correspondences = { fields: new Map(), values: new Map() };
const fields = {
  sku: 'A',
  title: 'Hearth Pan',
  brand: 'Hearth',
  gtin: '9521234567899',
  'fact.colour': 'Navy',
  'fact.material': 'cast IRON',
  'fact.diameter': '28cm',
  'fact.pages': '3',
};

describe('where a listing’s values come from', () => {
  it('takes from the product what the rulebook suggests, labels turned into codes, units spelled as the market does', () => {
    const r = resolveListing(pans, fields, 'single', {}, none);
    expect(r.values).toMatchObject({
      title: 'Hearth Pan',
      colour: 'blu',
      material: 'iron',
      diameter: '28 cm',
      item_number: '9521234567899',
    });
    expect(r.origins['colour']).toEqual({ from: 'product', field: 'fact.colour' });
  });
  it('lets what was typed win, and an empty text leave the field empty on purpose', () => {
    const r = resolveListing(pans, fields, 'single', { title: 'Typed', brand: '' }, none);
    expect(r.values).toMatchObject({ title: 'Typed' });
    expect(r.values).not.toHaveProperty('brand');
    expect(r.origins['brand']).toEqual({ from: 'typed' });
  });
  it('uses the tables of fields and values, and says so', () => {
    const c: Correspondences = {
      fields: new Map([
        ['title', 'brand'],
        ['hues', 'fact.colour'],
        ['washable', '=yes'],
        ['brand', ''],
      ]),
      values: new Map([['hues', new Map([['navy', 'grn']])]]),
    };
    const r = resolveListing(pans, fields, 'single', {}, c);
    expect(r.values).toMatchObject({ title: 'Hearth', hues: ['grn'], washable: 'yes' });
    expect(r.values).not.toHaveProperty('brand');
    expect(r.origins['hues']).toEqual({ from: 'mapping', field: 'fact.colour', ours: 'Navy' });
  });
  it('takes nothing for what the row leaves unused, but keeps what was typed there', () => {
    expect(resolveListing(pans, fields, 'parent', {}, none).values).not.toHaveProperty('item_number');
    expect(resolveListing(pans, fields, 'single', { pages: '3' }, none).values).toMatchObject({ pages: '3' });
  });
  it('keeps a value that is not on the list, for the check to speak of', () => {
    expect(resolveListing(pans, { ...fields, 'fact.colour': 'Blak' }, 'single', {}, none).values['colour']).toBe(
      'Blak',
    );
  });
});

describe('stock', () => {
  it.each([
    [{ onHand: 10, reserved: 2 }, { buffer: 3, cap: 99, least: 1 }, 5],
    [{ onHand: 10, reserved: 2 }, { buffer: 3, cap: 4, least: 1 }, 4],
    [{ onHand: 3, reserved: 2 }, { buffer: 3, cap: 99, least: 1 }, 0],
    [{ onHand: 6, reserved: 0 }, { buffer: 0, cap: 99, least: 7 }, 0],
  ])('publishes of %j under %j: %i', (s, r, n) => {
    expect(computePublishable(s, r)).toBe(n);
  });
  it('of a bundle is the least over its parts', () => {
    expect(
      computeBundleStock([
        { stock: 10, count: 3 },
        { stock: 4, count: 1 },
      ]),
    ).toBe(3);
    expect(computeBundleStock([{ stock: -2, count: 1 }])).toBe(0);
    expect(computeBundleStock([])).toBe(0);
  });
});

describe('proposals', () => {
  const leaves = listLeaves(smallRulebook());
  it('come from the words of title and group, with the reason', () => {
    expect(
      proposeCategories({ title: 'Iron frying pans, pair', category: 'Kitchen', description: '' }, leaves)[0],
    ).toMatchObject({ key: 'pans', reason: '“Pans”, “frying pan” in its name or group' });
  });
  it('follow what people chose before', () => {
    expect(
      proposeCategories({ title: 'Iron pan', category: 'Light', description: '' }, leaves, new Map([['lamps', 4]]))[0],
    ).toMatchObject({ key: 'lamps', reason: expect.stringContaining('chosen 4 times for “Light”') as string });
  });
  it('are none where nothing fits', () => {
    expect(proposeCategories({ title: 'Shoe', category: 'Feet', description: '' }, leaves)).toEqual([]);
  });
});

describe('patches', () => {
  const a = { row: '1', column: 'title', before: 'x', after: 'y' },
    b = { row: '1', column: 'title', before: 'y', after: 'z' };
  it('are taken back in reverse', () => {
    expect(reversePatch([a, b])).toEqual([
      { ...b, before: 'z', after: 'y' },
      { ...a, before: 'y', after: 'x' },
    ]);
  });
  it('squash to first before and last after, and to nothing when taken back', () => {
    expect(squashPatches([[a], [b]])).toEqual([{ ...a, after: 'z' }]);
    expect(squashPatches([[a], reversePatch([a])])).toEqual([]);
  });
});

describe('texts', () => {
  it('counts characters and bytes as readers and RFC 3629 do', () => {
    for (const t of ['abc', 'é', '日本', '👍a']) {
      expect(countCharacters(t)).toBe([...t].length);
      expect(countUtf8Bytes(t)).toBe(Buffer.byteLength(t));
    }
  });
  it('cuts at a word', () => {
    expect(cutAtWord('one two three', 9)).toBe('one two');
    expect(cutAtWord('one two three', 7)).toBe('one two');
    expect(cutAtWord('short', 9)).toBe('short');
  });
  it.each([
    ['Teapot 1.1 l, 350 ml', undefined],
    ['Barcode 4006381333931', undefined],
    ['Ring +44 20 7946 0958', 'phone'],
    ['me@shop.example', 'mail'],
    ['see shop.com/x', 'link'],
    ['Serves 2.5 portions', undefined],
  ])('sees contact in %s: %s', (t, k) => {
    expect(findContact(t)?.kind).toBe(k);
  });
  it('does not take sizes and short models for shouting', () => {
    expect(findShouting('Pan XXL GTX')).toEqual([]);
    expect(findShouting('GREAT HEAVY pan')).toEqual(['GREAT', 'HEAVY']);
  });
  it('likens words across accents, plurals and slips', () => {
    expect(fold('Crêpe-Pan!')).toBe('crepe pan');
    expect(computeDistance('blak', 'black')).toBe(1);
    expect(computeDistance('abcd', 'abdc')).toBe(1);
    expect(computeLikeness('Frying pans', 'frying pan')).toBeGreaterThan(0.9);
    expect(computeLikeness('kettle', 'tablecloth')).toBeLessThan(0.4);
  });
});
