// Out as a file and back: what the file did not change is never written, what a spreadsheet did to it is not taken for a
// change, and what both sides changed is asked. The damage is made by a real spreadsheet program.
import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyChanges, mergeChanges } from '../change';
import type { Value, Values } from '../listing/values';
import { compileFields, firstFields, isSameField, plainField } from '../product';
import { convertWithSpreadsheet } from '../tests/spreadsheet';
import {
  createExportWriter,
  createShuffleJudge,
  type ExportFormat,
  findHarm,
  findShift,
  type ImportReading,
  markProperty,
  openWorkbook,
  planReturn,
  type PlannedRow,
  readRows,
  toCell,
  type WentOut,
  wordProblem,
} from '.';

const book = compileFields({
  ...firstFields,
  fields: [...firstFields.fields, plainField({ key: 'code', label: 'Code', group: 'Make' })],
});
const keys = [
  'sku',
  'title',
  'brand',
  'gtin',
  'cost',
  'price',
  'stock',
  'highlights',
  'fact.code',
  'fact.induction',
  'sale_start',
  'description',
];
const columns = keys.map((k) => book.get(k)!);
const reading: ImportReading = {
  columns: keys.map((field, index) => ({ index, field })),
  decimalSign: '.',
  dateOrder: 'day-first',
  listSeparator: '|',
  mode: 'both',
  blankClears: false,
  acceptMended: true,
};
const mug: Record<string, Value> = {
  sku: 'MP-MUG-06',
  title: 'Pellow mug',
  brand: 'Pellow',
  gtin: '9521234567899',
  price: '12.50',
  stock: '14',
  highlights: ['Stacks', 'Dishwasher safe'],
  'fact.code': '3/4',
  'fact.induction': 'yes',
  sale_start: '2026-11-27',
  description: '=1+1 is how it begins\nand goes on “so”',
};
const wentOut = (values: Values): WentOut => ({ fields: new Set(keys), values });
const cellsOf = (values: Values): string[] => keys.map((k) => toCell(values[k]));
const back = (cells: string[], held: Record<string, Value> | undefined = mug, went: Values = mug): PlannedRow =>
  planReturn(cells, reading, held, wentOut(went), { fields: book, seen: new Map(), kind: 'single' });
const withCell = (field: string, text: string): string[] => cellsOf(mug).map((c, i) => (keys[i] === field ? text : c));
const says = (p: PlannedRow): string[] => p.problems.map((x) => wordProblem(x, book));

