import { describe, expect, it } from 'vitest';
import { smallRulebook } from '../tests/builders';
import { findDrift } from './drift';

const book = smallRulebook();
const accepted = { price: { price: '34.99' }, stock: { quantity: '12' } };

describe('what a market shows beside what it took', () => {
  it.each<[string, Record<string, string>, [string, string, string][]]>([
    ['the same', { price: '34.99', quantity: '12' }, []],
    ['the same, written another way', { price: '34.990', quantity: '12.0' }, []],
    ['another price', { price: '30', quantity: '12' }, [['price', '30', '34.99']]],
    ['less stock, which was sold', { quantity: '9' }, []],
    ['more stock than it was told', { quantity: '13' }, [['quantity', '13', '12']]],
    ['no price any more', { price: '' }, [['price', '', '34.99']]],
    ['a sale that we do not know of', { sale_price: '20' }, [['sale_price', '20', '']]],
    ['no sale, as we know', { sale_price: '' }, []],
    ['a word for a price', { price: 'on request' }, [['price', 'on request', '34.99']]],
    ['what is no offer', { title: 'Another' }, []],
  ])('%s', (_, shows, drift) => {
    expect(findDrift(book, shows, accepted).map((d) => [d.field, d.shows, d.took])).toEqual(drift);
  });
  it('is none where it was never sent', () => {
    for (const never of [undefined, {}])
      expect(findDrift(book, { price: '30', quantity: '90' }, { price: never, stock: never })).toEqual([]);
    expect(findDrift(book, { quantity: '90' }, { price: {}, stock: { handling_days: '2' } })).toEqual([]);
  });
});
