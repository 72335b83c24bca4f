import { describe, expect, it } from 'vitest';
import { compileCategory } from '../rulebook';
import { smallRulebook } from '../tests/builders';
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
  it.each([
    ['11 in', '27.9 cm'],
    ['0.28 m', '28 cm'],
    ['280mm', '280 mm'],
    ['28 centimetres', '28 cm'],
    ['28 kg', '28 kg'],
    ['28', '28'],
  ])('puts %s into a unit that the market takes: %s', (ours, theirs) => {
    const r = resolveListing(pans, { ...fields, 'fact.diameter': ours }, 'single', {}, none);
    expect(r.values['diameter']).toBe(theirs);
    const isFitted = theirs === '27.9 cm' || ours === '0.28 m';
    expect(r.origins['diameter']).toEqual({
      from: 'product',
      field: 'fact.diameter',
      ...(isFitted ? { fitted: ours } : {}),
    });
  });
  it('takes another word for a code only where it is the same word', () => {
    const at = (colour: string) =>
      resolveListing(pans, { ...fields, 'fact.colour': colour }, 'single', {}, none).values['colour'];
    expect([at('NAVY'), at(' black '), at('Bläck')]).toEqual(['blu', 'blk', 'Bläck']);
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
