import { describe, expect, it } from 'vitest';
import { prepareChecks } from '../checks';
import { compileCategory } from '../rulebook';
import { lamps, pans } from '../tests/builders';
import { loftRulebook } from '../tests/loft';
import { findForm, makeSample, readForm, writeForm } from '.';

describe('a sample of a file', () => {
  it('is a family of two where there are families, else one item by itself', () => {
    expect(makeSample(pans, 'create').map((r) => [r.sku, r.role])).toEqual([
      ['SAMPLE', 'parent'],
      ['SAMPLE-1', 'variant'],
      ['SAMPLE-2', 'variant'],
    ]);
    expect(makeSample(lamps, 'create').map((r) => r.role)).toEqual(['single']);
  });
  it('is such as the market would take, as far as anybody can make it up', () => {
    const check = prepareChecks(lamps);
    const [row] = makeSample(lamps, 'create');
    const found = check({ ...row!, cost: undefined, accepted: undefined, entry: undefined }).filter(
      (f) => f.level === 'blocker',
    );
    expect(
      found.map((f) => f.check).filter((c) => ['wrong-type', 'value-not-allowed', 'identifier-wrong'].includes(c)),
    ).toEqual([]);
  });
  it('is written and read back, its variants told apart', () => {
    const book = loftRulebook();
    const rows = makeSample(compileCategory(book, 'pans')!, 'create');
    const form = findForm(book, 'create')!;
    const back = readForm(book, form, writeForm(book, form, rows), 'create');
    expect(back).toMatchObject({
      ok: true,
      rows: [{ sku: 'SAMPLE' }, { values: { colour: 'blk' } }, { values: { colour: 'blu' } }],
    });
  });
});
