// Our own fields of a product, flat, as imports, the catalog table and the correspondences name them. What every product has
// is fixed; the rest a house says itself, and keeps as data. Both together are its book of fields.
import type { Value } from '../listing/values';
import { foldLoosely } from '../text';
import { partsField } from './parts';

/** Kinds that a field of one's own may have. A number that identifies an item is every item's. */
export const ownFieldKinds = [
  'text',
  'long-text',
  'number',
  'money',
  'integer',
  'list',
  'date',
  'measure',
  'yes-no',
] as const;
export type OwnFieldKind = (typeof ownFieldKinds)[number];
export type FieldKind = OwnFieldKind | 'identifier';

export interface ProductField {
  key: string;
  label: string;
  kind: FieldKind;
  /** True for what a house says itself; kept beside the columns that every product has. */
  fact: boolean;
  /** Item rows that hold it where not all do: what is sold has a price, a family row has none. */
  rows: 'all' | 'sellable';
  group: string;
  /** The language of a text or the currency of a price, where it is not the house's. */
  language?: string;
  currency?: string;
  /** Unit of a measure that is written without one. */
  unit?: string;
  /** All that it takes, where that is a list. */
  values?: readonly string[];
  /** Own categories that have it, with those under them, where not all do. */
  categories?: readonly string[];
  /** The market whose listings have it, by its key, where it is none of the item itself. */
  market?: string;
  /** What people call each of its values, where what is kept are codes. */
  words?: Readonly<Record<string, string>>;
  /** Further words for each of its values. */
  also?: Readonly<Record<string, readonly string[]>>;
  /** A price at which the item is sold on its market. */
  sells?: true;
  /** Worked out of others, so that nobody writes it. */
  made?: true;
  /** A day that is put into it becomes a moment: when the day begins there, or its last second. */
  moment?: { timeZone: string; edge: 'first' | 'last' };
}

/** A field as a house says it. */
export interface OwnField {
  /** Its name for good, such as `colour`; the flat field is `fact.colour`. */
  key: string;
  label: string;
  kind: OwnFieldKind;
  rows: ProductField['rows'];
  /** One value in every language or currency of the house, or one in all. */
  by: 'language' | 'currency' | null;
  /** The one language that it is in, where it is in one that is not the house's. */
  language: string | null;
  unit: string | null;
  values: readonly string[];
  /** What files of other people call it, beside its label. */
  names: readonly string[];
  group: string;
  categories: readonly string[];
  /** Variants of a family may differ by it. */
  axis: boolean;
  /** Many items share its values, so that a new one is news: a colour, a material. */
  shared: boolean;
}

/** A field of which nothing is said yet but its key, its label and its group: a text, once, in all categories. */
export const plainField = (
  named: Pick<OwnField, 'key' | 'label' | 'group'>,
  more: Partial<OwnField> = {},
): OwnField => ({
  kind: 'text',
  rows: 'all',
  by: null,
  language: null,
  unit: null,
  values: [],
  names: [],
  categories: [],
  axis: false,
  shared: false,
  ...named,
  ...more,
});

/** What a house says of its fields, and the languages and currencies that it writes beside its own. */
export interface OwnFields {
  fields: readonly OwnField[];
  languages: readonly string[];
  currencies: readonly string[];
}

/** The fields of a house, ready to be asked. */
export interface FieldBook {
  /** Every field, in the order in which they are shown. */
  all: readonly ProductField[];
  /** Fields in the language of the house that have a value in each further one. */
  byLanguage: ReadonlySet<string>;
  get: (key: string) => ProductField | undefined;
  /** Label of a field, or its key where it is not known. */
  labelOf: (key: string) => string;
  /** True for what only an item that is sold has: a price, a number, stock. A family has them in its variants. */
  isOfSellable: (key: string) => boolean;
  /** Fields by which the variants of a family differ, the likeliest first. */
  axes: readonly string[];
  /** Fields whose values many items share: a brand, an own category, a colour. */
  shared: ReadonlySet<string>;
  /** The field whose label, or whose name in other people's files, a heading is. */
  findNamed: (heading: string) => ProductField | undefined;
}

const general = 'Item',
  money = 'Price and stock';
const field = (key: string, label: string, kind: FieldKind, more: Partial<ProductField> = {}): ProductField => ({
  key,
  label,
  kind,
  fact: false,
  rows: 'all',
  group: general,
  ...more,
});
const sold: Partial<ProductField> = { rows: 'sellable', group: money };

/** What every product has, in columns of its own. */
export const fixedFields: readonly ProductField[] = [
  field('sku', 'SKU', 'text'),
  field('parent_sku', 'Family SKU', 'text'),
  field('title', 'Title', 'text'),
  field('brand', 'Brand', 'text'),
  field('category', 'Own category', 'text'),
  field('gtin', 'GTIN', 'identifier', { rows: 'sellable' }),
  field('mpn', 'Part number', 'text'),
  field('cost', 'Cost', 'money', sold),
  field('price', 'Price', 'money', sold),
  field('sale_price', 'Sale price', 'money', sold),
  field('sale_start', 'Sale start', 'date', sold),
  field('sale_end', 'Sale end', 'date', sold),
  field('stock', 'Stock', 'integer', sold),
  field('description', 'Description', 'long-text'),
  field('highlights', 'Highlights', 'list'),
  field('pictures', 'Pictures', 'list'),
];
/** Fixed fields that have a value in each further language, and in each further currency, of the house. */
const spoken = new Set(['title', 'description', 'highlights']),
  priced = new Set(['price', 'sale_price']);

