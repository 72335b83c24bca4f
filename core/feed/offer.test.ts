// Offers that join an entry of the market: what is asked for, said, sent and read back.
import { describe, expect, it } from 'vitest';
import { readFoundList, toMarketEntry } from '../answers';
import { prepareChecks, wordFinding } from '../checks';
import { createFormWriter, findForm, readForm, toRecords } from '../forms';
import type { Listing, MarketEntry, Values } from '../listing';
import { findContradictions } from '../listing';
import { compileCategory, compileOffer, parseRulebook } from '../rulebook';
import { goodValues, smallRulebook } from '../tests/builders';
import { joiningDocument, joiningRulebook } from '../tests/joining';
import type { Loose } from '../tests/loft';
import { chooseCarried } from './carried';
import { applyAccepted, planOperations } from './delta';
import { planHeldOperations } from './holds';

const book = joiningRulebook();
const pans = compileCategory(book, 'pans')!,
  offers = compileOffer(book, 'pans')!;
const there: MarketEntry = { number: 'N7', title: 'A pan', category: 'pans', facts: { brand: 'Tallow Lane' } };
const terms: Values = { item_number: goodValues['item_number']!, price: '24.50', quantity: '7' };
const nothing = { details: undefined, price: undefined, stock: undefined };
const row = (more: Partial<Listing> = {}): Listing => ({
  sku: 'PAN-24',
  role: 'single',
  parentSku: undefined,
  category: 'pans',
  axes: [],
  values: terms,
  cost: undefined,
  accepted: undefined,
  entry: { there, ours: goodValues },
  ...more,
});

describe('an offer on an entry of the market', () => {
  it('asks for what its form has a place for, and for nothing else', () => {
    const asked = offers.attributes.filter((a) => a.strongest !== 'unused').map((a) => a.attribute.key);
    expect(asked.sort()).toEqual(['item_number', 'price', 'quantity']);
    expect(offers.isOffer).toBe(true);
    expect([offers.axes, pans.axes.length > 0, pans.isOffer]).toEqual([[], true, false]);
    expect(prepareChecks(offers)(row()).filter((f) => f.level === 'blocker' && f.check === 'demanded-missing')).toEqual(
      [],
    );
    expect(
      prepareChecks(offers)(row({ values: { item_number: '4006381333931' } })).map((f) => `${f.check} ${f.field}`),
    ).toContain('demanded-missing price');
  });
  it('is not made where the market takes none', () => {
    expect(compileOffer(smallRulebook(), 'pans')).toBeUndefined();
    expect(compileOffer(book, 'nowhere')).toBeUndefined();
  });
  it('goes first as an offer, then as prices, and as an offer again where its own details change', () => {
    const plan = (values: Values, accepted = nothing as Parameters<typeof planOperations>[3]) =>
      planOperations(offers, 'single', values, accepted, 'keep', false);
    const [first, ...others] = plan(terms);
    expect(others).toEqual([]);
    expect([first!.operation, first!.differences.map((d) => d.field).sort()]).toEqual([
      'offer',
      ['item_number', 'price', 'quantity'],
    ]);
    expect(chooseCarried(book, 'offer', terms, first!.differences, nothing)).toEqual(terms);
    const accepted = applyAccepted(book, nothing, 'offer', first!.differences);
    expect(plan(terms, accepted)).toEqual([]);
    expect(plan({ ...terms, price: '25.00' }, accepted).map((p) => p.operation)).toEqual(['price']);
    const again = plan({ ...terms, item_number: '4006381333948' }, accepted);
    expect(again.map((p) => [p.operation, p.differences.map((d) => [d.field, d.before])])).toEqual([
      ['offer', [['item_number', terms['item_number']]]],
    ]);
  });
  it('names the entry in its file, and is read back', () => {
    const form = findForm(book, 'offer')!;
    const feed = { operation: 'offer' as const, ...row(), cleared: [], entry: 'N7' };
    const writer = createFormWriter(book, form);
    const text = writer.header() + writer.records(toRecords(book, form, [feed])) + writer.footer();
    expect(text.split('\r\n')[1]).toBe(`PAN-24\tN7\t${terms['item_number'] as string}\t24.50\t7`);
    const reading = readForm(book, form, text, 'offer');
    expect(reading.ok && reading.rows.map((r) => [r.sku, r.entry, r.values])).toEqual([['PAN-24', 'N7', terms]]);
  });
});

