// What is told of a template by where things stand in it, on sheets made for one question each.
import { describe, expect, it } from 'vitest';
import { compileFields, firstFields } from '../product';
import { type SaidOfTemplate, type TemplateSheet, understandTemplate } from '.';

const fields = compileFields(firstFields);
const sheet = (name: string, rows: string[][], choices: Record<number, string[]> = {}): TemplateSheet => ({
  name,
  rows,
  choices: new Map(Object.entries(choices).map(([c, v]) => [Number(c), v])),
});
const heads = ['Code', 'Lid', 'Colour', 'Size'];
const fill = sheet('Fill', [heads]);
const understand = (sheets: TemplateSheet[], said?: SaidOfTemplate) => understandTemplate(sheets, fields, said);
const columnsOf = (...others: TemplateSheet[]) =>
  Object.fromEntries(understand([fill, ...others], { sheet: 'Fill' })!.columns.map((c) => [c.label, c]));

describe('values that stand on another sheet', () => {
  it('are those under the name of a field, each once, where two names of fields stand in a row', () => {
    const lists = sheet('Lists', [
      ['Values to choose from'],
      ['Lid', 'Colour', 'Other'],
      ['Clip', 'Red', 'x'],
      ['Cork', 'Blue', 'y'],
      ['Clip', '', 'z'],
    ]);
    const columns = columnsOf(lists);
    expect([columns['Lid']!.values, columns['Colour']!.values, columns['Size']!.values]).toEqual([
      ['Clip', 'Cork'],
      ['Red', 'Blue'],
      [],
    ]);
  });
  it('are none where one name of a field alone stands there, or one value alone', () => {
    expect(columnsOf(sheet('Notes', [['Lid'], ['Clip'], ['Cork']]))['Lid']!.values).toEqual([]);
    const one = columnsOf(
      sheet('Lists', [
        ['Lid', 'Colour'],
        ['Clip', 'Red'],
        ['', 'Blue'],
      ]),
    );
    expect([one['Lid']!.values, one['Colour']!.values]).toEqual([[], ['Red', 'Blue']]);
  });
  it('give way to a drop-down in the sheet itself', () => {
    const own = sheet('Fill', [heads], { 1: ['Screw'] });
    const lists = sheet('Lists', [
      ['Lid', 'Colour'],
      ['Clip', 'Red'],
      ['Cork', 'Blue'],
    ]);
    expect(understand([own, lists])!.columns.map((c) => c.values)).toEqual([[], ['Screw'], ['Red', 'Blue'], []]);
  });
});

describe('what another sheet explains', () => {
  const explain = (rows: string[][], head = ['Field', 'Needed', 'Meaning', 'Example', 'Limit']) =>
    columnsOf(sheet('About', [head, ...rows]));
  it('is told of each field in its row, where three of them are named', () => {
    const columns = explain([
      ['Lid', 'required', 'How it shuts', 'Clip', '12'],
      ['Colour', 'recommended', '', '', '1,000'],
      ['Size', '', 'Across', '', '0'],
    ]);
    expect(columns['Lid']).toMatchObject({
      level: 'must',
      levelFrom: 'explained',
      help: 'How it shuts',
      example: 'Clip',
      maxCharacters: 12,
    });
    expect(columns['Colour']).toMatchObject({ level: 'should', help: undefined, maxCharacters: 1000 });
    // A limit of none is none.
    expect(columns['Size']).toMatchObject({
      level: 'may',
      levelFrom: undefined,
      help: 'Across',
      maxCharacters: undefined,
    });
  });
  it('is told wherever the name of the field stands in its row', () => {
    const columns = explain(
      [
        ['required', 'Lid', 'How it shuts'],
        ['optional', 'Colour', ''],
        ['required', 'Size', 'Across'],
      ],
      ['Needed', 'Field', 'Meaning'],
    );
    expect([columns['Lid']!.level, columns['Colour']!.level, columns['Size']!.help]).toEqual(['must', 'may', 'Across']);
  });
  it('is nothing where two alone are named, as in a text', () => {
    expect(
      explain([
        ['Lid', 'required'],
        ['Colour', 'required'],
      ])['Lid']!.level,
    ).toBe('may');
  });
});

describe('the heading rows', () => {
  const read = (rows: string[][]) => understand([sheet('Fill', rows)]);
  it('need three columns, and names of 80 characters at the most', () => {
    expect(read([['A b', 'C d']])).toBeUndefined();
    expect(read([['A b', 'C d', 'E f']])).toMatchObject({ firstRow: 1, heads: { labels: 0 } });
    expect(read([['A b', 'C d', `${'E '.repeat(39)}ff`]])).toMatchObject({ heads: { labels: 0 } });
    expect(read([['A b', 'C d', `${'E '.repeat(39)}fff`]])).toBeUndefined();
  });
  it('are for people and for programs, in either order, with a row that says what is wanted', () => {
    const people = ['Your code', 'Lid of it', 'Its colour'],
      programs = ['code', 'lid_type', 'colour'],
      wanted = ['required', 'optional', 'required'];
    expect(read([people, programs, wanted])).toMatchObject({ heads: { labels: 0, keys: 1 }, firstRow: 3 });
    expect(read([wanted, programs, people])).toMatchObject({ heads: { labels: 2, keys: 1 }, firstRow: 3 });
    expect(read([people, programs, wanted])!.columns.map((c) => [c.key, c.level, c.levelFrom])).toEqual([
      ['code', 'must', 'row'],
      ['lid_type', 'may', 'row'],
      ['colour', 'must', 'row'],
    ]);
  });
  it('are of programs alone where there are no others', () => {
    expect(read([['item_code', 'lid_type', 'item_colour']])!.columns.map((c) => [c.label, c.key])).toEqual([
      ['item_code', 'item_code'],
      ['lid_type', 'lid_type'],
      ['item_colour', 'item_colour'],
    ]);
  });
});

describe('the sheet to fill', () => {
  it('is the one with more headings, with drop-downs, and with less under its headings', () => {
    const wide = sheet('Wide', [['A b', 'C d', 'E f', 'G h', 'I j']]),
      narrow = sheet('Narrow', [['A b', 'C d', 'E f']]);
    expect(understand([narrow, wide])!.sheet).toBe('Wide');
    expect(
      understand([
        wide,
        sheet(
          'Narrow',
          narrow.rows.map((r) => [...r]),
          { 0: ['x'] },
        ),
      ])!.sheet,
    ).toBe('Narrow');
    const full = sheet('Full', [...wide.rows.map((r) => [...r]), ...Array.from({ length: 9 }, (_, i) => [`x${i}`])]);
    expect(understand([full, narrow])!.sheet).toBe('Narrow');
  });
});
