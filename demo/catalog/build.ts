// Builds Brindlewick's catalog from its lines: families, variants, singles and bundles, with the faults that a real
// catalog has. The same seed and size give the same catalog everywhere. GTINs begin with 952, which GS1 keeps for examples.
import { computeGs1CheckDigit, computeIssnCheckDigit, toIssnBarcode } from '@basileus/core/identifiers';
import type { Value } from '@basileus/core/listing';
import { exact, raiseToEnding } from '@basileus/core/quantity';
import { writeJapanese } from './japanese';
import { fitWidths } from '@basileus/core/text';
import { type Line, lines } from './lines';
import { createRandom } from './random';
import { tongues, writeIngredients, writeTexts } from './words';

export interface DemoProduct {
  kind: 'single' | 'family' | 'variant' | 'bundle';
  /** Flat fields of ours. */
  fields: Record<string, Value>;
  /** Fields of ours that divide the family. */
  axes: string[];
  reserved: number;
  parts: { sku: string; count: number }[];
}

type Random = ReturnType<typeof createRandom>;
const gtinOf = (n: number): string => {
  const body = `952${String(n).padStart(9, '0')}`;
  return body + computeGs1CheckDigit(body);
};
const isbnOf = (n: number): string => {
  const body = `9798${String(10000000 + n)}`;
  return body + computeGs1CheckDigit(body);
};
const issnOf = (n: number): string => {
  const seven = String(2990000 + n);
  return `${seven.slice(0, 4)}-${seven.slice(4)}${computeIssnCheckDigit(seven)}`;
};
const pictureOf = (sku: string, n: number): string =>
  `https://pictures.brindlewick.example/${encodeURIComponent(sku.toLowerCase())}-${n}.jpg`;

function describe(line: Line, series: string): string {
  return `<p>${line.body} ${line.thing} of the ${series} series, from our own warehouse.</p>`;
}

/** What a family has in its variants only. */
const ofVariants = [
  'gtin',
  'cost',
  'price',
  'stock',
  'mpn',
  'fact.parcel_weight',
  'fact.price@eur',
  'fact.price@sek',
  'fact.price@usd',
  'fact.price@kwd',
  'fact.price@jpy',
  'fact.parcel_length',
  'fact.parcel_width',
  'fact.parcel_height',
];

interface Counter {
  number: number;
}

function buildItem(
  line: Line,
  series: string,
  sku: string,
  title: string,
  own: Record<string, string>,
  price: readonly [string, string],
  random: Random,
  counter: Counter,
): DemoProduct {
  const n = counter.number++;
  const weight = (random.between(20, 380) / 100).toFixed(2);
  const fields: Record<string, Value> = {
    sku,
    title,
    brand: line.brands[series.length % line.brands.length]!,
    category: line.category,
    gtin: line.kind === 'isbn' ? isbnOf(n) : line.kind === 'issn' ? toIssnBarcode(issnOf(n)) : gtinOf(n),
    mpn: `${line.code}-${String(n).padStart(5, '0')}`,
    cost: price[0],
    price: price[1],
    stock: String(random.between(0, 9) === 0 ? 0 : random.between(4, 320)),
    description: describe(line, series),
    highlights: [...line.points],
    pictures: [1, 2, 3].map((i) => pictureOf(sku, i)),
    'fact.parcel_weight': `${weight} kg`,
    'fact.box_contents': [`1 x ${line.thing.toLowerCase()}`],
  };
  for (const [k, v] of Object.entries(line.facts)) fields[`fact.${k}`] = typeof v === 'string' ? v : [...v];
  for (const [k, v] of Object.entries(own)) fields[k] = v;
  if (line.code === 'LT' || line.code === 'TB')
    fields['fact.ingredients'] =
      `${own['fact.blend'] ?? series} ${own['fact.blend'] === 'Peppermint' ? 'leaves' : 'tea'}`;
  addAbroad(fields, line, series, Object.values(own), own['fact.blend']);
  return { kind: 'single', fields, axes: [], reserved: random.between(0, 3), parts: [] };
}

