// Forms that are sheets of a workbook: read back as they were written, and read the same by exceljs, which is not ours.
import ExcelJS from 'exceljs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readAnswer } from '../answers';
import { type Form, parseRulebook, type Rulebook } from '../rulebook';
import { createWorkbookPacker } from '../sheet';
import { smallDocument } from '../tests/builders';
import type { Loose } from '../tests/loft';
import { createFormWriter, findForm, lookAtFile, readForm, readWorkbookText, toRecords, writeForm } from '.';
import { notXml } from './containers';
import type { FeedRow } from './record';

const sheet = 'Entries & more';
const change = (more: (form: Loose) => void = () => undefined): Loose =>
  smallDocument((d) => {
    const [form] = (d as unknown as { forms: Loose[] }).forms;
    form!['container'] = { kind: 'workbook', sheet, heads: [{ row: 'labels' }, { row: 'keys' }] };
    for (const slot of form!['slots'] as Loose[]) if (slot['key'] === 'price') slot['as'] = 'number';
    more(form!);
  }) as unknown as Loose;
const read = (document: Loose): Rulebook => {
  const reading = parseRulebook(document);
  if (!reading.ok) throw new Error(JSON.stringify(reading.faults));
  return reading.rulebook;
};
const book = read(change());
const form: Form = findForm(book, 'create')!;
const row = (sku: string, values: FeedRow['values']): FeedRow => ({
  operation: 'create',
  sku,
  role: 'single',
  parentSku: undefined,
  axes: [],
  category: 'pans',
  values,
  cleared: [],
});
const rows = [
  row('0012', { title: '=1+1', item_number: '036000291452', price: '24.50', colour: 'blu', hues: ['blk', 'blu'] }),
  row('PAN <2>', { title: 'Pan & "lid"\n_x0041_ two', price: '7', diameter: '24 cm' }),
];
/** A file as it leaves the house, in two pieces. */
function pack(some: readonly FeedRow[]): Uint8Array {
  const packer = createWorkbookPacker(sheet),
    writer = createFormWriter(book, form);
  const pieces = [packer.push(writer.header())];
  for (const one of some) pieces.push(packer.push(writer.records(toRecords(book, form, [one]))));
  return Buffer.concat([...pieces, packer.push(writer.footer()), packer.end()]);
}
const sourceOf = (bytes: Uint8Array) =>
  async function* () {
    yield await Promise.resolve(bytes);
  };

