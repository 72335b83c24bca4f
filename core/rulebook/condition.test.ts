// Conditions on what an item is and where it goes: settled as far as that is known, before any row is looked at.
import { describe, expect, it } from 'vitest';
import { prepareChecks } from '../checks';
import { listing } from '../tests/builders';
import { fairDocument } from '../tests/fair';
import { quillhavenDocument } from '@basileus/rulebooks/quillhaven';
import {
  compileCategory,
  compileCondition,
  compileOffer,
  type Condition,
  describeCondition,
  isDestination,
  makeCategorySchema,
  parseRulebook,
  type Rulebook,
  settleCondition,
} from '.';

const fairWith = (...demands: object[]): Rulebook => {
  const read = parseRulebook(fairDocument((d) => (d as unknown as { demands: object[] }).demands.push(...demands)));
  if (!read.ok) throw new Error(read.faults[0]!.reason);
  return read.rulebook;
};
const faultsWith = (change: (d: { demands: object[]; sites: { taxes: object[] }[] }) => void) => {
  const read = parseRulebook(fairDocument((d) => change(d as never)));
  return read.ok ? [] : read.faults;
};
const strongest = (book: Rulebook, field: string) => compileCategory(book, 'pans')!.byKey.get(field)!.strongest;

describe('a demand by where the goods go', () => {
  it.each([
    ['a country', { destination: ['SE'] }, ['unused', 'must']],
    ['the European Union', { destination: ['EU'] }, ['must', 'must']],
    ['another country', { destination: ['GB'] }, ['unused', 'unused']],
    ['a site', { site: ['de'] }, ['must', 'unused']],
    ['no other country', { not: { destination: ['DE'] } }, ['unused', 'must']],
    [
      'a site and a country that are not one',
      { all: [{ site: ['de'] }, { destination: ['SE'] }] },
      ['unused', 'unused'],
    ],
    ['one of both', { any: [{ site: ['de'] }, { destination: ['SE'] }] }, ['must', 'must']],
  ])('counts for the fields of that place alone: %s', (_, when, levels) => {
    const book = fairWith({ attribute: 'sale', level: 'unused' }, { attribute: 'sale', level: 'must', when });
    expect(['sale@de', 'sale@se'].map((f) => strongest(book, f))).toEqual(levels);
  });
  it('counts for a text where its language is read, and for one value in all where any site is meant', () => {
    const where = (attribute: string) =>
      fairWith({ attribute, level: 'unused' }, { attribute, level: 'must', when: { destination: ['SE'] } });
    expect(['name@de', 'name@sv'].map((f) => strongest(where('name'), f))).toEqual(['unused', 'must']);
    expect(strongest(where('maker'), 'maker')).toBe('must');
  });
  it('keeps what it asks of the row, with nothing else to it', () => {
    const when = { all: [{ destination: ['EU'] }, { attribute: 'washable', is: ['no'] }] };
    const book = fairWith({ attribute: 'sale', level: 'unused' }, { attribute: 'sale', level: 'must', when });
    expect(compileCategory(book, 'pans')!.byKey.get('sale@de')!.conditions).toEqual([
      { level: 'must', when: { attribute: 'washable', is: ['no'] }, why: undefined },
    ]);
  });
  it('makes a rate of tax hold where it goes', () => {
    const book = (() => {
      const read = parseRulebook(
        fairDocument((d) => {
          for (const s of (d as unknown as { sites: { taxes: object[] }[] }).sites)
            s.taxes.push({ rate: '0.05', when: { destination: ['SE'] } });
        }),
      );
      if (!read.ok) throw new Error(read.faults[0]!.reason);
      return read.rulebook;
    })();
    expect(book.offers.map((o) => o.site.taxes.map((t) => t.rate))).toEqual([
      ['0.19', '0.07'],
      ['0.25', '0.07', '0.05'],
    ]);
  });
});

