// Records as elements of XML, read back by us and by a parser that is not ours (fast-xml-parser). W3C XML 1.0, fifth edition.
import * as fc from 'fast-check';
import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { describe, expect, it } from 'vitest';
import { parseRulebook } from '../rulebook';
import { goodValues, smallDocument } from '../tests/builders';
import { type FeedRow, findForm, prepareLook, readForm, readRecords, toRecords, writeForm } from '.';

const slots = [
  { key: '@act', holds: { what: 'operation' } },
  { key: '@ref', holds: { what: 'sku' } },
  { key: 'shelf', holds: { what: 'category' } },
  { key: 'words[tongue=en].name', holds: { what: 'value', attribute: 'title' } },
  { key: 'words[tongue=ar].name', holds: { what: 'value', attribute: 'description' } },
  { key: 'words[tongue=en].line[]', holds: { what: 'value', attribute: 'points' } },
  { key: 'fact[name=across]', holds: { what: 'amount', attribute: 'diameter' } },
  { key: 'fact[name=across].@unit', holds: { what: 'unit', attribute: 'diameter' } },
  { key: 'fact[name=hue]', holds: { what: 'value', attribute: 'colour' } },
  { key: 'price', holds: { what: 'value', attribute: 'price' } },
  { key: 'price.@coin', holds: { what: 'currency' } },
];
type Slot = (typeof slots)[number];
const parse = (more: readonly Slot[] = []) =>
  parseRulebook(
    smallDocument((d) => {
      const [form] = d['forms'] as unknown as Record<string, unknown>[];
      Object.assign(form!, { container: { kind: 'xml', root: 'sheet', record: 'item' }, slots: [...slots, ...more] });
    }),
  );
const reading = parse();
if (!reading.ok) throw new Error(JSON.stringify(reading.faults));
const book = reading.rulebook,
  form = findForm(book, 'create')!;
const row = (values: FeedRow['values'], sku = 'PAN-28'): FeedRow => ({
  operation: 'create',
  sku,
  role: 'single',
  parentSku: undefined,
  axes: [],
  category: 'pans',
  values,
  cleared: [],
});
const points = ['Holds its heat', 'Even base'];
const good = row({ ...goodValues, points, description: 'مقلاة من الحديد', colour: 'blk' });

describe('a record as an element', () => {
  it('has its attributes, elements told apart by one, texts with units, lists as elements that come again', () => {
    expect(writeForm(book, form, [good])).toBe(
      '<?xml version="1.0" encoding="UTF-8"?>\n<sheet>\n' +
        '<item act="NEW" ref="PAN-28"><shelf>pans</shelf>' +
        `<words tongue="en"><name>Hearth Pan of iron</name><line>Holds its heat</line><line>Even base</line></words>` +
        '<words tongue="ar"><name>مقلاة من الحديد</name></words>' +
        '<fact name="across" unit="cm">28</fact><fact name="hue">blk</fact><price coin="GBP">34.99</price></item>\n' +
        '</sheet>\n',
    );
  });
  it('that says nothing but its names is there all the same', () => {
    expect(writeForm(book, form, [{ ...row({}), category: '' }])).toContain(
      '<item act="NEW" ref="PAN-28"><price coin="GBP"/></item>',
    );
  });
  it('is read back as it was written, and the same by another parser (property)', () => {
    const other = new XMLParser({
      ignoreAttributes: false,
      parseTagValue: false,
      trimValues: false,
      isArray: (n) => n === 'item' || n === 'line',
    });
    const text = fc
      .string({
        unit: fc.constantFrom('a', '<', '&', '>', '"', "'", ']]>', '\n', '\t', ' ', 'م', '日', '😀', '&amp;'),
        minLength: 1,
        maxLength: 10,
      })
      .filter((t) => t.trim() !== '');
    const rows = fc.array(
      fc.record({
        title: text,
        points: fc.array(text, { minLength: 1, maxLength: 3 }),
        diameter: fc.nat(90).map((n) => `${n} cm`),
      }),
      { minLength: 1, maxLength: 4 },
    );
    fc.assert(
      fc.property(rows, (list) => {
        const sent = list.map((v, i) => row(v, `S&<${i}">`));
        const written = writeForm(book, form, sent);
        expect(XMLValidator.validate(written)).toBe(true);
        const back = readForm(book, form, written, 'create');
        if (!back.ok) throw new Error(back.reason);
        expect(back.rows.map((r) => [r.sku, r.values])).toEqual(sent.map((r) => [r.sku, r.values]));
        const theirs = other.parse(written) as {
          sheet: { item: { '@_ref': string; words: { name: string; line: string[] } }[] };
        };
        expect(theirs.sheet.item.map((i) => [i['@_ref'], i.words.name, i.words.line])).toEqual(
          sent.map((r) => [r.sku, r.values['title'], r.values['points']]),
        );
      }),
      { numRuns: 150 },
    );
  });
  it('looks like its branches', () => {
    const [record] = toRecords(book, form, [good]);
    expect(prepareLook(book, form)(record!).slice(0, 5)).toEqual([
      { depth: 0, name: '@act', cell: 'NEW' },
      { depth: 0, name: '@ref', cell: 'PAN-28' },
      { depth: 0, name: 'shelf', cell: 'pans' },
      { depth: 0, name: 'words en' },
      { depth: 1, name: 'name', cell: 'Hearth Pan of iron', field: 'title' },
    ]);
    expect(prepareLook(book, form)(record!).slice(-4)).toEqual([
      { depth: 1, name: '@unit', cell: 'cm', field: 'diameter' },
      { depth: 0, name: 'fact hue', cell: 'blk', field: 'colour' },
      { depth: 0, name: 'price', cell: '34.99', field: 'price' },
      { depth: 1, name: '@coin', cell: 'GBP' },
    ]);
  });
});