/** A number for a text, the same everywhere: what is made of it does not move the random numbers of the rest. */
function numberOf(text: string): number {
  let n = 2166136261;
  for (const c of text) n = Math.imul(n ^ c.codePointAt(0)!, 16777619) >>> 0;
  return n;
}

/** What markets in other countries want of an item: texts in their languages, prices in their money, the size of the parcel. */
function addAbroad(
  fields: Record<string, Value>,
  line: Line,
  series: string,
  parts: readonly string[],
  blend: string | undefined,
): void {
  const n = numberOf(String(fields['sku']));
  Object.assign(fields, writeJapanese(line, String(fields['brand']), series, parts, blend));
  for (const tongue of tongues) {
    Object.assign(fields, writeTexts(line, tongue, String(fields['brand']), series, parts));
    const ingredients = writeIngredients(line, tongue, blend);
    if (ingredients !== undefined) fields[`fact.ingredients@${tongue}`] = ingredients;
  }
  const price = exact(String(fields['price']));
  fields['fact.price@eur'] = raiseToEnding(price.times('1.18'), '.99').toFixed(2);
  fields['fact.price@sek'] = price.times('13.4').dividedBy(10).ceil().times(10).minus(1).toFixed(2);
  fields['fact.price@usd'] = raiseToEnding(price.times('1.31'), '.99').toFixed(2);
  // Dinars have three places; the smallest coin in use is of five fils.
  fields['fact.price@kwd'] = price.times('0.398').times(200).ceil().dividedBy(200).toFixed(3);
  // Yen have no decimals; prices end on eighty.
  fields['fact.price@jpy'] = price.times('198').dividedBy(100).ceil().times(100).minus(20).toFixed();
  fields['fact.parcel_length'] = `${20 + (n % 30)} cm`;
  fields['fact.parcel_width'] = `${15 + (n % 17)} cm`;
  fields['fact.parcel_height'] = `${5 + (n % 13)} cm`;
  spoilAbroad(fields, n);
}

/** The faults of texts and prices that few people look at. */
function spoilAbroad(fields: Record<string, Value>, n: number): void {
  const title = fields['fact.title@de'];
  // A unit that slipped: what the other items of the category measure tells.
  if (n % 79 === 43) fields['fact.parcel_length'] = String(fields['fact.parcel_length']).replace(' cm', ' m');
  if (n % 29 === 3) delete fields['fact.title@sv'];
  if (n % 41 === 5 && typeof title === 'string') fields['fact.title@de'] = `${title} BESTPREIS`;
  if (n % 37 === 7) delete fields['fact.price@sek'];
  if (n % 47 === 9) delete fields['fact.price@usd'];
  if (n % 31 === 13) delete fields['fact.title@ar'];
  if (n % 53 === 17) fields['fact.title@ar'] = String(fields['title']);
  if (n % 59 === 19) delete fields['fact.price@kwd'];
  if (n % 61 === 23) delete fields['fact.title@ja'];
  if (n % 67 === 29) delete fields['fact.price@jpy'];
  if (n % 71 === 31 && typeof fields['fact.title@ja'] === 'string') fields['fact.title@ja'] += ' 送料無料';
  if (n % 73 === 37 && typeof fields['fact.reading@ja'] === 'string')
    fields['fact.reading@ja'] = String(fields['title']);
  // As a keyboard of the old kind writes it: the market's widths are another matter, and are fitted.
  if (n % 17 === 5 && typeof fields['fact.title@ja'] === 'string')
    fields['fact.title@ja'] = fitWidths(fields['fact.title@ja'], { katakana: 'half', digits: 'full', latin: 'full' });
  // Centimetres that somebody took for millimetres.
  if (n % 79 === 41)
    for (const side of ['length', 'width', 'height'])
      if (typeof fields[`fact.parcel_${side}`] === 'string')
        fields[`fact.parcel_${side}`] = String(fields[`fact.parcel_${side}`]).replace('cm', 'mm');
  if (n % 43 === 11) delete fields['fact.highlights@sv'];
}

/** What is asked for a piece that costs one, line after line: some are sold close to their cost, others far over it. */
const markups = ['2.35', '1.95', '2.6', '2.15', '1.8', '2.9', '2.4'];

