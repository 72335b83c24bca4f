import { describe, expect, it } from 'vitest';
import { carryProposals, type MeantThere } from '.';

const entries = [
  { code: 'dkb', label: 'Dark blue', also: ['Navy', 'Marine'] },
  { code: 'grn', label: 'Green', also: ['Olive'] },
  { code: 'blk', label: 'Black', also: ['Jet'] },
  { code: 'blu', label: 'Blue', also: ['Navy'] },
];
const meant = (market: string, label: string, also: string[] = [], isChosen = false): MeantThere => ({
  market,
  entry: { code: label, label, also },
  isChosen,
});
const propose = (ours: string, there: MeantThere[], most?: number) =>
  carryProposals(ours, there, entries, most).map((p) => [p.code, p.there?.market ?? null, p.there?.label ?? null]);

describe('a word that is known on other markets', () => {
  it('is proposed what shares a word with what it is there, with where that is', () => {
    expect(propose('Midnight', [meant('Torgvik', 'Marine')])).toEqual([['dkb', 'Torgvik', 'Marine']]);
    expect(propose('Midnight', [meant('Torgvik', 'Donker', ['NAVY'])]).map(([code]) => code)).toEqual(['dkb', 'blu']);
  });
  it('is proposed first what people chose, then what shares most', () => {
    const there = [meant('Lumbara', 'Olive'), meant('Torgvik', 'Navy', ['Marine']), meant('Wadiline', 'Jet', [], true)];
    expect(propose('Midnight', there)).toEqual([
      ['blk', 'Wadiline', 'Jet'],
      ['dkb', 'Torgvik', 'Navy'],
      ['grn', 'Lumbara', 'Olive'],
    ]);
    expect(propose('Midnight', there, 9).map(([code]) => code)).toEqual(['blk', 'dkb', 'grn', 'blu']);
  });
  it('is proposed what is spelled alike after that, and each entry once', () => {
    expect(propose('Blak', [meant('Torgvik', 'Olive')], 2)).toEqual([
      ['grn', 'Torgvik', 'Olive'],
      ['blk', null, null],
    ]);
    expect(propose('Blak', [meant('Torgvik', 'Black')], 1)).toEqual([['blk', 'Torgvik', 'Black']]);
  });
  it('is proposed at last what is spelled as its entry there', () => {
    expect(propose('Midnight', [meant('Torgvik', 'Gren')])).toEqual([['grn', 'Torgvik', 'Gren']]);
  });
});

it('a word that is known nowhere is proposed what is spelled alike', () => {
  expect(propose('Gren', [])).toEqual([['grn', null, null]]);
  expect(propose('Midnight', [])).toEqual([]);
});
