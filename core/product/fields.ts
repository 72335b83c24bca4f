// Our own fields of a product, flat, as imports, the catalog table and the correspondences name them.
export type FieldKind =
  'text' | 'long-text' | 'number' | 'money' | 'integer' | 'identifier' | 'list' | 'date' | 'measure' | 'yes-no';

export interface ProductField {
  key: string;
  label: string;
  kind: FieldKind;
  /** True for what only some categories have; kept beside the columns that every product has. */
  fact: boolean;
  /** Item rows that hold it where not all do: what is sold has a price, a family row has none. */
  rows: 'all' | 'sellable';
  /** The language of a text or the currency of a price, where it is not the house's. */
  language?: string;
  currency?: string;
}

const field = (key: string, label: string, kind: FieldKind, rows: ProductField['rows'] = 'all'): ProductField => ({
  key,
  label,
  kind,
  fact: false,
  rows,
});
const fact = (key: string, label: string, kind: FieldKind, rows: ProductField['rows'] = 'all'): ProductField => ({
  key: `fact.${key}`,
  label,
  kind,
  fact: true,
  rows,
});
/** Texts of an item in a language that is not the house's, such as `fact.title@de`. */
const inLanguage = (language: string, name: string): ProductField[] =>
  [
    fact(`title@${language}`, `Title (${name})`, 'text'),
    fact(`description@${language}`, `Description (${name})`, 'long-text'),
    fact(`highlights@${language}`, `Highlights (${name})`, 'list'),
    fact(`ingredients@${language}`, `Ingredients (${name})`, 'long-text'),
  ].map((f) => ({ ...f, language }));
/** Prices of an item in a currency that is not the house's, such as `fact.price@eur`. */
const inCurrency = (currency: string): ProductField[] =>
  [
    fact(`price@${currency.toLowerCase()}`, `Price (${currency})`, 'money', 'sellable'),
    fact(`sale_price@${currency.toLowerCase()}`, `Sale price (${currency})`, 'money', 'sellable'),
  ].map((f) => ({ ...f, currency }));

/** Every field we hold, in the order in which they are shown. */
export const productFields: readonly ProductField[] = [
  field('sku', 'SKU', 'text'),
  field('parent_sku', 'Family SKU', 'text'),
  field('title', 'Title', 'text'),
  field('brand', 'Brand', 'text'),
  field('category', 'Own category', 'text'),
  field('gtin', 'GTIN', 'identifier', 'sellable'),
  field('mpn', 'Part number', 'text'),
  field('cost', 'Cost', 'money', 'sellable'),
  field('price', 'Price', 'money', 'sellable'),
  field('sale_price', 'Sale price', 'money', 'sellable'),
  field('sale_start', 'Sale start', 'date', 'sellable'),
  field('sale_end', 'Sale end', 'date', 'sellable'),
  field('stock', 'Stock', 'integer', 'sellable'),
  field('description', 'Description', 'long-text'),
  field('highlights', 'Highlights', 'list'),
  field('pictures', 'Pictures', 'list'),
  fact('list_price', 'List price', 'money'),
  fact('colour', 'Colour', 'text'),
  fact('size', 'Size', 'text'),
  fact('material', 'Material', 'text'),
  fact('diameter', 'Diameter', 'measure'),
  fact('length', 'Length', 'measure'),
  fact('width', 'Width', 'measure'),
  fact('height', 'Height', 'measure'),
  fact('volume', 'Volume', 'measure'),
  fact('net_weight', 'Net weight', 'measure'),
  fact('parcel_weight', 'Parcel weight', 'measure'),
  fact('parcel_length', 'Parcel length', 'measure'),
  fact('parcel_width', 'Parcel width', 'measure'),
  fact('parcel_height', 'Parcel height', 'measure'),
  fact('power', 'Power', 'measure'),
  fact('battery_type', 'Battery type', 'text'),
  fact('battery_count', 'Batteries', 'integer'),
  fact('blend', 'Blend', 'text'),
  fact('ingredients', 'Ingredients', 'long-text'),
  fact('allergens', 'Allergens', 'list'),
  fact('best_before_days', 'Shelf life (days)', 'integer'),
  fact('country', 'Country of origin', 'text'),
  fact('author', 'Author', 'text'),
  fact('pages', 'Pages', 'integer'),
  fact('binding', 'Binding', 'text'),
  fact('published', 'Published', 'date'),
  fact('language', 'Language', 'text'),
  fact('pieces', 'Pieces', 'integer'),
  fact('dishwasher', 'Dishwasher safe', 'yes-no'),
  fact('induction', 'Induction', 'yes-no'),
  fact('box_contents', 'In the box', 'list'),
  fact('care', 'Care', 'text'),
  ...inLanguage('de', 'German'),
  ...inLanguage('sv', 'Swedish'),
  ...inLanguage('ar', 'Arabic'),
  ...inLanguage('ja', 'Japanese'),
  { ...fact('reading@ja', 'Reading (Japanese)', 'text'), language: 'ja' },
  ...inCurrency('EUR'),
  ...inCurrency('SEK'),
  ...inCurrency('USD'),
  ...inCurrency('KWD'),
  ...inCurrency('JPY'),
];

/** Fields by which the variants of a family differ, the likeliest first. Common practice. */
export const axisFields: readonly string[] = [
  'fact.colour',
  'fact.size',
  'fact.diameter',
  'fact.volume',
  'fact.length',
  'fact.blend',
  'fact.net_weight',
  'fact.pieces',
  'fact.height',
];

/** True for what only an item that is sold has: a price, a number, stock. A family has them in its variants. */
export const isOfSellable = (field: string): boolean => byKey.get(field)?.rows === 'sellable';

/** Fields whose values many items share, so that a new one is news: a brand, an own category, a colour. */
export const sharedFields: readonly string[] = [
  'brand',
  'category',
  'fact.colour',
  'fact.material',
  'fact.battery_type',
  'fact.blend',
  'fact.country',
  'fact.binding',
  'fact.language',
];

const byKey = new Map(productFields.map((f) => [f.key, f]));
export const getProductField = (key: string): ProductField | undefined => byKey.get(key);
/** Label of a field of ours, or its key where we do not know it. */
export const getFieldLabel = (key: string): string => byKey.get(key)?.label ?? key.replace(/^fact\./, '');
