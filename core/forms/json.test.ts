// Records as lines of JSON. RFC 8259 for numbers and texts, RFC 7396 for null as what is taken away.
import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { parseRulebook, type Rulebook } from '../rulebook';
import { goodValues, smallDocument } from '../tests/builders';
import { type FeedRow, findForm, prepareLook, readForm, readJsonAt, toRecords, writeForm } from '.';

type Slots = { key: string; holds: object; as?: string }[];
const slots: Slots = [
  { key: 'do', holds: { what: 'operation' } },
  { key: 'ref', holds: { what: 'sku' } },
  { key: 'kin.of', holds: { what: 'parent-sku' } },
  { key: 'kin.vary[]', holds: { what: 'axes' } },
  { key: 'shelf', holds: { what: 'category' } },
  { key: 'say.title', holds: { what: 'value', attribute: 'title' } },
  { key: 'say.points[]', holds: { what: 'value', attribute: 'points' } },
  { key: 'say.hues[]', holds: { what: 'value', attribute: 'hues' } },
  { key: 'worth.price', as: 'number', holds: { what: 'value', attribute: 'price' } },
  { key: 'worth.count', as: 'number', holds: { what: 'value', attribute: 'quantity' } },
  { key: 'washable', as: 'true-false', holds: { what: 'value', attribute: 'washable' } },
  { key: 'across', as: 'number', holds: { what: 'amount', attribute: 'diameter', in: 'in' } },
];
/** The small market, with its whole form as lines of JSON. */
function document(change: (form: Record<string, unknown>) => void = () => undefined): unknown {
  return smallDocument((d) => {
    const [form] = d['forms'] as unknown as Record<string, unknown>[];
    Object.assign(form!, { container: { kind: 'json-lines' }, clear: null, slots: structuredClone(slots) });
    change(form!);
  });
}
function open(): Rulebook {
  const reading = parseRulebook(document());
  if (!reading.ok) throw new Error(JSON.stringify(reading.faults));
  return reading.rulebook;
}
const faultsOf = (change: (form: Record<string, unknown>) => void) => {
  const reading = parseRulebook(document(change));
  return reading.ok ? [] : reading.faults.map((f) => f.path);
};
const book = open(),
  form = findForm(book, 'create')!;
const row: FeedRow = {
  operation: 'create',
  sku: 'PAN-28',
  role: 'variant',
  parentSku: 'PAN',
  axes: ['colour', 'diameter'],
  category: 'pans',
  values: { ...goodValues, hues: ['blk', 'blu'], washable: 'yes', price: '44.50', diameter: '28 cm' },
  cleared: ['points'],
};

describe('a record as a line of JSON', () => {
  const { points: _, ...values } = row.values;
  const text = writeForm(book, form, [{ ...row, values }]);
  it('nests what belongs together, keeps lists apart and digits as they are, and says nothing of what is empty', () => {
    expect(text).toBe(
      '{"do":"NEW","ref":"PAN-28","kin":{"of":"PAN","vary":["colour","diameter"]},"shelf":"pans",' +
        '"say":{"title":"Hearth Pan of iron","points":null,"hues":["blk","blu"]},' +
        '"worth":{"price":44.50,"count":12},"washable":true,"across":11.023622}\n',
    );
  });
  it('is read by a parser that is not ours', () => {
    expect(JSON.parse(text)).toMatchObject({ kin: { vary: ['colour', 'diameter'] }, worth: { price: 44.5 } });
  });
  it('empties with null what is emptied on purpose, and is read so', () => {
    const back = readForm(book, form, text, 'create');
    expect(back).toMatchObject({ ok: true, rows: [{ cleared: ['points'], axes: ['colour', 'diameter'] }] });
  });
  it.each(['1,234', '01', '.5', '1e3', 'NaN', '-', '1.'])(
    'writes %j where a number belongs as a text, never as broken JSON',
    (price) => {
      const line = writeForm(book, form, [{ ...row, values: { ...values, price } }]);
      expect((JSON.parse(line) as { worth: { price: unknown } }).worth.price).toBe(price);
    },
  );
  it('is read back as it was written (property)', () => {
    const texts = fc
      .string({ unit: 'grapheme', minLength: 1, maxLength: 12 })
      .filter((t) => t.trim() === t && t !== '');
    const rows = fc.array(
      fc.record({
        title: texts,
        points: fc.array(texts, { minLength: 1, maxLength: 3 }),
        price: fc.integer({ min: 1, max: 99999 }).map((n) => String(n / 100)),
        quantity: fc.nat(500).map(String),
        washable: fc.constantFrom('yes', 'no'),
      }),
      { minLength: 1, maxLength: 4 },
    );
    fc.assert(
      fc.property(rows, (list) => {
        const sent = list.map((v, i): FeedRow => ({ ...row, sku: `S${i}`, values: v, cleared: [] }));
        const back = readForm(book, form, writeForm(book, form, sent), 'create');
        if (!back.ok) throw new Error(back.reason);
        expect(back.rows.map((r) => [r.sku, r.values])).toEqual(sent.map((r) => [r.sku, r.values]));
      }),
      { numRuns: 150 },
    );
  });
  it.each([
    ['{"ref":"A"}\nnot json\n', /Line 2 is “not json”/],
    ['[1]\n', /no object/],
    ['null\n', /no object/],
  ])('is refused where a line is none: %j', (bad, why) => {
    expect(readForm(book, form, bad, 'create')).toMatchObject({
      ok: false,
      reason: expect.stringMatching(why) as string,
    });
  });
  it('takes nothing from what objects have from birth', () => {
    const back = readForm(book, form, '{"ref":"A","__proto__":{"shelf":"x"},"constructor":1}\n', 'create');
    expect(back).toMatchObject({ ok: true, rows: [{ sku: 'A', category: '' }] });
  });
});

