// An item that a market has already: an offer joins its entry, and what the entry says agrees with the goods. Common practice.
import { describe, expect, it } from 'vitest';
import { compileCategory, compileOffer } from '../../rulebook';
import { listing } from '../../tests/builders';
import { joiningRulebook } from '../../tests/joining';
import { prepareChecks } from '..';

const book = joiningRulebook();
const own = prepareChecks(compileCategory(book, 'pans')!, (id) => id === 'market-entry'),
  offer = prepareChecks(compileOffer(book, 'pans')!, (id) => id === 'market-entry');
const there = { number: 'N7', title: 'Pan of iron', category: 'pans' };
const entry = (facts: Record<string, string>, ours: Record<string, string>) => ({
  entry: { there: { ...there, facts }, ours },
});
const said = (found: ReturnType<typeof own>) => found.map((f) => [f.level, f.message, f.field, f.value, f.params]);

describe('an item that the market has already', () => {
  const joined = entry({ brand: 'Other', diameter: '28 cm' }, { brand: 'Hearth', diameter: '30 cm' });
  it('gets no second entry, unless it has one of its own there', () => {
    expect(said(own(listing({}, joined)))).toEqual([
      ['blocker', 'there', 'item_number', '9521234567899', { number: 'N7', title: 'Pan of iron' }],
    ]);
    expect(own(listing({}, { ...joined, accepted: { title: 'Ours' } }))).toEqual([]);
    expect(own(listing())).toEqual([]);
  });
  it('is joined where the entry is of our item; another brand or number is another item', () => {
    expect(said(offer(listing({}, joined)))).toEqual([
      ['blocker', 'otherItem', 'brand', 'Hearth', { number: 'N7', theirs: 'Other' }],
      ['caution', 'differs', 'diameter', '30 cm', { number: 'N7', theirs: '28 cm' }],
    ]);
    const number = entry({ item_number: '9521234567882' }, { item_number: '9521234567899' });
    expect(said(offer(listing({}, number))).map(([level, message, field]) => [level, message, field])).toEqual([
      ['blocker', 'otherItem', 'item_number'],
    ]);
    expect(offer(listing({}, entry({ diameter: '28 cm' }, { diameter: '280 mm' })))).toEqual([]);
    expect(offer(listing())).toEqual([]);
  });
});
