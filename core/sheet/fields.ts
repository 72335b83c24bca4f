// Our own fields of a product, flat, as imports, the catalog table and the correspondences name them.
export type FieldKind = 'text' | 'long-text' | 'number' | 'money' | 'integer' | 'identifier' | 'list' | 'date' | 'measure' | 'yes-no';

export interface ProductField { key: string; label: string; kind: FieldKind; names: readonly string[]; fact: boolean }

const field = (key: string, label: string, kind: FieldKind, ...names: string[]): ProductField => ({ key, label, kind, names, fact: false });
const fact = (key: string, label: string, kind: FieldKind, ...names: string[]): ProductField => ({ key: `fact.${key}`, label, kind, names, fact: true });

/** Every field we hold, with the words by which other people's files call it (English and German). */
export const productFields: readonly ProductField[] = [
  field('sku', 'SKU', 'text', 'sku', 'item no', 'item number', 'item code', 'article', 'article number', 'artikelnummer', 'artikel nr', 'art nr', 'code', 'stock code', 'product code', 'reference'),
  field('parent_sku', 'Family SKU', 'text', 'parent', 'parent sku', 'family', 'family sku', 'master'),
  field('title', 'Title', 'text', 'title', 'name', 'product name', 'item name', 'bezeichnung', 'product', 'titel', 'short description'),
  field('brand', 'Brand', 'text', 'brand', 'marke', 'make', 'label'),
  field('category', 'Own category', 'text', 'category', 'kategorie', 'warengruppe', 'product group', 'group', 'gruppe', 'department'),
  field('gtin', 'GTIN', 'identifier', 'gtin', 'ean', 'upc', 'barcode', 'ean code', 'strichcode', 'isbn', 'ean 13', 'bar code'),
  field('mpn', 'Part number', 'text', 'mpn', 'part number', 'manufacturer part number', 'herstellernummer', 'model number', 'manufacturer ref'),
  field('cost', 'Cost', 'money', 'cost', 'cost price', 'trade price', 'purchase price', 'ek', 'einkaufspreis', 'net cost', 'your price', 'wholesale'),
  field('price', 'Price', 'money', 'price', 'retail', 'retail price', 'rrp', 'selling price', 'preis', 'vk', 'list price', 'uvp'),
  field('sale_price', 'Sale price', 'money', 'sale price', 'offer price', 'promo price', 'aktionspreis', 'special price'),
  field('sale_start', 'Sale start', 'date', 'sale start', 'sale from', 'offer from', 'promo start'),
  field('sale_end', 'Sale end', 'date', 'sale end', 'sale to', 'offer until', 'promo end'),
  field('stock', 'Stock', 'integer', 'stock', 'quantity', 'qty', 'bestand', 'on hand', 'available', 'free stock', 'menge', 'inventory'),
  field('description', 'Description', 'long-text', 'description', 'long description', 'beschreibung', 'text', 'details', 'copy'),
  field('highlights', 'Highlights', 'list', 'highlights', 'features', 'bullets', 'points', 'selling points'),
  field('pictures', 'Pictures', 'list', 'pictures', 'images', 'image', 'picture', 'photo', 'bild', 'bilder', 'image links', 'picture link'),
  fact('colour', 'Colour', 'text', 'colour', 'color', 'farbe'),
  fact('size', 'Size', 'text', 'size', 'größe', 'groesse'),
  fact('material', 'Material', 'text', 'material', 'werkstoff', 'fabric'),
  fact('diameter', 'Diameter', 'measure', 'diameter', 'durchmesser', 'dia'),
  fact('length', 'Length', 'measure', 'length', 'länge', 'blade length'),
  fact('width', 'Width', 'measure', 'width', 'breite'),
  fact('height', 'Height', 'measure', 'height', 'höhe'),
  fact('volume', 'Volume', 'measure', 'volume', 'capacity', 'inhalt', 'fassungsvermögen'),
  fact('net_weight', 'Net weight', 'measure', 'net weight', 'contents weight', 'nettogewicht', 'fill weight'),
  fact('parcel_weight', 'Parcel weight', 'measure', 'parcel weight', 'weight', 'gross weight', 'gewicht', 'shipping weight'),
  fact('power', 'Power', 'measure', 'power', 'wattage', 'leistung', 'watts'),
  fact('battery_type', 'Battery type', 'text', 'battery', 'battery type', 'batterie'),
  fact('battery_count', 'Batteries', 'integer', 'battery count', 'batteries', 'number of batteries'),
  fact('blend', 'Blend', 'text', 'blend', 'variety', 'tea type', 'flavour', 'sorte'),
  fact('ingredients', 'Ingredients', 'long-text', 'ingredients', 'zutaten'),
  fact('allergens', 'Allergens', 'list', 'allergens', 'allergene'),
  fact('best_before_days', 'Shelf life (days)', 'integer', 'shelf life', 'shelf life days', 'mhd'),
  fact('country', 'Country of origin', 'text', 'country', 'origin', 'country of origin', 'herkunft', 'made in', 'ursprungsland'),
  fact('author', 'Author', 'text', 'author', 'authors', 'autor'),
  fact('pages', 'Pages', 'integer', 'pages', 'page count', 'seiten'),
  fact('binding', 'Binding', 'text', 'binding', 'format', 'einband'),
  fact('published', 'Published', 'date', 'published', 'publication date', 'erscheinungsdatum'),
  fact('language', 'Language', 'text', 'language', 'sprache'),
  fact('pieces', 'Pieces', 'integer', 'pieces', 'pieces in set', 'pack size', 'stück', 'set of'),
  fact('dishwasher', 'Dishwasher safe', 'yes-no', 'dishwasher', 'dishwasher safe', 'spülmaschinenfest'),
  fact('induction', 'Induction', 'yes-no', 'induction', 'induction hob', 'induktion'),
  fact('box_contents', 'In the box', 'list', 'in the box', 'box contents', 'lieferumfang', 'contents'),
  fact('care', 'Care', 'text', 'care', 'care instructions', 'pflege'),
];

const byKey = new Map(productFields.map((f) => [f.key, f]));
export const getProductField = (key: string): ProductField | undefined => byKey.get(key);
/** Label of a field of ours, or its key where we do not know it. */
export const getFieldLabel = (key: string): string => byKey.get(key)?.label ?? key.replace(/^fact\./, '');
