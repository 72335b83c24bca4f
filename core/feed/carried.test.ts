import { describe, expect, it } from 'vitest';
import { smallRulebook } from '../tests/builders';
import { fairRulebook } from '../tests/fair';
import { compileCategory } from '../rulebook';
import { applyAccepted, chooseCarried, planOperations } from '.';

const values = { title: 'New', price: '20', quantity: '5' };
const accepted = {
  details: { title: 'Old', material: 'iron' },
  price: { price: '10' },
  stock: { quantity: '9' },
};
const change = (field: string) => [{ field, before: 'a', after: 'b' }];

describe('what travels with an operation', () => {
  it('is what changes alone where a blank leaves the rest, and nothing where the entry is only named', () => {
    const book = smallRulebook();
    expect(chooseCarried(book, 'revise', values, change('title'), accepted)).toEqual({ title: 'New' });
    expect(chooseCarried(book, 'withdraw', values, [], accepted)).toEqual({});
    expect(chooseCarried(book, 'create', values, change('title'), accepted)).toEqual(values);
  });
  it('is, of a record that must be whole, what the operation is about as it is now and the rest as the market has it', () => {
    const fair = fairRulebook();
    const now = { 'name@de': 'Neu', 'cost@de': '20', pieces: '5' };
    const there = { details: { 'name@de': 'Alt', deep: '9 mm' }, price: { 'cost@de': '10' }, stock: { pieces: '9' } };
    expect(chooseCarried(fair, 'revise', now, change('name@de'), there)).toEqual({
      'name@de': 'Neu',
      'cost@de': '10',
      pieces: '9',
    });
    expect(chooseCarried(fair, 'price', now, change('cost@de'), there)).toEqual({
      'name@de': 'Alt',
      deep: '9 mm',
      'cost@de': '20',
      pieces: '9',
    });
    expect(chooseCarried(fair, 'stock', now, change('pieces'), there)).toMatchObject({ 'cost@de': '10', pieces: '5' });
    // Put back as a new entry, everything is as it is now.
    expect(chooseCarried(fair, 'restore', now, [], there)).toEqual(now);
  });
});

describe('an entry that is put back as a new one', () => {
  it('is accepted as it is now, so that nothing of it is sent again', () => {
    const fair = fairRulebook();
    const pans = compileCategory(fair, 'pans')!;
    const now = { 'name@de': 'Neu', 'cost@de': '20', pieces: '5' };
    const there = { details: { 'name@de': 'Alt', maker: 'H' }, price: { 'cost@de': '10' }, stock: { pieces: '5' } };
    const [restore] = planOperations(pans, 'single', now, there, 'restore', true);
    expect(restore!.operation).toBe('restore');
    const after = applyAccepted(fair, there, 'restore', restore!.differences);
    expect(after).toEqual({ details: { 'name@de': 'Neu' }, price: { 'cost@de': '20' }, stock: { pieces: '5' } });
    expect(planOperations(pans, 'single', now, after, 'keep', false)).toEqual([]);
  });
});
