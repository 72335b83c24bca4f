import { describe, expect, it } from 'vitest';
import { createMatcher, findEntry, proposeEntries, readCodes } from '.';

const entries = [
  { code: 'blu', label: 'Blue', also: ['Navy', 'Green-blue'] },
  { code: 'grn', label: 'Green', also: ['Olive', 'Blue'] },
  { code: 'nat', label: 'Natural', also: ['Olive'] },
];

describe('what a word of ours becomes', () => {
  it('is what was chosen, else the entry of that name, else the first that has it as another word', () => {
    const match = createMatcher(entries, new Map([['olive', 'nat']]));
    expect(match('OLIVE')).toEqual({ theirs: 'nat', by: 'chosen' });
    expect(match('blue ')).toEqual({ theirs: 'blu', by: 'label' });
    expect(match('grn')).toEqual({ theirs: 'grn', by: 'label' });
    expect(match('navy')).toEqual({ theirs: 'blu', by: 'also' });
    expect(createMatcher(entries, undefined)('Olive')).toEqual({ theirs: 'grn', by: 'also' });
    expect(match('Plum')).toEqual({ theirs: null, by: 'nothing' });
  });
  it('is the entry of that label also where one before it has the label as another word', () => {
    expect(createMatcher([...entries].reverse(), undefined)('Blue')).toEqual({ theirs: 'blu', by: 'label' });
  });
  it('is proposed by likeness, the likeliest first', () => {
    expect(proposeEntries('Gren', entries)[0]).toEqual({ code: 'grn', label: 'Green' });
    expect(proposeEntries('Tablecloth', entries)).toEqual([]);
  });
});

describe('an entry that somebody means', () => {
  it('is found by its code, its label, then another word of it', () => {
    expect([' nat', 'GREEN', 'olive', 'plum'].map((w) => findEntry(w, entries)?.code)).toEqual([
      'nat',
      'grn',
      'grn',
      undefined,
    ]);
  });
});

describe('a table of values that was made elsewhere', () => {
  const attributes = [
    { key: 'colour', label: 'Colour', entries },
    { key: 'lid', label: 'Lid', entries: [{ code: 'y', label: 'With lid', also: [] }] },
  ];
  const row = (attribute: string, ours: string, theirs: string) => ({ attribute, ours, theirs });
  it('names attributes by key or label and values by code or label; an empty one forgets', () => {
    expect(
      readCodes([row('Colour', ' Plum ', 'Blue'), row('colour', 'Sand', 'nat'), row('LID', 'yes', '')], attributes),
    ).toEqual({
      codes: [
        { attribute: 'colour', ours: 'Plum', theirs: 'blu' },
        { attribute: 'colour', ours: 'Sand', theirs: 'nat' },
        { attribute: 'lid', ours: 'yes', theirs: null },
      ],
      faults: [],
    });
  });
  it('has its unusable rows named by their place, with what may be meant', () => {
    expect(
      readCodes(
        [
          row('Color', 'Plum', 'Blue'),
          row('Colour', 'Plum', 'Grean'),
          row('Colour', ' ', 'Blue'),
          row('Colour', 'Plum', 'Blue'),
          row('Colour', 'PLUM', 'Green'),
          row('Colour', 'plum', 'blu'),
        ],
        attributes,
      ),
    ).toEqual({
      codes: [{ attribute: 'colour', ours: 'Plum', theirs: 'blu' }],
      faults: [
        { row: 0, is: 'attribute', near: 'Colour' },
        { row: 1, is: 'theirs', near: 'Green' },
        { row: 2, is: 'ours', near: null },
        { row: 4, is: 'twice', near: null },
      ],
    });
  });
});
