// How a file is understood, corrected and mended before it is written, and what of that is remembered.
import ExcelJS from 'exceljs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type House, openHouse, until } from '../tests/house';

let house: House;
beforeAll(async () => {
  house = await openHouse('understood_test', { size: 300, with: ['torgvik'] });
});
afterAll(async () => {
  await house.close();
});

interface Import {
  id: number;
  state: string;
  counts: Record<string, number>;
  unread: { field: string; value: string; says: string; rows: number; first: number }[];
  novelties: { field: string; value: string; rows: number; first: number; near: string | null; by: string | null }[];
  cutTexts: { field: string; rows: number; of: number; longest: number }[];
  rememberedFrom: string | null;
  reading: {
    columns: { index: number; name: string; field: string | null; why: string }[];
    replacements: object[];
    knownBy: string;
  };
}
interface Row {
  row: number;
  sku: string;
  action: string;
  cells: string[] | null;
  changes: { field: string; after: unknown }[];
  problems: { field: string; says: string }[];
}
const planned = (id: number) =>
  until(
    async () => (await house.call<Import>('GET', `/imports/${id}`)).body,
    (i) => i.state === 'planned' || i.state === 'failed',
  );
const bring = async (name: string, text: string) => planned((await house.upload<Import>(name, text)).body.id);
const correct = async (i: Import, change: (r: Import['reading']) => void) => {
  const reading = structuredClone(i.reading);
  change(reading);
  const answer = await house.call<Import>('PUT', `/imports/${i.id}/reading`, reading);
  expect([answer.status, answer.body]).toEqual([200, expect.anything()]);
  return planned(i.id);
};
const rowsOf = async (i: Import, action = '') =>
  (await house.call<{ rows: Row[] }>('GET', `/imports/${i.id}/rows?action=${action}`)).body.rows;
const fieldsOf = (i: Import) => Object.fromEntries(i.reading.columns.map((c) => [c.name, c.field]));

describe('rows that a sheet does not show', () => {
  it('are counted and read, or left out where that is said', async () => {
    const b = new ExcelJS.Workbook();
    const s = b.addWorksheet('Prices');
    s.addRow(['SKU', 'Title', 'Price']);
    for (const n of [1, 2, 3, 4]) s.addRow([`HID-${n}`, `Pan number ${n}`, `${n}0.00`]);
    s.addRow([]);
    for (const n of [3, 4, 6]) s.getRow(n).hidden = true;
    const i = await planned(
      (await house.upload<Import>('filtered.xlsx', new Uint8Array(await b.xlsx.writeBuffer()))).body.id,
    );
    expect(i.counts).toMatchObject({ hidden: 2, rows: 4, create: 4 });
    const left = await correct(i, (r) => Object.assign(r, { hiddenRows: 'left-out' }));
    expect(left.counts).toMatchObject({ hidden: 2, rows: 2, create: 2 });
    expect((await rowsOf(left)).map((r) => [r.row, r.sku])).toEqual([
      [2, 'HID-1'],
      [5, 'HID-4'],
    ]);
  });
});

describe('cells that go down over several rows', () => {
  it('are those of each row, but for what no two items share; under two header rows as well', async () => {
    const b = new ExcelJS.Workbook(),
      s = b.addWorksheet('Prices');
    s.addRow(['SKU', 'Title', 'Amounts', null, 'Colour', 'Stock']);
    s.addRow([null, null, 'Cost', 'Price', null, null]);
    s.addRow(['MER-1', 'Bowl', 4, 9.5, 'Red', 12]);
    s.addRow(['MER-2', null, null, 9.95, 'Blue', null]);
    s.addRow(['MER-3', 'Plate', 5, 9, 'Blue', 4]);
    for (const range of ['A1:A2', 'B1:B2', 'C1:D1', 'E1:E2', 'F1:F2', 'B3:B4', 'C3:C4', 'F3:F4']) s.mergeCells(range);
    const bytes = new Uint8Array(await b.xlsx.writeBuffer());
    const i = await planned((await house.upload<Import>('merged.xlsx', bytes)).body.id);
    expect(i.counts).toMatchObject({ above: 2, rows: 3, create: 3, merged: 1 });
    expect((await rowsOf(i))[1]!.changes.map((c) => [c.field, c.after])).toEqual([
      ['title', 'Bowl'],
      ['cost', '4.00'],
      ['price', '9.95'],
      ['fact.colour', 'Blue'],
    ]);
  });
});

