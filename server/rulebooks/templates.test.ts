// A market of which there is nothing but the blank template that it gives out: added by it, filled, sent by hand and answered.
import { draftRulebook, extendRulebook, readTemplate, understandTemplate } from '@basileus/core/template';
import { rulebookSchema } from '@basileus/core/rulebook';
import { compileFields, firstFields } from '@basileus/core/product';
import ExcelJS from 'exceljs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type House, openHouse, until } from '../tests/house';

const m = '/markets/pantry_lane';
let house: House, blank: Uint8Array;
const headings = ['Code', 'Item name*', 'Brand*', 'EAN', 'Price*', 'Stock*', 'Pan colour', 'Photo 1*', 'Photo 2'];
async function makeBlank(heads: readonly string[]): Promise<Uint8Array> {
  const book = new ExcelJS.Workbook();
  book.addWorksheet('Read me').addRow(['Fill in the next sheet.']);
  const sheet = book.addWorksheet('Items');
  sheet.addRows([['Pantry Lane'], [...heads], ['EXAMPLE-1', 'An example of ours']]);
  sheet.getCell('G3').dataValidation = { type: 'list', formulae: ['"Black,Red,Other"'] };
  return new Uint8Array(await book.xlsx.writeBuffer());
}
beforeAll(async () => {
  house = await openHouse('templates_test', { size: 160 });
  blank = await makeBlank(headings);
});
afterAll(() => house.close());

const fields = compileFields(firstFields);
const readBlank = async (bytes: Uint8Array) =>
  understandTemplate(
    await readTemplate(async function* () {
      yield await Promise.resolve(bytes);
    }),
    fields,
  )!;
const draft = async () => {
  const reading = await readBlank(blank);
  const made = draftRulebook(
    reading,
    {
      ...{ name: 'Pantry Lane', category: 'Pans', country: 'GB', currency: 'GBP', language: 'en' },
      columns: { 0: { field: 'sku' } },
    },
    fields,
    '2026.11',
  );
  if ('faults' in made) throw new Error(made.faults.join());
  return made.document;
};
const bring = (bytes: Uint8Array, name = 'pantry lane.xlsx', form = 'template') =>
  house.upload<{ sheet: string; firstRow: number; message: string; field: string }>(
    name,
    bytes,
    `${m}/templates/${form}`,
  );
const kept = async () =>
  (await house.call<{ rows: { name: string; firstRow: number }[] }>('GET', `${m}/templates`)).body.rows;
const files = async () => (await house.rows<{ n: number }>('select count(*)::int as n from files'))[0]!.n;
const ready = () =>
  house.rows<{ id: number; sku: string; values: Record<string, string | string[]> }>(
    `select l.id, p.sku, l."values" from listings l join products p on p.id = l.product_id join markets k on k.id = l.market_id
      where k.key = 'pantry_lane' and l.category = 'pans' and l.blockers = 0 and l.market_state = 'none' order by p.sku`,
  );
let sendings = 0;
const build = async (ids: number[]) => {
  const r = await house.call<{ dispatch: { id: number; total: number; fileName: string }; message: string }>(
    'POST',
    `${m}/dispatches`,
    {
      ...{ operation: 'create', ids, looked: true, by: 'hand' },
      key: `pantry-${++sendings}`,
    },
  );
  expect(r.status, r.body.message).toBe(200);
  return r.body.dispatch;
};
const download = async (id: number): Promise<ExcelJS.Workbook> => {
  const r = await fetch(`${house.base}/api/dispatches/${id}/file`);
  const book = new ExcelJS.Workbook();
  await book.xlsx.load(await r.arrayBuffer());
  return book;
};
const rowsOf = (book: ExcelJS.Workbook, sheet: string): string[][] => {
  const rows: string[][] = [];
  book.getWorksheet(sheet)!.eachRow((row) => {
    const cells = row.values as unknown[];
    rows.push(Array.from({ length: cells.length - 1 }, (_, i) => String(cells[i + 1] ?? '')));
  });
  return rows;
};

