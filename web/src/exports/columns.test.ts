import { describe, expect, it } from 'vitest';
import { moveColumn, turnColumn } from './columns';

describe('columns of a file', () => {
  it('are put in at the end and taken out, but for the SKU', () => {
    expect(turnColumn(['sku', 'price'], 'stock')).toEqual(['sku', 'price', 'stock']);
    expect(turnColumn(['sku', 'price', 'stock'], 'price')).toEqual(['sku', 'stock']);
    expect(turnColumn(['sku', 'price'], 'sku')).toEqual(['sku', 'price']);
  });
  it.each([
    ['price', 1, ['sku', 'stock', 'price', 'title']],
    ['title', -1, ['sku', 'price', 'title', 'stock']],
    ['price', -1, ['sku', 'price', 'stock', 'title']],
    ['title', 1, ['sku', 'price', 'stock', 'title']],
    ['sku', 1, ['sku', 'price', 'stock', 'title']],
    ['cost', 1, ['sku', 'price', 'stock', 'title']],
  ] as const)('%s moved by %i', (key, by, moved) => {
    expect(moveColumn(['sku', 'price', 'stock', 'title'], key, by)).toEqual(moved);
  });
});
