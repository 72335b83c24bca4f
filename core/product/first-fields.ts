// The fields that a house starts with: common practice for housewares, kitchens and books. It changes them as it likes.
import { type OwnField, type OwnFieldKind, type OwnFields, plainField } from './fields';

const own = (
  group: string,
  key: string,
  label: string,
  kind: OwnFieldKind = 'text',
  more: Partial<OwnField> = {},
): OwnField => plainField({ key, label, group }, { kind, ...more });
const axis = { axis: true },
  shared = { shared: true };

export const firstFields: OwnFields = {
  fields: [
    own('Price and stock', 'list_price', 'List price', 'money'),
    own('Make', 'colour', 'Colour', 'text', { ...axis, ...shared }),
    own('Make', 'size', 'Size', 'text', axis),
    own('Make', 'material', 'Material', 'text', shared),
    own('Make', 'diameter', 'Diameter', 'measure', { ...axis, unit: 'cm' }),
    own('Make', 'length', 'Length', 'measure', { ...axis, unit: 'cm' }),
    own('Make', 'width', 'Width', 'measure', { unit: 'cm' }),
    own('Make', 'height', 'Height', 'measure', { ...axis, unit: 'cm' }),
    own('Make', 'volume', 'Volume', 'measure', axis),
    own('Make', 'net_weight', 'Net weight', 'measure', axis),
    own('Parcel', 'parcel_weight', 'Parcel weight', 'measure'),
    own('Parcel', 'parcel_length', 'Parcel length', 'measure', { unit: 'cm' }),
    own('Parcel', 'parcel_width', 'Parcel width', 'measure', { unit: 'cm' }),
    own('Parcel', 'parcel_height', 'Parcel height', 'measure', { unit: 'cm' }),
    own('Power', 'power', 'Power', 'measure', { unit: 'W' }),
    own('Power', 'battery_type', 'Battery type', 'text', shared),
    own('Power', 'battery_count', 'Batteries', 'integer'),
    own('Food', 'blend', 'Blend', 'text', { ...axis, ...shared }),
    own('Food', 'ingredients', 'Ingredients', 'long-text', { by: 'language' }),
    own('Food', 'allergens', 'Allergens', 'list'),
    own('Food', 'best_before_days', 'Shelf life (days)', 'integer'),
    own('Make', 'country', 'Country of origin', 'text', shared),
    own('Books', 'author', 'Author'),
    own('Books', 'pages', 'Pages', 'integer'),
    own('Books', 'binding', 'Binding', 'text', shared),
    own('Books', 'published', 'Published', 'date'),
    own('Books', 'language', 'Language', 'text', shared),
    own('Make', 'pieces', 'Pieces', 'integer', axis),
    own('Make', 'dishwasher', 'Dishwasher safe', 'yes-no'),
    own('Make', 'induction', 'Induction', 'yes-no'),
    own('Make', 'box_contents', 'In the box', 'list'),
    own('Make', 'care', 'Care'),
    own('Item', 'reading', 'Reading (Japanese)', 'text', { language: 'ja' }),
  ],
  languages: ['de', 'sv', 'ar', 'ja'],
  currencies: ['EUR', 'SEK', 'USD', 'KWD', 'JPY'],
};