describe('a market’s own template', () => {
  it('is refused where it is none, where its columns are others, and where no form is a workbook; nothing stays behind', async () => {
    expect((await house.call('POST', '/markets', { document: await draft() })).status).toBe(200);
    const before = await files();
    const odd = await bring(await makeBlank(headings.map((h) => (h === 'EAN' ? 'Barcode number' : h))));
    expect([odd.status, odd.body.message]).toEqual([
      400,
      'The columns of “pantry lane.xlsx” are not those of the form: “Barcode number” differs.',
    ]);
    expect((await bring(new Uint8Array([80, 75, 3, 4, 1, 2, 3]), 'torn.xlsx')).status).toBe(422);
    expect((await bring(blank, 'x.xlsx', 'nowhere')).body.field).toBe('form');
    const elsewhere = await house.upload('x.xlsx', blank, '/markets/quillhaven/templates/full');
    expect(elsewhere.status).toBe(400);
    expect([await kept(), await files()]).toEqual([[], before]);
  });
  it('is filled with the rows that are sent, under its headings; what it says beside stays', async () => {
    expect((await bring(blank)).body).toEqual({ sheet: 'Items', firstRow: 3 });
    // Where somebody says so, a further row stays as it is.
    expect((await bring(blank, 'pantry lane.xlsx', 'template?sheet=Items&firstRow=4')).body.firstRow).toBe(4);
    expect((await bring(blank, 'x.xlsx', 'template?sheet=Nowhere')).status).toBe(422);
    await bring(blank);
    expect(await kept()).toMatchObject([{ form: 'template', name: 'pantry lane.xlsx', firstRow: 3 }]);
    await house.call('POST', `${m}/assign-category`, { ownCategory: 'Frying pans', category: 'pans' });
    const items = (await until(ready, (rows) => rows.length > 2)).slice(0, 3);
    const { id, total } = await build(items.map((i) => i.id));
    expect(total).toBe(3);
    const book = await download(id);
    expect(book.worksheets.map((s) => s.name)).toEqual(['Read me', 'Items']);
    const [title, heads, ...rows] = rowsOf(book, 'Items');
    expect([title!.join(''), heads]).toEqual(['Pantry Lane', headings]);
    expect(rows.map((r) => r[0])).toEqual(items.map((i) => i.sku));
    const price = Object.keys(items[0]!.values).find((k) => k.startsWith('price'))!;
    expect(rows.map((r) => r[4])).toEqual(items.map((i) => Number(i.values[price]).toFixed(2)));
    expect(rows.every((r) => r[7]!.startsWith('https://'))).toBe(true);
    expect(book.getWorksheet('Items')!.getCell('G3').dataValidation.formulae).toEqual(['"Black,Red,Other"']);
    // Its answer names what was refused; what it does not name was taken.
    const [first] = items;
    await house.upload(
      'answer.csv',
      `line,sku,verdict,code,field,says\r\n1,${first!.sku},refused,X1,Photo 1,Too small\r\n`,
      `/dispatches/${id}/receipt`,
    );
    const read = await house.call<{ accepted: number; refused: number }>('GET', `/dispatches/${id}`);
    expect(read.body).toMatchObject({ accepted: 2, refused: 1 });
  });
  it('that is newer is read as was said of the one before, where it cannot be told otherwise', async () => {
    const odd = new ExcelJS.Workbook();
    // Another sheet looks more like one to be filled.
    odd.addWorksheet('Wide').addRow(Array.from({ length: 30 }, (_, i) => `Heading ${i}`));
    const sheet = odd.addWorksheet('Items');
    sheet.addRows([['Pantry Lane'], headings, ['EXAMPLE-1']]);
    const bytes = new Uint8Array(await odd.xlsx.writeBuffer());
    expect((await bring(bytes, 'odd.xlsx', 'template?sheet=Items&firstRow=3')).body).toEqual({
      sheet: 'Items',
      firstRow: 3,
    });
    expect((await bring(bytes, 'odd again.xlsx')).body).toEqual({ sheet: 'Items', firstRow: 3 });
    await house.call('DELETE', `${m}/templates/template`);
    expect((await bring(bytes, 'odd.xlsx')).status).toBe(400);
    await bring(blank);
  });
  it('gives way to a newer one, and is forgotten', async () => {
    const before = await files();
    expect((await bring(blank, 'newer.xlsm')).status).toBe(200);
    expect([(await kept()).map((t) => t.name), await files()]).toEqual([['newer.xlsm'], before]);
    const [other, item] = await ready();
    expect((await build([other!.id])).fileName).toMatch(/^pantry_lane-.*\.xlsm$/);
    expect((await house.call('DELETE', `${m}/templates/template`)).status).toBe(200);
    expect([await kept(), await files()]).toEqual([[], before]);
    const { id, fileName } = await build([item!.id]);
    expect(fileName).toMatch(/\.xlsx$/);
    const book = await download(id);
    expect(book.worksheets.map((s) => s.name)).toEqual(['Items']);
    expect(rowsOf(book, 'Items')).toHaveLength(2);
  });
});

