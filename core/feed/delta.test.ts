// Prices at sites where an entry that stands is not sold yet.
import { expect, it } from 'vitest';
import type { Rulebook } from '../rulebook';
import { smallRulebook } from '../tests/builders';
import { pickNewAtSites } from './delta';

const book = smallRulebook();
const [site] = book.sites,
  [attribute] = book.attributes;
const at = (key: string, isOptional: boolean) => ({
  site: { ...site!, key, optional: isOptional },
  price: `price@${key}`,
});
const two = {
  ...book,
  offers: [at('de', false), at('se', true)],
  attributes: ['price@de', 'price@se', 'sale@se'].map((key) => ({
    ...attribute!,
    key,
    facet: { site: key.slice(-2) },
  })),
} as unknown as Rulebook;
const price = { 'price@de': '9', 'price@se': '99', 'sale@se': '89' };
const pick = (accepted: Partial<Parameters<typeof pickNewAtSites>[1]>, now = price) =>
  pickNewAtSites(two, { details: {}, price: undefined, stock: undefined, ...accepted }, now);

it('go with the details, with all that is said of the site', () => {
  expect(pick({ price: { 'price@de': '9' } })).toEqual({ 'price@se': '99', 'sale@se': '89' });
  expect(pick({})).toEqual({ 'price@se': '99', 'sale@se': '89' });
});
it('go by themselves where it is sold there already, where nothing of it stands, and where it has none', () => {
  expect(pick({ price: { 'price@de': '9', 'price@se': '95' } })).toEqual({});
  expect(pick({ details: undefined })).toEqual({});
  expect(pick({ price: {} }, { 'price@de': '9', 'price@se': '', 'sale@se': '89' })).toEqual({});
});
