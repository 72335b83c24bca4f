import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  arrange,
  hideColumn,
  isSameLayout,
  moveColumn,
  putBeside,
  showColumn,
  startLayout,
  stepColumn,
} from './layout';

const all = ['sku', 'title', 'brand', 'price', 'stock'].map((key) => ({ key }));
const keys = all.map((c) => c.key);
const shownBy = (layout: typeof startLayout) => arrange(all, layout).map((c) => c.key);

describe('the columns of a table', () => {
  it('come as they are where nothing was said', () => {
    expect(shownBy(startLayout)).toEqual(keys);
  });
  it('come in the order that was said, without what is gone', () => {
    expect(shownBy({ ...startLayout, columns: ['price', 'colour of old', 'sku'] })).toEqual(['price', 'sku']);
  });
  it('are put before another one, or last', () => {
    expect(moveColumn(startLayout, keys, 'price', 'title').columns).toEqual([
      'sku',
      'price',
      'title',
      'brand',
      'stock',
    ]);
    expect(moveColumn(startLayout, keys, 'sku', null).columns).toEqual(['title', 'brand', 'price', 'stock', 'sku']);
    expect(moveColumn(startLayout, keys, 'sku', 'sku')).toBe(startLayout);
  });
  it('go one step, and no further than the edge', () => {
    expect(stepColumn(startLayout, keys, 'brand', -1).columns).toEqual(['sku', 'brand', 'title', 'price', 'stock']);
    expect(stepColumn(startLayout, keys, 'price', 1).columns).toEqual(['sku', 'title', 'brand', 'stock', 'price']);
    expect(stepColumn(startLayout, keys, 'sku', -1)).toBe(startLayout);
    expect(stepColumn(startLayout, keys, 'stock', 1)).toBe(startLayout);
  });
  it('are hidden, one fewer in sight where it stood among those, and the last one never', () => {
    expect(hideColumn(startLayout, keys, 'title')).toMatchObject({
      columns: ['sku', 'brand', 'price', 'stock'],
      frozen: 1,
    });
    expect(hideColumn(startLayout, keys, 'price').frozen).toBe(2);
    const one = { ...startLayout, columns: ['sku'] };
    expect(hideColumn(one, ['sku'], 'sku')).toBe(one);
  });
  it('come back behind all others, once', () => {
    const some = { ...startLayout, columns: ['sku'] };
    expect(showColumn(some, ['sku'], 'price').columns).toEqual(['sku', 'price']);
    expect(showColumn(some, ['sku'], 'sku')).toBe(some);
  });
  it('are never lost or doubled by moving them about', () => {
    const column = fc.constantFrom(...keys);
    fc.assert(
      fc.property(fc.array(fc.tuple(column, fc.option(column))), (moves) => {
        let layout = startLayout;
        for (const [key, before] of moves) layout = moveColumn(layout, shownBy(layout), key, before);
        expect([...shownBy(layout)].sort()).toEqual([...keys].sort());
      }),
    );
  });
});

it('shows columns for now behind those that stay in sight, and none twice', () => {
  const shown = all.slice(0, 4);
  const put = (...beside: string[]) => putBeside(shown, all, beside, 2).map((c) => c.key);
  expect(put('stock')).toEqual(['sku', 'title', 'stock', 'brand', 'price']);
  expect(put('price', 'no such', 'stock', 'sku')).toEqual(['sku', 'title', 'price', 'stock', 'brand']);
  expect(put()).toEqual(['sku', 'title', 'brand', 'price']);
});

it('two layouts are the same whatever order their widths were set in', () => {
  const a = { ...startLayout, widths: { sku: 90, title: 200 } },
    b = { ...startLayout, widths: { title: 200, sku: 90 } };
  expect(isSameLayout(a, b)).toBe(true);
  expect(isSameLayout(a, { ...b, frozen: 1 })).toBe(false);
  expect(isSameLayout(a, { ...b, columns: ['sku'] })).toBe(false);
  expect(isSameLayout(a, { ...b, widths: { title: 201, sku: 90 } })).toBe(false);
});
