// A small rulebook of its own and listings for tests: each test shows only what matters to it.
import type { Listing, Values } from '../listing';
import { compileCategory, parseRulebook, type Rulebook } from '../rulebook';

export const smallDocument = (
  change: (d: Record<string, never>) => void = () => undefined,
): Record<string, unknown> => {
  const document = {
    format: 'basileus-rulebook/2',
    version: '2026.01',
    market: { key: 'stall', name: 'Stall', languages: ['en'] },
    sites: [
      {
        key: 'main',
        name: 'Stall',
        country: 'GB',
        currency: 'GBP',
        languages: ['en'],
        pricesInclude: 'tax',
        taxes: [{ rate: '0.20' }],
      },
    ],
    sku: { min: 3, max: 12, allowed: 'letters-digits-marks' },
    codeLists: {
      sold_by: {
        label: 'Sold by',
        entries: [
          { code: 'kg', label: 'Kilogram' },
          { code: 'm', label: 'Metre' },
          { code: 'pc', label: 'Piece' },
        ],
      },
      colour: {
        label: 'Colours',
        entries: [
          { code: 'blk', label: 'Black', also: ['jet'] },
          { code: 'blu', label: 'Blue', also: ['navy'] },
          { code: 'grn', label: 'Green' },
        ],
      },
      material: {
        label: 'Materials',
        entries: [
          { code: 'iron', label: 'Cast iron' },
          { code: 'other', label: 'Other' },
        ],
      },
      battery: {
        label: 'Batteries',
        entries: [
          { code: 'alk', label: 'Alkaline' },
          { code: 'lii', label: 'Lithium ion' },
        ],
      },
    },
    groups: [{ key: 'all', label: 'All' }],
    attributes: [
      {
        key: 'title',
        label: 'Title',
        group: 'all',
        type: 'text',
        from: 'title',
        minCharacters: 5,
        maxCharacters: 40,
        maxBytes: 60,
        textRules: ['brand-first', 'no-contact', 'no-promotion', 'no-decoration', 'no-shouting'],
      },
      {
        key: 'brand',
        label: 'Brand',
        group: 'all',
        type: 'text',
        from: 'brand',
        shared: true,
        protectedWhenLive: true,
      },
      {
        key: 'item_number',
        label: 'Item number',
        group: 'all',
        type: 'identifier',
        from: 'gtin',
        kinds: ['gtin-8', 'gtin-12', 'gtin-13'],
        rows: 'sellable',
      },
      {
        key: 'description',
        label: 'Description',
        group: 'all',
        type: 'html',
        tags: ['p', 'b'],
        textRules: ['no-contact'],
      },
      {
        key: 'points',
        label: 'Highlights',
        group: 'all',
        type: 'repeated-text',
        minItems: 2,
        maxItems: 3,
        textRules: ['short-point'],
      },
      { key: 'box', label: 'In the box', group: 'all', type: 'repeated-text', textRules: ['count-x-thing'] },
      { key: 'pictures', label: 'Pictures', group: 'all', type: 'links', part: 'pictures', from: 'pictures' },
      {
        key: 'price',
        label: 'Price',
        group: 'all',
        type: 'money',
        part: 'price',
        from: 'price',
        max: '5000',
        rows: 'sellable',
      },
      { key: 'sale_price', label: 'Sale price', group: 'all', type: 'money', part: 'price', rows: 'sellable' },
      { key: 'sale_start', label: 'Sale starts', group: 'all', type: 'date', part: 'price', rows: 'sellable' },
      { key: 'sale_end', label: 'Sale ends', group: 'all', type: 'date', part: 'price', rows: 'sellable' },
      { key: 'floor', label: 'Floor', group: 'all', type: 'money', part: 'price', rows: 'sellable' },
      { key: 'ceiling', label: 'Ceiling', group: 'all', type: 'money', part: 'price', rows: 'sellable' },
      {
        key: 'quantity',
        label: 'Quantity',
        group: 'all',
        type: 'integer',
        part: 'stock',
        from: 'stock',
        min: '0',
        rows: 'sellable',
      },
      { key: 'colour', label: 'Colour', group: 'all', type: 'one-of', codes: 'colour', from: 'fact.colour' },
      { key: 'hues', label: 'Hues', group: 'all', type: 'several-of', codes: 'colour', maxItems: 2 },
      {
        key: 'material',
        label: 'Material',
        group: 'all',
        type: 'one-of',
        codes: 'material',
        from: 'fact.material',
        shared: true,
      },
      { key: 'material_other', label: 'Other material', group: 'all', type: 'text', maxColumns: 12 },
      {
        key: 'diameter',
        label: 'Diameter',
        group: 'all',
        type: 'measure',
        units: ['cm', 'mm'],
        min: '5',
        max: '90',
        decimals: 1,
        from: 'fact.diameter',
      },
      { key: 'battery_kind', label: 'Battery type', group: 'all', type: 'one-of', codes: 'battery' },
      {
        key: 'un_number',
        label: 'UN number',
        group: 'all',
        type: 'text',
        pattern: { regex: '^UN\\d{4}$', says: 'a UN number such as UN3481' },
      },
      { key: 'washable', label: 'Washable', group: 'all', type: 'yes-no' },
      {
        key: 'reading',
        label: 'Reading',
        group: 'all',
        type: 'text',
        maxBytes: 10,
        bytesIn: 'shift_jis',
        widths: { katakana: 'full', latin: 'half', digits: 'half', spaces: 'full' },
      },
      { key: 'pages', label: 'Pages', group: 'all', type: 'integer' },
      ...['long', 'wide', 'high'].map((key) => ({
        key: `box_${key}`,
        label: `Box ${key}`,
        group: 'all',
        type: 'measure',
        units: ['cm', 'mm'],
      })),
      { key: 'box_heavy', label: 'Box weight', group: 'all', type: 'measure', units: ['kg', 'g'] },
      { key: 'sold_by', label: 'Sold by', group: 'all', type: 'one-of', codes: 'sold_by' },
      { key: 'inside', label: 'Net weight', group: 'all', type: 'measure', units: ['kg', 'g'] },
    ],
    demands: [
      ...['title', 'brand', 'item_number', 'price', 'quantity'].map((attribute) => ({ attribute, level: 'must' })),
      ...['description', 'points', 'box', 'sale_price', 'sale_start', 'sale_end', 'floor', 'ceiling'].map(
        (attribute) => ({ attribute, level: 'may' }),
      ),
      { attribute: 'pictures', level: 'should' },
    ],
    tree: [
      { key: 'home', label: 'Home' },
      {
        key: 'pans',
        label: 'Pans',
        parent: 'home',
        takesItems: true,
        words: ['frying pan', 'skillet'],
        axes: ['colour', 'diameter'],
        demands: [
          { attribute: 'diameter', level: 'must' },
          { attribute: 'colour', level: 'may' },
          { attribute: 'hues', level: 'may' },
          { attribute: 'washable', level: 'may' },
          ...['sold_by', 'reading', 'box_long', 'box_wide', 'box_high', 'box_heavy', 'inside'].map((attribute) => ({
            attribute,
            level: 'may',
          })),
          { attribute: 'material', level: 'should' },
          {
            attribute: 'material_other',
            level: 'must',
            when: { attribute: 'material', is: ['other'] },
            why: 'the material is “Other”',
          },
        ],
      },
      {
        key: 'lamps',
        label: 'Lamps',
        parent: 'home',
        takesItems: true,
        words: ['lamp'],
        axes: [],
        demands: [
          { attribute: 'battery_kind', level: 'may' },
          {
            attribute: 'un_number',
            level: 'must',
            when: {
              all: [{ attribute: 'battery_kind', filled: true }, { not: { attribute: 'battery_kind', is: ['alk'] } }],
            },
          },
          { attribute: 'pages', level: 'may' },
        ],
      },
    ],
    families: { maxVariants: 3 },
    roles: {
      title: 'title',
      brand: 'brand',
      identifier: 'item_number',
      price: 'price',
      quantity: 'quantity',
      pictures: 'pictures',
      salePrice: 'sale_price',
      saleStart: 'sale_start',
      saleEnd: 'sale_end',
      floor: 'floor',
      ceiling: 'ceiling',
      parcelLength: 'box_long',
      parcelWidth: 'box_wide',
      parcelHeight: 'box_high',
      parcelWeight: 'box_heavy',
      netWeight: 'inside',
    },
    offer: { quantityCap: 500, minimumAdvised: 3 },
    unitPrice: {
      attribute: 'sold_by',
      units: { kg: { of: 'inside', per: 'kg' }, m: { of: 'box_long', per: 'm' }, pc: { of: 'pages', per: 'piece' } },
    },
    parcel: { maxEdge: '150', maxGirth: '300', maxWeight: '30', volumeDivisor: 5000 },
    pictures: {
      ...{ min: 1, advised: 3, max: 4, schemes: ['https'], endings: ['.jpg'] },
      ...{ minEdge: 500, maxEdge: 3000, zoomEdge: 1000, maxRatio: '1.5', maxBytes: 2_000_000, firstOnWhite: true },
    },
    text: { promotionalWords: ['best price', 'free delivery'] },
    fees: [{ tiers: [{ rate: '0.15' }], paymentRate: '0.029', fixed: '0.30' }],
    operations: {
      create: { form: 'full', code: 'NEW', carries: 'whole' },
      revise: { form: 'full', code: 'EDIT', carries: 'changed' },
      withdraw: { form: 'full', code: 'DOWN', carries: 'keys' },
      restore: { form: 'full', code: 'BACK', carries: 'keys' },
    },
    forms: [
      {
        key: 'full',
        label: 'Full',
        container: { kind: 'delimited', delimiter: 'tab', heads: [{ row: 'labels' }, { row: 'keys' }] },
        text: { yes: 'Y', no: 'N' },
        blank: 'keeps',
        clear: '#none#',
        maxRecords: 100,
        slots: [
          { key: 'sku', label: 'SKU', holds: { what: 'sku' } },
          { key: 'wish', label: 'Wish', holds: { what: 'operation' } },
          { key: 'shelf', label: 'Shelf', holds: { what: 'category' } },
          {
            key: 'row',
            label: 'Row',
            holds: { what: 'row-role', codes: { single: '', parent: 'head', variant: 'member' } },
          },
          { key: 'family', label: 'Family', holds: { what: 'parent-sku' } },
          { key: 'axes', label: 'Axes', holds: { what: 'axes' } },
          ...[
            'title',
            'brand',
            'description',
            'points',
            'price',
            'quantity',
            'colour',
            'hues',
            'washable',
            'sale_start',
          ].map((attribute) => ({ key: attribute, label: attribute, holds: { what: 'value', attribute } })),
          { key: 'number', label: 'Number', holds: { what: 'value', attribute: 'item_number' } },
          {
            key: 'number_kind',
            label: 'Kind',
            holds: {
              what: 'identifier-kind',
              attribute: 'item_number',
              codes: { 'gtin-13': 'A', 'gtin-8': 'B', 'gtin-12': 'C' },
            },
          },
          { key: 'diameter', label: 'Diameter', holds: { what: 'amount', attribute: 'diameter' } },
          { key: 'diameter_unit', label: 'Unit', holds: { what: 'unit', attribute: 'diameter' } },
          { key: 'p1', label: 'Picture 1', holds: { what: 'item', attribute: 'pictures', position: 1 } },
          { key: 'p2', label: 'Picture 2', holds: { what: 'item', attribute: 'pictures', position: 2 } },
        ],
      },
    ],
    transport: {
      kind: 'http',
      submit: { path: '/in', ticket: { in: 'body', pattern: '(?<found>.+)' } },
      answer: { path: '/in/{ticket}', waiting: [202] },
      shelf: { path: '/shelf', cursor: { in: { header: 'X-Mark' }, pattern: '(?<found>.+)' } },
      page: '/item/{number}',
    },
    answers: [
      {
        key: 'receipt',
        container: { kind: 'delimited', delimiter: 'tab', heads: [{ row: 'keys' }] },
        slots: { line: 'line', sku: 'sku', verdict: 'verdict', code: 'code', field: 'field', number: 'number' },
        verdict: { words: { YES: 'accepted', HMM: 'remarked', NO: 'refused' } },
      },
    ],
    codes: { E1: { says: 'A field is empty.', remedy: 'Fill it.' } },
    lists: {
      shelf: {
        container: { kind: 'delimited', delimiter: 'tab', heads: [{ row: 'keys' }] },
        slots: { sku: 'sku', number: 'number', state: 'state' },
      },
    },
    states: { shown: { is: 'live', entry: 'stands' } },
  };
  change(document as never);
  return document;
};

