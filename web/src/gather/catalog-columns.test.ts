import { compileFields, extendFields, type ProductField } from '@basileus/core/product';
import { expect, it } from 'vitest';
import { listWanted, toColumn } from './catalog-columns';

const listed = (market: string, name: string, more: Partial<ProductField> = {}): ProductField => ({
  key: `${market}/${name}`,
  label: `${name} on ${market}`,
  kind: 'text',
  fact: false,
  rows: 'all',
  group: market,
  market,
  ...more,
});
const many = Array.from({ length: 41 }, (_, i) => listed('fair', `f${i}`));
const book = extendFields(compileFields({ fields: [], languages: [], currencies: [] }), [
  listed('stall', 'price', { kind: 'money', currency: 'SEK' }),
  listed('stall', 'colour', { values: ['blu'], words: { blu: 'Blue' } }),
  ...many,
]);

it('asks for the fields of markets by name, and for all of a market of which many are shown', () => {
  const ask = (keys: readonly string[]): string =>
    listWanted(
      keys.map((key) => ({ key })),
      book,
    );
  expect(ask(['sku', 'price'])).toBe('');
  expect(ask(['sku', 'stall/price', 'title', 'stall/colour', 'gone/price'])).toBe('stall/price,stall/colour');
  const fair = many.map((f) => f.key);
  expect(ask([...fair, 'stall/price'])).toBe('fair/*,stall/price');
  expect(ask(fair.slice(1))).toBe(fair.slice(1).join(','));
});
it('shows the words of codes and the money of the market', () => {
  expect(toColumn(book.get('stall/colour')!)).toMatchObject({
    kind: 'choice',
    options: [{ code: 'blu', label: 'Blue' }],
  });
  expect(toColumn(book.get('stall/price')!).unit).toBe('SEK');
  expect(toColumn(book.get('price')!).unit).toBe('GBP');
});
