// What a listing takes from its product where values are fixed, fitted, typed, or not asked for.
import { describe, expect, it } from 'vitest';
import { compileFields } from '../product';
import { compileCategory } from '../rulebook';
import { smallRulebook } from '../tests/builders';
import { createCorrespondences, everywhere, resolveListing, type SaidSource } from '.';

const house = compileFields({ fields: [], languages: [], currencies: [] });
const text = (attribute: string, said: string): SaidSource => ({
  node: everywhere,
  attribute,
  source: { is: 'text', text: said },
});
const from = (attribute: string, field: string): SaidSource => ({
  node: everywhere,
  attribute,
  source: { is: 'field', field },
});
const book = smallRulebook((d) => {
  const tree = (d as unknown as { tree: { demands?: object[] }[] }).tree;
  tree[1]!.demands!.push({ attribute: 'pages', level: 'unused' });
  tree[1]!.demands!.push({ attribute: 'pages', level: 'may', when: { attribute: 'colour', is: ['blk'] } });
});
const pans = compileCategory(book, 'pans')!;
const item = { sku: 'A', title: 'Hearth Pan', brand: 'Hearth', 'fact.colour': 'Black' };
const resolve = (said: SaidSource[], fields: Record<string, string | string[]> = item, typed = {}) =>
  resolveListing(pans, fields, 'single', typed, createCorrespondences(said, [], house));

describe('a value that is the same for all', () => {
  it('is a text, or several where the field takes several', () => {
    const { values, origins } = resolve([text('washable', 'yes'), text('hues', 'blk|blu')]);
    expect([values['washable'], values['hues']]).toEqual(['yes', ['blk', 'blu']]);
    expect(origins['hues']).toEqual({ from: 'fixed' });
  });
  it('is not said where the field is not used at all', () => {
    expect(resolve([text('battery_kind', 'alk')]).values).not.toHaveProperty('battery_kind');
  });
  it('is let go where a condition lets the field go, and kept where it asks for it', () => {
    expect(resolve([text('pages', '3')]).values['pages']).toBe('3');
    const blue = resolve([text('pages', '3')], { ...item, 'fact.colour': 'Blue' });
    expect(blue.values).not.toHaveProperty('pages');
    expect(blue.origins).not.toHaveProperty('pages');
    // What a person typed stays for the checks to judge.
    expect(resolve([], { ...item, 'fact.colour': 'Blue' }, { pages: '7' }).values['pages']).toBe('7');
  });
});

describe('what a person typed', () => {
  it('stands before what the product says, also where it is empty; what the category does not know is left out', () => {
    const { values, origins } = resolve([], item, { title: 'Typed', brand: '', ghost: 'x' });
    expect([values['title'], values['brand'], values['ghost']]).toEqual(['Typed', undefined, undefined]);
    expect([origins['title'], origins['brand'], origins['ghost']]).toEqual([
      { from: 'typed' },
      { from: 'typed' },
      undefined,
    ]);
  });
});

describe('a text in other widths', () => {
  it('is put into those that the market takes, and says so', () => {
    const wide = resolve([from('reading', 'title')], { ...item, title: 'ﾌﾗｲﾊﾟﾝ' });
    expect(wide.values['reading']).toBe('フライパン');
    expect(wide.origins['reading']).toEqual({ from: 'product', field: 'title', fitted: 'ﾌﾗｲﾊﾟﾝ' });
    expect(resolve([from('reading', 'title')], { ...item, title: 'フライパン' }).origins['reading']).toEqual({
      from: 'product',
      field: 'title',
    });
  });
});

describe('a list of ours', () => {
  it('goes whole into a field that takes several, and by its first into one that takes one', () => {
    const given = { ...item, highlights: ['Oven safe', 'Stacks'] };
    expect(resolve([from('points', 'highlights')], given).values['points']).toEqual(['Oven safe', 'Stacks']);
    expect(resolve([from('description', 'highlights')], given).values['description']).toBe('Oven safe');
    // A word of it that is a code of theirs is said to be so.
    const mixed = resolve([from('hues', 'highlights')], { ...item, highlights: ['Green', 'jet'] });
    expect(mixed.values['hues']).toEqual(['grn', 'blk']);
  });
  it('is nothing where it is empty', () => {
    expect(resolve([from('points', 'highlights')], { ...item, highlights: [] }).origins).not.toHaveProperty('points');
  });
});

describe('a formula that gives nothing', () => {
  const formed = (formula: string): SaidSource => ({
    node: everywhere,
    attribute: 'reading',
    source: { is: 'formula', formula },
  });
  it('says nothing, and one that fails says why', () => {
    expect(resolve([formed('[Brand] & "!"')]).values['reading']).toBe('Hearth!');
    expect(resolve([formed('if([Title] = "x", "y", "")')]).origins).not.toHaveProperty('reading');
    const failed = resolve([formed('[Brand] & value([Title])')]);
    expect(failed.values).not.toHaveProperty('reading');
    expect(failed.origins['reading']).toMatchObject({ from: 'formula', fault: { kind: 'no-number' } });
  });
});

it('words that were remembered are forgotten when there are too many, and made anew', () => {
  const first = resolve([], item).values['colour'];
  const correspondences = createCorrespondences([], [], house);
  for (let i = 0; i < 2100; i++)
    resolveListing(pans, { ...item, 'fact.colour': `Shade ${i}` }, 'single', {}, correspondences);
  expect(resolveListing(pans, item, 'single', {}, correspondences).values['colour']).toBe(first);
});
