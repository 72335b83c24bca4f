// A house's book of fields: what it says itself beside what every item has, in its languages and currencies.
import { describe, expect, it } from 'vitest';
import {
  compileFields,
  findOwnFieldFault,
  findValueFault,
  firstFields,
  getMoneyPlaces,
  isCurrencyCode,
  isLanguageTag,
  isSameField,
  makeFieldKey,
  type OwnField,
  plainField,
  readHeading,
  readHeadingUnit,
  toKept,
} from '.';
import { fieldOf, fields } from '../tests/house-fields';

const plain = plainField({ key: 'spout', label: 'Spout', group: 'Make' });
const bookWith = (...more: Partial<OwnField>[]) =>
  compileFields({
    fields: [...firstFields.fields, ...more.map((m) => ({ ...plain, ...m }))],
    languages: ['de', 'fr'],
    currencies: ['EUR', 'KWD'],
  });

describe('the book of fields', () => {
  it('has what every item has first, then what the house says, then each language and each currency', () => {
    const keys = bookWith({}, { key: 'duty', label: 'Duty', kind: 'money', by: 'currency' }).all.map((f) => f.key);
    expect(keys.slice(0, 3)).toEqual(['sku', 'parent_sku', 'title']);
    expect(keys.slice(keys.indexOf('fact.spout'))).toEqual([
      'fact.spout',
      'fact.duty',
      'fact.title@de',
      'fact.description@de',
      'fact.highlights@de',
      'fact.ingredients@de',
      'fact.title@fr',
      'fact.description@fr',
      'fact.highlights@fr',
      'fact.ingredients@fr',
      'fact.price@eur',
      'fact.sale_price@eur',
      'fact.duty@eur',
      'fact.price@kwd',
      'fact.sale_price@kwd',
      'fact.duty@kwd',
    ]);
    expect(new Set(keys).size).toBe(keys.length);
  });
  it('calls a field in a language or a currency by its name and that of the language or currency', () => {
    const book = bookWith({});
    expect(book.get('fact.title@fr')).toMatchObject({ label: 'Title (French)', language: 'fr', group: 'French' });
    expect(book.get('fact.price@kwd')).toMatchObject({ label: 'Price (KWD)', currency: 'KWD', rows: 'sellable' });
    expect(book.labelOf('fact.unheard_of')).toBe('unheard_of');
  });
  it('leaves a field of a language out where the house does not write it', () => {
    expect(fields.get('fact.reading@ja')).toMatchObject({ label: 'Reading (Japanese)', language: 'ja' });
    expect(bookWith({}).get('fact.reading@ja')).toBeUndefined();
  });
  it('finds a field by its label and by what others call it, a label before a name', () => {
    const book = bookWith(
      { names: ['Tülle', 'Pouring lip'] },
      { key: 'lip', label: 'Pouring lip', names: ['Title', 'Schnaupe'] },
    );
    expect(
      ['SPOUT', 'tülle', 'pouring  lip', 'Schnaupe', 'Title', 'Handle'].map((h) => book.findNamed(h)?.key),
    ).toEqual(['fact.spout', 'fact.spout', 'fact.lip', 'fact.lip', 'title', undefined]);
    expect(readHeading('Tülle', book)).toEqual({ field: 'fact.spout', confidence: 1 });
  });
  it('says by which fields variants differ and which share their values', () => {
    const book = bookWith({ axis: true }, { key: 'glaze', label: 'Glaze', shared: true });
    expect(book.axes.slice(0, 3)).toEqual(['fact.colour', 'fact.size', 'fact.diameter']);
    expect(book.axes.at(-1)).toBe('fact.spout');
    expect([...book.shared].slice(0, 3)).toEqual(['brand', 'category', 'fact.colour']);
    expect(book.shared.has('fact.glaze') && !book.shared.has('fact.spout')).toBe(true);
  });
  it('reads no heading as a field that the house has not', () => {
    const bare = compileFields({ fields: [], languages: [], currencies: [] });
    expect(readHeading('Dishwasher safe', fields)?.field).toBe('fact.dishwasher');
    expect(readHeading('Dishwasher safe', bare)).toBeUndefined();
    expect(readHeading('Listenpreis', fields)?.field).toBe('fact.list_price');
    expect(readHeading('Listenpreis', bare)).toBeUndefined();
  });
});

