// What holds for an item that is not sold at all sites of a market.
import { describe, expect, it } from 'vitest';
import { prepareChecks } from '../checks';
import { applyAccepted, chooseCarried, planOperations } from '../feed';
import { listing } from '../tests/builders';
import { fairDocument } from '../tests/fair';
import { compileCategory, parseRulebook, restrictRulebook, type Rulebook } from '.';

const read = (): Rulebook => {
  const reading = parseRulebook(fairDocument());
  if (!reading.ok) throw new Error(reading.faults[0]!.reason);
  return reading.rulebook;
};
const fair = read(),
  swedish = restrictRulebook(fair, ['de']);
const pans = compileCategory(swedish, 'pans')!;

describe('a market without one of its sites', () => {
  it('has nothing that is of that site, or that is read only there', () => {
    const gone = fair.attributes.filter((a) => !swedish.attributes.includes(a)).map((a) => a.key);
    expect(gone).toEqual(['name@de', 'cost@de', 'sale@de', 'from@de']);
    expect(swedish.offers.map((o) => o.price)).toEqual(['cost@se']);
    expect(swedish.titles).toEqual([{ field: 'name@sv', language: 'sv' }]);
  });
  it('goes by what stays in the place of what was of that site', () => {
    expect(fair.roles).toMatchObject({ title: 'name@de', price: 'cost@de', brand: 'maker' });
    expect(swedish.roles).toMatchObject({ title: 'name@sv', price: 'cost@se', salePrice: 'sale@se', brand: 'maker' });
  });
  it('is the same where none is left out, and cannot be without all', () => {
    expect(restrictRulebook(fair, [])).toBe(fair);
    expect(restrictRulebook(fair, ['no such site'])).toBe(fair);
    expect(() => restrictRulebook(fair, ['de', 'se'])).toThrow('Fair would be left with no site.');
  });
  it('asks for nothing there', () => {
    const values = { 'name@sv': 'Hearth Stekpanna', maker: 'Hearth', 'cost@se': '449.00', pieces: '4', deep: '40 mm' };
    const missing = (c: typeof pans) =>
      prepareChecks(
        c,
        (id) => id === 'demanded-missing',
      )({ ...listing({}), values, category: 'pans' })
        .filter((f) => f.level === 'blocker')
        .map((f) => f.field);
    expect(missing(compileCategory(fair, 'pans')!)).toEqual(['name@de', 'cost@de']);
    expect(missing(pans)).toEqual([]);
  });
});

describe('an entry that was sold at both sites', () => {
  const details = { 'name@de': 'Pfanne', 'name@sv': 'Panna', maker: 'Hearth' },
    price = { 'cost@de': '39.99', 'cost@se': '449.00' },
    stock = { pieces: '4' };
  const values = { 'name@sv': 'Panna', maker: 'Hearth', 'cost@se': '449.00', pieces: '4' };
  const planned = planOperations(pans, 'single', values, { details, price, stock }, 'keep', false);
  it('is revised by what is emptied there, and its price there is nothing to change', () => {
    expect(planned).toEqual([
      { operation: 'revise', differences: [{ field: 'name@de', before: 'Pfanne', after: null }] },
    ]);
  });
  it('goes whole without what was accepted there', () => {
    expect(chooseCarried(swedish, 'revise', values, planned[0]!.differences, { details, price, stock })).toEqual(
      values,
    );
    expect(chooseCarried(fair, 'revise', values, planned[0]!.differences, { details, price, stock })).toMatchObject({
      'cost@de': '39.99',
    });
  });
  it('changes a price that is of where it is sold', () => {
    const dearer = planOperations(
      pans,
      'single',
      { ...values, 'cost@se': '499.00' },
      { details: { 'name@sv': 'Panna', maker: 'Hearth' }, price, stock },
      'keep',
      false,
    );
    expect(dearer).toEqual([
      { operation: 'price', differences: [{ field: 'cost@se', before: '449.00', after: '499.00' }] },
    ]);
  });
});

describe('an entry that is to be sold at a further site', () => {
  const both = (() => {
    const reading = parseRulebook(
      fairDocument((d) => {
        for (const s of (d as unknown as { sites: Record<string, unknown>[] }).sites) s['optional'] = true;
      }),
    );
    if (!reading.ok) throw new Error('not a rulebook');
    return reading.rulebook;
  })();
  const accepted = { details: { 'name@sv': 'Panna', maker: 'Hearth' }, price: { 'cost@se': '449.00' }, stock: {} };
  const now = { 'name@sv': 'Panna', 'name@de': 'Pfanne', maker: 'Hearth', 'cost@se': '459.00', 'cost@de': '39.99' };
  it('comes there with its price, which no price of its own can go ahead of', () => {
    const planned = planOperations(compileCategory(both, 'pans')!, 'single', now, accepted, 'keep', false);
    expect(planned).toEqual([
      {
        operation: 'revise',
        differences: [
          { field: 'name@de', before: null, after: 'Pfanne' },
          { field: 'cost@de', before: null, after: '39.99' },
        ],
      },
      { operation: 'price', differences: [{ field: 'cost@se', before: '449.00', after: '459.00' }] },
    ]);
    // The price where it stands goes as it was accepted: a new one has an operation, and a look, of its own.
    expect(chooseCarried(both, 'revise', now, planned[0]!.differences, accepted)).toMatchObject({
      'cost@se': '449.00',
      'cost@de': '39.99',
    });
    expect(applyAccepted(both, accepted, 'revise', planned[0]!.differences).price).toEqual({
      'cost@se': '449.00',
      'cost@de': '39.99',
    });
  });
  it('has a price of its own for each where no site can be left out', () => {
    expect(
      planOperations(compileCategory(fair, 'pans')!, 'single', now, accepted, 'keep', false).map((p) => [
        p.operation,
        p.differences.map((d) => d.field),
      ]),
    ).toEqual([
      ['revise', ['name@de']],
      ['price', ['cost@se', 'cost@de']],
    ]);
  });
});

describe('what is refused', () => {
  const faults = (change: (d: { sites: Record<string, unknown>[]; forms: Record<string, unknown>[] }) => void) => {
    const reading = parseRulebook(fairDocument((d) => change(d as never)));
    return reading.ok ? [] : reading.faults;
  };
  it('is the one site of a market as one that can be left out', () => {
    expect(
      faults((d) => {
        d.sites.splice(1);
        d.sites[0]!['optional'] = true;
      }),
    ).toContainEqual({
      path: 'sites[0].optional',
      reason: 'The only site of a market is not one that can be left out.',
    });
  });
  it('is a site to be left out of records that are of each site alone', () => {
    expect(
      faults((d) => {
        d.sites[1]!['optional'] = true;
        d.forms[0]!['record'] = 'listing-at-site';
      }),
    ).toContainEqual({
      path: 'sites[1].optional',
      reason:
        'A site is left out by what a whole record leaves empty, and the form "goods" has a record for each site.',
    });
    expect(
      faults((d) => {
        d.sites[1]!['optional'] = true;
      }),
    ).toEqual([]);
  });
});
