import { describe, expect, it } from 'vitest';
import { lamps, listing, pans, smallDocument, smallRulebook } from '../tests/builders';
import { compileCategory, compileCondition, getCategoryPath, listLeaves, parseRulebook } from '.';

type Loose = Record<string, never>;
const faultsOf = (change: (d: Record<string, { [k: string]: unknown } & unknown[]>) => void) => {
  const r = parseRulebook(smallDocument(change as unknown as (d: Loose) => void));
  return r.ok ? [] : r.faults;
};

describe('a wrong rulebook is refused with the path and the reason', () => {
  it('takes the small one', () => {
    expect(parseRulebook(smallDocument()).ok).toBe(true);
  });
  it.each<[string, (d: never) => void, string, RegExp]>([
    [
      'a key that every object has',
      (d: { attributes: { key: string }[] }) => {
        d.attributes[14]!.key = 'constructor';
      },
      'attributes[14].key',
      /may not be “constructor”/,
    ],
    [
      'a choice that names no list',
      (d: { attributes: { key: string; codes?: string }[] }) => {
        delete d.attributes.find((a) => a.key === 'colour')!.codes;
      },
      'attributes[14].codes',
      /names no code list/,
    ],
    [
      'a list that is not there',
      (d: { attributes: { key: string; codes?: string }[] }) => {
        d.attributes[14]!.codes = 'colours';
      },
      'attributes[14].codes',
      /no code list "colours"/,
    ],
    [
      'a demand for nothing',
      (d: { demands: object[] }) => {
        d.demands.push({ attribute: 'ghost', level: 'must' });
      },
      'demands[14].attribute',
      /no attribute "ghost"/,
    ],
    [
      'a unit of price that is no code',
      (d: { unitPrice: { units: Record<string, object> } }) => {
        d.unitPrice.units['ton'] = { of: 'inside', per: 'kg' };
      },
      'unitPrice.units.ton',
      /"ton" is not a code of "sold_by"/,
    ],
    [
      'a unit of price of what is not there',
      (d: { unitPrice: { units: Record<string, { of: string }> } }) => {
        d.unitPrice.units['kg']!.of = 'ghost';
      },
      'unitPrice.units.kg.of',
      /no attribute "ghost"/,
    ],
    [
      'a condition on nothing',
      (d: { demands: object[] }) => {
        d.demands.push({ attribute: 'title', level: 'must', when: { all: [{ attribute: 'ghost', filled: true }] } });
      },
      'demands[14].when',
      /ghost/,
    ],
    [
      'a parent that is not there',
      (d: { tree: { parent?: string }[] }) => {
        d.tree[1]!.parent = 'garden';
      },
      'tree[1].parent',
      /no category "garden"/,
    ],
    [
      'a category under itself',
      (d: { tree: { key: string; parent?: string }[] }) => {
        d.tree[0]!.parent = 'home';
      },
      'tree[0].parent',
      /stands under itself/,
    ],
    [
      'a category under a leaf',
      (d: { tree: object[] }) => {
        d.tree.push({ key: 'woks', label: 'Woks', parent: 'pans', takesItems: true });
      },
      'tree[3].parent',
      /takes items itself/,
    ],
    [
      'two of one key',
      (d: { attributes: { key: string }[] }) => {
        d.attributes[1]!.key = 'title';
      },
      'attributes[1].key',
      /stands twice/,
    ],
    [
      'an unknown currency',
      (d: { sites: { currency: string }[] }) => {
        d.sites[0]!.currency = 'XXQ';
      },
      'sites[0].currency',
      /ISO 4217/,
    ],
    [
      'an unknown field',
      (d: { market: Record<string, unknown> }) => {
        d.market['colour'] = 'red';
      },
      'market',
      /colour/,
    ],
    [
      'a regular expression that does not compile',
      (d: { attributes: { key: string; pattern?: object }[] }) => {
        d.attributes[20]!.pattern = { regex: '(', says: 'x' };
      },
      'attributes[20].pattern.regex',
      /not one that RE2 takes/,
    ],
    [
      'a form that cannot clear',
      (d: { forms: { clear?: string }[] }) => {
        delete d.forms[0]!.clear;
      },
      'forms[0].clear',
      /how to clear/,
    ],
    [
      'a form without the SKU',
      (d: { forms: { slots: unknown[] }[] }) => {
        d.forms[0]!.slots.shift();
      },
      'forms[0].slots',
      /No slot holds the SKU/,
    ],
    [
      'a price as a number',
      (d: { fees: { fixed: unknown }[] }) => {
        d.fees[0]!.fixed = 0.3;
      },
      'fees[0].fixed',
      /./,
    ],
  ])('%s', (_, change, path, reason) => {
    const faults = faultsOf(change as never);
    expect(faults.map((f) => f.path)).toContain(path);
    expect(faults.find((f) => f.path === path)!.reason).toMatch(reason);
  });
});

