import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Finding } from '../checks';
import { canAsk } from '../forms';
import { goodValues, listing, pans, smallRulebook } from '../tests/builders';
import { loftRulebook } from '../tests/loft';
import {
  applyAccepted,
  findSurprises,
  fewestSurprising,
  holdWholeFamily,
  isPriceMoveHeld,
  planHeldOperations,
  planOperations,
  splitByGroup,
  takesWholeFamilies,
} from '.';

const book = smallRulebook();
const nothing = { details: undefined, price: undefined, stock: undefined };

describe('what must go out', () => {
  const all = splitByGroup(book, goodValues);
  const plan = (
    values: typeof goodValues,
    accepted = { details: all.details, price: all.price, stock: all.stock } as never,
    role: 'single' | 'parent' = 'single',
    wish: 'keep' | 'withdraw' | 'restore' = 'keep',
    isWithdrawn = false,
  ) => planOperations(pans, role, values, accepted, wish, isWithdrawn);
  it('is a creation where the market has nothing, with every filled field', () => {
    const [op] = plan(goodValues, nothing as never);
    expect(op!.operation).toBe('create');
    expect(op!.differences).toHaveLength(Object.keys(goodValues).length);
  });
  it('is nothing where nothing differs', () => {
    expect(plan(goodValues)).toEqual([]);
  });
  it('is only the group that differs', () => {
    expect(plan({ ...goodValues, price: '29.99' })).toEqual([
      { operation: 'price', differences: [{ field: 'price', before: '34.99', after: '29.99' }] },
    ]);
    expect(plan({ ...goodValues, quantity: '3' }).map((o) => o.operation)).toEqual(['stock']);
    expect(plan({ ...goodValues, title: 'Hearth Pan', quantity: '3', price: '1' }).map((o) => o.operation)).toEqual([
      'revise',
      'price',
      'stock',
    ]);
  });
  it('names a field that was emptied', () => {
    const { material: _, ...rest } = goodValues;
    expect(plan(rest)).toEqual([
      { operation: 'revise', differences: [{ field: 'material', before: 'iron', after: null }] },
    ]);
  });
  it('sends a family row no price and no stock', () => {
    expect(plan({ ...goodValues, price: '1', quantity: '1' }, undefined, 'parent')).toEqual([]);
  });
  it('takes down and puts back on wish, and sends nothing else meanwhile', () => {
    expect(plan({ ...goodValues, price: '1' }, undefined, 'single', 'withdraw')).toEqual([
      { operation: 'withdraw', differences: [] },
    ]);
    expect(plan({ ...goodValues, price: '1' }, undefined, 'single', 'keep', true)).toEqual([]);
    expect(plan(goodValues, undefined, 'single', 'restore', true)).toEqual([{ operation: 'restore', differences: [] }]);
  });
  it('asks for nothing that the market has no file for, or never does again', () => {
    const without = smallRulebook();
    delete without.operations.withdraw;
    delete without.operations.restore;
    const burning = smallRulebook();
    burning.sku.reuse = 'never';
    expect([book, without, burning].map((b) => [canAsk(b, 'withdraw'), canAsk(b, 'restore')])).toEqual([
      [true, true],
      [false, false],
      [true, false],
    ]);
  });
  it('leaves nothing to send once what was sent is accepted (property)', () => {
    const value = fc.constantFrom('', 'a', 'b', 'c');
    fc.assert(
      fc.property(
        fc.record({
          title: value,
          colour: value,
          price: fc.constantFrom('', '1', '2'),
          quantity: fc.constantFrom('', '5'),
        }),
        fc.record({
          title: value,
          material: value,
          price: fc.constantFrom('', '3'),
          quantity: fc.constantFrom('', '6'),
        }),
        (first, second) => {
          let accepted: Parameters<typeof planOperations>[3] = { details: {}, price: {}, stock: {} };
          for (const values of [first, second]) {
            for (const op of planOperations(pans, 'single', values as never, accepted, 'keep', false))
              accepted = applyAccepted(book, accepted, op.operation, op.differences);
            if (planOperations(pans, 'single', values as never, accepted, 'keep', false).length > 0) return false;
          }
          return true;
        },
      ),
      { seed: 9 },
    );
  });
  it.each([
    ['12.99', '1299', true],
    ['12.99', '1.29', true],
    ['12.99', '13.99', false],
    ['10', '14', false],
    ['10', '14.01', true],
  ])('holds a price from %s to %s for a look: %s', (a, b, is) => {
    expect(isPriceMoveHeld(a, b, '0.4')).toBe(is);
  });
});

