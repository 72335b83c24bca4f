// Values as fields of ours keep them, and those that none can keep.
import { describe, expect, it } from 'vitest';
import { fieldOf, fields } from '../tests/house-fields';
import { findCellFault, findValueFault, type ProductField, toKept } from '.';

const made = (more: Partial<ProductField>): ProductField => ({ ...fieldOf('brand'), ...more });

describe('a value is kept', () => {
  const hues = made({ values: ['blk', 'blu'], words: { blk: 'Black', blu: 'Blue' } });
  it('as the list spells it, by its code or by its word, each entry for itself', () => {
    expect(['blk', 'BLK', ' black', 'Blue', 'Red'].map((v) => toKept(hues, v))).toEqual([
      'blk',
      'blk',
      'blk',
      'blu',
      'Red',
    ]);
    expect(toKept(made({ ...hues, kind: 'list' }), ['Black', 'BLU', 'Red'])).toEqual(['blk', 'blu', 'Red']);
    const plain = made({ values: ['Small', 'Large'] });
    expect(toKept(plain, 'small')).toBe('Small');
    expect(toKept(made({ kind: 'list' }), ['a', 'b'])).toEqual(['a', 'b']);
  });
  it('as the moment at which a day begins or ends, where a market asks for one', () => {
    const moment = (edge: 'first' | 'last') => made({ kind: 'date', moment: { timeZone: 'Europe/Berlin', edge } });
    expect(toKept(moment('first'), '2026-11-28')).toBe('2026-11-28T00:00:00+01:00');
    expect(toKept(moment('last'), '2026-11-28')).toBe('2026-11-28T23:59:59+01:00');
    expect(toKept(moment('first'), 'soon')).toBe('soon');
    expect(toKept(made({ kind: 'date' }), '2026-11-28')).toBe('2026-11-28');
  });
});

describe('a value that cannot be kept', () => {
  it.each<[Partial<ProductField>, string, string | undefined]>([
    [{ kind: 'number' }, '1.5', undefined],
    [{ kind: 'number' }, '1,5', 'not-a-number'],
    [{ kind: 'text' }, '#REF!', 'formula-error'],
    [{ kind: 'text' }, '#1 in pans', undefined],
    [{ kind: 'text' }, 'a\0b', 'zero-character'],
    [{ kind: 'text' }, '\ud83c', 'half-character'],
    [{ kind: 'integer' }, '1.0', 'not-whole'],
  ])('%j %j: %s', (kind, value, fault) => {
    expect(findValueFault(made(kind), value)?.kind).toBe(fault);
  });
});

it.each<[string, string | null, string, string | undefined]>([
  ['stock', null, 'bundle', 'follows-parts'],
  ['stock', null, 'single', undefined],
  ['stock', '5', 'bundle', 'follows-parts'],
  ['stock', '5', 'family', 'not-on-a-family'],
  ['price', null, 'bundle', undefined],
  ['title', null, 'single', 'title-stays'],
  ['title', '', 'single', 'title-stays'],
  ['brand', null, 'single', undefined],
  ['parent_sku', 'F', 'family', 'in-no-family'],
  ['parent_sku', 'F', 'bundle', 'in-no-family'],
  ['parent_sku', 'F', 'single', undefined],
  ['sku', 'B', 'single', 'not-changed-here'],
  ['ghost', 'x', 'single', 'not-changed-here'],
])('%s as %j of a %s: %s', (field, after, kind, fault) => {
  expect(findCellFault(fields, field, after, { kind })?.kind).toBe(fault);
});
