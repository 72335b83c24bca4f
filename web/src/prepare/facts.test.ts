import { parseRulebook } from '@basileus/core/rulebook';
import { wadilineDocument } from '@basileus/rulebooks/wadiline';
import { describe, expect, it } from 'vitest';
import { wordFact } from './facts';

const reading = parseRulebook(wadilineDocument);
if (!reading.ok) throw new Error('The rulebook is not valid.');
const { rulebook } = reading;

describe('a fact of an entry', () => {
  it('is read by its label where it is from a list, else as it is', () => {
    expect(wordFact(rulebook, 'material', 'alu')).toBe('Aluminium');
    expect(wordFact(rulebook, 'material', ['alu', 'tin'])).toBe('Aluminium, tin');
    expect(wordFact(rulebook, 'across', '24 cm')).toBe('24 cm');
    expect(wordFact(rulebook, 'across', undefined)).toBe('');
  });
});