describe('a row that comes back', () => {
  it('as it went out changes nothing, whatever was changed here since', () => {
    expect(back(cellsOf(mug))).toMatchObject({ action: 'same', changes: [], problems: [] });
    expect(back(cellsOf(mug), { ...mug, price: '14.00', stock: '3', brand: 'Hearth' })).toMatchObject({
      action: 'same',
      changes: [],
      problems: [],
    });
  });
  it.each([
    ['price', '12.5'],
    ['fact.induction', 'TRUE'],
    ['sale_start', '27/11/2026'],
    ['highlights', 'Stacks|Dishwasher safe'],
    ['description', "'" + (mug['description'] as string)],
  ])('written another way is the same: %s “%s”', (field, text) => {
    expect(back(withCell(field, text))).toMatchObject({ action: 'same', changes: [], problems: [] });
  });
  it('with an edit changes that alone', () => {
    expect(back(withCell('price', '13.75')).changes).toEqual([{ field: 'price', before: '12.50', after: '13.75' }]);
    expect(back(withCell('highlights', 'Stacks')).changes).toEqual([
      { field: 'highlights', before: mug['highlights'], after: ['Stacks'] },
    ]);
  });
  it('with a cell that was emptied empties it, and fills one that was empty', () => {
    expect(back(withCell('brand', '')).changes).toEqual([{ field: 'brand', before: 'Pellow', after: null }]);
    expect(back(withCell('cost', '6.20')).changes).toEqual([{ field: 'cost', before: null, after: '6.20' }]);
    const title = back(withCell('title', ''));
    expect(title.changes).toEqual([]);
    expect(says(title)).toEqual(['The blank title is left out: an item keeps its title, “Pellow mug”.']);
  });
  it('asks where both sides made something else of it, and not where both made the same', () => {
    const conflict = back(withCell('price', '13.75'), { ...mug, price: '14.00' });
    expect(conflict.changes).toEqual([{ field: 'price', before: '12.50', after: '13.75' }]);
    expect(says(conflict)).toEqual([
      'Price “13.75”: somebody made it “14.00” here since the file went out. You decide which counts when the rest is written.',
    ]);
    expect(back(withCell('price', '14.00'), { ...mug, price: '14' })).toMatchObject({ action: 'same', problems: [] });
  });
  it.each([
    ['14', '20', '14', '20'],
    ['14', '20', '11', '17'],
    ['14', '10', '3', '0'],
    ['14', '14', '3', null],
  ])('moves stock by what was changed of the photograph: %s became %s, and is %s by now', (was, file, now, made) => {
    const { changes } = back(withCell('stock', file), { ...mug, stock: now }, { ...mug, stock: was });
    expect(changes).toEqual(made === null ? [] : [{ field: 'stock', before: now, after: made }]);
  });
  const moved = (from: number, by: 1 | -1, cells = cellsOf(mug)): string[] =>
    by > 0
      ? [...cells.slice(0, from), '', ...cells.slice(from)]
      : [...cells.slice(0, from), ...cells.slice(from + 1), ''];
  it('whose cells were pushed along by one that was put in is known, and changes nothing', () => {
    const p = back(moved(2, 1));
    expect(p).toMatchObject({ action: 'same', changes: [] });
    expect(says(p)).toEqual([
      '8 cells of this row, from GTIN on, stand 1 column to the right of where they went out, and nothing else was changed; the row stays as it is.',
    ]);
  });
  it('whose cells were pulled along by one that was taken away is known too', () => {
    const p = back(moved(1, -1));
    expect(p).toMatchObject({ action: 'same', changes: [] });
    expect(says(p)).toEqual([
      expect.stringMatching(
        /^\d+ cells of this row, from Title on, stand 1 column to the left of where they went out, and/,
      ),
    ]);
  });
  it('whose cells were pushed along and changed besides is refused, and no cell of it is written', () => {
    const cells = moved(2, 1).map((c) => (c === '12.50' ? '13.75' : c));
    const p = back(cells);
    expect(p).toMatchObject({ action: 'refuse', changes: [] });
    expect(says(p)).toEqual([
      expect.stringMatching(
        /to the right of where they went out\. Put them back under their headings and drop the file again\.$/,
      ),
    ]);
  });
  it('in which two values changed places, or many are alike, was edited and not shifted', () => {
    const two = cellsOf(mug);
    [two[1], two[2]] = [two[2]!, two[1]!];
    expect(
      back(two)
        .changes.map((c) => c.field)
        .sort(),
    ).toEqual(['brand', 'title']);
    const alike: Values = { sku: 'A', title: 'x', brand: 'yes', gtin: 'yes', price: 'yes', 'fact.code': 'yes' };
    const cells = cellsOf(alike);
    expect(
      findShift(
        ['A', '', 'x', 'yes', 'yes', 'yes', ...cells.slice(6)],
        keys.slice(1).map((field, i) => ({ index: i + 1, field })),
        alike,
      ),
    ).toBeUndefined();
  });
  it('of an item that was removed here is left out, and says so', () => {
    const gone = planReturn(withCell('price', '9.99'), reading, undefined, wentOut(mug), {
      fields: book,
      seen: new Map(),
    });
    expect(gone.action).toBe('refuse');
    expect(says(gone).at(-1)).toBe('SKU MP-MUG-06 was removed here since the file went out; the row is left out.');
  });
  it('with a column that had not gone out is read as any other file', () => {
    const went: WentOut = { fields: new Set(keys.filter((k) => k !== 'brand')), values: mug };
    const read = (brand: string) =>
      planReturn(withCell('brand', brand), reading, mug, went, { fields: book, seen: new Map(), kind: 'single' });
    expect(read('').changes).toEqual([]);
    expect(read('Hearth').changes).toEqual([{ field: 'brand', before: 'Pellow', after: 'Hearth' }]);
  });

  it('loses no edit of either side, and writes nothing that the file did not change (property)', () => {
    const field = fc.constantFrom('brand', 'price', 'highlights', 'fact.code', 'cost');
    const value = (f: string): fc.Arbitrary<Value | null> =>
      f === 'price' || f === 'cost'
        ? fc.integer({ min: 1, max: 99_999 }).map((n) => (n / 100).toFixed(2))
        : f === 'highlights'
          ? fc.option(fc.subarray(['Stacks', 'Light', 'Oven safe'], { minLength: 1 }))
          : fc.option(fc.constantFrom('Hearth', 'Loom', 'Brine & Ash'));
    const edits = fc
      .dictionary(field, fc.constant(null), { maxKeys: 4 })
      .chain((d) => fc.record(Object.fromEntries(Object.keys(d).map((f) => [f, value(f)]))));
    const put = (edit: Record<string, Value | null>): Record<string, Value> =>
      applyChanges(
        mug,
        Object.entries(edit).map(([f, after]) => ({ field: f, before: null, after })),
      );
    let conflicts = 0;
    fc.assert(
      fc.property(edits, edits, (inFile, here) => {
        const file = put(inFile),
          now = put(here);
        const planned = back(cellsOf(file), now);
        const same = (f: string, a: Value | null, b: Value | null): boolean => isSameField(book, f, a, b);
        const merged = mergeChanges(planned.changes, now, same);
        const end = applyChanges(now, merged.changes);
        conflicts += merged.conflicts.length;
        expect(planned.problems.filter((p) => p.kind === 'changed-too').map((p) => p.field)).toEqual(
          merged.conflicts.map((c) => c.field),
        );
        for (const f of keys) {
          const [was, theirs, ours, got] = [mug, now, file, end].map((v) => v[f] ?? null) as [
            Value | null,
            Value | null,
            Value | null,
            Value | null,
          ];
          const isOpen = merged.conflicts.some((c) => c.field === f);
          expect(isOpen).toBe(!same(f, was, theirs) && !same(f, was, ours) && !same(f, theirs, ours));
          if (!isOpen) expect(same(f, got, same(f, was, ours) ? theirs : ours)).toBe(true);
        }
      }),
    );
    expect(conflicts).toBeGreaterThan(10);
  });
});