describe('columns', () => {
  it('of amounts are told apart, families by their parent, and pictures come from as many columns as there are', async () => {
    const i = await bring(
      'autumn.csv',
      'Stock code,Parent code,Name,Trade price,Sell price,Photo 1,Photo 2\nUX-1,,Pan,4.00,9.99,https://p.example/1.jpg,https://p.example/2.jpg\n',
    );
    expect(fieldsOf(i)).toEqual({
      'Stock code': 'sku',
      'Parent code': 'parent_sku',
      Name: 'title',
      'Trade price': 'cost',
      'Sell price': 'price',
      'Photo 1': 'pictures',
      'Photo 2': 'pictures',
    });
    const [row] = await rowsOf(i);
    expect(row!.changes.find((c) => c.field === 'pictures')!.after).toEqual([
      'https://p.example/1.jpg',
      'https://p.example/2.jpg',
    ]);
  });
  it('once corrected are remembered for the next file with the same headings, and for its refused rows that come back', async () => {
    const file = 'Item no,Title,Colour we use,Qty per box\nUX-2,Pan,Red,twelve\nUX-2B,Pan again,Blue,12\n';
    const first = await bring('first.csv', file);
    expect(fieldsOf(first)).toMatchObject({ 'Qty per box': null });
    const corrected = await correct(first, (r) => {
      for (const c of r.columns)
        if (c.name === 'Qty per box') Object.assign(c, { field: 'fact.pieces', why: 'chosen' });
    });
    expect(corrected.counts).toMatchObject({ create: 1, refuse: 1 });
    const second = await bring('second.csv', file.replaceAll('UX-2', 'UX-3'));
    expect(fieldsOf(second)).toMatchObject({ 'Qty per box': 'fact.pieces' });
    expect(second.rememberedFrom).toBe('first.csv');
    expect(second.reading.columns.find((c) => c.name === 'Qty per box')!.why).toBe('remembered');
    const refused = await fetch(`${house.base}/api/imports/${corrected.id}/refused.csv`);
    const third = await bring('back.csv', (await refused.text()).replace('twelve', '12'));
    expect(fieldsOf(third)).toMatchObject({ 'Qty per box': 'fact.pieces', 'Why it was refused': null });
    const other = await bring('other.csv', file.replace('Colour we use', 'Colour they use'));
    expect(other.rememberedFrom).toBeNull();
    expect(fieldsOf(other)).toMatchObject({ 'Qty per box': null });
  });
  it('of one field are refused twice, but for lists', async () => {
    const i = await bring('twice.csv', 'SKU,Title,One,Two\nUX-4,Pan,a,b\n');
    const put = async (field: string) => {
      const reading = structuredClone(i.reading);
      for (const c of reading.columns) if (c.name === 'One' || c.name === 'Two') c.field = field;
      return await house.call<{ message: string }>('PUT', `/imports/${i.id}/reading`, reading);
    };
    expect(await put('brand')).toMatchObject({
      status: 400,
      body: { message: 'Two columns hold Brand; “Two” is one of them.' },
    });
    expect((await put('highlights')).status).toBe(200);
  });
});

describe('a cell', () => {
  it('is mended in its row before anything is written, and stays mended when the file is read anew', async () => {
    const i = await bring(
      'mend.csv',
      'SKU,Title,Price,Stock\nUX-5,Pan,12.999x,3\nUX-6,Pot,5.00,many\nUX-7,Lid,1.00,1\n',
    );
    expect(i.counts).toMatchObject({ create: 1, refuse: 2 });
    const mend = (row: number, column: number, text: string) =>
      house.call<Import>('PUT', `/imports/${i.id}/rows/${row}`, { column, text });
    expect((await mend(2, 2, '12.99')).body.counts).toMatchObject({ create: 2, refuse: 1 });
    const [mended] = (await rowsOf(i)).filter((r) => r.row === 2);
    expect(mended).toMatchObject({ action: 'create', problems: [] });
    expect(mended!.changes.find((c) => c.field === 'price')!.after).toBe('12.99');
    // Another slip: the row is refused again, with the new reason.
    expect((await mend(2, 2, 'x')).body.counts).toMatchObject({ create: 1, refuse: 2 });
    expect((await mend(2, 2, '12.99')).body.counts).toMatchObject({ create: 2, refuse: 1 });
    const again = await correct(i, () => undefined);
    expect(again.counts).toMatchObject({ create: 2, refuse: 1 });
    expect(await mend(4, 1, 'x')).toMatchObject({ status: 404 });
    expect(await mend(99, 1, 'x')).toMatchObject({ status: 404 });
    await house.call('POST', `/imports/${i.id}/apply`);
    await until(
      async () => (await house.call<Import>('GET', `/imports/${i.id}`)).body,
      (x) => x.state === 'applied',
    );
    expect(await house.rows(`select price::text from products where sku = 'UX-5'`)).toEqual([{ price: '12.9900' }]);
    expect(await mend(3, 3, '4')).toMatchObject({ status: 409 });
    const shown = await house.call<{ rows: { sku: string }[] }>('GET', `/products?import=${i.id}`);
    expect(shown.body.rows.map((r) => r.sku)).toEqual(['UX-5', 'UX-7']);
  });
});

