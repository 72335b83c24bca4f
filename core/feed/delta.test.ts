// Prices at sites where an entry that stands is not sold yet.
import { describe, expect, it } from 'vitest';
import type { Rulebook } from '../rulebook';
import { goodValues, pans, smallRulebook } from '../tests/builders';
import {
  type Accepted,
  applyAccepted,
  isPriceMoveHeld,
  listOperations,
  pickNewAtSites,
  planOperations,
  splitByGroup,
} from './delta';

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

describe('operations that a wish asks for', () => {
  const all: Accepted = splitByGroup(book, goodValues),
    none: Accepted = { details: undefined, price: undefined, stock: undefined };
  const list = (wish: 'keep' | 'withdraw' | 'restore', isWithdrawn: boolean, accepted = all, values = goodValues) =>
    listOperations(pans, 'single', values, accepted, wish, isWithdrawn);
  it('are none where nothing stands to be withdrawn, or what stands is withdrawn already', () => {
    expect(list('withdraw', false)).toEqual(['withdraw']);
    expect(list('withdraw', false, none)).toEqual([]);
    expect(list('withdraw', true)).toEqual([]);
    expect(list('withdraw', true, none)).toEqual([]);
  });
  it('put back what is withdrawn alone; for what stands it is the same as to keep it', () => {
    const changed = { ...goodValues, title: 'Hearth Pan' };
    expect(list('restore', true, all, changed)).toEqual(['restore']);
    expect(list('restore', false, all, changed)).toEqual(['revise']);
    expect(list('restore', false)).toEqual([]);
  });
  it('change what a market has of a field that is gone, and nothing else', () => {
    const { material: _, ...rest } = goodValues;
    expect(list('keep', false, all, rest)).toEqual(['revise']);
    // What is empty on both sides is no difference.
    expect(list('keep', false, { ...all, details: { ...all.details, description: '' } })).toEqual([]);
  });
});

describe('prices at a site that is new to an entry', () => {
  const category = { ...pans, rulebook: two };
  const accepted: Accepted = { details: {}, price: { 'price@de': '9' }, stock: {} };
  const parts = (a: Accepted, now: Record<string, string>) =>
    planOperations(category, 'single', now, a, 'keep', false).map((o) => [
      o.operation,
      o.differences.map((d) => `${d.field} ${String(d.before)} ${String(d.after)}`),
    ]);
  const priced = {
    ...two,
    attributes: two.attributes.map((a) => ({ ...a, part: 'price' as const })),
  };
  category.rulebook = priced;
  it('go with the details, and those of the other sites by themselves', () => {
    expect(parts(accepted, { 'price@de': '8', 'price@se': '99' })).toEqual([
      ['revise', ['price@se null 99']],
      ['price', ['price@de 9 8']],
    ]);
    expect(parts(accepted, { 'price@de': '8' })).toEqual([['price', ['price@de 9 8']]]);
  });
  it('are nothing to change where the rulebook knows the site no more', () => {
    expect(parts({ ...accepted, price: { 'price@de': '9', 'price@fi': '7' } }, { 'price@de': '9' })).toEqual([]);
  });
});

describe('what a market has after it took an operation', () => {
  const before: Accepted = { details: { title: 'Pan' }, price: { price: '9' }, stock: { quantity: '4' } };
  it('is the same where nothing changed by a withdrawal', () => {
    expect(applyAccepted(book, before, 'withdraw', [])).toBe(before);
    expect(applyAccepted(book, before, 'restore', [])).toBe(before);
  });
  it('has each change in its group; what the rulebook does not know is of the details', () => {
    const changes = [
      { field: 'price', before: '9', after: '8' },
      { field: 'quantity', before: '4', after: null },
      { field: 'gone', before: null, after: 'x' },
    ];
    const after = { details: { title: 'Pan', gone: 'x' }, price: { price: '8' }, stock: {} };
    expect(applyAccepted(book, before, 'revise', changes)).toEqual(after);
    // Put back as a new entry, it carries its values.
    expect(applyAccepted(book, before, 'restore', changes)).toEqual(after);
    expect(applyAccepted(book, { details: undefined, price: undefined, stock: undefined }, 'create', changes)).toEqual({
      details: { gone: 'x' },
      price: { price: '8' },
      stock: {},
    });
    expect(applyAccepted(book, before, 'stock', [])).toEqual(before);
  });
});

it.each([
  ['10', '12', '0.2', false],
  ['10', '12.01', '0.2', true],
  ['10', '8', '0.2', false],
  ['10', '7.99', '0.2', true],
  ['0', '5', '0.2', false],
  [undefined, '5', '0.2', false],
  ['5', undefined, '0.2', false],
  ['', '5', '0.2', false],
])('a price from %s to %s is held past a share of %s: %s', (from, to, share, held) => {
  expect(isPriceMoveHeld(from, to, share)).toBe(held);
});