describe('a record looked at', () => {
  it('is its branches in the order in which they are written, with the attributes they come from', () => {
    const [record] = toRecords(book, form, [row]);
    const branches = prepareLook(book, form)(record!);
    expect(branches.slice(0, 5)).toEqual([
      { depth: 0, name: 'do', cell: 'NEW' },
      { depth: 0, name: 'ref', cell: 'PAN-28' },
      { depth: 0, name: 'kin' },
      { depth: 1, name: 'of', cell: 'PAN' },
      { depth: 1, name: 'vary', cell: ['colour', 'diameter'] },
    ]);
    expect(branches.find((b) => b.name === 'price')).toEqual({
      depth: 1,
      name: 'price',
      cell: '44.50',
      field: 'price',
    });
  });
});

describe('a form of JSON lines is refused', () => {
  it('is taken as it stands here', () => {
    expect(faultsOf(() => undefined)).toEqual([]);
  });
  const withSlot = (slot: object) => (f: Record<string, unknown>) => {
    (f['slots'] as object[]).push(slot);
  };
  const title = { what: 'value', attribute: 'title' };
  it.each([
    ['a slot that is no path', withSlot({ key: 'a b', holds: title }), 'forms[0].slots[12].key'],
    ['a list in the midst of a path', withSlot({ key: 'a[].b', holds: title }), 'forms[0].slots[12].key'],
    ['a slot that leads through another', withSlot({ key: 'ref.more', holds: title }), 'forms[0].slots[12].key'],
    ['a path twice', withSlot({ key: 'say.points', holds: title }), 'forms[0].slots[12].key'],
    [
      'one document where records are written',
      (f: Record<string, unknown>) => {
        f['container'] = { kind: 'json', records: 'all[]' };
      },
      'forms[0].container.kind',
    ],
  ])('for %s', (_, change, path) => {
    expect(faultsOf(change)).toContain(path);
  });
  it('for null or numbers in delimited text', () => {
    const reading = parseRulebook(
      smallDocument((d) => {
        const [f] = d['forms'] as unknown as { clear: unknown; slots: Slots }[];
        f!.clear = null;
        f!.slots[0]!.as = 'number';
      }),
    );
    expect(reading.ok ? [] : reading.faults.map((f) => f.path)).toEqual(['forms[0].clear', 'forms[0].slots[0].as']);
  });
});

it.each([
  ['{"a":{"b":"x"}}', 'a.b', 'x'],
  ['{"a":false}', 'a', 'false'],
  ['{"a":12}', 'a', '12'],
  ['{"a":12345678901234567890}', 'a', undefined],
  ['{"a":{}}', 'a', undefined],
  ['{"a":null}', 'a', undefined],
  ['not json', 'a', undefined],
])('%s has at %s: %s', (text, path, is) => {
  expect(readJsonAt(text, path)).toBe(is);
});