describe('levels of demand', () => {
  const level = (
    c: typeof pans,
    key: string,
    values: Record<string, string>,
    role: 'single' | 'parent' | 'variant' = 'single',
  ) => c.byKey.get(key)!.levelFor(listing(values).values, role);
  it('are unused where nobody demands', () => {
    expect(level(pans, 'pages', {})).toBe('unused');
  });
  it('follow the row', () => {
    expect(level(pans, 'material_other', { material: 'iron' })).toBe('unused');
    expect(level(pans, 'material_other', { material: 'other' })).toBe('must');
  });
  it('follow the role of the row', () => {
    expect(level(pans, 'price', {}, 'parent')).toBe('unused');
    expect(level(pans, 'price', {}, 'variant')).toBe('must');
  });
  it('differ by category', () => {
    expect(level(pans, 'diameter', {})).toBe('must');
    expect(level(lamps, 'diameter', {})).toBe('unused');
  });
  it('forget the conditions that stood before a fixed demand', () => {
    const book = smallRulebook((d) => {
      const demands = (d as unknown as { demands: object[] }).demands;
      demands.push(
        { attribute: 'washable', level: 'must', when: { attribute: 'material', is: ['iron'] } },
        { attribute: 'washable', level: 'may' },
      );
    });
    const { levelFor } = compileCategory(book, 'lamps')!.byKey.get('washable')!;
    expect(levelFor({ material: 'iron' }, 'single')).toBe('may');
  });
  it('let a leaf override what stands for all', () => {
    const book = smallRulebook((d) => {
      (d as unknown as { tree: { demands: object[] }[] }).tree[1]!.demands.push({
        attribute: 'brand',
        level: 'unused',
      });
    });
    expect(compileCategory(book, 'pans')!.byKey.get('brand')!.strongest).toBe('unused');
  });
});

describe('an attribute that can be left unused', () => {
  const can = (c: typeof pans, key: string) => c.byKey.get(key)!.canBeUnused;
  it('is one for which some row of the category says so', () => {
    expect(can(pans, 'brand')).toBe(false);
    expect(can(pans, 'price')).toBe(true);
    expect(can(pans, 'material_other')).toBe(true);
    expect(can(pans, 'pages')).toBe(true);
  });
  it('agrees with the level of every row tried', () => {
    for (const category of [pans, lamps])
      for (const a of category.attributes) {
        if (a.canBeUnused) continue;
        for (const role of ['single', 'parent', 'variant'] as const)
          for (const material of ['iron', 'other'])
            expect(a.levelFor(listing({ material }).values, role), a.attribute.key).not.toBe('unused');
      }
  });
});

describe('conditions', () => {
  it.each([
    [{ attribute: 'a', is: ['x'] }, { a: 'x' }, true],
    [{ attribute: 'a', is: ['x'] }, { a: ['y', 'x'] }, true],
    [{ attribute: 'a', is: ['x'] }, {}, false],
    [{ attribute: 'a', filled: false }, { a: ' ' }, true],
    [{ attribute: 'a', over: '10' }, { a: '10.01 kg' }, true],
    [{ attribute: 'a', over: '10' }, { a: '10' }, false],
    [{ attribute: 'a', over: '10' }, { a: 'many' }, false],
    [
      {
        any: [
          { attribute: 'a', filled: true },
          { attribute: 'b', filled: true },
        ],
      },
      { b: '1' },
      true,
    ],
    [{ not: { attribute: 'a', filled: true } }, { a: '1' }, false],
    [
      {
        all: [
          { attribute: 'a', filled: true },
          { attribute: 'b', filled: true },
        ],
      },
      { a: '1' },
      false,
    ],
  ])('%j of %j is %s', (c, v, is) => {
    expect(compileCondition(c)(v as never)).toBe(is);
  });
});

describe('the tree', () => {
  it('lists leaves with their paths', () => {
    expect(listLeaves(smallRulebook()).map((l) => l.path.join('/'))).toEqual(['Home/Pans', 'Home/Lamps']);
  });
  it('walks from the root', () => {
    expect(getCategoryPath(smallRulebook(), 'pans').map((n) => n.key)).toEqual(['home', 'pans']);
  });
  it('compiles leaves only', () => {
    expect(compileCategory(smallRulebook(), 'home')).toBeUndefined();
  });
});