describe('a demand by what the row is', () => {
  it('asks a variant for what it does not ask a family for', () => {
    const book = fairWith({ attribute: 'photos', level: 'must', when: { role: ['variant'] } });
    const pans = compileCategory(book, 'pans')!;
    const missing = (role: 'single' | 'parent' | 'variant') =>
      prepareChecks(
        pans,
        (id) => id === 'demanded-missing',
      )({ ...listing({}), role, category: 'pans' })
        .filter((f) => f.field === 'photos')
        .map((f) => [f.level, f.params['because']]);
    expect([missing('single'), missing('parent'), missing('variant')]).toEqual([
      [],
      [],
      [['blocker', 'it is a variant']],
    ]);
    // A schema of rows tells nothing of families.
    expect(makeCategorySchema(book, pans)['allOf']).not.toContainEqual(
      expect.objectContaining({ then: { required: ['photos'] } }),
    );
  });
  it('asks an entry of one’s own for what an offer need not have', () => {
    const document = structuredClone(quillhavenDocument) as unknown as { demands: object[] };
    const read = parseRulebook(document);
    if (!read.ok) throw new Error('not a rulebook');
    const price = read.rulebook.roles.price;
    const leaf = read.rulebook.tree.find((n) => n.takesItems)!.key;
    document.demands.push({ attribute: price, level: 'may', when: { mode: 'offer' } });
    const changed = parseRulebook(document);
    if (!changed.ok) throw new Error('not a rulebook');
    const levels = [compileCategory(changed.rulebook, leaf), compileOffer(changed.rulebook, leaf)].map(
      (c) => c!.byKey.get(price)!.fixed,
    );
    expect(levels).toEqual(['must', 'may']);
  });
});

describe('what is refused', () => {
  it('is a site that the market has not, and a country that is none', () => {
    expect(
      faultsWith((d) => d.demands.push({ attribute: 'sale', level: 'must', when: { any: [{ site: ['fi'] }] } })),
    ).toEqual([{ path: expect.stringMatching(/^demands\[\d+\]\.when$/) as string, reason: 'There is no site "fi".' }]);
    expect(
      faultsWith((d) => d.demands.push({ attribute: 'sale', level: 'must', when: { destination: ['Germany'] } }))
        .length,
    ).toBeGreaterThan(0);
  });
  it('is a tax by families', () => {
    expect(faultsWith((d) => d.sites[1]!.taxes.push({ rate: '0', when: { not: { role: ['parent'] } } }))).toEqual([
      { path: 'sites[1].taxes[2].when', reason: 'A tax goes by what is sold and where, not by families or entries.' },
    ]);
  });
});

describe('settling', () => {
  const a: Condition = { attribute: 'a', filled: true },
    b: Condition = { attribute: 'b', filled: true },
    here: Condition = { site: ['de'] },
    there: Condition = { site: ['se'] };
  const settle = (c: Condition) => settleCondition(c, (x) => ('site' in x ? x.site.includes('de') : undefined));
  it.each<[Condition, Condition | boolean]>([
    [here, true],
    [there, false],
    [{ all: [here, a] }, a],
    [{ all: [there, a] }, false],
    [{ all: [a, b, here] }, { all: [a, b] }],
    [{ any: [there, a] }, a],
    [{ any: [here, a] }, true],
    [{ any: [there, { not: here }] }, false],
    [{ not: { all: [a, here] } }, { not: a }],
    [{ all: [here, { role: ['parent'] }] }, { role: ['parent'] }],
  ])('%j is %j', (c, settled) => {
    expect(settle(c)).toEqual(settled);
  });
  it('leaves nothing that holds where it was never told where a row goes', () => {
    expect([here, { mode: 'offer' } as const].map((c) => compileCondition(c)({}))).toEqual([false, false]);
  });
  it.each<[Condition, string]>([
    [{ role: ['single', 'variant'] }, 'it is an item by itself or a variant'],
    [{ mode: 'offer' }, 'it joins an entry that is there'],
    [{ all: [{ mode: 'entry' }, { destination: ['EU'] }] }, 'it makes an entry of its own and it goes to EU'],
  ])('%j is said as “%s”', (c, says) => {
    expect(
      describeCondition(
        c,
        (k) => k,
        (_, k) => k,
      ),
    ).toBe(says);
  });
});

it.each([
  ['DE', ['EU'], true],
  ['NO', ['EU'], false],
  ['GB', ['EU'], false],
  ['CH', ['EU', 'CH'], true],
])('goods to %s go to one of %j: %s', (country, named, is) => {
  expect(isDestination(country, named)).toBe(is);
});