describe('what surprises', () => {
  const find = (part: Partial<Parameters<typeof findSurprises>[0]>) =>
    findSurprises({ live: 60, stockGone: 0, stockFalls: 0, pricesMove: 0, ...part });
  it('is a large share of what is live, and at least twenty rows', () => {
    expect(find({ stockGone: fewestSurprising })).toEqual([{ kind: 'stock-gone', rows: 20, live: 60 }]);
    expect(find({ stockGone: fewestSurprising - 1 })).toEqual([]);
    expect(find({ live: 100, pricesMove: 30 })).toEqual([]);
    expect(find({ live: 100, pricesMove: 31, stockFalls: 40 }).map((s) => s.kind)).toEqual([
      'stock-falls',
      'prices-move',
    ]);
  });
});

describe('what holds it back', () => {
  const all = splitByGroup(book, goodValues);
  const live = { details: all.details, price: all.price, stock: all.stock };
  const moved = listing({ title: 'Hearth Pan of cast iron', price: '36.99', quantity: '9' });
  const blocker = (field: string, level: Finding['level'] = 'blocker'): Finding => ({
    check: 'x',
    message: 'x',
    level,
    field,
    value: '',
    params: {},
    remedies: [],
  });
  const standing = {
    accepted: live as never,
    wish: 'keep' as const,
    isWithdrawn: false,
    isRefused: false,
    isParentHeld: false,
    timed: [],
    releasedPrices: undefined,
  };
  const held = (findings: Finding[], change: object = {}, of = moved) =>
    Object.fromEntries(
      planHeldOperations(pans, of, { ...standing, ...change }, findings).map((o) => [o.operation, o.held]),
    );
  const nothingThere = { accepted: { details: undefined, price: undefined, stock: undefined } };
  it('is nothing where nothing is wrong', () => {
    expect(held([])).toEqual({ revise: null, price: null, stock: null });
    expect(held([blocker('title', 'caution')])).toEqual({ revise: null, price: null, stock: null });
  });
  it('is a blocker of what goes: that of a text leaves price and stock alone, that of the SKU holds all', () => {
    expect(held([blocker('title')])).toEqual({ revise: 'blocked', price: null, stock: null });
    expect(held([blocker('sale_price')])).toEqual({ revise: 'blocked', price: 'blocked', stock: null });
    expect(held([blocker('quantity')])).toEqual({ revise: 'blocked', price: null, stock: 'blocked' });
    expect(held([blocker('sku')])).toEqual({ revise: 'blocked', price: 'blocked', stock: 'blocked' });
    expect(held([blocker('quantity')], nothingThere)).toEqual({ create: 'blocked' });
  });
  it('is no blocker for taking down and putting back, and nothing at all for taking down', () => {
    expect(held([blocker('sku')], { wish: 'withdraw', isRefused: true })).toEqual({ withdraw: null });
    expect(held([blocker('sku')], { wish: 'restore', isWithdrawn: true })).toEqual({ restore: null });
    expect(held([blocker('sku')], { wish: 'restore', isWithdrawn: true, isRefused: true })).toEqual({
      restore: 'refused',
    });
  });
  it('is a refusal of these very values, but not for stock', () => {
    expect(held([], { isRefused: true })).toEqual({ revise: 'refused', price: 'refused', stock: null });
  });
  it('is the family row, for what is not there yet', () => {
    expect(held([], { ...nothingThere, isParentHeld: true })).toEqual({ create: 'family' });
    expect(held([], { isParentHeld: true })).toEqual({ revise: null, price: null, stock: null });
  });
  it('is a price that moved by more than half, until somebody has looked at that very price', () => {
    const far = listing({ price: '60.00' });
    expect(held([], {}, far)).toEqual({ price: 'price-moved' });
    expect(held([], { releasedPrices: { price: '60.00' } }, far)).toEqual({ price: null });
    expect(held([], { releasedPrices: { price: '59.00' } }, far)).toEqual({ price: 'price-moved' });
  });
});

describe('a family that a market takes whole', () => {
  const row = (isParent: boolean, operation: 'create' | 'price', held: 'blocked' | 'refused' | null) => ({
    isParent,
    planned: [{ operation, held }],
  });
  const heldOf = (family: Parameters<typeof holdWholeFamily>[0]) =>
    holdWholeFamily(family).map((r) => r.planned[0]?.held);
  it('is one whose new entries are records of families', () => {
    expect([takesWholeFamilies(loftRulebook()), takesWholeFamilies(book)]).toEqual([true, false]);
  });
  it.each(['blocked', 'refused'] as const)('waits with all of it while one of it is %s', (held) => {
    expect(heldOf([row(true, 'create', null), row(false, 'create', held), row(false, 'create', null)])).toEqual([
      'member',
      held,
      'member',
    ]);
  });
  it('goes where nothing holds any of it, and without what is not wanted', () => {
    expect(heldOf([row(true, 'create', null), { isParent: false, planned: [] }, row(false, 'create', null)])).toEqual([
      null,
      undefined,
      null,
    ]);
  });
  it('that the market has already is joined by one variant without the others', () => {
    expect(heldOf([row(true, 'price', null), row(false, 'create', 'blocked'), row(false, 'create', null)])).toEqual([
      null,
      'blocked',
      null,
    ]);
  });
});
