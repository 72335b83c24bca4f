// The made code against the loop of the core: the same findings of the same rows, whatever stands in them.
import { makeLoop, prepareChecks } from '@basileus/core/checks';
import type { Listing, Value } from '@basileus/core/listing';
import { compileCategory, listLeaves, parseRulebook, type Rulebook } from '@basileus/core/rulebook';
import { quillhavenDocument } from '@basileus/rulebooks/quillhaven';
import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { makeStraightPass } from './straight-pass';

const reading = parseRulebook(quillhavenDocument) as { rulebook: Rulebook };
const leaves = listLeaves(reading.rulebook).map((l) => compileCategory(reading.rulebook, l.key)!);
const words = [
  '',
  ' ',
  'Pan',
  '24 cm',
  '24',
  '12.999',
  '-1',
  'yes',
  'maybe',
  '2026-02-30',
  'blk',
  'Blak',
  'BEST PRICE ★★',
  '<i>x</i>',
  'x'.repeat(200),
];
const value: fc.Arbitrary<Value> = fc.oneof(
  fc.constantFrom(...words),
  fc.array(fc.constantFrom(...words), { maxLength: 4 }),
);
const listing = (category: string, keys: readonly string[]): fc.Arbitrary<Listing> =>
  fc.record({
    sku: fc.constantFrom('FP-1', 'bad sku', ''),
    role: fc.constantFrom('single' as const, 'parent' as const, 'variant' as const),
    parentSku: fc.constant(undefined),
    category: fc.constant(category),
    axes: fc.constantFrom([], ['colour']),
    values: fc.dictionary(fc.constantFrom(...keys, 'nobody_knows'), value, { maxKeys: 20 }),
    cost: fc.constantFrom(undefined, '9.10'),
    accepted: fc.constant(undefined),
  });

describe('a straight pass', () => {
  it.each(leaves.slice(0, 8).map((c) => [c.key, c] as const))('says of %s what the loop says', (_, compiled) => {
    const byLoop = prepareChecks(compiled, undefined, makeLoop),
      straight = prepareChecks(compiled, undefined, makeStraightPass);
    let found = 0;
    fc.assert(
      fc.property(
        listing(
          compiled.key,
          compiled.attributes.map((a) => a.attribute.key),
        ),
        (l) => {
          const findings = straight(l);
          found += findings.length;
          expect(findings).toEqual(byLoop(l));
        },
      ),
      { seed: 8, numRuns: 150 },
    );
    expect(found).toBeGreaterThan(300);
  });
  it('takes keys of any name as names, and as nothing else', () => {
    const seen: string[] = [];
    const keys = ['plain', 'with "quotes"', "it's", '`${process.exit(1)}`', 'a\nb', '\u2028', '\\'];
    const pass = makeStraightPass(
      keys.map((key) => ({ key, isAsked: true, runs: [(v) => seen.push(`${key}=${String(v)}`)] })),
    );
    const values = Object.fromEntries(keys.map((k, i) => [k, `v${i}`]));
    expect(pass(values, undefined as never, [])).toBe(keys.length);
    expect(seen).toEqual(keys.map((k, i) => `${k}=v${i}`));
    expect(pass({ plain: ' ', "it's": '' }, undefined as never, [])).toBe(0);
  });
});