describe('lists in one cell', () => {
  it('are divided by the sign that divides most of them, or the one that a person chooses', async () => {
    const i = await bring(
      'lists.csv',
      'SKU,Title,Highlights,Pictures\nUX-L-1,Pan,Even base; Stacks,https://p.example/1.jpg https://p.example/2.jpg\nUX-L-2,Pot,"Oven safe, too; Light",\n',
    );
    const lists = async (of: Import) =>
      (await rowsOf(of)).map((r) => r.changes.flatMap((c) => (Array.isArray(c.after) ? [c.after] : [])));
    expect(await lists(i)).toEqual([
      [
        ['Even base', 'Stacks'],
        ['https://p.example/1.jpg', 'https://p.example/2.jpg'],
      ],
      [['Oven safe, too', 'Light']],
    ]);
    const other = await correct(i, (r) => Object.assign(r, { listSeparator: ',' }));
    expect((await lists(other))[1]).toEqual([['Oven safe', 'too; Light']]);
  });
});

describe('a SKU that is nearly another', () => {
  const [sku, other] = ['FP-HEAR-20CM', 'TWIN-9-A'];
  it('is not added, neither beside one of the catalog nor beside a row before it, until it is mended', async () => {
    const i = await bring(
      'twins.csv',
      `SKU,Title,Price\n${sku.toLowerCase()},Pan,9.99\n${other},Pot,9.99\ntwin_9 a,Pot,9.99\nSKU,Title,Price\nTWIN-9-B,Lid,3.50\n`,
    );
    expect(i.counts).toMatchObject({ lines: 6, above: 1, headings: 1, rows: 4, create: 2, refuse: 2, mistyped: 1 });
    const refused = await rowsOf(i, 'refuse');
    expect(refused.map((r) => [r.row, (r as unknown as { problems: { says: string }[] }).problems[0]!.says])).toEqual([
      [2, expect.stringContaining(`differs from ${sku} only in capitals or marks`)],
      [4, expect.stringContaining(`differs from ${other} only in capitals or marks`)],
    ]);
    const mend = (row: number, text: string) =>
      house.call<Import>('PUT', `/imports/${i.id}/rows/${row}`, { column: 0, text });
    expect((await mend(2, sku)).body.counts).toMatchObject({ update: 1, refuse: 1 });
    expect((await mend(4, `${other}.`)).body.counts).toMatchObject({ refuse: 1 });
    expect((await mend(4, 'TWIN-10')).body.counts).toMatchObject({ create: 3, refuse: 0 });
  });
  it('is read as the one of the catalog, for the whole file at once, where a person says so', async () => {
    const i = await bring(
      'shouted.csv',
      `SKU,Title,Price\nfp-hear-24cm,Small pan,9.99\n\u200bfp_hear_28cm,Large pan,9.99\nFP-HEAR-28CM,Again,8.99\nNEW-1-X,New,1.00\n`,
    );
    expect(i.counts).toMatchObject({ refuse: 2, update: 1, create: 1, mistyped: 2, damaged: 0 });
    const read = await correct(i, (r) => Object.assign(r, { asTwins: true }));
    expect(read.counts).toMatchObject({ refuse: 1, update: 2, create: 1, mistyped: 2, damaged: 2 });
    const rows = await rowsOf(read);
    expect(rows.map((r) => [r.row, r.sku, r.action])).toEqual([
      [2, 'FP-HEAR-24CM', 'update'],
      [3, 'FP-HEAR-28CM', 'update'],
      [4, 'FP-HEAR-28CM', 'refuse'],
      [5, 'NEW-1-X', 'create'],
    ]);
    expect(rows[0]!.problems).toMatchObject([
      { value: 'fp-hear-24cm', says: 'SKU fp-hear-24cm is read as FP-HEAR-24CM.' },
    ]);
    // What nobody sees is no part of a SKU.
    const unseen = await bring('unseen.csv', `SKU,Price\nFP-\u200bHEAR-24CM\u00a0,9.99\n`);
    expect([unseen.counts['update'], unseen.counts['mistyped']]).toEqual([1, 0]);
  });
  it('is named where a file only updates', async () => {
    const i = await bring('update.csv', `SKU,Price\n${sku.toLowerCase()},9.99\n`);
    const only = await correct(i, (r) => {
      (r as unknown as { mode: string }).mode = 'update';
    });
    const [row] = (await rowsOf(only, 'refuse')) as unknown as { problems: { says: string }[] }[];
    expect(row!.problems[0]!.says).toMatch(new RegExp(`only updates\\. ${sku} is\\.$`));
  });
});