describe('a value for a field that the house says', () => {
  const closed = bookWith(
    { values: ['Straight', 'Curved'] },
    { key: 'uses', label: 'Uses', kind: 'list', values: ['Oven', 'Hob'] },
  );
  it.each([
    ['fact.spout', 'Curved', undefined],
    ['fact.spout', 'Curvy', { kind: 'not-in-list', near: 'Curved' }],
    ['fact.spout', 'Zigzag', { kind: 'not-in-list', near: null }],
    ['fact.uses', ['Hob', 'Oven'], undefined],
    ['fact.uses', ['Hob', 'Ovn'], { kind: 'not-in-list', near: 'Oven' }],
  ] as const)('%s = %s: %o', (field, value, fault) => {
    expect(findValueFault(closed.get(field)!, value)).toEqual(fault);
  });
  it('keeps the places of its own currency', () => {
    expect(['cost', 'price', 'fact.price@kwd', 'fact.price@jpy'].map((k) => getMoneyPlaces(fieldOf(k)))).toEqual([
      4, 2, 3, 0,
    ]);
    expect(findValueFault(fieldOf('fact.price@kwd'), '12.345')).toBeUndefined();
    expect(findValueFault(fieldOf('fact.price@jpy'), '1980.5')).toEqual({
      kind: 'too-many-places',
      places: 1,
      most: 0,
    });
  });
  it('is the same as another by the kind of the field', () => {
    const book = bookWith({ kind: 'number' });
    expect(isSameField(book, 'fact.spout', '12.50', '12.5')).toBe(true);
    expect(isSameField(bookWith({}), 'fact.spout', '12.50', '12.5')).toBe(false);
  });
  it('takes the unit of its field where it has none, or that which is said of it', () => {
    expect(toKept(fieldOf('fact.diameter'), '24')).toBe('24 cm');
    expect(toKept(fieldOf('fact.diameter'), '240', 'mm')).toBe('240 mm');
    expect(toKept(fieldOf('fact.diameter'), '9.5 in', 'mm')).toBe('9.5 in');
    expect(toKept(fieldOf('fact.volume'), '2')).toBe('2');
    expect(toKept(fieldOf('fact.colour'), '24', 'cm')).toBe('24');
  });
  it('is spelled as the list of its field has it', () => {
    expect(toKept(closed.get('fact.spout')!, 'curved')).toBe('Curved');
    expect(toKept(closed.get('fact.uses')!, ['OVEN', 'grill'])).toEqual(['Oven', 'grill']);
  });
});

describe('what a house says of a field', () => {
  const fault = (part: Partial<OwnField>) => findOwnFieldFault({ ...plain, ...part }, bookWith({}));
  it.each([
    ['as it is', {}, undefined],
    ['with the label of another', { label: 'colour' }, { part: 'label', is: 'taken', name: 'colour', other: 'Colour' }],
    [
      'with the label of one that all have',
      { label: 'Brand' },
      { part: 'label', is: 'taken', name: 'Brand', other: 'Brand' },
    ],
    [
      'with a name that is another’s',
      { names: ['Beak', 'Material'] },
      { part: 'names', is: 'taken', name: 'Material', other: 'Material' },
    ],
    ['as a text with a unit', { unit: 'cm' }, { part: 'unit', is: 'not-a-measure' }],
    ['as a measure in a unit that is none', { kind: 'measure', unit: 'cubit' }, { part: 'unit', is: 'unknown-unit' }],
    ['as a measure', { kind: 'measure', unit: 'mm' }, undefined],
    ['as a date from a list', { kind: 'date', values: ['2026-01-01'] }, { part: 'values', is: 'not-a-text' }],
    ['as a number in each language', { kind: 'number', by: 'language' }, { part: 'by', is: 'not-spoken' }],
    ['as a text in each currency', { by: 'currency' }, { part: 'by', is: 'not-money' }],
    ['as one in each language and in one', { by: 'language', language: 'de' }, { part: 'by', is: 'two-languages' }],
  ] as const)('%s: %o', (_, part, found) => {
    expect(fault(part as Partial<OwnField>)).toEqual(found);
  });
  it.each([
    ['Spout shape', 'spout_shape'],
    ['  Höhe (innen) ', 'hohe_innen'],
    ['3-ply base', 'ply_base'],
    ['注ぎ口', 'field'],
    ['Colour', 'colour_2'],
    ['x'.repeat(80), 'x'.repeat(40)],
  ])('%s has the key %s', (label, key) => {
    expect(makeFieldKey(label, new Set(['colour']))).toBe(key);
  });
});

describe('the unit that a heading says', () => {
  it.each([
    ['Length (mm)', 'mm'],
    ['Weight [kg]', 'kg'],
    ['Parcel weight in grams', 'g'],
    ['width_cm', 'cm'],
    ['Höhe (Millimetre)', 'mm'],
    ['Diameter (inches)', 'in'],
    ['Volume, ml', 'ml'],
    ['Length in', 'in'],
    ['Width m', 'm'],
    ['in', undefined],
    ['Price (GBP)', undefined],
    ['Length (outer)', undefined],
    ['kg', undefined],
  ])('%s: %s', (heading, unit) => {
    expect(readHeadingUnit(heading)).toBe(unit);
  });
});

it.each([
  ['fr', true],
  ['pt-BR', true],
  ['xx', false],
  ['French', false],
  ['', false],
])('the tag “%s” names a language: %s', (tag, is) => {
  expect(isLanguageTag(tag)).toBe(is);
});
it.each([
  ['CHF', true],
  ['chf', false],
  ['ZZZ', false],
])('the code “%s” names a currency: %s', (code, is) => {
  expect(isCurrencyCode(code)).toBe(is);
});
