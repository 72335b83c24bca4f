// What a market is told of each column of its template: by the values that stand there, else by the field of ours that goes in.
import { describe, expect, it } from 'vitest';
import { compileFields, firstFields, type OwnField, plainField } from '../product';
import { draftRulebook, type TemplateColumn, type TemplateReading } from '.';

const own = (key: string, kind: OwnField['kind'], more: Partial<OwnField> = {}): OwnField => ({
  ...plainField({ key, label: key, group: 'Make' }),
  kind,
  ...more,
});
const fields = compileFields({
  ...firstFields,
  fields: [
    ...firstFields.fields,
    own('tale', 'long-text'),
    own('count', 'integer'),
    own('rate', 'number'),
    own('duty', 'money'),
    own('made', 'date'),
    own('safe', 'yes-no'),
    own('notes', 'list'),
    own('deep', 'measure', { unit: 'cm' }),
    own('loose', 'measure'),
  ],
});
const column = (index: number, heading: string, more: Partial<TemplateColumn> = {}): TemplateColumn => ({
  ...{ index, heading, label: heading, key: undefined, level: 'may', levelFrom: undefined, values: [] },
  ...{ help: undefined, example: undefined, maxCharacters: undefined, field: undefined },
  ...more,
});
/** Attributes and slots that come of one more column behind those that every template has. */
function draft(...more: [string, Partial<TemplateColumn>?][]) {
  const columns: [string, Partial<TemplateColumn>?][] = [
    ['SKU', { field: 'sku' }],
    ['Name', { field: 'title' }],
    ['Price', { field: 'price' }],
    ['Stock', { field: 'stock' }],
    ...more,
  ];
  const reading: TemplateReading = {
    sheet: 'Items',
    heads: { labels: 0, keys: undefined },
    firstRow: 1,
    columns: columns.map(([heading, said], i) => column(i, heading, said)),
  };
  const made = draftRulebook(
    reading,
    { name: 'Loft', country: 'GB', currency: 'GBP', language: 'en', category: 'Jars', columns: {} },
    fields,
    '2026.11',
  );
  if ('faults' in made) throw new Error(made.faults.join());
  return {
    attributes: made.document.attributes.slice(3, 3 + more.length),
    slots: made.document.forms[0]!.slots.slice(4),
  };
}
const shapeOf = (heading: string, more: Partial<TemplateColumn> = {}): object => {
  return draft([heading, more]).attributes.at(-1)!;
};

describe('a column of a template is told as', () => {
  it.each<[string, Partial<TemplateColumn>, object]>([
    ['tale', { field: 'fact.tale' }, { type: 'long-text' }],
    ['count', { field: 'fact.count' }, { type: 'integer' }],
    ['rate', { field: 'fact.rate' }, { type: 'decimal', decimals: 3 }],
    ['duty', { field: 'fact.duty' }, { type: 'money', by: 'site', rows: 'sellable' }],
    ['made', { field: 'fact.made' }, { type: 'date' }],
    ['safe', { field: 'fact.safe' }, { type: 'yes-no' }],
    ['notes', { field: 'fact.notes' }, { type: 'repeated-text' }],
    ['deep', { field: 'fact.deep' }, { type: 'measure', units: ['cm'], decimals: 2 }],
    ['deep (mm)', { field: 'fact.deep' }, { type: 'measure', units: ['mm'], decimals: 2 }],
    ['loose', { field: 'fact.loose' }, { type: 'text' }],
    ['Anything', {}, { type: 'text' }],
    ['Anything', { maxCharacters: 300 }, { type: 'text', maxCharacters: 300 }],
    ['Anything', { maxCharacters: 301 }, { type: 'long-text', maxCharacters: 301 }],
    ['Sale', { field: 'sale_price' }, { type: 'money', part: 'price', by: 'site', rows: 'sellable' }],
  ])('%s %j', (heading, said, shape) => {
    expect(shapeOf(heading, said)).toMatchObject(shape);
  });
  it('a choice where values stand in it, of several where our field is a list', () => {
    expect(shapeOf('count', { field: 'fact.count', values: ['1', '2'] })).toMatchObject({ type: 'one-of' });
    expect(shapeOf('notes', { field: 'fact.notes', values: ['a', 'b'] })).toMatchObject({ type: 'several-of' });
    expect(shapeOf('Other', { values: ['a', 'b'] })).toMatchObject({ type: 'one-of' });
  });
});

describe('names of columns', () => {
  it('that are alike, or none, are told apart', () => {
    const { attributes, slots } = draft(['Lid'], ['Lid'], ['', { label: '' }], ['7 up'], ['蓋']);
    expect(attributes.map((a) => a.key)).toEqual(['lid', 'lid_2', 'field', 'field_7_up', 'field_2']);
    expect(attributes.map((a) => a.label)).toEqual(['Lid', 'Lid', 'Column 7', '7 up', '蓋']);
    expect(slots.map((s) => s.key)).toEqual(['Lid', 'Lid 2', 'Column 7', '7 up', '蓋']);
  });
});
