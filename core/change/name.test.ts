import { describe, expect, it } from 'vitest';
import { nameChange } from '.';

const cell = (sku: string, field: string) => ({ sku, field });
const labelOf = (f: string) => ({ price: 'Price', stock: 'Stock', brand: 'Brand' })[f] ?? f;

describe('a change is called by its fields and items', () => {
  it.each([
    [[cell('MP-MUG-06', 'price')], [], 'Price of MP-MUG-06'],
    [[cell('A', 'price'), cell('A', 'stock')], [], 'Price and Stock of A'],
    [[cell('A', 'price'), cell('B', 'price')], ['Pellow', 'Pellow'], 'Price, 2 Pellow items'],
    [[cell('A', 'price'), cell('B', 'price')], ['Pellow', 'Hearth'], 'Price, 2 items'],
    [[cell('A', 'price'), cell('B', 'price')], [null, null], 'Price, 2 items'],
    [[cell('A', 'price'), cell('B', 'stock'), cell('B', 'brand')], [], '3 fields, 2 items'],
  ])('%j', (cells, brands, name) => {
    expect(nameChange(cells, labelOf, brands)).toBe(name);
  });
});
