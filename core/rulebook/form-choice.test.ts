import { describe, expect, it } from 'vitest';
import { prepareChecks } from '../checks';
import { createFormChoice, findForm, listForms, listTaken } from '../forms';
import { listing, smallDocument } from '../tests/builders';
import { compileCategory, parseRulebook, type Rulebook } from '.';

interface Loose {
  operations: Record<string, { form: unknown }>;
  forms: { key: string; for?: string[]; blank?: string; record?: string; clear?: string }[];
  tree: { key: string; parent?: string; limits?: object[]; demands?: object[]; takesItems?: boolean }[];
  codeLists: Record<string, object>;
}
const change = (how: (d: Loose) => void) =>
  parseRulebook(
    smallDocument((d) => {
      how(d as unknown as Loose);
    }),
  );
const read = (how: (d: Loose) => void): Rulebook => {
  const reading = change(how);
  if (!reading.ok) throw new Error(JSON.stringify(reading.faults));
  return reading.rulebook;
};
/** A second form, which takes lamps alone. */
const divide = (d: Loose): void => {
  d.forms.push({ ...d.forms[0]!, key: 'lit', for: ['lamps'] });
  d.operations['create']!.form = [d.forms[0]!.key, 'lit'];
};

describe('forms by category', () => {
  const book = read(divide);
  const first = book.forms[0]!.key;
  it('take the items of the categories that they name, and one without any takes the others', () => {
    const choose = createFormChoice(book, 'create');
    expect([choose('lamps')?.key, choose('pans')?.key]).toEqual(['lit', first]);
    expect(listForms(book, 'create').map((f) => f.key)).toEqual([first, 'lit']);
    expect(findForm(book, 'create')?.key).toBe(first);
    expect(createFormChoice(book, 'price')('lamps')?.key).toBe(findForm(book, 'price')?.key);
    expect(listTaken(book, 'create', 'lit')).toEqual(['lamps']);
    expect(listTaken(book, 'create', first)).toContain('pans');
    expect(listTaken(book, 'create', first)).not.toContain('lamps');
  });
  it('are those of the operation as which another is done; of what is not done there are none', () => {
    const as = read((d) => {
      divide(d);
      d.operations['replace'] = { as: 'create' } as never;
    });
    expect(listForms(as, 'replace').map((f) => f.key)).toEqual([first, 'lit']);
    expect(createFormChoice(as, 'replace')('lamps')?.key).toBe('lit');
    expect(listForms(as, 'stock')).toEqual([]);
    expect(createFormChoice(as, 'stock')('lamps')).toBeUndefined();
  });
  it('are of the nearest node that one names', () => {
    const over = book.tree.find((n) => n.key === 'lamps')!.parent!;
    const deep = read((d) => {
      divide(d);
      d.forms.push({ ...d.forms[0]!, key: 'wide', for: [over] });
      d.operations['create']!.form = [d.forms[0]!.key, 'lit', 'wide'];
    });
    expect(createFormChoice(deep, 'create')('lamps')?.key).toBe('lit');
    expect(createFormChoice(deep, 'create')('pans')?.key).toBe('wide');
    // The first names none, and so takes what the others leave: nothing.
    expect(listTaken(deep, 'create', 'full')).toEqual([]);
  });
  it.each<[string, (d: Loose) => void, string, RegExp]>([
    [
      'a category that is not there',
      (d) => {
        divide(d);
        d.forms[1]!.for = ['moon'];
      },
      'forms[1].for[0]',
      /no category "moon"/,
    ],
    [
      'a form that is not there',
      (d) => {
        d.operations['create']!.form = [d.forms[0]!.key, 'ghost'];
      },
      'operations.create.form',
      /no form "ghost"/,
    ],
    [
      'two that take all',
      (d) => {
        divide(d);
        delete d.forms.at(-1)!.for;
      },
      'operations.create.form',
      /both take all/,
    ],
    [
      'two for one category',
      (d) => {
        divide(d);
        d.forms[0]!.for = ['lamps', 'pans'];
      },
      'operations.create.form',
      /Two forms are for "lamps"/,
    ],
    [
      'a category that none takes',
      (d) => {
        d.forms[0]!.for = ['lamps'];
      },
      'operations.create.form',
      /No form takes items of "pans"/,
    ],
    [
      'forms in which a blank means two things',
      (d) => {
        divide(d);
        d.forms.at(-1)!.blank = d.forms[0]!.blank === 'keeps' ? 'clears' : 'keeps';
        d.forms.at(-1)!.clear = '-';
      },
      'operations.create.form',
      /are of two kinds/,
    ],
  ])('are refused with %s', (_, how, path, reason) => {
    const reading = change(how);
    const faults = reading.ok ? [] : reading.faults;
    expect(faults.find((f) => f.path === path && reason.test(f.reason))).toBeDefined();
  });
});

describe('what an attribute may hold in one category', () => {
  const limit = (limits: object[]) => (d: Loose) => {
    d.codeLists['dark'] = { label: 'Dark', entries: [{ code: 'blk', label: 'Black' }] };
    d.tree.find((n) => n.key === 'pans')!.limits = limits;
    d.tree.find((n) => n.key === 'lamps')!.demands!.push({ attribute: 'colour', level: 'may' });
  };
  const judge = (book: Rulebook, category: string) =>
    prepareChecks(compileCategory(book, category)!)(listing({ colour: 'blu' }, { category }))
      .filter((f) => f.field === 'colour' || f.field === 'title')
      .map((f) => [f.check, f.field]);
  it('is judged there, and nowhere else', () => {
    const book = read(
      limit([
        { attribute: 'colour', codes: 'dark' },
        { attribute: 'title', maxCharacters: 10 },
      ]),
    );
    expect(judge(book, 'pans')).toEqual(
      expect.arrayContaining([
        ['value-not-allowed', 'colour'],
        ['text-length', 'title'],
      ]),
    );
    expect(judge(book, 'lamps').filter(([check]) => check !== 'title-form')).toEqual([]);
    expect(compileCategory(book, 'pans')!.byKey.get('colour')!.codes!.entries).toHaveLength(1);
  });
  it.each<[object, string, RegExp]>([
    [{ attribute: 'ghost' }, 'attribute', /no attribute/],
    [{ attribute: 'title', maxCharacters: 41 }, 'maxCharacters', /40 characters anywhere/],
    [{ attribute: 'points', maxItems: 4 }, 'maxItems', /3 entries anywhere/],
    [{ attribute: 'colour', codes: 'ghost' }, 'codes', /no code list/],
    [{ attribute: 'colour', codes: 'material' }, 'codes', /"iron" is not a code/],
  ])('is refused where it would be more: %j', (wrong, part, reason) => {
    const reading = change(limit([wrong]));
    const at = smallDocument()['tree'] as { key: string }[];
    const path = `tree[${at.findIndex((n) => n.key === 'pans')}].limits[0].${part}`;
    expect(reading.ok ? [] : reading.faults).toEqual([
      expect.objectContaining({ path, reason: expect.stringMatching(reason) }),
    ]);
  });
});