describe('a form that is a workbook', () => {
  it('is read back from its sheet as it was written', () => {
    const reading = readForm(book, form, writeForm(book, form, rows), 'create');
    expect(reading.ok && reading.rows.map((r) => [r.sku, r.values])).toEqual(rows.map((r) => [r.sku, r.values]));
  });
  it('is read once, also where another program wrote its later rows', () => {
    const text = writeForm(book, form, rows);
    const other = text.replace('<row r="4">', '<row r="4" ht="15">');
    expect(other).not.toBe(text);
    expect(readForm(book, form, other, 'create')).toEqual(readForm(book, form, text, 'create'));
  });
  it('is read by exceljs: texts as texts, numbers as numbers, headers that stay in sight', async () => {
    const workbook = new ExcelJS.Workbook();
    await workbook.xlsx.load(Buffer.from(pack(rows)) as never);
    expect(workbook.worksheets.map((w) => w.name)).toEqual([sheet]);
    const [there] = workbook.worksheets;
    const columnOf = (key: string): number => form.slots.findIndex((s) => s.key === key) + 1;
    const cell = (line: number, key: string) => there!.getRow(line).getCell(columnOf(key));
    expect([cell(1, 'sku').value, cell(2, 'sku').value]).toEqual(['SKU', 'sku']);
    expect(cell(3, 'sku')).toMatchObject({ value: '0012', type: ExcelJS.ValueType.String, numFmt: '@' });
    expect(cell(3, 'number').value).toBe('036000291452');
    // Nothing that is text is run.
    expect([cell(3, 'title').value, cell(3, 'title').formula]).toEqual(['=1+1', undefined]);
    expect(cell(3, 'price')).toMatchObject({ value: 24.5, type: ExcelJS.ValueType.Number });
    expect(cell(3, 'hues').value).toBe('blk|blu');
    expect(cell(4, 'sku').value).toBe('PAN <2>');
    expect(there!.views).toMatchObject([{ state: 'frozen', ySplit: 2 }]);
  });
  it('is the same bytes for the same rows', () => {
    expect(Buffer.compare(Buffer.from(pack(rows)), Buffer.from(pack(rows)))).toBe(0);
  });
  it('comes back whatever stands in its cells, packed and unpacked', async () => {
    const text = fc
      .string({ unit: 'grapheme', minLength: 1, maxLength: 30 })
      .filter((t) => t.trim() === t && t !== '' && !notXml.test(t));
    await fc.assert(
      fc.asyncProperty(fc.array(fc.tuple(text, text), { minLength: 1, maxLength: 5 }), async (pairs) => {
        const some = pairs.map(([title, description], i) => row(`S-${i}`, { title, description }));
        const back = await readWorkbookText(sourceOf(pack(some)), sheet);
        const reading = readForm(book, form, back, 'create');
        expect(reading.ok && reading.rows.map((r) => r.values)).toEqual(some.map((r) => r.values));
      }),
      { numRuns: 60 },
    );
  });
  it('is looked at as a table', () => {
    const looks = lookAtFile(book, form, writeForm(book, form, rows), toRecords(book, form, rows), () => undefined);
    expect(looks).toMatchObject({ as: 'table', heads: 2, delimiter: null });
    expect(looks.as === 'table' && looks.rows.map((r) => r[0])).toEqual(['SKU', 'sku', '0012', 'PAN <2>']);
  });
  it('is refused where it is none, or lacks a column', async () => {
    expect(readForm(book, form, 'no sheet', 'create')).toEqual({
      ok: false,
      reason: 'This is not a sheet of a workbook.',
    });
    const packer = createWorkbookPacker(sheet);
    const bytes = Buffer.concat([packer.push('<worksheet><sheetData/></worksheet>'), packer.end()]);
    const reading = readForm(book, form, await readWorkbookText(sourceOf(bytes), sheet), 'create');
    expect(reading).toMatchObject({
      ok: false,
      reason: expect.stringMatching(/^The header lacks sku, wish/) as string,
    });
  });
});

describe('an answer that is a workbook', () => {
  const answering = read(
    smallDocument((d) => {
      const [answer] = (d as unknown as { answers: Loose[] }).answers;
      answer!['container'] = { kind: 'workbook', sheet: 'Answer', heads: [{ row: 'keys' }] };
    }) as unknown as Loose,
  );
  it('is read as exceljs writes it, with its texts shared', async () => {
    const workbook = new ExcelJS.Workbook();
    const there = workbook.addWorksheet('Answer');
    there.addRows([
      ['line', 'sku', 'verdict', 'code', 'field', 'number'],
      [1, 'A', 'YES', '', '', 'N1'],
      [2, 'B', 'NO', 'E1', 'title', ''],
    ]);
    const bytes = new Uint8Array(await workbook.xlsx.writeBuffer());
    const reading = readAnswer(answering, 'full', await readWorkbookText(sourceOf(bytes), 'Answer'));
    expect(reading.ok && reading.lines.map((l) => [l.line, l.sku, l.verdict, l.faults.map((f) => f.field)])).toEqual([
      [1, 'A', 'accepted', []],
      [2, 'B', 'refused', ['title']],
    ]);
  });
});

describe('a rulebook with a workbook', () => {
  const faultsOf = (more: (form: Loose) => void): string[] => {
    const reading = parseRulebook(change(more));
    return reading.ok ? [] : reading.faults.map((f) => f.path);
  };
  it.each<[string, (form: Loose) => void, string]>([
    ['clears by a word', (f) => (f['clear'] = null), 'forms[0].clear'],
    ['knows texts and numbers', (f) => ((f['slots'] as Loose[])[0]!['as'] = 'true-false'), 'forms[0].slots[0].as'],
    [
      'has a name that spreadsheets take',
      (f) => ((f['container'] as Loose)['sheet'] = 'a/b'),
      'forms[0].container.sheet',
    ],
    ['has header rows', (f) => ((f['container'] as Loose)['heads'] = []), 'forms[0].container.heads'],
  ])('%s', (_, more, path) => {
    expect(faultsOf(() => undefined)).toEqual([]);
    expect(faultsOf(more)).toEqual([path]);
  });
});