describe('a file whose lines a program took for one cell each', () => {
  it('is read as the table that it was', async () => {
    const i = await bring('lines.csv', '"SKU;Title;Price"\r\n"WRAP-1;""Pan; deep"";9,99"\r\n"WRAP-2;Pot;8,50"\r\n');
    expect(fieldsOf(i)).toEqual({ SKU: 'sku', Title: 'title', Price: 'price' });
    expect((await rowsOf(i)).map((r) => r.changes.map((c) => c.after))).toEqual([
      ['Pan; deep', '9.99'],
      ['Pot', '8.50'],
    ]);
  });
  it('is read from its first row where it has no headings, and is not taken for another without them', async () => {
    const bare =
      'FP-HEAR-20CM,9520000001018,19.95\nFP-HEAR-24CM,9520000001025,21.95\nFP-HEAR-28CM,9520000001032,23.95\n';
    const i = await bring('bare.csv', bare);
    expect(i.reading.columns.map((c) => [c.name, c.field])).toEqual([
      ['(column 1)', 'sku'],
      ['(column 2)', 'gtin'],
      ['(column 3)', null],
    ]);
    expect(i.counts).toMatchObject({ lines: 3, above: 0, rows: 3, same: 3 });
    const priced = await correct(i, (r) => {
      Object.assign(r.columns[2]!, { field: 'price', why: 'chosen' });
    });
    expect((await rowsOf(priced)).map((r) => [r.sku, r.changes.map((c) => c.after)])).toEqual([
      ['FP-HEAR-20CM', ['19.95']],
      ['FP-HEAR-24CM', ['21.95']],
      ['FP-HEAR-28CM', ['23.95']],
    ]);
    const again = await bring('bare again.csv', bare);
    expect([again.rememberedFrom, again.reading.columns[2]!.field]).toEqual([null, null]);
    // A person may say so of any file, and take it back.
    const named = await bring('named.csv', 'Code,Worth\nUX-NEW-1,9.99\n');
    const without = await correct(named, (r) => {
      (r as unknown as { headerRow: number }).headerRow = -1;
    });
    expect([without.counts['rows'], without.reading.columns.map((c) => c.name)]).toEqual([
      2,
      ['(column 1)', '(column 2)'],
    ]);
    const withAgain = await correct(without, (r) => {
      (r as unknown as { headerRow: number }).headerRow = 0;
    });
    expect([withAgain.counts['rows'], withAgain.reading.columns.map((c) => c.name)]).toEqual([1, ['Code', 'Worth']]);
  });
  it('is named where it is no table at all', async () => {
    const page = await house.upload<{ message: string }>(
      'list.xls',
      '<html><table><tr><td>SKU</td></tr></table></html>',
    );
    expect([page.status, page.body.message]).toEqual([
      422,
      expect.stringMatching(/^“list\.xls” is a web page; rows are read from text files/),
    ]);
  });
});

describe('names that no item has yet', () => {
  it('are told with the nearest that one has, and are read as that for the whole file', async () => {
    const [known] = await house.rows<{ category: string; brand: string }>(
      `select category, brand from products where category = 'Frying pans' and brand is not null limit 1`,
    );
    expect(known!.category).toBe('Frying pans');
    const i = await bring(
      'news.csv',
      `SKU,Title,Own category,Brand\nUX-8,Pan,Fryng pans,${known!.brand}\nUX-9,Pan,Fryng pans,Quite Another\nUX-10,Pan,Frying pans,${known!.brand}\n`,
    );
    expect(i.novelties).toEqual([
      { field: 'category', value: 'Fryng pans', rows: 2, first: 2, near: 'Frying pans', by: null },
      { field: 'brand', value: 'Quite Another', rows: 1, first: 3, near: null, by: null },
    ]);
    const read = await correct(i, (r) => {
      r.replacements = [{ field: 'category', from: 'Fryng pans', to: 'Frying pans' }];
    });
    expect(read.novelties.map((n) => n.value)).toEqual(['Quite Another']);
    expect(new Set((await rowsOf(read)).map((r) => r.changes.find((c) => c.field === 'category')!.after))).toEqual(
      new Set(['Frying pans']),
    );
  });
});

describe('names in another language', () => {
  it('are understood by what markets call them, as ours where there is one', async () => {
    const i = await bring(
      'farben.csv',
      'SKU,Title,Colour,Material,Brand\nUW-1,Schale,blau,Edelstahl,blau\nUW-2,Schale,WEISS,Beton,\n',
    );
    const [blue] = await house.rows<{ n: number }>(
      `select count(*) as n from products where facts ->> 'colour' = 'Blue'`,
    );
    expect(blue!.n).toBeGreaterThan(0);
    expect(i.novelties.map((n) => [n.field, n.value, n.near, n.by])).toEqual([
      ['fact.colour', 'blau', 'Blue', 'Torgvik'],
      ['fact.colour', 'WEISS', 'White', 'Torgvik'],
      ['fact.material', 'Edelstahl', 'Stainless steel', 'Torgvik'],
      ['fact.material', 'Beton', null, null],
      ['brand', 'blau', null, null],
    ]);
  });
});