const priceOf = (line: Line, step: number, random: Random): readonly [string, string] => {
  const [low, high] = line.cost;
  const cost = exact(String(low))
    .plus(exact(String(high - low)).times(step.toFixed(4)))
    .plus((random.between(0, 90) / 100).toFixed(2))
    .toFixed(2);
  const price = raiseToEnding(
    exact(cost)
      .times(markups[lines.indexOf(line) % markups.length]!)
      .plus('1.5'),
    random.between(0, 3) === 0 ? '.50' : '.99',
  ).toFixed(2);
  return [cost, price];
};

/** Products in an order in which parents come before their variants and parts before their bundles. */
export function* buildCatalog(size = 1200, seed = 20261123): Generator<DemoProduct> {
  const random = createRandom(seed);
  const counter: Counter = { number: 100 };
  let sellable = 0;
  for (let round = 0; sellable < size; round++) {
    for (const line of lines) {
      for (const series of line.series) {
        if (sellable >= size) return;
        const family = buildSeries(line, round === 0 ? series : `${series} ${round + 1}`, round, random, counter);
        for (const p of family) {
          spoil(p, random);
          yield p;
          if (p.kind !== 'family') sellable++;
        }
      }
    }
    if (round === 0)
      for (const b of buildBundles()) {
        yield b;
        sellable++;
      }
  }
}

function buildSeries(line: Line, series: string, round: number, random: Random, counter: Counter): DemoProduct[] {
  const stem = `${line.code}-${series
    .replace(/[^A-Za-z]/g, '')
    .slice(0, 4)
    .toUpperCase()}${round === 0 ? '' : round + 1}`;
  const brand = line.brands[series.length % line.brands.length]!;
  if (!line.axis)
    return [
      buildItem(
        line,
        series,
        line.kind ? `${stem}-${counter.number}` : stem,
        line.kind ? `${brand} ${series}: ${line.thing}` : `${brand} ${series} ${line.thing}`,
        {},
        priceOf(line, random.next(), random),
        random,
        counter,
      ),
    ];
  const axes = [line.axis, ...(line.second ? [line.second] : [])];
  const rows: DemoProduct[] = [];
  const parent = buildItem(line, series, stem, `${brand} ${series} ${line.thing}`, {}, ['0', '0'], random, counter);
  parent.kind = 'family';
  parent.axes = axes.map((a) => a.field);
  for (const k of [...ofVariants, ...parent.axes]) delete parent.fields[k];
  rows.push(parent);
  const combinations = line.second
    ? line.axis.values.flatMap((a) => line.second!.values.map((b) => [a, b]))
    : line.axis.values.map((a) => [a]);
  combinations.forEach((combination, i) => {
    const own = Object.fromEntries(axes.map((a, k) => [a.field, combination[k]!]));
    const sku = `${stem}-${axes.map((a, k) => a.code(combination[k]!)).join('-')}`;
    const item = buildItem(
      line,
      series,
      sku,
      `${brand} ${series} ${line.thing} ${combination.join(' ')}`,
      own,
      priceOf(line, i / combinations.length, random),
      random,
      counter,
    );
    item.kind = 'variant';
    item.fields['parent_sku'] = stem;
    item.axes = axes.map((a) => a.field);
    rows.push(item);
  });
  return rows;
}

