// A market that gives out a template for each of its categories, and changes them now and then.
import { describe, expect, it } from 'vitest';
import { createFormChoice, writeForm } from '../forms';
import { compileFields, firstFields } from '../product';
import { compileCategory, parseRulebook, type RulebookDocument, rulebookSchema } from '../rulebook';
import { listing, smallDocument } from '../tests/builders';
import {
  draftRulebook,
  extendRulebook,
  recallColumns,
  takesTemplates,
  type TemplateColumn,
  type TemplateReading,
} from '.';

const fields = compileFields(firstFields);
const column = (index: number, heading: string, more: Partial<TemplateColumn> = {}): TemplateColumn => ({
  ...{ index, heading, label: heading, key: undefined, level: 'may', levelFrom: undefined, values: [] },
  ...{ help: undefined, example: undefined, maxCharacters: undefined, field: undefined },
  ...more,
});
const template = (columns: readonly [string, Partial<TemplateColumn>?][]): TemplateReading => ({
  sheet: 'Items',
  heads: { labels: 0, keys: undefined },
  firstRow: 1,
  columns: columns.map(([heading, more], i) => column(i, heading, more)),
});
const shared = [
  ['SKU', { field: 'sku', level: 'must', maxCharacters: 40 }],
  ['Name', { field: 'title', level: 'must', maxCharacters: 100 }],
  ['Price', { field: 'price', level: 'must' }],
  ['Stock', { field: 'stock', level: 'must' }],
] as const satisfies [string, Partial<TemplateColumn>][];
const jars = template([
  ...shared,
  ['Colour', { field: 'fact.colour', level: 'must', values: ['Clear', 'Green'] }],
  ['Closure', { level: 'must', values: ['Clip', 'Cork'] }],
  ['Point 1', { field: 'highlights' }],
  ['Point 2', { field: 'highlights' }],
]);
const tins = template([
  ['SKU', { field: 'sku', level: 'must', maxCharacters: 30 }],
  ['Coating', { level: 'must', maxCharacters: 20 }],
  ['Name', { field: 'title', level: 'must', maxCharacters: 60 }],
  ['Colour', { field: 'fact.colour', level: 'should', values: ['Green', 'Grey'] }],
  ['Price', { field: 'price', level: 'must' }],
  ['Point', { field: 'highlights' }],
]);
const parse = (document: unknown): RulebookDocument => {
  const parsed = parseRulebook(document);
  expect(parsed.ok ? [] : parsed.faults).toEqual([]);
  return rulebookSchema.parse(document);
};
const start = (): RulebookDocument => {
  const made = draftRulebook(
    jars,
    { name: 'Pantry Lane', category: 'Jars', country: 'IE', currency: 'EUR', language: 'en', columns: {} },
    fields,
    '2026.11',
  );
  if ('faults' in made) throw new Error(made.faults.join());
  return parse(made.document);
};
const extend = (document: RulebookDocument, reading: TemplateReading, category: string): RulebookDocument => {
  const made = extendRulebook(document, reading, { category, columns: {} }, fields, '2026.12');
  if ('faults' in made) throw new Error(made.faults.join());
  return parse(made.document);
};
const compiled = (document: RulebookDocument, category: string) => {
  const parsed = parseRulebook(document);
  if (!parsed.ok) throw new Error();
  return { book: parsed.rulebook, category: compileCategory(parsed.rulebook, category)! };
};