describe('a document that is read', () => {
  const read = (text: string) =>
    readRecords(
      { kind: 'xml', encoding: 'utf-8', root: 'said', record: 'of' },
      ['@ref', 'fault[].@at', 'fault[].@id', 'fault[]'],
      text,
    );
  it('gives several of one thing at the same places, also where one says nothing', () => {
    expect(
      read('<said file="a.xml"><of ref="A"><fault at="x" id="1">one</fault><fault id="2"/></of><of ref="B"/></said>'),
    ).toMatchObject({
      ok: true,
      records: [
        { '@ref': 'A', 'fault[].@at': ['x', ''], 'fault[].@id': ['1', '2'], 'fault[]': ['one', ''] },
        { '@ref': 'B' },
      ],
    });
  });
  it('says what stands at the root beside the records', () => {
    const reading = read('<said file="a.xml" records="2"/>');
    expect(reading.ok && [reading.beside('@file'), reading.beside('@records'), reading.beside('@none')]).toEqual([
      'a.xml',
      '2',
      undefined,
    ]);
  });
  it.each([
    ['half a file', '<said><of ref="A">', /can be read/],
    ['another root', '<html><of ref="A"/></html>', /begins with <html>/],
    ['no XML', 'ok, all taken', /can be read/],
    ['nothing', '', /can be read|begins/],
    ['an entity of its own', '<!DOCTYPE said [<!ENTITY a "b">]><said><of ref="&a;"/></said>', /document type/],
    [
      'entities that swell',
      `<!DOCTYPE said [${[...'abcdefgh'].map((c, i, all) => `<!ENTITY ${c} "${i === 0 ? 'x' : `&${all[i - 1]!};`.repeat(10)}">`).join('')}]><said>&h;</said>`,
      /document type/,
    ],
    ['a file of the house', '<!DOCTYPE said SYSTEM "file:///etc/passwd"><said/>', /document type/],
    ['elements ever deeper', `<said>${'<a>'.repeat(100_000)}`, /too deep/],
    ['an attribute twice', '<said><of ref="A" ref="B"/></said>', /can be read/],
  ])('is refused where it is %s', (_, text, why) => {
    expect(read(text)).toMatchObject({ ok: false, reason: expect.stringMatching(why) as string });
  });
  it('takes nothing from what objects have from birth', () => {
    expect(read('<said><of constructor="x" __proto__="y"/></said>')).toHaveProperty('records', [{}]);
  });
});

describe('a record of XML', () => {
  const columns = ['name', 'fact[of=colour]', 'fact[of=size]', 'fact', 'box.long', 'box.@unit', 'point[]'];
  const readOne = (inner: string): unknown => {
    const reading = readRecords(
      { kind: 'xml', root: 'said', record: 'of', encoding: 'utf-8' } as never,
      columns,
      `<said><of>${inner}</of></said>`,
    );
    return reading.ok ? reading.records[0] : reading.reason;
  };
  it('is read by the first element of a name, and the first that carries what is asked for', () => {
    expect(
      readOne(
        '<name>A</name><name>B</name><fact of="size">9</fact><fact of="colour">red</fact><fact of="colour">blue</fact>' +
          '<box unit="cm"><long>4</long><long>5</long></box><box unit="in"><long>6</long></box>',
      ),
    ).toEqual({
      name: 'A',
      'fact[of=size]': '9',
      'fact[of=colour]': 'red',
      fact: '9',
      'box.long': '4',
      'box.@unit': 'cm',
    });
  });
  it('says nothing by elements and attributes that are empty, which counts for those behind them', () => {
    expect(readOne('<name/><name>B</name><box unit=""/><point/>')).toEqual({ 'point[]': [''] });
  });
});

describe('a form of XML is refused', () => {
  const faultsOf = (key: string) => {
    const r = parse([{ key, holds: { what: 'value', attribute: 'price' } }]);
    return r.ok ? [] : r.faults.map((f) => f.path);
  };
  it.each(['a b', 'a.', '.a', 'a[x]', '@a.b', 'a..b', 'lines[].x', '@act', 'shelf'])('with a slot at “%s”', (key) => {
    expect(faultsOf(key)).toContain('forms[0].slots[11].key');
  });
  it.each(['facts.fact[name=a-1].@unit', 'shelf.@kind', 'more[]'])('but not with one at “%s”', (key) => {
    expect(faultsOf(key)).toEqual([]);
  });
});
