import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { goodValues, smallRulebook } from '../tests/builders';
import { fairRulebook } from '../tests/fair';
import { type FeedRow, findForm, findOperation, canAsk, readForm, toRecords, writeForm } from '.';

const book = smallRulebook(),
  form = findForm(book, 'create')!;

describe('the file', () => {
  const row: FeedRow = {
    operation: 'create',
    sku: 'PAN-28',
    role: 'variant',
    parentSku: 'PAN',
    axes: ['colour', 'diameter'],
    category: 'pans',
    values: {
      ...goodValues,
      colour: 'blk',
      hues: ['blk', 'blu'],
      washable: 'yes',
      description: 'Two\nlines, a "quote"\tand a tab',
    },
    cleared: ['sale_start'],
  };
  it('has its header rows, codes, kinds and clear token', () => {
    const [labels, keys, ...lines] = writeForm(book, form, [
      { ...row, values: { ...row.values, description: 'x' } },
    ]).split('\r\n');
    expect(labels).toMatch(/^SKU\tWish\tShelf/);
    expect(keys).toMatch(/^sku\twish\tshelf/);
    expect(lines[0]!.split('\t')).toEqual([
      'PAN-28',
      'NEW',
      'pans',
      'member',
      'PAN',
      'colour|diameter',
      'Hearth Pan of iron',
      'Hearth',
      'x',
      '',
      '34.99',
      '12',
      'blk',
      'blk|blu',
      'Y',
      '#none#',
      '9521234567899',
      'A',
      '28',
      'cm',
      'https://p.example/1.jpg',
      'https://p.example/2.jpg',
    ]);
  });
  it('is read back as it was written (property)', () => {
    const text = fc
      .string({ unit: fc.constantFrom('a', 'é', '"', '\t', '\n', ' ', '=', '日', ','), minLength: 1, maxLength: 12 })
      .filter((t) => t.trim() !== '');
    const item = fc
      .string({ unit: fc.constantFrom('a', '"', '\t', 'é'), minLength: 1, maxLength: 5 })
      .filter((t) => t.trim() !== '');
    const rows = fc.array(
      fc.record({
        title: text,
        description: text,
        points: fc.array(item, { minLength: 2, maxLength: 3 }),
        price: fc.integer({ min: 1, max: 99999 }).map((n) => (n / 100).toFixed(2)),
        quantity: fc.nat(500).map(String),
        washable: fc.constantFrom('yes', 'no'),
        diameter: fc.integer({ min: 5, max: 90 }).map((n) => `${n} cm`),
        item_number: fc.constant('9521234567899'),
      }),
      { minLength: 1, maxLength: 4 },
    );
    fc.assert(
      fc.property(rows, (list) => {
        const feed = list.map((values, i): FeedRow => ({
          operation: 'create',
          sku: `S-${i}`,
          role: 'single',
          parentSku: undefined,
          axes: [],
          category: 'pans',
          values,
          cleared: [],
        }));
        const back = readForm(book, form, writeForm(book, form, feed), 'create');
        expect(back).toEqual({ ok: true, rows: feed });
      }),
      { seed: 4, numRuns: 200 },
    );
  });
  it('carries only what differs in a revision, and clears on purpose', () => {
    const line = writeForm(book, form, [
      { ...row, operation: 'revise', values: { title: 'New title' }, cleared: ['colour'] },
    ])
      .split('\r\n')[2]!
      .split('\t');
    expect(line.filter((c) => c !== '')).toEqual([
      'PAN-28',
      'EDIT',
      'pans',
      'PAN',
      'colour|diameter',
      'New title',
      '#none#',
    ]);
    expect(
      readForm(
        book,
        form,
        writeForm(book, form, [{ ...row, operation: 'revise', values: { title: 'New title' }, cleared: ['colour'] }]),
        'create',
      ),
    ).toMatchObject({ rows: [{ operation: 'revise', cleared: ['colour'], values: { title: 'New title' } }] });
  });
  it('is refused when its header lacks a column', () => {
    expect(readForm(book, form, 'SKU\r\nsku\r\nA\r\n', 'create')).toMatchObject({ ok: false });
  });
});