describe('cells that cannot be read', () => {
  it('are told once for all rows, with one answer for all of them, or mended row by row', async () => {
    const rows = ['7', '8', '9'].map((n) => `UZ-${n},Bowl,on order,"4,50"`);
    const i = await bring(
      'sold-out.csv',
      `SKU,Title,Stock,Price\n${rows.join('\n')}\nUZ-6,Bowl,4,9.50\nUZ-5,Bowl,4,1.299\nUZ-4,Bowl,4,9.95\nUZ-3,Bowl,4,9.9\nUZ-2,Bowl,4,7.5\n`,
    );
    const says = 'Stock “on order” is not a whole number; write digits only, such as 12.';
    expect(i.unread).toEqual([{ field: 'stock', value: 'on order', says, rows: 3, first: 2 }]);
    await house.call('PUT', `/imports/${i.id}/rows/2`, { column: 2, text: '5' });
    const mended = (await house.call<typeof i>('GET', `/imports/${i.id}`)).body;
    expect([mended.unread[0]!.rows, mended.counts['refuse']]).toEqual([2, 2]);
    const read = await correct(mended, (r) => {
      Object.assign(r, { decimalSign: '.', replacements: [{ field: 'stock', from: 'on order', to: '0' }] });
    });
    expect([read.unread, read.counts['refuse'], read.counts['otherSign'], read.counts['eitherSign']]).toEqual([
      [],
      0,
      3,
      1,
    ]);
    expect((await rowsOf(read)).slice(0, 3).map((r) => r.changes.find((c) => c.field === 'stock')!.after)).toEqual([
      '5',
      '0',
      '0',
    ]);
  });
});

describe('amounts in a currency that the house keeps none of', () => {
  it('are made into its own by the rate, which the next file takes anew; without one their column is left out', async () => {
    const text = (n: number, heading = 'EK') => `SKU;Title;${heading}\nUV-${n};Pan;4,20\nUV-${n + 1};Pan;8,40\n`;
    const costs = async (i: Import) => (await rowsOf(i)).map((r) => r.changes.find((c) => c.field === 'cost')?.after);
    await house.call('PUT', '/rates/EUR', { rate: '1.2' });
    const named = await bring('named.csv', text(1, 'EK EUR'));
    expect([fieldsOf(named)['EK EUR'], await costs(named)]).toEqual(['cost', ['3.50', '7.00']]);
    const plain = await bring('plain.csv', text(3));
    expect(await costs(plain)).toEqual(['4.20', '8.40']);
    const said = await correct(plain, (r) => {
      Object.assign(r.columns[2]!, { converts: { currency: 'EUR', rate: '1.2' }, why: 'chosen' });
    });
    expect(await costs(said)).toEqual(['3.50', '7.00']);
    await house.call('PUT', '/rates/EUR', { rate: '1.4' });
    const next = await bring('next.csv', text(5));
    expect([next.reading.columns[2], await costs(next)]).toMatchObject([
      { why: 'remembered', converts: { currency: 'EUR', rate: '1.4' } },
      ['3.00', '6.00'],
    ]);
    expect(fieldsOf(await bring('francs.csv', text(7, 'EK CHF')))['EK CHF']).toBeNull();
    await house.rows(`delete from rates where currency = 'EUR' returning 1`);
    expect((await bring('last.csv', text(9))).reading.columns[2]).toMatchObject({ field: null, why: 'remembered' });
  });
});

