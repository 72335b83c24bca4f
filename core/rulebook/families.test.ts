import { quillhavenDocument } from '@basileus/rulebooks/quillhaven';
import { describe, expect, it } from 'vitest';
import { tellsFamilies } from './families';
import { parseRulebook } from './parse';

const read = parseRulebook(quillhavenDocument);
if (!read.ok) throw new Error('The rulebook is not valid.');
const { forms } = read.rulebook;

describe('families of a market', () => {
  it('are told where a file has a place for what holds them together, or is a family itself', () => {
    expect(tellsFamilies({ forms })).toBe(true);
    const without = forms.map((f) => ({
      ...f,
      slots: f.slots.filter((s) => !['parent-sku', 'row-role', 'axes', 'family-key'].includes(s.holds.what)),
    }));
    expect(tellsFamilies({ forms: without })).toBe(false);
    expect(tellsFamilies({ forms: without.map((f) => ({ ...f, record: 'family' as const })) })).toBe(true);
    for (const what of ['parent-sku', 'row-role', 'axes'])
      expect(
        tellsFamilies({ forms: forms.map((f) => ({ ...f, slots: f.slots.filter((s) => s.holds.what === what) })) }),
      ).toBe(true);
  });
});