describe('what a spreadsheet did to a cell', () => {
  it.each([
    ['3/4', '2026-04-03', 'date'],
    ['3/4', '3-Apr', 'date'],
    ['1-2', '01/02/2026', 'date'],
    ['MAR1', 'Mar-01', 'date'],
    ['2.10', '2026-10-02', 'date'],
    ['9521234567899', '9.52123E+12', 'scientific'],
    ['0007310', '7310', 'zeros'],
    ['1234567890123456789', '1234567890123450000', 'fifteen'],
    ['1234567890123456789', '1234567890123460000', 'fifteen'],
    ['2.10', '2.1', 'number'],
    ['12.50', '12,5', 'number'],
    ['TRUE', 'WAHR', 'truth'],
    ['false', 'FAUX', 'truth'],
    ['Café crème', 'CafÃ© crÃ¨me', 'letters'],
    ['5" pan - "small"', '5” pan – “small”', 'signs'],
    ['two words', 'two\u00a0words ', 'signs'],
    ['a\nb', 'a\r\nb', 'signs'],
  ])('to “%s” that came back as “%s” is known: %s', (was, text, harm) => {
    expect(findHarm(was, text)).toBe(harm);
  });
  it.each([
    ['3/4', '3/5'],
    ['3/4', '2026-05-06'],
    ['9521234567899', '9.53123E+12'],
    ['9521234567899', '9521234567882'],
    ['7310', '0007310'],
    ['1234567890123456789', '1234567890123470000'],
    ['2.10', '2.2'],
    ['12', '12 cm'],
    ['TRUE', 'FALSCH'],
    ['mug', 'Mug'],
    ['', 'x'],
    ['x', ''],
  ])('is not seen in an edit: “%s” to “%s”', (was, text) => {
    expect(findHarm(was, text)).toBeUndefined();
  });
});