describe('what was said of a file', () => {
  it('is remembered for the next one: cells that are read as others, and measures that stand in one cell', async () => {
    const text = (n: number) =>
      `SKU,Title,Extent,Stock\nUY-${n},Tray,30 x 20 x 4 cm,on order\nUY-${n + 1},Tray,16 x 16 x 6 cm,on order\n`;
    const i = await bring('trays.csv', text(1));
    expect([fieldsOf(i)['Extent'], i.counts['refuse']]).toEqual([null, 2]);
    const parts = ['fact.width', 'fact.length', 'fact.height'];
    const read = await correct(i, (r) => {
      Object.assign(r.columns[2]!, { field: parts[0], parts, why: 'chosen' });
      r.replacements = [{ field: 'stock', from: 'on order', to: '0' }];
    });
    const written = (of: Row) => of.changes.map((c) => [c.field, c.after]);
    const first = (await rowsOf(read))[0]!;
    expect(written(first)).toEqual([
      ['title', 'Tray'],
      ['fact.width', '30 cm'],
      ['fact.length', '20 cm'],
      ['fact.height', '4 cm'],
      ['stock', '0'],
    ]);
    const next = await bring('more-trays.csv', text(3));
    expect([next.rememberedFrom, next.reading.replacements, next.reading.columns[2]]).toMatchObject([
      'trays.csv',
      [{ field: 'stock', from: 'on order', to: '0' }],
      { field: 'fact.width', parts, why: 'remembered' },
    ]);
    expect(written((await rowsOf(next))[0]!)).toEqual(written(first));
    const doubled = structuredClone(next.reading);
    Object.assign(doubled.columns[1]!, { field: 'fact.height' });
    expect((await house.call('PUT', `/imports/${next.id}/reading`, doubled)).body).toMatchObject({
      message: 'Two columns hold Height; “Extent” is one of them.',
    });
    // One field where there were three is another meaning.
    const one = await correct(next, (r) => {
      const { parts: _, ...column } = r.columns[2]! as Import['reading']['columns'][number] & { parts?: string[] };
      r.columns[2] = { ...column, field: 'fact.size', why: 'chosen' };
    });
    expect(one.counts['refuse']).toBe(0);
    const last = await bring('last-trays.csv', text(5));
    expect([last.reading.columns[2]!.field, 'parts' in last.reading.columns[2]!]).toEqual(['fact.size', false]);
  });
});

describe('the catalog', () => {
  it('is put in order as people count, by any field', async () => {
    await house.call('POST', '/products', { sku: 'ZKET-10', title: 'Ten' });
    await house.call('POST', '/products', { sku: 'ZKET-2', title: 'Two' });
    const list = async (q: string) =>
      (await house.call<{ rows: { sku: string; fields: Record<string, string> }[] }>('GET', `/products?${q}`)).body
        .rows;
    expect((await list('search=zket')).map((r) => r.sku)).toEqual(['ZKET-2', 'ZKET-10']);
    expect((await list('search=zket&direction=down')).map((r) => r.sku)).toEqual(['ZKET-10', 'ZKET-2']);
    await house.rows(`update products set facts = facts || '{"pages": "96"}' where sku = 'ZKET-2'`);
    await house.rows(`update products set facts = facts || '{"pages": "128"}' where sku = 'ZKET-10'`);
    expect((await list('sort=fact.pages&direction=down&kind=single&limit=2')).map((r) => r.sku)).toEqual([
      'ZKET-10',
      'ZKET-2',
    ]);
    const prices = (await list('sort=price&kind=single&limit=50')).map((r) => Number(r.fields['price']));
    expect(prices).toEqual([...prices].sort((a, b) => a - b));
    expect(new Set(prices).size).toBeGreaterThan(5);
    const stock = (await list('sort=stock&direction=down&kind=single&limit=50')).map((r) => Number(r.fields['stock']));
    expect(stock).toEqual([...stock].sort((a, b) => b - a));
    expect(new Set(stock).size).toBeGreaterThan(5);
  });
});

describe('a list of stock', () => {
  it('is told where its names are beginnings of ours, and left as it is there; its words and sums are understood', async () => {
    const items = await house.rows<{ sku: string; title: string }>(
      `select p.sku, p.title from products p join stock s on s.product_id = p.id
        where p.kind = 'single' and length(p.title) > 20 and s.on_hand not in (0, 7, 12, 50) order by p.id limit 4`,
    );
    expect(items).toHaveLength(4);
    const said = ['12 Stk', '>50', 'ausverkauft', '7'];
    const i = await bring(
      'bestand.csv',
      `Artikelnr.;Bezeichnung;Bestand\n${items.map((p, n) => `${p.sku};${p.title.slice(0, 16)};${said[n]!}`).join('\n')}\nSumme;;69\n`,
    );
    expect(i.counts).toMatchObject({ lines: 6, above: 1, sums: 1, rows: 4, refuse: 0, damaged: 3 });
    expect(i.cutTexts).toEqual([{ field: 'title', rows: 4, of: 4, longest: 16 }]);
    const left = await correct(i, (r) => Object.assign(r.columns[1]!, { field: null, why: 'left-out' }));
    expect(left.cutTexts).toEqual([]);
    const stocks = (await rowsOf(left)).map((r) => r.changes.map((c) => [c.field, c.after]));
    expect(stocks).toEqual([[['stock', '12']], [['stock', '50']], [['stock', '0']], [['stock', '7']]]);
  });
});