const languageNames = new Intl.DisplayNames(['en'], { type: 'language' });
/** Name of a language in English, or its tag where it has none: `de` is German. */
export const getLanguageName = (tag: string): string => {
  try {
    return languageNames.of(tag) ?? tag;
  } catch {
    return tag;
  }
};

/** True for a tag that names a language, and for a code that names a currency. */
export const isLanguageTag = (tag: string): boolean =>
  /^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/.test(tag) && getLanguageName(tag) !== tag;
export const isCurrencyCode = (code: string): boolean =>
  /^[A-Z]{3}$/.test(code) && Intl.supportedValuesOf('currency').includes(code);

/** The flat field of a field of one's own: `fact.colour`, or `fact.reading@ja` where it is in one language alone. */
export const toFlatKey = ({ key, language }: Pick<OwnField, 'key' | 'language'>): string =>
  `fact.${key}${language === null ? '' : `@${language}`}`;

function toProductField(own: OwnField): ProductField {
  return {
    key: toFlatKey(own),
    label: own.label,
    kind: own.kind,
    fact: true,
    rows: own.rows,
    group: own.group,
    ...(own.language === null ? {} : { language: own.language }),
    ...(own.unit === null ? {} : { unit: own.unit }),
    ...(own.values.length === 0 ? {} : { values: own.values }),
    ...(own.categories.length === 0 ? {} : { categories: own.categories }),
  };
}

/** The same field in a further language or currency: `title` is `fact.title@de`, `fact.price` is `fact.price@eur`. */
function putInto(base: ProductField, facet: string, name: string, more: Partial<ProductField>): ProductField {
  return {
    ...base,
    key: `fact.${base.key.replace(/^fact\./, '')}@${facet}`,
    label: `${base.label} (${name})`,
    fact: true,
    group: name,
    ...more,
  };
}

/** What is said of a row and changed like a field of it, though it is none. */
const saidOfRows = new Map([
  ['axes', 'Variants differ by'],
  [partsField, 'Parts'],
]);

/** Makes the book of a house: its fields one after the other, then those in further languages and currencies. */
export function compileFields({ fields, languages, currencies }: OwnFields): FieldBook {
  const own = fields.map((said) => ({ said, made: toProductField(said) }));
  const inLanguages = [
    ...fixedFields.filter((f) => spoken.has(f.key)),
    ...own.filter((o) => o.said.by === 'language').map((o) => o.made),
  ];
  const inCurrencies = [
    ...fixedFields.filter((f) => priced.has(f.key)),
    ...own.filter((o) => o.said.by === 'currency').map((o) => o.made),
  ];
  const all = [
    ...fixedFields,
    ...own.filter((o) => o.said.language === null).map((o) => o.made),
    ...languages.flatMap((language) => [
      ...inLanguages.map((f) => putInto(f, language, getLanguageName(language), { language })),
      ...own.filter((o) => o.said.language === language).map((o) => ({ ...o.made, group: getLanguageName(language) })),
    ]),
    ...currencies.flatMap((currency) =>
      inCurrencies.map((f) => putInto(f, currency.toLowerCase(), currency, { currency })),
    ),
  ];
  const byKey = new Map(all.map((f) => [f.key, f]));
  const byName = new Map<string, ProductField>();
  // A label counts before what others call another field.
  for (const { said, made } of own)
    for (const name of said.names) if (byKey.has(made.key)) byName.set(foldLoosely(name), made);
  for (const f of all) byName.set(foldLoosely(f.label), f);
  return {
    all,
    byLanguage: new Set(inLanguages.map((f) => f.key)),
    get: (key) => byKey.get(key),
    labelOf: (key) => byKey.get(key)?.label ?? saidOfRows.get(key) ?? key.replace(/^fact\./, ''),
    isOfSellable: (key) => byKey.get(key)?.rows === 'sellable',
    axes: own.filter((o) => o.said.axis).map((o) => o.made.key),
    shared: new Set(['brand', 'category', ...own.filter((o) => o.said.shared).map((o) => o.made.key)]),
    findNamed: (heading) => byName.get(foldLoosely(heading)),
  };
}

/** A book with more fields behind its own. A name that a field of its own has stays that field's. */
export function extendFields(book: FieldBook, more: readonly ProductField[]): FieldBook {
  if (more.length === 0) return book;
  const byKey = new Map(more.map((f) => [f.key, f]));
  const byName = new Map(more.map((f) => [foldLoosely(f.label), f]));
  return {
    ...book,
    all: [...book.all, ...more],
    get: (key) => book.get(key) ?? byKey.get(key),
    labelOf: (key) => byKey.get(key)?.label ?? book.labelOf(key),
    isOfSellable: (key) => (byKey.get(key) ?? book.get(key))?.rows === 'sellable',
    findNamed: (heading) => book.findNamed(heading) ?? byName.get(foldLoosely(heading)),
  };
}

/** A field of a market's listings beside those of the items: `stall/title`. No key of ours holds a stroke. */
export const toMarketKey = (market: string, attribute: string): string => `${market}/${attribute}`;
/** The market and the field of its listings that a key names; undefined for a field of items. */
export function readMarketKey(key: string): { market: string; attribute: string } | undefined {
  const at = key.indexOf('/');
  return at < 0 ? undefined : { market: key.slice(0, at), attribute: key.slice(at + 1) };
}

/** A value with what people call each of its parts, where codes are kept. */
export const toSpoken = <V extends Value | null>(field: ProductField | undefined, value: V): Value | V =>
  value === null || !field?.words
    ? value
    : typeof value === 'string'
      ? (field.words[value] ?? value)
      : value.map((v) => field.words![v] ?? v);

/** The same as one text, entries divided by commas. */
export const toShown = (field: ProductField | undefined, value: Value): string =>
  [toSpoken(field, value)].flat().join(', ');
