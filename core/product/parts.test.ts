import { describe, expect, it } from 'vitest';
import { fields } from '../tests/house-fields';
import { findCellFault, readParts, wordCellFault, writeParts } from '.';

describe('the parts of a bundle', () => {
  it('are read as they are written, and a SKU alone as one of it', () => {
    const parts = [
      { sku: 'MP-MUG-06', count: 2 },
      { sku: 'X 2 Y', count: 1 },
    ];
    expect(writeParts(parts)).toEqual(['2 × MP-MUG-06', '1 × X 2 Y']);
    expect(readParts(writeParts(parts))).toEqual({ ok: true, parts });
    expect(readParts(['MP-MUG-06', '3 x KN-1', '12*  TW'])).toEqual({
      ok: true,
      parts: [
        { sku: 'MP-MUG-06', count: 1 },
        { sku: 'KN-1', count: 3 },
        { sku: 'TW', count: 12 },
      ],
    });
    expect(readParts(null)).toEqual({ ok: true, parts: [] });
    expect([readParts(['0 × A']), readParts(['10001 × A']), readParts([' '])].map((r) => r.ok)).toEqual([
      false,
      false,
      false,
    ]);
    expect(readParts('10000 × A')).toEqual({ ok: true, parts: [{ sku: 'A', count: 10_000 }] });
  });
  it('belong to bundles, and to what becomes one', () => {
    const fault = (kind: string, after: string[] | null) => findCellFault(fields, 'parts', after, { kind });
    expect([fault('bundle', ['A']), fault('single', ['A']), fault('bundle', null)]).toEqual([
      undefined,
      undefined,
      undefined,
    ]);
    expect(fault('family', ['A'])).toEqual({ kind: 'no-bundle', is: 'family' });
    expect(fault('variant', ['A'])).toEqual({ kind: 'no-bundle', is: 'variant' });
    expect(fault('bundle', ['0 × A'])).toEqual({ kind: 'not-a-part', entry: '0 × A' });
    expect(fault('bundle', ['A', '2 × A'])).toEqual({ kind: 'part-twice', sku: 'A' });
    expect(wordCellFault({ kind: 'part-is', sku: 'A', is: 'family' }, 'Parts', ['A'])).toBe(
      'A is a family; a bundle is made of what is sold by itself. Name one of its variants.',
    );
  });
});
