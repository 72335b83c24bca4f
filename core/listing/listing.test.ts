import { describe, expect, it } from 'vitest';
import { compileCategory } from '../rulebook';
import { smallRulebook } from '../tests/builders';
import { said } from '../tests/said';
import { noCorrespondences as none, resolveListing } from '.';

const pans = compileCategory(smallRulebook(), 'pans')!;
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
  it('writes a number as a kind that the market takes, and says what the product has', () => {
    const narrow = compileCategory(
      smallRulebook((d) => {
        Object.assign(
          (d['attributes'] as unknown as { key: string }[]).find(({ key }) => key === 'item_number')!,
          {
            kinds: ['gtin-13', 'isbn-13'],
            from: 'gtin',
          },
        );
      }),
      'pans',
    )!;
    const at = (gtin: string) => resolveListing(narrow, { ...fields, gtin }, 'single', {}, none);
    expect([at('036000291452'), at('0-306-40615-2'), at('4006381333931')].map((r) => r.values['item_number'])).toEqual([
      '0036000291452',
      '9780306406157',
      '4006381333931',
    ]);
    expect(at('036000291452').origins['item_number']).toEqual({
      from: 'product',
      field: 'gtin',
      fitted: '036000291452',
    });
    expect(at('4006381333931').origins['item_number']).toEqual({ from: 'product', field: 'gtin' });
  });
  it('makes plain lines of markup that shapes a text, where the market takes none', () => {
    const plain = compileCategory(
      smallRulebook((d) => {
        const a = (d['attributes'] as unknown as { key: string; type: string; tags?: string[]; from?: string }[]).find(
          ({ key }) => key === 'description',
        )!;
        delete a.tags;
        Object.assign(a, { type: 'long-text', from: 'description' });
      }),
      'pans',
    )!;
    const at = (description: string) => resolveListing(plain, { ...fields, description }, 'single', {}, none);
    const fitted = at('<p>Holds &amp; keeps heat.</p><ul><li>Flat</li><li>Even</li></ul>');
    expect(fitted.values['description']).toBe('Holds & keeps heat.\nFlat\nEven');
    expect(fitted.origins['description']).toMatchObject({ from: 'product', fitted: expect.any(String) as string });
    expect(at('<p style="color:red">Red</p>').values['description']).toBe('<p style="color:red">Red</p>');
  });
  it('makes moments of days where the market wants them: when a sale begins there, and its last second', () => {
    const timed = compileCategory(
      smallRulebook((d) => {
        (d['sites'] as unknown as { timeZone: string }[])[0]!.timeZone = 'America/Denver';
        for (const a of d['attributes'] as unknown as { key: string; type: string }[])
          if (a.key === 'sale_start' || a.key === 'sale_end') a.type = 'moment';
      }),
      'pans',
    )!;
    const days = { ...fields, sale_price: '9.99', sale_start: '2026-11-27', sale_end: '2026-11-30' };
    const sources = said({
      sale_start: { is: 'field', field: 'sale_start' },
      sale_end: { is: 'field', field: 'sale_end' },
    });
    const r = resolveListing(timed, days, 'single', {}, sources);
    expect([r.values['sale_start'], r.values['sale_end']]).toEqual([
      '2026-11-27T00:00:00-07:00',
      '2026-11-30T23:59:59-07:00',
    ]);
    expect(r.origins['sale_start']).toEqual({ from: 'product', field: 'sale_start', fitted: '2026-11-27' });
    expect(resolveListing(timed, { ...days, sale_start: 'soon' }, 'single', {}, sources).values['sale_start']).toBe(
      'soon',
    );
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
    const c = said(
      {
        title: { is: 'field', field: 'brand' },
        hues: { is: 'field', field: 'fact.colour' },
        washable: { is: 'text', text: 'yes' },
        brand: { is: 'nothing' },
      },
      [{ attribute: 'hues', ours: 'Navy', theirs: 'grn' }],
    );
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
