import { describe, expect, it } from 'vitest';
import { smallRulebook } from '../tests/builders';
import { compareRulebooks, type RulebookChange } from './compare';

interface Loose {
  codeLists: Record<string, { label: string; entries: { code: string; label: string }[] }>;
  attributes: { key: string; label: string; maxCharacters?: number; help?: string }[];
  demands: { attribute: string; level: string; when?: object }[];
  tree: { key: string; label: string; parent?: string; takesItems?: boolean; demands?: object[]; limits?: object[] }[];
  operations: Record<string, { form: unknown }>;
  offer: { quantityCap: number };
  states: Record<string, object>;
  codes: Record<string, object>;
  forms: {
    key: string;
    label: string;
    for?: string[];
    slots: { key: string; label: string; holds: object }[];
    maxRecords: number;
  }[];
}
const before = smallRulebook();
const changesOf = (change: (d: Loose) => void): RulebookChange[] =>
  compareRulebooks(
    before,
    smallRulebook((d) => {
      change(d as unknown as Loose);
    }),
  );
const said = (change: (d: Loose) => void) => changesOf(change).map((c) => `${c.area} ${c.kind}: ${c.says}`);

describe('a new version of a rulebook', () => {
  it('that is the same changes nothing', () => {
    expect(changesOf(() => undefined)).toEqual([]);
  });
  it('that a database has given back with its keys in another order changes nothing', () => {
    const turn = (v: unknown): unknown =>
      Array.isArray(v)
        ? v.map(turn)
        : typeof v === 'object' && v !== null
          ? Object.fromEntries(
              Object.entries(v)
                .reverse()
                .map(([k, x]) => [k, turn(x)]),
            )
          : v;
    expect(compareRulebooks(before, turn(before) as typeof before)).toEqual([]);
  });
  it('names a category that came, went or moved', () => {
    expect(
      said((d) => {
        d.tree.push({ key: 'woks', label: 'Woks', parent: 'home', takesItems: true });
      }),
    ).toEqual(['categories new: Home › Woks takes items now.']);
    expect(
      said((d) => {
        d.tree = d.tree.filter((n) => n.key !== 'lamps');
      })[0],
    ).toMatch(/^categories gone: Home › Lamps takes no items any more/);
    expect(
      said((d) => {
        d.tree.find((n) => n.key === 'pans')!.label = 'Frying pans';
      })[0],
    ).toBe('categories changed: Home › Pans is now Home › Frying pans.');
  });
  it('names a level of demand once for all categories in which it changed alike', () => {
    expect(
      said((d) => {
        d.demands.find((x) => x.attribute === 'brand')!.level = 'should';
      }),
    ).toEqual(['demands changed: Brand: must → should, in Pans, Lamps.']);
    expect(
      said((d) => {
        d.tree.find((n) => n.key === 'lamps')!.demands!.push({ attribute: 'material', level: 'must' });
      }),
    ).toContain('demands new: Material: unused → must, in Lamps.');
  });
  it('sees a condition that has changed though the level has not', () => {
    const list = said((d) => {
      const demand = [...d.demands, ...(d.tree.flatMap((n) => n.demands ?? []) as Loose['demands'])].find(
        (x) => x.when,
      )!;
      demand.when = { attribute: 'brand', filled: true };
    });
    expect(list.some((s) => /^demands changed: .+: when it is demanded has changed, in /.test(s))).toBe(true);
  });
  it('names the limit of an attribute before and after, and passes over its help', () => {
    expect(
      said((d) => {
        const title = d.attributes.find((a) => a.key === 'title')!;
        title.maxCharacters = 30;
        title.help = 'Another help.';
      }),
    ).toEqual(['attributes changed: Title: characters at most 40 → 30.']);
  });
  it('names a limit in the categories alone where it differs, wherever the document says it', () => {
    const limit = (d: Loose, of: string, more: object): void => {
      d.tree.find((n) => n.key === of)!.limits = [{ attribute: 'title', ...more }];
    };
    expect(
      said((d) => {
        limit(d, 'pans', { maxCharacters: 20 });
      }),
    ).toEqual(['attributes changed: Title: characters at most 40 → 20, in Pans.']);
    // Twice as long everywhere, and as short as before wherever it is asked: nothing has changed.
    expect(
      said((d) => {
        d.attributes.find((a) => a.key === 'title')!.maxCharacters = 80;
        for (const leaf of ['pans', 'lamps']) limit(d, leaf, { maxCharacters: 40 });
      }),
    ).toEqual([]);
    expect(
      said((d) => {
        d.codeLists['dark'] = { label: 'Dark', entries: [{ code: 'blk', label: 'Black' }] };
        d.tree.find((n) => n.key === 'pans')!.limits = [{ attribute: 'colour', codes: 'dark' }];
      }),
    ).toEqual(['attributes changed: Colour: values in the list 3 → 1.']);
  });
  it('names the categories that a file is for', () => {
    expect(
      said((d) => {
        d.forms.push({ ...structuredClone(d.forms[0]!), key: 'lit', label: 'Lit', for: ['lamps'] });
        for (const terms of Object.values(d.operations)) terms.form = ['full', 'lit'];
        d.forms[0]!.for = ['pans'];
      }),
    ).toEqual([
      'files new: The file Lit is new.',
      'files changed: Full: for all → for Pans.',
      ...['create', 'revise', 'withdraw', 'restore'].map(
        (o) => `terms changed: operations, ${o}, form: “full” → “full”, “lit”.`,
      ),
    ]);
  });
  it('names values that came, went and were renamed', () => {
    expect(
      said((d) => {
        const { entries } = d.codeLists['colour']!;
        entries.splice(
          0,
          3,
          { code: 'blk', label: 'Jet black' },
          { code: 'blu', label: 'Blue' },
          { code: 'red', label: 'Red' },
        );
      }).filter((s) => s.startsWith('codes')),
    ).toEqual([
      'codes new: Colours takes also Red (red).',
      'codes gone: Colours takes no more Green (grn).',
      'codes changed: Colours names anew Black as Jet black.',
    ]);
  });
  it('names a column of a file that came, and one in another place', () => {
    const list = said((d) => {
      const { slots } = d.forms[0]!;
      const [first, second, ...rest] = slots;
      d.forms[0]!.slots = [second!, first!, ...rest, { key: 'extra', label: 'Extra', holds: { what: 'category' } }];
      d.forms[0]!.maxRecords = 7;
    });
    expect(list.filter((s) => s.startsWith('files'))).toEqual([
      expect.stringMatching(/^files new: .+: new columns extra\.$/),
      expect.stringMatching(/^files changed: .+: the columns stand in another order\.$/),
      expect.stringMatching(/^files changed: .+: maxRecords \d+ → 7\.$/),
    ]);
  });
  it('names terms by where they stand', () => {
    expect(
      said((d) => {
        d.offer.quantityCap = 99;
        d.states['GONE'] = { is: 'withdrawn', entry: 'gone' };
        d.codes['Z9'] = { says: 'No.', remedy: 'Ask.' };
      }),
    ).toEqual([
      'terms changed: offer, quantityCap: 500 → 99.',
      'terms changed: codes, Z9: none → {"says":"No.","remedy":"Ask."}.',
      'terms changed: The market’s word “GONE” means “withdrawn”, the entry gone (was none).',
    ]);
  });
  it('says the same in reverse: what came one way goes the other', () => {
    const after = smallRulebook((d) => {
      (d as unknown as Loose).codeLists['colour']!.entries.push({ code: 'red', label: 'Red' });
    });
    expect(compareRulebooks(before, after).map((c) => c.kind)).toEqual(['new']);
    expect(compareRulebooks(after, before).map((c) => c.kind)).toEqual(['gone']);
  });
});
