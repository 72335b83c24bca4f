import { compileFields, firstFields } from '@basileus/core/product';
import { describe, expect, it } from 'vitest';
import { addStock, guessTaken, listDiffering, listNew, together } from './joining';

const book = compileFields(firstFields);
const item = (id: number, fields: Record<string, string | string[]>) => ({
  id,
  sku: `S-${id}`,
  kind: 'single' as const,
  parentId: null,
  variants: 0,
  version: 1,
  axes: [],
  fields: { sku: `S-${id}`, ...fields },
});
const two = [
  item(1, { title: 'Mug', price: '9.50', stock: '4', brand: 'Pellow' }),
  item(2, { title: 'A mug', price: '9.5', stock: '3', brand: 'Pellow', 'fact.colour': 'Blue' }),
];

describe('items that are joined', () => {
  const differing = listDiffering(two, book);
  it('differ in what is not the same, numbers compared as numbers, their SKUs left out', () => {
    expect(differing.map((d) => d.field).sort()).toEqual(['fact.colour', 'stock', 'title']);
  });
  it('take at first what the one holds that stays, and of the other what that one lacks', () => {
    const of = (field: string) => differing.find((d) => d.field === field)!;
    expect([guessTaken(of('title'), 0), guessTaken(of('title'), 1), guessTaken(of('fact.colour'), 0)]).toEqual([
      0, 1, 1,
    ]);
    expect(listNew(differing, 0, {})).toEqual({ 'fact.colour': 'Blue' });
    expect(listNew(differing, 1, {})).toEqual({});
  });
  it('take what is said, an empty value too', () => {
    expect(listNew(differing, 0, { title: 1, 'fact.colour': 0 })).toEqual({ title: 'A mug' });
    expect(listNew(differing, 1, { 'fact.colour': 0 })).toEqual({ 'fact.colour': null });
  });
  it('have their stock added up where that is said', () => {
    expect(listNew(differing, 0, { stock: together })).toEqual({ 'fact.colour': 'Blue', stock: '7' });
    expect(addStock([null, null])).toBeNull();
    expect(addStock(['2', null])).toBe('2');
  });
});