describe('a file without our SKUs', () => {
  const items = () =>
    house.rows<{ sku: string; gtin: string; mpn: string }>(
      `select sku, gtin, 'PN-' || id as mpn from products
        where kind = 'single' and gtin14 is not null and gtin14 not in (select gtin14 from products where gtin14 is not null and kind <> 'family' group by 1 having count(*) > 1)
        order by id limit 3`,
    );
  const known = async (i: Import) => (await rowsOf(i)).map((r) => [r.sku, r.action]);
  it('is known by its barcodes, or by part numbers, and cells that are mended are looked for anew', async () => {
    const [one, two, three] = await items();
    // A barcode that somebody gave to a family too says nothing of what is sold.
    await house.db.raw(
      `update products f set gtin = p.gtin, gtin14 = p.gtin14 from products p
        where p.sku = ? and f.id = (select min(id) from products where kind = 'family')`,
      [one!.sku],
    );
    const i = await bring(
      'by-barcode.csv',
      `EAN,EK netto\n${one!.gtin},7.11\nEAN 0${two!.gtin},7.12\n9520000990015,7.13\n${one!.gtin},7.14\n`,
    );
    expect(i.reading.knownBy).toBe('gtin');
    expect(await known(i)).toEqual([
      [one!.sku, 'update'],
      [two!.sku, 'update'],
      ['', 'refuse'],
      [one!.sku, 'refuse'],
    ]);
    expect((await rowsOf(i))[0]!.changes.map((c) => c.field)).toEqual(['cost']);
    await house.call('PUT', `/imports/${i.id}/rows/4`, { column: 0, text: three!.gtin });
    await house.call('PUT', `/imports/${i.id}/rows/5`, { column: 0, text: two!.gtin });
    expect((await known(i)).slice(2)).toEqual([
      [three!.sku, 'update'],
      [two!.sku, 'refuse'],
    ]);
    await house.db.raw(`update products set mpn = 'PN-' || id where sku = any(?)`, [[one!.sku, two!.sku, three!.sku]]);
    const parts = await bring('by-part.csv', `MPN,Price\n${one!.mpn},7.11\n${three!.mpn},7.13\nPN-0,7.14\n`);
    expect([parts.reading.knownBy, await known(parts)]).toEqual([
      'mpn',
      [
        [one!.sku, 'update'],
        [three!.sku, 'update'],
        ['', 'refuse'],
      ],
    ]);
    await house.db.raw(`update products set mpn = 'PN-0' where sku = any(?)`, [[one!.sku, three!.sku]]);
    const several = await bring('by-part-again.csv', `MPN,Price\nPN-0,7.15\n`);
    expect((await rowsOf(several))[0]!.problems).toMatchObject([
      { field: 'mpn', says: expect.stringContaining('several items') as string },
    ]);
  });
  it('but with a supplier’s numbers is told before it adds what is there, and remembered as known by barcodes', async () => {
    const [one, two] = await items();
    const text = (n: number) =>
      `Art.-Nr.,EAN,Bezeichnung,Menge\nL-${n},${one!.gtin},Pan,${n}\nL-${n + 1},${two!.gtin},Pan,${n}\nL-${n + 2},,Pan,${n}\n`;
    const i = await bring('supplier.csv', text(1));
    expect([i.reading.knownBy, i.counts['create'], i.counts['barcodes']]).toEqual(['sku', 3, 2]);
    const read = await correct(i, (r) => Object.assign(r, { knownBy: 'gtin' }));
    expect(read.counts).toMatchObject({ update: 2, create: 1, barcodes: 0 });
    expect(await known(read)).toEqual([
      [one!.sku, 'update'],
      [two!.sku, 'update'],
      ['L-3', 'create'],
    ]);
    const next = await bring('supplier-again.csv', text(11));
    expect([next.reading.knownBy, next.counts['update'], next.rememberedFrom]).toEqual(['gtin', 2, 'supplier.csv']);
  });
  it('adds what is new under its barcode where that is wanted, also from the next file', async () => {
    const [one] = await items();
    const text = (n: number) =>
      `EAN,Bezeichnung,VK brutto\n${one!.gtin},Pan,9.5${n}\nEAN 9520000990015,Griddle,19.5${n}\nnone,Lid,4.50\n`;
    const i = await bring('without-numbers.csv', text(0));
    expect(i.counts).toMatchObject({ update: 1, create: 0, refuse: 2 });
    const read = await correct(i, (r) => Object.assign(r, { makesSkus: true }));
    expect(await known(read)).toEqual([
      [one!.sku, 'update'],
      ['9520000990015', 'create'],
      ['', 'refuse'],
    ]);
    await house.call('POST', `/imports/${i.id}/apply`, {});
    await until(
      async () => (await house.call<Import>('GET', `/imports/${i.id}`)).body.state,
      (s) => s === 'applied',
    );
    const next = await bring('without-numbers-2.csv', text(1));
    expect([await known(next), next.rememberedFrom]).toEqual([
      [
        [one!.sku, 'update'],
        ['9520000990015', 'update'],
        ['', 'refuse'],
      ],
      'without-numbers.csv',
    ]);
  });
  it('is found behind the instructions of a workbook', async () => {
    const [one] = await items();
    const b = new ExcelJS.Workbook();
    b.addWorksheet('Read first').addRow(['How to order', 'By mail']);
    const s = b.addWorksheet('List');
    for (const row of [
      ['EAN', 'EK netto'],
      [one!.gtin, 7.21],
    ])
      s.addRow(row);
    const i = await planned(
      (await house.upload<Import>('list.xlsx', new Uint8Array(await b.xlsx.writeBuffer()))).body.id,
    );
    expect([i.reading.knownBy, await known(i)]).toEqual(['gtin', [[one!.sku, 'update']]]);
  });
  it('is refused where no column holds what its rows are known by', async () => {
    const i = await bring('by-name.csv', 'Name,Price\nPan,4.50\n');
    const answer = await house.call<{ message: string }>('PUT', `/imports/${i.id}/reading`, {
      ...i.reading,
      knownBy: 'gtin',
    });
    expect([answer.status, JSON.stringify(answer.body)]).toEqual([
      400,
      expect.stringContaining('No column holds the GTIN'),
    ]);
  });
});