describe('the file of a market with two sites', () => {
  const fair = fairRulebook();
  const offers = findForm(fair, 'price')!,
    goods = findForm(fair, 'create')!;
  const row: FeedRow = {
    operation: 'price',
    sku: 'A1',
    role: 'single',
    parentSku: undefined,
    axes: [],
    category: 'pans',
    values: { 'cost@de': '12.5', 'cost@se': '149', pieces: '3', 'from@se': '2026-11-27' },
    cleared: [],
  };
  it('has a record a site, with the site’s own price, currency and day, in the market’s ways of writing', () => {
    expect(writeForm(fair, offers, [row])).toBe(
      '"nr";"land";"pris";"valuta";"fran";"antal"\r\n' +
        '"A1";"DE";"12,50";"EUR";"";"3"\r\n' +
        '"A1";"SE";"149,00";"SEK";"27.11.2026";"3"\r\n',
    );
  });
  it('fills the places of the currency up and never cuts them', () => {
    const cellOf = (price: string) =>
      writeForm(fair, offers, [{ ...row, sites: ['de'], values: { 'cost@de': price } }])
        .split('\r\n')[1]!
        .split(';')[2];
    expect(['7', '7.5', '7.499', 'seven'].map(cellOf)).toEqual(['"7,00"', '"7,50"', '"7,499"', '"seven"']);
  });
  it('is read by the site of each record wherever that stands in it', () => {
    const turned = fairRulebook((d) => {
      const { forms } = d as unknown as { forms: { key: string; slots: unknown[] }[] };
      forms.find((f) => f.key === 'offers')!.slots.reverse();
    });
    const form = findForm(turned, 'price')!;
    const text = writeForm(turned, form, [row]);
    expect(text).toContain('"3";"27.11.2026";"SEK";"149,00";"SE";"A1"');
    const reading = readForm(turned, form, text, 'price');
    expect(reading.ok && reading.rows.map((r) => r.values)).toEqual([row.values]);
  });
  it('has a record only for the sites where the item is offered', () => {
    expect(toRecords(fair, offers, [{ ...row, sites: ['se'] }]).map((r) => r.site.key)).toEqual(['se']);
  });
  it('says what a column is called in each language, and every field by its own', () => {
    const text = writeForm(fair, goods, [
      {
        ...row,
        operation: 'create',
        values: { 'name@de': 'Pfanne', 'name@sv': 'Panna', deep: '45 cm', washable: 'yes' },
      },
    ]);
    expect(text.split('\r\n').slice(0, 4)).toEqual([
      'Nummer;Titel (de);Titel (sv);Tiefe mm;Spülmaschine;Ware;Familie',
      'Nummer;Namn (de);Namn (sv);Tiefe mm;Diskmaskin;Ware;Familie',
      'nr;titel_de;titel_sv;djup_mm;disk;vara;grupp',
      'A1;Pfanne;Panna;450;ja;P-10;',
    ]);
  });
  it('is read back as it was written, sites joined again (property)', () => {
    const day = fc
      .date({ min: new Date('1970-01-01'), max: new Date('2099-12-31'), noInvalidDate: true })
      .map((d) => d.toISOString().slice(0, 10));
    const money = fc.integer({ min: 1, max: 9_999_999 }).map((n) => String(n / 100));
    const rows = fc.array(
      fc.record({
        values: fc.record(
          { 'cost@de': money, 'cost@se': money, 'from@de': day, 'from@se': day, pieces: fc.nat(500).map(String) },
          { requiredKeys: ['pieces'] },
        ),
        sites: fc.constantFrom(['de'], ['se'], ['de', 'se']),
      }),
      { minLength: 1, maxLength: 5 },
    );
    fc.assert(
      fc.property(rows, (list) => {
        const feed = list.map(({ values, sites }, i): FeedRow => ({
          ...row,
          category: '',
          sku: `S${i}`,
          sites,
          values: ofSites(values, sites),
        }));
        expect(readForm(fair, offers, writeForm(fair, offers, feed), 'price')).toEqual({ ok: true, rows: feed });
      }),
      { seed: 11, numRuns: 200 },
    );
  });
  it('does what the market lacks by what stands in for it', () => {
    expect(findOperation(fair, 'restore')).toMatchObject({ form: 'goods', done: 'create', carries: 'whole' });
    expect([canAsk(fair, 'restore'), canAsk(fair, 'replace')]).toEqual([true, false]);
  });
});

/** Values of the sites named alone, and those of no site. */
const ofSites = (values: Record<string, string | undefined>, sites: readonly string[]): Record<string, string> =>
  Object.fromEntries(
    Object.entries(values).filter(
      (e): e is [string, string] => e[1] !== undefined && (!e[0].includes('@') || sites.includes(e[0].split('@')[1]!)),
    ),
  );

describe('codes of a form', () => {
  const row = (operation: FeedRow['operation']): FeedRow => ({
    operation,
    sku: 'FAM',
    role: 'parent',
    parentSku: undefined,
    axes: ['colour'],
    category: 'pans',
    values: { title: 'Hearth Pans' },
    cleared: [],
  });
  it('name the role of a row where it is written whole, and only there', () => {
    const roleOf = (operation: FeedRow['operation']) =>
      writeForm(book, form, [row(operation)])
        .split('\r\n')[2]!
        .split('\t')[3];
    expect([roleOf('create'), roleOf('replace'), roleOf('revise')]).toEqual(['head', 'head', '']);
  });
});