const items: Record<string, Value>[] = Array.from({ length: 30 }, (_, i) => ({
  ...mug,
  sku: `SKU-${String(i).padStart(3, '0')}`,
  brand: ['Pellow', 'Hearth & Ash', 'Café “Ö”', '00731'][i % 4]!,
  price: (10 + i * 1.37).toFixed(2),
  'fact.code': ['3/4', '1-2', '2.10', 'MAR1', 'TRUE', '0012', '1234567890123456789', '5" x 2'][i % 8]!,
}));
function write(format: ExportFormat): Uint8Array {
  const writer = createExportWriter(format, columns, '17-abcdef');
  return Buffer.concat([writer.head(), writer.rows(items.slice(0, 20)), writer.rows(items.slice(20)), writer.end()]);
}
async function readWorkbook(bytes: Uint8Array): Promise<{ rows: string[][]; mark: string | undefined }> {
  const workbook = await openWorkbook(async function* () {
    yield await Promise.resolve(bytes);
  });
  const rows: string[][] = [];
  for await (const batch of workbook.rows('Catalog')) rows.push(...batch);
  return { rows, mark: workbook.properties[markProperty] };
}
const readText = (bytes: Uint8Array, delimiter: ',' | '\t'): string[][] =>
  readRows(
    Buffer.from(bytes)
      .toString('utf8')
      .replace(/^\ufeff/, ''),
    delimiter,
  );
const planAll = (rows: string[][]): PlannedRow[] =>
  rows.slice(1).map((cells) => {
    const item = items.find((i) => i['sku'] === cells[0])!;
    return back(cells, item, item);
  });

describe('a file that went out', () => {
  it.each(['xlsx', 'csv', 'tsv'] as const)(
    'as %s comes back as it was, under the names of its columns',
    async (format) => {
      const bytes = write(format);
      const rows =
        format === 'xlsx' ? (await readWorkbook(bytes)).rows : readText(bytes, format === 'csv' ? ',' : '\t');
      expect(rows[0]).toEqual(columns.map((c) => c.label));
      expect(rows).toHaveLength(31);
      expect(planAll(rows).filter((p) => p.action !== 'same' || p.problems.length > 0)).toEqual([]);
    },
  );
  it('as a workbook is opened and saved by a spreadsheet program without harm, and is still known', async () => {
    const { rows, mark } = await readWorkbook(convertWithSpreadsheet('out.xlsx', write('xlsx'), 'xlsx'));
    expect(mark).toBe('17-abcdef');
    expect(planAll(rows).filter((p) => p.action !== 'same' || p.problems.length > 0)).toEqual([]);
  });
  it('as text that a spreadsheet program opened and saved: what it did is told, nothing of it is taken for a change', async () => {
    const { rows } = await readWorkbook(convertWithSpreadsheet('Catalog.csv', write('csv'), 'xlsx'));
    const planned = planAll(rows);
    expect(planned).toHaveLength(30);
    expect(planned.filter((p) => p.action !== 'same').map((p) => [p.sku, p.changes])).toEqual([]);
    const harms = new Set(
      planned.flatMap((p) => p.problems.map((x) => (x.fact.is === 'harmed' ? x.fact.harm : x.fact.is))),
    );
    expect([...harms].sort()).toEqual(['fifteen', 'letters', 'number', 'zeros']);
  });
  it('that a spreadsheet program of another country saved as text: what it did is told', () => {
    // 59: divided by semicolons, 34: quoted, 76: UTF-8; saved as shown, under German settings.
    const settings = '59,34,76,1,,1031,false,true,false';
    const bytes = convertWithSpreadsheet('Catalog.xlsx', write('xlsx'), `csv:Text - txt - csv (StarCalc):${settings}`);
    const rows = readRows(bytes.toString('utf8').replace(/^\ufeff/, ''), ';');
    const german = { ...reading, decimalSign: ',' as const };
    const planned = rows.slice(1).map((cells) => {
      const item = items.find((i) => i['sku'] === cells[0])!;
      return planReturn(cells, german, item, wentOut(item), { fields: book, seen: new Map(), kind: 'single' });
    });
    expect(planned).toHaveLength(30);
    expect(planned.filter((p) => p.action !== 'same')).toEqual([]);
  });
  it('with a column sorted on its own is found out', () => {
    const rows = readText(write('csv'), ',');
    const judge = createShuffleJudge(),
      honest = createShuffleJudge();
    const at = keys.indexOf('price');
    const sorted = rows
      .slice(1)
      .map((r) => r[at]!)
      .sort((a, b) => Number(b) - Number(a));
    rows.slice(1).forEach((cells, i) => {
      judge.note(
        cells.map((c, n) => (n === at ? sorted[i]! : c)),
        reading,
        wentOut(items[i]!),
      );
      honest.note(
        cells.map((c, n) => (n === at ? (Number(c) + 1).toFixed(2) : c)),
        reading,
        wentOut(items[i]!),
      );
    });
    expect(judge.list()).toEqual(['price']);
    expect(honest.list()).toEqual([]);
  });
});