describe('templates of two categories', () => {
  const kettleHeads = ['Code', 'Name*', 'Price*', 'Photo*', 'Make*'];
  let kettles: Uint8Array, form: string;
  const going = () =>
    house.rows<{ id: number; category: string }>(
      `select l.id, l.category from listings l join markets k on k.id = l.market_id
        where k.key = 'pantry_lane' and l.planned @> '[{"operation": "create", "held": null}]' and l.in_flight = 0
        order by l.id`,
    );
  it('are forms of one market, the second put in force beside the first', async () => {
    kettles = await makeBlank(kettleHeads);
    const document = rulebookSchema.parse((await house.call('GET', `${m}/rulebook/document`)).body);
    const made = extendRulebook(
      document,
      await readBlank(kettles),
      { category: 'Kettles', columns: { 0: { field: 'sku' }, 4: { field: 'brand' } } },
      fields,
      '2026.12',
    );
    if ('faults' in made) throw new Error(made.faults.join());
    ({ form } = made);
    expect((await house.call('PUT', `${m}/rulebook`, made.document)).status).toBe(200);
    expect((await bring(kettles, 'kettles.xlsx', form)).status).toBe(200);
    expect((await bring(blank)).status).toBe(200);
    expect((await bring(kettles, 'kettles.xlsx', 'template')).status).toBe(400);
    const [own] = await house.rows<{ category: string }>(
      `select category from products where category <> 'Frying pans' group by 1 order by count(*) desc`,
    );
    await house.call('POST', `${m}/assign-category`, { ownCategory: own!.category, category: 'kettles' });
    await until(going, (rows) => new Set(rows.map((r) => r.category)).size === 2);
  });
  it('show what goes in each before it goes', async () => {
    const rows = await going();
    const count = (category: string) => rows.filter((r) => r.category === category).length;
    const look = (query = '') =>
      house.call<{ form: string; total: number; forms: { key: string; rows: number }[]; name: string; text: string }>(
        'GET',
        `${m}/plan/create/file${query}`,
      );
    const first = (await look()).body;
    expect(first.forms).toMatchObject([
      { key: 'template', rows: count('pans') },
      { key: form, rows: count('kettles') },
    ]);
    expect([first.form, first.total]).toEqual(['template', count('pans')]);
    const second = (await look(`?form=${form}`)).body;
    expect([second.form, second.total]).toEqual([form, count('kettles')]);
    expect(second.name).toMatch(/kettles/);
    expect([first.text.includes('Make*'), second.text.includes('Make*')]).toEqual([false, true]);
    expect((await look('?form=ghost')).status).toBe(404);
    const plan = (await house.call<{ files: Record<string, number> }>('GET', `${m}/plan`)).body;
    expect(plan.files['create']).toBe(2);
  });
  it('go in a file each, under the headings of each, and each is answered as what it is', async () => {
    const rows = await going();
    const r = await house.call<{ dispatches: { id: number; total: number; fileName: string; parts: number }[] }>(
      'POST',
      `${m}/dispatches`,
      { operation: 'create', ids: rows.map((x) => x.id), looked: true, by: 'hand', key: 'pantry-both' },
    );
    expect(r.body.dispatches.map((d) => d.parts)).toEqual([2, 2]);
    const [pans, others] = await Promise.all(r.body.dispatches.map((d) => download(d.id)));
    expect(rowsOf(pans!, 'Items')[1]).toEqual(headings);
    expect(rowsOf(others!, 'Items')[1]).toEqual(kettleHeads);
    expect(rowsOf(others!, 'Items')).toHaveLength(2 + rows.filter((x) => x.category === 'kettles').length);
    expect(rowsOf(others!, 'Items')[2]!.slice(1, 3)).toEqual([
      expect.stringMatching(/\w/),
      expect.stringMatching(/^\d+\.\d\d$/),
    ]);
    const [, second] = r.body.dispatches;
    const sku = rowsOf(others!, 'Items')[2]![0]!;
    await house.upload(
      'answer.csv',
      `line,sku,verdict,code,field,says\r\n1,${sku},refused,X1,Make*,Unknown\r\n`,
      `/dispatches/${second!.id}/receipt`,
    );
    const read = await house.call<{ refused: number }>('GET', `/dispatches/${second!.id}`);
    expect(read.body).toMatchObject({ refused: 1 });
    // The field is the one that stands under that heading in this form; the other has no such column.
    const refusals = await house.call<{ rows: object[] }>('GET', `/dispatches/${second!.id}/refusals`);
    expect(refusals.body.rows).toMatchObject([{ field: 'brand', fieldLabel: 'Brand', count: 1 }]);
  });
});
