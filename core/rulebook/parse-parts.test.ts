// Faults of attributes, demands, the tree and taxes of a rulebook: each with its path and reason, and nothing else.
import { describe, expect, it } from 'vitest';
import { smallDocument } from '../tests/builders';
import type { Loose } from '../tests/loft';
import { parseRulebook } from '.';

interface Parts extends Loose {
  attributes: (Loose & { key: string })[];
  demands: Loose[];
  sites: (Loose & { taxes: Loose[] })[];
  tree: (Loose & { limits?: Loose[]; axes: string[] })[];
  codeLists: Record<string, { label: string; entries: { code: string; label: string }[] }>;
  unitPrice: { attribute: string; units: Record<string, { of: string; per: string }> };
}
const faultsOf = (change: (d: Parts) => void): string[] => {
  const reading = parseRulebook(
    smallDocument((d) => {
      change(d as unknown as Parts);
    }),
  );
  return reading.ok ? [] : reading.faults.map((f) => `${f.path}: ${f.reason}`);
};
const at = (d: Parts, key: string): number => d.attributes.findIndex((a) => a.key === key);
const pathOf = (key: string): string => {
  let path = '';
  faultsOf((d) => {
    path = `attributes[${at(d, key)}]`;
  });
  return path;
};

describe('an attribute', () => {
  it.each<[string, (a: Loose) => void, string, string]>([
    ['title', (a) => void (a['group'] = 'ghost'), 'group', 'There is no group "ghost".'],
    ['colour', (a) => delete a['codes'], 'codes', '"colour" is a choice and names no code list.'],
    ['hues', (a) => delete a['codes'], 'codes', '"hues" is a choice and names no code list.'],
    ['colour', (a) => void (a['codes'] = 'ghost'), 'codes', 'There is no code list "ghost".'],
    ['diameter', (a) => delete a['units'], 'units', '"diameter" is a measure and names no unit.'],
    ['item_number', (a) => delete a['kinds'], 'kinds', '"item_number" is an identifier and names no kinds.'],
  ])('%s', (key, change, part, reason) => {
    expect(
      faultsOf((d) => {
        change(d.attributes[at(d, key)]!);
      }),
    ).toContain(`${pathOf(key)}.${part}: ${reason}`);
  });
});

describe('a limit of a category', () => {
  const limited = (limit: Loose): string[] =>
    faultsOf((d) => {
      d.tree[1]!.limits = [limit];
      d.codeLists['few'] = { label: 'Few', entries: [{ code: 'blk', label: 'Black' }] };
      d.codeLists['odd'] = { label: 'Odd', entries: [{ code: 'red', label: 'Red' }] };
    });
  it.each<[Loose, string[]]>([
    [{ attribute: 'title', maxCharacters: 40 }, []],
    [
      { attribute: 'title', maxCharacters: 41 },
      ['tree[1].limits[0].maxCharacters: "title" takes 40 characters anywhere.'],
    ],
    [{ attribute: 'material_other', maxCharacters: 9999 }, []],
    [{ attribute: 'hues', maxItems: 2 }, []],
    [{ attribute: 'hues', maxItems: 3 }, ['tree[1].limits[0].maxItems: "hues" takes 2 entries anywhere.']],
    [{ attribute: 'pictures', maxItems: 99 }, []],
    [{ attribute: 'colour', codes: 'few' }, []],
    [{ attribute: 'colour', codes: 'odd' }, ['tree[1].limits[0].codes: "red" is not a code of "colour".']],
    [{ attribute: 'title', codes: 'few' }, ['tree[1].limits[0].codes: "blk" is not a code of "title".']],
    [{ attribute: 'colour', codes: 'ghost' }, ['tree[1].limits[0].codes: There is no code list "ghost".']],
    [{ attribute: 'ghost', maxItems: 1 }, ['tree[1].limits[0].attribute: There is no attribute "ghost".']],
  ])('%j', (limit, faults) => {
    expect(limited(limit)).toEqual(faults);
  });
});

describe('a tax', () => {
  const taxed = (when: object): string[] =>
    faultsOf((d) => {
      d.sites[0]!.taxes.push({ rate: '0.05', when });
    });
  const family = 'sites[0].taxes[1].when: A tax goes by what is sold and where, not by families or entries.';
  it.each<[object, string[]]>([
    [{ attribute: 'colour', is: ['blk'] }, []],
    [{ role: ['variant'] }, [family]],
    [{ mode: 'offer' }, [family]],
    [{ all: [{ attribute: 'colour', filled: true }, { role: ['variant'] }] }, [family]],
    [{ any: [{ attribute: 'colour', filled: true }, { mode: 'offer' }] }, [family]],
    [{ any: [{ attribute: 'colour', filled: true }] }, []],
    [{ not: { role: ['single'] } }, [family]],
    [{ not: { attribute: 'ghost', filled: true } }, ['sites[0].taxes[1].when: There is no attribute "ghost".']],
    [{ site: ['main'] }, []],
    [{ all: [{ site: ['moon'] }] }, ['sites[0].taxes[1].when: There is no site "moon".']],
    [{ any: [{ not: { site: ['moon'] } }] }, ['sites[0].taxes[1].when: There is no site "moon".']],
  ])('%j', (when, faults) => {
    expect(taxed(when)).toEqual(faults);
  });
});

describe('a price of a unit', () => {
  it('is of attributes that there are, by codes of a choice', () => {
    expect(
      faultsOf((d) => {
        d.unitPrice.attribute = 'ghost';
      }),
    ).toEqual([
      'unitPrice.attribute: There is no attribute "ghost".',
      ...['kg', 'm', 'pc'].map((c) => `unitPrice.units.${c}: "${c}" is not a code of "ghost".`),
    ]);
    expect(
      faultsOf((d) => {
        d.unitPrice.units['kg']!.of = 'ghost';
      }),
    ).toEqual(['unitPrice.units.kg.of: There is no attribute "ghost".']);
  });
});

describe('a category', () => {
  it.each<[string, (d: Parts) => void, string[]]>([
    ['under none', (d) => void (d.tree[1]!['parent'] = 'ghost'), ['tree[1].parent: There is no category "ghost".']],
    [
      'under one with items',
      (d) => void (d.tree[2]!['parent'] = 'pans'),
      ['tree[2].parent: "pans" takes items itself and can have nothing under it.'],
    ],
    [
      'under itself',
      (d) => void (d.tree[0]!['parent'] = 'home'),
      [
        'tree[0].parent: "home" stands under itself.',
        'tree[1].parent: "pans" stands under itself.',
        'tree[2].parent: "lamps" stands under itself.',
      ],
    ],
    [
      'with a set of demands that is not there',
      (d) => void (d.tree[1]!['uses'] = ['ghost']),
      ['tree[1].uses[0]: There is no set of demands "ghost".'],
    ],
    [
      'divided by what is not there',
      (d) => void d.tree[1]!.axes.push('ghost'),
      ['tree[1].axes[2]: There is no attribute "ghost".'],
    ],
  ])('%s', (_, change, faults) => {
    expect(faultsOf(change)).toEqual(faults);
  });
});

describe('a demand', () => {
  it('is of an attribute that there is, in sets too, and asks about others that there are', () => {
    expect(
      faultsOf((d) => {
        d['demandSets'] = { safe: [{ attribute: 'ghost', level: 'must' }] };
        d.demands.push({ attribute: 'pages', level: 'must', when: { not: { attribute: 'spirit', filled: true } } });
      }),
    ).toEqual([
      'demands[14].when: There is no attribute "spirit".',
      'demandSets.safe[0].attribute: There is no attribute "ghost".',
    ]);
  });
});
