import { describe, expect, it } from 'vitest';
import { compileFields } from '../product';
import { compileCategory, toAttributeField } from '../rulebook';
import { smallRulebook } from '../tests/builders';
import {
  createCorrespondences,
  everywhere,
  findSaid,
  findSourceField,
  listRead,
  listReadBy,
  listSourceFields,
  noCorrespondences,
  readFormula,
  resolveListing,
  type SaidCode,
  type SaidSource,
} from '.';

// Home › Pans.
const book = smallRulebook();
const house = compileFields({ fields: [], languages: [], currencies: [] });
const leaf = compileCategory(book, 'pans')!;
const path = ['home', 'pans'];
const at = (node: string, attribute: string, source: SaidSource['source']): SaidSource => ({ node, attribute, source });
const field = (key: string) => ({ is: 'field', field: key }) as const;
const formula = (text: string) => ({ is: 'formula', formula: text }) as const;
const say = (sources: SaidSource[], codes: SaidCode[] = []) => createCorrespondences(sources, codes, house);
const item = { sku: 'A', title: 'Hearth Pan', brand: 'Hearth', price: '40', 'fact.colour': 'Navy' };
const resolve = (c: ReturnType<typeof say>, fields: Record<string, string | string[]> = item) =>
  resolveListing(leaf, fields, 'single', {}, c);

describe('what is said for a node of the tree', () => {
  const c = say([
    at(everywhere, 'title', field('title')),
    at('pans', 'title', field('brand')),
    at('elsewhere', 'title', { is: 'text', text: 'Not this one' }),
  ]);
  it('counts where it stands nearer than what is said above, and not in other categories', () => {
    expect(resolve(c).values['title']).toBe('Hearth');
    expect(findSaid('title', path, c)).toEqual({ node: 'pans', said: field('brand') });
    expect(findSaid('title', ['home', 'books'], c)).toEqual({ node: everywhere, said: field('title') });
    expect(findSaid('title', [], c)?.node).toBe(everywhere);
    expect(findSaid('brand', path, c)).toBeUndefined();
  });
  it('is nothing where nothing is said for, whatever is said above or suggested', () => {
    const none = say([at(everywhere, 'title', field('brand')), at('pans', 'title', { is: 'nothing' })]);
    expect(resolve(none).values).not.toHaveProperty('title');
    expect(findSourceField({ key: 'title', from: 'title' }, path, none)).toBeUndefined();
  });
  it('leaves what the rulebook suggests where nothing is said at all', () => {
    expect(findSourceField({ key: 'title', from: 'title' }, path, noCorrespondences)).toBe('title');
    expect(findSourceField({ key: 'title' }, path, noCorrespondences)).toBeUndefined();
  });
  it('names every field that feeds an attribute somewhere, what counts everywhere first', () => {
    const title = { key: 'title', from: 'title' };
    expect(listSourceFields(title, c)).toEqual(['title', 'brand']);
    expect(listSourceFields(title, say([at('pans', 'title', field('brand'))]))).toEqual(['title', 'brand']);
    expect(listSourceFields(title, say([at(everywhere, 'title', { is: 'nothing' })]))).toEqual([]);
  });
});

describe('codes that our values become', () => {
  const code = (node: string, ours: string, theirs: string): SaidCode => ({ node, attribute: 'colour', ours, theirs });
  it('are taken from the nearest node that says one, word by word', () => {
    const c = say([], [code(everywhere, 'Navy', 'blu'), code(everywhere, 'Sand', 'grn'), code('pans', 'NAVY', 'blk')]);
    const of = (colour: string) => resolve(c, { ...item, 'fact.colour': colour }).values['colour'];
    expect([of('navy'), of('Sand')]).toEqual(['blk', 'grn']);
  });
  it('of another branch count for nothing', () => {
    const c = say([], [code('books', 'Plum', 'blk')]);
    expect(resolve(c, { ...item, 'fact.colour': 'Plum' }).values['colour']).toBe('Plum');
  });
});

describe('a formula', () => {
  it('fills an attribute from several fields, and its value goes through the table of values', () => {
    const c = say([
      at('pans', 'title', formula('[Brand] & " " & [Title]')),
      at(everywhere, 'colour', formula('if([Brand] = "Hearth", "Navy", "Black")')),
    ]);
    const { values, origins } = resolve(c);
    expect(values).toMatchObject({ title: 'Hearth Hearth Pan', colour: 'blu' });
    expect(origins['title']).toEqual({ from: 'formula', fields: ['brand', 'title'] });
  });
  it('gives amounts in the places of the market’s currency', () => {
    expect(resolve(say([at(everywhere, 'price', formula('[Price] * 1.0333'))])).values['price']).toBe('41.33');
  });
  it('that gives nothing leaves the attribute empty, and one that fails says why', () => {
    const empty = resolve(say([at(everywhere, 'title', formula('[Part number] & ""'))]));
    expect(empty.values).not.toHaveProperty('title');
    expect(empty.origins).not.toHaveProperty('title');
    const failed = resolve(say([at(everywhere, 'price', formula('[Price] / 0'))]));
    expect(failed.values).not.toHaveProperty('price');
    expect(failed.origins['price']).toEqual({
      from: 'formula',
      fields: ['price'],
      fault: { kind: 'divided-by-zero' },
    });
  });
  it('gives way to what was typed', () => {
    const c = say([at(everywhere, 'title', formula('[Brand] & "!"'))]);
    expect(resolveListing(leaf, item, 'single', { title: 'Typed' }, c).values['title']).toBe('Typed');
  });
  it('of a field that is gone gives nothing, and is no fault of any item', () => {
    const c = say([at(everywhere, 'title', formula('[fact.gone] & "x"'))]);
    expect(c.sources.get('title')?.get(everywhere)).toMatchObject({ is: 'formula', made: undefined });
    expect(resolve(c).values).not.toHaveProperty('title');
    expect(listRead(c.sources.get('title')?.get(everywhere))).toEqual([]);
  });
  it('says which fields it reads', () => {
    expect(listReadBy(formula('[Brand] & [Title]'), house)).toEqual(['brand', 'title']);
    expect(listReadBy({ is: 'text', text: 'x' }, house)).toEqual([]);
  });
});

describe('a formula that is said', () => {
  const as = (key: string) =>
    toAttributeField(
      { key: 'm', name: 'M' },
      book,
      book.attributes.find((a) => a.key === key)!,
    );
  it('is kept with the fields that it reads under their keys', () => {
    expect(readFormula('[Brand] & " [x] " & upper([Title])', as('title'), house)).toEqual({
      ok: true,
      formula: '[brand] & " [x] " & upper([title])',
    });
  });
  it('must give what the attribute takes', () => {
    expect(readFormula('[Title]', as('price'), house)).toMatchObject({
      ok: false,
      fault: { at: { from: 0, to: 7 }, problem: { is: 'result', found: 'text' } },
    });
    expect(readFormula('[Titel]', as('title'), house)).toMatchObject({
      ok: false,
      fault: { problem: { is: 'unknown-field', near: 'Title' } },
    });
  });
  it('may not ask which day it is', () => {
    expect(readFormula('"from " & today()', as('title'), house)).toMatchObject({
      ok: false,
      fault: { problem: { is: 'of-the-day' } },
    });
  });
});