describe('a second template', () => {
  const both = extend(start(), tins, 'Cake tins');
  it('is a category of its own, with a form of its own', () => {
    expect(both.tree.map((n) => [n.key, n.label])).toEqual([
      ['jars', 'Jars'],
      ['cake_tins', 'Cake tins'],
    ]);
    expect(both.forms.map((f) => [f.key, f.for, f.slots.length])).toEqual([
      ['template', ['jars'], 8],
      ['template_2', ['cake_tins'], 6],
    ]);
    const { book } = compiled(both, 'jars');
    for (const operation of ['create', 'revise', 'price', 'stock'] as const) {
      const choose = createFormChoice(book, operation);
      expect([choose('jars')?.key, choose('cake_tins')?.key]).toEqual(['template', 'template_2']);
    }
  });
  it('asks the same field by the same name, and each category its own fields alone', () => {
    const asks = (key: string) =>
      compiled(both, key).category.attributes.flatMap((a) =>
        a.strongest === 'unused' ? [] : [[a.attribute.label, a.strongest]],
      );
    expect(asks('jars')).toEqual([
      ['Name', 'must'],
      ['Price', 'must'],
      ['Stock', 'must'],
      ['Colour', 'must'],
      ['Closure', 'must'],
      ['Point 1', 'may'],
    ]);
    expect(asks('cake_tins')).toEqual(
      expect.arrayContaining([
        ['Name', 'must'],
        ['Price', 'must'],
        ['Colour', 'should'],
        ['Coating', 'must'],
      ]),
    );
    expect(asks('cake_tins').map(([label]) => label)).not.toContain('Closure');
    expect(both.attributes.filter((a) => a.label === 'Colour' || a.label === 'Name')).toHaveLength(2);
  });
  it('leaves what each category takes as narrow as its template says', () => {
    const of = (category: string, key: string) => {
      const a = compiled(both, category).category.byKey.get(key)!;
      return [a.attribute.maxCharacters, a.attribute.maxItems, a.codes?.entries.map((e) => e.code)];
    };
    expect(of('jars', 'name')[0]).toBe(100);
    expect(of('cake_tins', 'name')[0]).toBe(60);
    expect(of('jars', 'colour')[2]).toEqual(['Clear', 'Green']);
    expect(of('cake_tins', 'colour')[2]).toEqual(['Green', 'Grey']);
    expect(of('jars', 'point_1')[1]).toBe(2);
    expect(both.sku.max).toBe(30);
  });
  it('has its rows under its own columns', () => {
    const { book } = compiled(both, 'cake_tins');
    const form = createFormChoice(book, 'create')('cake_tins')!;
    const text = writeForm(book, form, [
      {
        ...{ operation: 'create', sku: 'TIN-1', role: 'single', parentSku: undefined, axes: [], cleared: [] },
        category: 'cake_tins',
        values: { ...listing().values, name: 'Round tin', colour: 'Grey', coating: 'None', 'price@ie': '9.5' },
      },
    ]);
    const row = /<row r="2".*?<\/row>/s.exec(text)?.[0] ?? text;
    expect([...row.matchAll(/<t[^>]*>([^<]*)</g)].map((m) => m[1])).toEqual([
      'TIN-1',
      'None',
      'Round tin',
      'Grey',
      '9.50',
    ]);
  });
  it('and a third go on in the same way; what was narrow stays so', () => {
    const third = template([...shared, ['Colour', { field: 'fact.colour', values: ['Blue'] }]]);
    const all = extend(both, third, 'Cloths');
    const colours = (category: string) =>
      compiled(all, category)
        .category.byKey.get('colour')!
        .codes!.entries.map((e) => e.code);
    expect([colours('jars'), colours('cake_tins'), colours('cloths')]).toEqual([
      ['Clear', 'Green'],
      ['Green', 'Grey'],
      ['Blue'],
    ]);
    expect(all.forms.map((f) => f.key)).toEqual(['template', 'template_2', 'template_3']);
  });
  it('of another kind than the field that is there is a field of its own', () => {
    const free = template([...shared, ['Colour', { field: 'fact.colour' }], ['Closure', { maxCharacters: 9 }]]);
    const all = extend(start(), free, 'Boxes');
    expect(all.attributes.filter((a) => a.label === 'Colour').map((a) => [a.key, a.type])).toEqual([
      ['colour', 'one-of'],
      ['colour_2', 'text'],
    ]);
  });
  it.each([
    [template([['Name', { field: 'title' }]]), 'Boxes', ['no-sku']],
    [jars, ' ', ['no-category']],
  ])('is refused where something is missing', (reading, category, faults) => {
    expect(extendRulebook(start(), reading, { category, columns: {} }, fields, '2026.12')).toEqual({ faults });
  });
});

it('what a template says of a column is at its attribute, and what it does not say is not', () => {
  const said = template([
    ...shared,
    ['Lid', { help: 'How it shuts', example: 'Clip' }],
    ['Note', { maxCharacters: 301 }],
    ['Hint', { maxCharacters: 300 }],
    ['Length', { field: 'fact.width' }],
  ]);
  const made = draftRulebook(
    { ...said, sheet: 'A sheet: with a name [of more than] thirty-one signs' },
    { name: 'Lane', category: 'Lids', country: 'IE', currency: 'EUR', language: 'en', columns: {} },
    fields,
    '2026.11',
  );
  if ('faults' in made) throw new Error(made.faults.join());
  const document = parse(made.document);
  const of = (label: string) => document.attributes.find((a) => a.label === label)!;
  expect(of('Lid')).toMatchObject({ help: 'How it shuts', example: 'Clip', type: 'text' });
  expect(of('Note')).toMatchObject({ type: 'long-text', maxCharacters: 301 });
  expect(of('Hint')).toMatchObject({ type: 'text', maxCharacters: 300 });
  expect(of('Note')).not.toHaveProperty('help');
  expect(of('Note')).not.toHaveProperty('example');
  expect(of('Length')).not.toHaveProperty('maxCharacters');
  expect(of('Lid')).not.toHaveProperty('from');
  expect(document.forms[0]!.container).toMatchObject({ sheet: 'A sheet  with a name  of more t' });
});

