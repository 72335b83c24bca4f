import { describe, expect, it } from 'vitest';
import { listLeaves } from '../rulebook';
import { smallRulebook } from '../tests/builders';
import { type LeafWords, proposeCategories } from './index';

const leaf = (key: string, label: string, ...words: string[]): LeafWords => ({
  key,
  label,
  path: ['Kitchen', label],
  words,
});
const leaves = [
  leaf('pans', 'Frying pans', 'skillet', 'sauté pan'),
  leaf('pots', 'Stock pots', 'casserole'),
  leaf('knives', 'Kitchen knives', 'santoku', 'paring knife'),
  leaf('tea', 'Loose tea', 'black tea', 'oolong'),
];
const item = (title: string, category = '', description = '') => ({ title, category, description });
const propose = (...args: Parameters<typeof item>) => proposeCategories(item(...args), leaves);

describe('a proposed category', () => {
  it.each([
    ['Hearth Frying Pan 28 cm', '', 'pans'],
    ['Iron skillet, small', '', 'pans'],
    ['Santoku 18 cm', '', 'knives'],
    ['Hearth 28', 'Frying pans', 'pans'],
    ['Sauté pan with lid', '', 'pans'],
    ['Oolong from the hills', 'Tea', 'tea'],
  ])('for “%s” of the group “%s” is %s', (title, category, key) => {
    expect(propose(title, category)[0]?.key).toBe(key);
  });
  it('comes from a whole rulebook’s words, with all of them named', () => {
    const [first] = proposeCategories(item('Iron frying pans, pair', 'Kitchen'), listLeaves(smallRulebook()));
    expect(first).toMatchObject({ key: 'pans', reason: '“Pans”, “frying pan” in its name or group' });
  });
  it('says why', () => {
    expect(propose('Iron skillet')[0]?.reason).toBe('“skillet” in its name or group');
  });
  it('is none where no word fits', () => {
    expect(propose('Garden hose')).toEqual([]);
  });
  it('follows what people chose before, over the words, and says how often', () => {
    const used = new Map([['pots', 6]]);
    const [first] = proposeCategories(item('Hearth frying pan', 'Cookware'), leaves, used);
    expect(first?.key).toBe('pots');
    expect(first?.reason).toContain('chosen 6 times for “Cookware”');
  });
  it('among what was chosen before, is the one chosen more often', () => {
    const used = new Map([
      ['pots', 2],
      ['knives', 7],
    ]);
    expect(proposeCategories(item('A thing', 'Sundries'), leaves, used).map((p) => p.key)).toEqual(['knives', 'pots']);
  });
  it('comes in the same order every time, and no more than asked for', () => {
    const twins = [leaf('b', 'Trays'), leaf('a', 'Trays'), leaf('c', 'Trays')];
    expect(proposeCategories(item('Trays'), twins).map((p) => p.key)).toEqual(['a', 'b', 'c']);
    expect(proposeCategories(item('Trays'), twins, new Map(), 2)).toHaveLength(2);
  });
});