export function smallRulebook(change?: (d: Record<string, never>) => void): Rulebook {
  const reading = parseRulebook(smallDocument(change));
  if (!reading.ok) throw new Error(JSON.stringify(reading.faults));
  return reading.rulebook;
}

export const pans = compileCategory(smallRulebook(), 'pans')!;
export const lamps = compileCategory(smallRulebook(), 'lamps')!;

/** Values of a pan with which nothing is wrong. */
export const goodValues: Values = {
  title: 'Hearth Pan of iron',
  brand: 'Hearth',
  item_number: '9521234567899',
  price: '34.99',
  quantity: '12',
  diameter: '28 cm',
  material: 'iron',
  pictures: ['https://p.example/1.jpg', 'https://p.example/2.jpg', 'https://p.example/3.jpg'],
};

export const listing = (
  values: Record<string, Values[string] | undefined> = {},
  rest: Partial<Listing> = {},
): Listing => ({
  sku: 'PAN-28',
  role: 'single',
  parentSku: undefined,
  category: 'pans',
  axes: [],
  cost: '8.40',
  accepted: undefined,
  ...rest,
  values: Object.fromEntries(
    Object.entries({ ...goodValues, ...values }).filter((e): e is [string, Values[string]] => e[1] !== undefined),
  ),
});