it('a column that is called as one of another template is filled from the same field', () => {
  const made = draftRulebook(
    jars,
    {
      ...{ name: 'Pantry Lane', category: 'Jars', country: 'IE', currency: 'EUR', language: 'en' },
      columns: { 5: { field: 'fact.material' }, 6: { field: '' } },
    },
    fields,
    '2026.11',
  );
  if ('faults' in made) throw new Error(made.faults.join());
  const next = template([
    ['Closure'],
    ['SKU'],
    ['Price', { field: 'price' }],
    ['Lid', { field: 'fact.colour' }],
    ['Point 1', { field: 'highlights' }],
  ]);
  expect(recallColumns(parse(made.document), next)).toEqual({
    0: { field: 'fact.material' },
    1: { field: 'sku' },
    4: { field: '' },
  });
});

describe('a newer template of a category', () => {
  const newer = template([
    ...shared.map(([h, m]) => [h, h === 'Name' ? { ...m, maxCharacters: 80 } : m] as const),
    ['Colour', { field: 'fact.colour', level: 'may', values: ['Green'] }],
    ['Lid', { level: 'must' }],
  ] as [string, Partial<TemplateColumn>][]);
  it('takes the place of the old one, which leaves nothing behind', () => {
    const after = extend(extend(start(), tins, 'Cake tins'), newer, 'jars');
    expect(after.tree.map((n) => n.key)).toEqual(['jars', 'cake_tins']);
    expect(after.forms.map((f) => [f.key, f.for])).toEqual([
      ['template_2', ['cake_tins']],
      ['template', ['jars']],
    ]);
    const labels = after.attributes.map((a) => a.label);
    expect(labels).toContain('Lid');
    expect(labels).not.toContain('Closure');
    expect(Object.keys(after.codeLists)).not.toContain('closure');
    const { category } = compiled(after, 'jars');
    expect(category.byKey.get('name')!.attribute.maxCharacters).toBe(80);
    expect(category.byKey.get('colour')!.codes!.entries.map((e) => e.code)).toEqual(['Green']);
    expect(compiled(after, 'cake_tins').category.byKey.get('name')!.attribute.maxCharacters).toBe(60);
  });
  it('takes the place of its own, and of no other', () => {
    const after = extend(extend(start(), tins, 'Cake tins'), template([...shared, ['Lid']]), 'Cake tins');
    expect(after.forms.map((f) => [f.key, f.for, f.slots.length])).toEqual([
      ['template', ['jars'], 8],
      ['template_2', ['cake_tins'], 5],
    ]);
  });
  it('leaves the form to the others that it was for too', () => {
    const old = start();
    const two = parse({
      ...old,
      tree: [...old.tree, { ...old.tree[0]!, key: 'boxes', label: 'Boxes', code: 'Boxes' }],
    });
    const after = extend(two, newer, 'Jars');
    expect(after.forms.map((f) => [f.key, f.for])).toEqual([
      ['template', ['boxes']],
      ['template_2', ['jars']],
    ]);
    expect(compiled(after, 'boxes').category.byKey.get('closure')!.strongest).toBe('must');
  });
  it('that asks the same limits nothing, and has its pictures and points in their places', () => {
    const after = extend(start(), jars, 'Bottles');
    expect(after.tree.map((n) => n.limits)).toEqual([[], []]);
    expect(after.attributes).toHaveLength(start().attributes.length);
    for (const form of after.forms)
      expect(form.slots.flatMap((s) => ('position' in s.holds ? [s.holds.position] : []))).toEqual([1, 2]);
  });
  it('is the only one where there was only one, and demands that stood for all are the category’s own', () => {
    const old = start();
    const one = parse({ ...old, demands: old.tree[0]!.demands, tree: [{ ...old.tree[0]!, demands: [] }] });
    const after = extend(one, newer, 'Jars');
    expect(after.forms).toHaveLength(1);
    expect(after.operations.create).toMatchObject({ form: 'template' });
    expect(after.demands).toEqual([]);
  });
});

it('a market takes templates where its entries go in workbooks, an item a row', () => {
  expect(takesTemplates(start())).toBe(true);
  expect(takesTemplates(parse(smallDocument()))).toBe(false);
});