describe('what the market has already', () => {
  const found = 'no\tname\tmaker\tcode\tshelf\tacross\thue\nN7\tA pan\tTallow Lane\t4006381333931\tpans\t240 mm\t\n';
  it('is read from its list, each fact under our attribute', () => {
    const reading = readFoundList(book, found);
    if (!reading.ok) throw new Error(reading.reason);
    expect(reading.lines.map((l) => toMarketEntry(book, l))).toEqual([
      {
        number: 'N7',
        title: 'A pan',
        category: 'pans',
        facts: { brand: 'Tallow Lane', item_number: '4006381333931', diameter: '240 mm' },
      },
    ]);
    expect(toMarketEntry(book, { ...reading.lines[0]!, category: 'attic', brand: '', identifier: '' })).toMatchObject({
      category: '',
      facts: { diameter: '240 mm' },
    });
  });
  it.each<[string, Values, Values, string[]]>([
    ['a measure in another unit', { diameter: '240 mm' }, { diameter: '24 cm' }, []],
    ['a measure that is another', { diameter: '24 cm' }, { diameter: '26 cm' }, ['diameter']],
    ['a name in other letters', { brand: 'TALLOW LANE' }, { brand: 'Tallow Lane' }, []],
    ['another name', { brand: 'Sadaf' }, { brand: 'Tallow Lane' }, ['brand']],
    ['a number with a nought before it', { item_number: '0036000291452' }, { item_number: '036000291452' }, []],
    ['another number', { item_number: '4006381333931' }, { item_number: '036000291452' }, ['item_number']],
    ['a number of pieces', { quantity: '7.0' }, { quantity: '7' }, []],
    ['what we say nothing of', { colour: 'blk' }, {}, []],
    ['what is no attribute', { taste: 'sweet' }, { taste: 'sour' }, []],
  ])('agrees or not: %s', (_, facts, ours, expected) => {
    expect(findContradictions(book, facts, ours)).toEqual(expected);
  });
  it('holds a new entry of the item until somebody has decided', () => {
    const listing = row({ values: goodValues });
    const findings = prepareChecks(pans)(listing);
    expect(findings.filter((f) => f.check === 'market-entry')).toMatchObject([
      { message: 'there', level: 'blocker', field: 'item_number', params: { number: 'N7', title: 'A pan' } },
    ]);
    const standing = {
      accepted: nothing,
      wish: 'keep' as const,
      isWithdrawn: false,
      isRefused: false,
      isParentHeld: false,
      timed: [],
      releasedPrices: undefined,
    };
    expect(planHeldOperations(pans, listing, standing, findings)).toEqual([{ operation: 'create', held: 'blocked' }]);
    expect(prepareChecks(pans)(row({ values: goodValues, accepted: goodValues })).map((f) => f.check)).not.toContain(
      'market-entry',
    );
  });
  it('blocks an offer on an entry of another item, and cautions where a fact differs', () => {
    const say = (facts: Values, ours: Values) =>
      prepareChecks(offers)(row({ entry: { there: { ...there, facts }, ours } }))
        .filter((f) => f.check === 'market-entry')
        .map((f) => [f.message, f.level, f.field, f.value, f.params['theirs']]);
    expect(say({ brand: 'Sadaf' }, { brand: 'Tallow Lane' })).toEqual([
      ['otherItem', 'blocker', 'brand', 'Tallow Lane', 'Sadaf'],
    ]);
    expect(say({ item_number: '4006381333931' }, { item_number: '036000291452' })).toEqual([
      ['otherItem', 'blocker', 'item_number', '036000291452', '4006381333931'],
    ]);
    expect(say({ diameter: '24 cm' }, { diameter: '26 cm' })).toEqual([
      ['differs', 'caution', 'diameter', '26 cm', '24 cm'],
    ]);
    expect(say({ diameter: '24 cm' }, { diameter: '240 mm' })).toEqual([]);
  });
  it('is told in sentences that name the entry', () => {
    const wording = { market: 'Stall', labelOf: (k: string) => pans.byKey.get(k)!.attribute.label };
    const [found] = prepareChecks(pans)(row({ values: goodValues })).filter((f) => f.check === 'market-entry');
    expect(wordFinding(found!, wording)).toBe(
      `Stall has an entry for ${goodValues['item_number'] as string}: N7, “A pan”. Join it with an offer, or say that it is another item.`,
    );
    const said = prepareChecks(offers)(
      row({
        entry: {
          there: { ...there, facts: { brand: 'Sadaf', diameter: '24 cm' } },
          ours: { brand: 'Hearth', diameter: '26 cm' },
        },
      }),
    ).map((f) => wordFinding(f, wording));
    expect(said).toContain('Brand is “Hearth”, but entry N7 is of “Sadaf”: it is another item.');
    expect(said).toContain('Diameter is “26 cm”, but entry N7 says “24 cm”, and that is what buyers see.');
  });
});

describe('a rulebook with offers', () => {
  const faultsOf = (change: (d: Loose) => void): string[] => {
    const reading = parseRulebook(joiningDocument(change));
    return reading.ok ? [] : reading.faults.map((f) => f.path);
  };
  it('is refused where nothing tells which entry is joined', () => {
    expect(faultsOf(() => undefined)).toEqual([]);
    expect(
      faultsOf((d) => {
        const form = (d['forms'] as { key: string; slots: { key: string }[] }[]).find((f) => f.key === 'offers')!;
        form.slots = form.slots.filter((s) => s.key !== 'joins');
      }),
    ).toEqual(['operations.offer.form']);
    expect(
      faultsOf((d) => {
        (d['operations'] as Loose)['offer'] = { as: 'create' };
      }),
    ).toEqual(['operations.offer']);
    expect(
      faultsOf((d) => {
        delete (d['lists'] as { find: { slots: Loose } }).find.slots['identifier'];
      }),
    ).toEqual(['lists.find']);
    expect(
      faultsOf((d) => {
        (d['lists'] as { find: { slots: { facts: Loose } } }).find.slots.facts = { taste: 'taste' };
      }),
    ).toEqual(['lists.find.slots.facts.taste']);
  });
});