describe('a workbook with a sheet for each group of goods', () => {
  it('is read as one when that is asked, and says in which sheet a row stands', async () => {
    const b = new ExcelJS.Workbook();
    const add = (name: string, ...rows: (string | number)[][]) => {
      const s = b.addWorksheet(name);
      for (const r of rows) s.addRow(r);
      return s;
    };
    const head = ['SKU', 'Title', 'Price', 'Colour'];
    add(
      'Pans',
      head,
      ['AS-1', 'Pan', 9.5, 'Red'],
      ['AS-2', 'Pan', 9.95, 'Red'],
      ['All prices without tax, carriage paid'],
    );
    add(
      'Pots',
      ['Pots and lids 2027'],
      [],
      head,
      ['AS-3', 'Pot', 19.5, 'Blue'],
      ['AS-1', 'Pot', 19.95, 'Blue'],
      ['Total', '', 39],
    );
    add('Terms', ['Terms'], ['Thirty days']);
    add('Lids', ['SKU', 'Title', 'Price', 'Material'], ['AS-5', 'Lid', 4, 'Glass']);
    add('Old', head, ['AS-6', 'Old pan', 4, 'Red']).state = 'hidden';
    add('Bowls', head, ['AS-7', 'Bowl', 4, 'Red']);
    type Sheets = Import & {
      sheets: { name: string; isAlike: boolean }[];
      starts: object[];
      reading: { alsoSheets: string[] };
    };
    const bytes = new Uint8Array(await b.xlsx.writeBuffer());
    const i = (await planned((await house.upload<Import>('groups.xlsx', bytes)).body.id)) as Sheets;
    expect([i.sheets.filter((s) => s.isAlike).map((s) => s.name), i.starts, i.counts['rows']]).toEqual([
      ['Pots', 'Bowls'],
      [],
      2,
    ]);
    const all = (await correct(i, (r) => Object.assign(r, { alsoSheets: ['Pots', 'Terms', 'Bowls'] }))) as Sheets;
    expect(all.counts).toMatchObject({
      lines: 12,
      above: 5,
      blank: 0,
      sums: 1,
      notes: 1,
      firstNote: 4,
      rows: 5,
      create: 4,
      refuse: 1,
    });
    expect(all.starts).toEqual([
      { name: 'Pans', from: 1 },
      { name: 'Pots', from: 5 },
      { name: 'Bowls', from: 11 },
    ]);
    const rows = await rowsOf(all);
    expect(rows.map((r) => [r.row, r.sku, r.action])).toEqual([
      [2, 'AS-1', 'create'],
      [3, 'AS-2', 'create'],
      [8, 'AS-3', 'create'],
      [9, 'AS-1', 'refuse'],
      [12, 'AS-7', 'create'],
    ]);
    expect(rows[3]!.problems[0]!.says).toBe('SKU AS-1 already stands in row 2 (Pans); keep one of them.');
    const refused = await fetch(`${house.base}/api/imports/${all.id}/refused.csv`);
    expect(await refused.text()).toContain(',5 (Pots),');
    const other = (await correct(all, (r) => Object.assign(r, { sheet: 'Lids' }))) as Sheets;
    expect([other.reading.alsoSheets, other.sheets.some((s) => s.isAlike), other.counts['rows']]).toEqual([
      [],
      false,
      1,
    ]);
  });
});