function buildBundles(): DemoProduct[] {
  const bundle = (
    sku: string,
    title: string,
    category: string,
    price: string,
    cost: string,
    parts: DemoProduct['parts'],
  ): DemoProduct => ({
    kind: 'bundle',
    axes: [],
    reserved: 0,
    parts,
    fields: {
      sku,
      title,
      brand: 'Brindlewick',
      category,
      gtin: gtinOf(90000 + sku.length * 7 + parts.length),
      cost,
      price,
      description: `<p>${title}, packed together in one box.</p>`,
      highlights: ['Packed in one box', 'Chosen to go together', 'Ready to give'],
      pictures: [pictureOf(sku, 1), pictureOf(sku, 2), pictureOf(sku, 3)],
      'fact.parcel_weight': '3.20 kg',
      'fact.material': 'Stainless steel',
      'fact.box_contents': parts.map((p) => `${p.count} x ${p.sku.toLowerCase()}`),
    },
  });
  return [
    bundle('BD-FIRST-KITCHEN', 'Brindlewick First Kitchen Bundle', 'Bundles', '119.99', '46.00', [
      { sku: 'FP-HEAR-24CM', count: 1 },
      { sku: 'SP-MALL-18L', count: 1 },
      { sku: 'KN-RAVE-20CM', count: 1 },
    ]),
    bundle('BD-TEA-FOR-TWO', 'Brindlewick Tea for Two Bundle', 'Bundles', '44.99', '17.00', [
      { sku: 'MG-SHIN-WHI', count: 2 },
      { sku: 'LT-MORN-ASS-125G', count: 1 },
    ]),
    bundle('BD-SUNDAY-TABLE', 'Brindlewick Sunday Table Bundle', 'Bundles', '89.99', '36.50', [
      { sku: 'TC-MEAD-CRE-140X18', count: 1 },
      { sku: 'NP-MEAD-CRE', count: 2 },
    ]),
  ];
}

/** The faults of a real catalog, each on a few items, so that every check has something to find. */
const faults: readonly ((f: Record<string, Value>) => void)[] = [
  (f) => {
    f['gtin'] = String(f['gtin']).slice(0, 12) + String((Number(String(f['gtin']).at(-1)) + 3) % 10);
  },
  (f) => {
    f['gtin'] = '0000000000000';
  },
  (f) => {
    f['gtin'] = String(f['mpn']);
  },
  (f) => {
    f['gtin'] = '2' + String(f['gtin']).slice(1, 12);
    f['gtin'] += computeGs1CheckDigit(String(f['gtin']));
  },
  (f) => {
    delete f['gtin'];
  },
  (f) => {
    f['gtin'] = '9520000001032';
  },
  (f) => {
    delete f['fact.parcel_weight'];
  },
  (f) => {
    f['fact.parcel_weight'] = `${String(f['fact.parcel_weight'] ?? '1.20').replace(' kg', '')} lb`;
  },
  (f) => {
    f['title'] = `${String(f['title'])} BEST PRICE`;
  },
  (f) => {
    f['title'] = `★ ${String(f['title'])} ★`;
  },
  (f) => {
    f['title'] = String(f['title']).toUpperCase();
  },
  (f) => {
    f['title'] = String(f['title']).replace(String(f['brand']) + ' ', '');
  },
  (f) => {
    f['description'] = `${String(f['description'])} Call us on 01632 960 123.`;
  },
  (f) => {
    f['description'] = String(f['description']).replace('<p>', '<p style="color:red">');
  },
  (f) => {
    f['description'] = 'Nice.';
  },
  (f) => {
    f['pictures'] = [];
  },
  (f) => {
    f['pictures'] = [String((f['pictures'] as string[])[0]).replace('https', 'http')];
  },
  (f) => {
    f['pictures'] = (f['pictures'] as string[]).slice(0, 1);
  },
  (f) => {
    f['price'] = f['cost']!;
  },
  (f) => {
    f['sale_price'] = f['price']!;
    f['sale_start'] = '2026-11-27';
  },
  (f) => {
    if (f['fact.colour']) f['fact.colour'] = 'Blak';
  },
  (f) => {
    if (f['fact.material']) f['fact.material'] = 'Stainles steel';
  },
  (f) => {
    if (f['fact.diameter']) f['fact.diameter'] = '11 in';
  },
  (f) => {
    delete f['fact.battery_type'];
  },
  (f) => {
    f['highlights'] = (f['highlights'] as string[]).slice(0, 1);
  },
  (f) => {
    f['fact.box_contents'] = ['pan and lid'];
  },
  (f) => {
    f['stock'] = '1450';
  },
  (f) => {
    delete f['brand'];
  },
  (f) => {
    delete f['cost'];
  },
];

function spoil(p: DemoProduct, random: Random): void {
  if (p.kind === 'family' || random.next() > 0.14) return;
  random.pick(faults)(p.fields);
}
