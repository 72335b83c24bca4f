import { readFileSync } from 'node:fs';
import { request } from 'node:http';
import { resolve } from 'node:path';
import ExcelJS from 'exceljs';
import { zipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type House, openHouse, until } from '../tests/house';

let house: House;
beforeAll(async () => {
  house = await openHouse('imports_test');
});
afterAll(async () => {
  await house.close();
});

interface Import {
  id: number;
  state: string;
  fault: string | null;
  counts: Record<string, number>;
  reading: Record<string, unknown> & { columns: { index: number; field: string | null }[] };
}
interface Refusal {
  code: string;
  message: string;
  field: string | null;
  remedy: string | null;
}
const wait = (id: number, ...states: string[]) =>
  until(
    async () => (await house.call<Import>('GET', `/imports/${id}`)).body,
    (i) => states.includes(i.state),
  );
const count = async () => Number((await house.rows<{ n: number }>('select count(*) as n from products'))[0]!.n);
const snapshot = () =>
  house.rows<{ h: string }>(`select md5(string_agg(p::text, '' order by id)) as h from products p`);

describe('a broken file gets a clear sentence and changes nothing', () => {
  const bomb = () =>
    zipSync({
      '[Content_Types].xml': new Uint8Array(10),
      'xl/workbook.xml': new TextEncoder().encode(
        '<workbook xmlns:r="r"><sheets><sheet name="x" r:id="r1"/></sheets></workbook>',
      ),
      'xl/_rels/workbook.xml.rels': new TextEncoder().encode(
        '<Relationships><Relationship Id="r1" Target="worksheets/sheet1.xml"/></Relationships>',
      ),
      'xl/worksheets/sheet1.xml': new Uint8Array(12_000_000).fill(32),
    });
  it.each<[string, string, () => Uint8Array | string, RegExp]>([
    ['an empty file', 'empty.csv', () => '', /“empty.csv” is empty/],
    [
      'a picture',
      'photo.csv',
      () => Buffer.from('89504e470d0a1a0a0000000d49484452', 'hex'),
      /is a PNG picture; rows are read from text files/,
    ],
    [
      'bytes',
      'bytes.csv',
      () => Buffer.from(Array.from({ length: 500 }, (_, i) => (i * 37) % 256)),
      /is a file of bytes/,
    ],
    ['an old workbook', 'old.xls', () => Buffer.from('d0cf11e0a1b11ae10000000000000000', 'hex'), /old binary workbook/],
    [
      'a zip that is no workbook',
      'stuff.xlsx',
      () => zipSync({ 'a.txt': new Uint8Array(3) }),
      /zip archive, not a workbook/,
    ],
    ['a zip that pretends', 'bomb.xlsx', bomb, /unpacks to far more than its size/],
    [
      'a workbook cut short',
      'cut.xlsx',
      () => readFileSync(resolve(import.meta.dirname, '../../demo/files/winter-prices.xlsx')).subarray(0, 3000),
      /cannot be read/,
    ],
    ['a header without rows', 'head.csv', () => 'SKU;Title\n', /has a header but no rows/],
    ['only blanks', 'blank.csv', () => '\n\n ; ; \n', /holds no rows/],
  ])('%s', async (_, name, bytes, says) => {
    const before = await snapshot();
    const r = await house.upload<Refusal>(name, bytes());
    expect(r.status).toBe(422);
    expect(r.body.message).toMatch(says);
    expect(r.body.remedy).toMatch(/\w{3}/);
    expect(await snapshot()).toEqual(before);
    expect(await house.rows('select 1 from files where name = ?', [name])).toEqual([]);
  });
  it('300 MB, at once and without reading it', async () => {
    const answer = await new Promise<{ status: number; text: string }>((done, fail) => {
      const r = request(
        `${house.base}/api/imports`,
        {
          method: 'POST',
          headers: { 'Content-Type': 'multipart/form-data; boundary=x', 'Content-Length': 300_000_000 },
        },
        (res) => {
          let text = '';
          res.on('data', (d: Buffer) => {
            text += d.toString();
          });
          res.on('end', () => {
            r.destroy();
            done({ status: res.statusCode!, text });
          });
        },
      );
      r.on('error', fail);
      r.write('--x\r\n');
    });
    expect(answer.status).toBe(413);
    expect(answer.text).toContain('The file has 300 MB; 250 MB are the most');
  });
  it('no file at all', async () => {
    expect((await house.call<Refusal>('POST', '/imports', {})).body.message).toMatch(/multipart/);
  });
  it('ragged rows are read, what is missing is blank', async () => {
    const { body } = await house.upload<Import>(
      'ragged.csv',
      'SKU,Title,Brand,Price\nRG-1,One\nRG-2,Two,B,3.50,extra,more\n,,\nRG-3\n',
    );
    const done = await wait(body.id, 'planned', 'failed');
    expect(done.counts).toMatchObject({ create: 2, refuse: 1 });
  });
  it('formulas in cells are text, and guarded in what is written for people', async () => {
    const { body } = await house.upload<Import>('formula.csv', 'SKU,Title,Price\nF-1,"=HYPERLINK(""x"")",x\n');
    await wait(body.id, 'planned');
    const refused = await house.call<string>('GET', `/imports/${body.id}/refused.csv`);
    expect(refused.body).toContain(`"'=HYPERLINK(""x"")"`);
    expect(refused.headers.get('content-disposition')).toContain('attachment');
  });
  it('text in the wrong encoding is shown, and read right when corrected', async () => {
    const { body } = await house.upload<Import>(
      'latin.csv',
      Buffer.from('SKU;Titel;Preis\nE-1;Teesieb f\xfcr K\xe4nnchen;3,50\n', 'latin1'),
    );
    expect(body.reading).toMatchObject({ encoding: 'windows-1252', delimiter: ';' });
    await wait(body.id, 'planned');
    const rows = await house.call<{ rows: { changes: { field: string; after: string }[] }[] }>(
      'GET',
      `/imports/${body.id}/rows`,
    );
    expect(rows.body.rows[0]!.changes).toContainEqual({ field: 'title', before: null, after: 'Teesieb für Kännchen' });
  });
});

describe('an import', () => {
  it('is planned, corrected, planned anew and written as a job; a second writing is refused', async () => {
    const n = await count();
    const { body } = await house.upload<Import>('new.csv', 'Code,Name,Price\nN-1,First,1.299\nN-2,Second,2.500\n');
    const first = await wait(body.id, 'planned');
    expect(first.reading['decimalSign']).toBe('undetermined');
    expect(await house.call<Refusal>('POST', `/imports/${body.id}/apply`)).toMatchObject({
      status: 400,
      body: { field: 'decimalSign' },
    });
    expect(
      (
        await house.call('PUT', `/imports/${body.id}/reading`, {
          ...first.reading,
          columns: first.reading.columns.map((c) => ({ ...c, field: c.field === 'sku' ? null : c.field })),
        })
      ).body,
    ).toMatchObject({ code: 'bad-input', field: 'columns' });
    await house.call('PUT', `/imports/${body.id}/reading`, { ...first.reading, decimalSign: '.' });
    await wait(body.id, 'planned');
    expect(await count()).toBe(n);
    expect((await house.call('POST', `/imports/${body.id}/apply`)).status).toBe(200);
    expect((await house.call('POST', `/imports/${body.id}/apply`)).status).toBe(409);
    await wait(body.id, 'applied');
    expect(await count()).toBe(n + 2);
    expect(await house.rows('select price from products where sku = ?', ['N-1'])).toEqual([{ price: '1.2990' }]);
    expect(
      await house.rows('select l.id from listings l join products p on p.id = l.product_id where p.sku = ?', ['N-1']),
    ).toHaveLength(1);
  });
  it('can be taken back as one change set', async () => {
    const [pan] = await house.rows<{ id: number; price: string }>(
      `select id, price from products where sku = 'FP-HEAR-28CM'`,
    );
    const { body } = await house.upload<Import>('prices.csv', 'SKU,Price\nFP-HEAR-28CM,99.99\n');
    await wait(body.id, 'planned');
    await house.call('POST', `/imports/${body.id}/apply`);
    await wait(body.id, 'applied');
    const [set] = await house.rows<{ id: number; cells: number }>(
      `select id, cells from change_sets where title = 'Import prices.csv'`,
    );
    expect(set!.cells).toBe(1);
    await house.call('POST', `/change-sets/${set!.id}/reverse`);
    expect(await house.rows('select price from products where id = ?', [pan!.id])).toEqual([{ price: pan!.price }]);
  });
  it('applies only what the file changes: a cell changed here meanwhile that the file does not name stays', async () => {
    const { body } = await house.upload<Import>('stock.csv', 'SKU,Stock\nFP-HEAR-24CM,7\n');
    await wait(body.id, 'planned');
    await house.rows(`update products set title = 'Changed meanwhile' where sku = 'FP-HEAR-24CM' returning id`);
    await house.call('POST', `/imports/${body.id}/apply`);
    await wait(body.id, 'applied');
    expect(
      await house.rows(
        `select p.title, s.on_hand from products p join stock s on s.product_id = p.id where sku = 'FP-HEAR-24CM'`,
      ),
    ).toEqual([{ title: 'Changed meanwhile', on_hand: 7 }]);
  });
  it('reads the price list of the demo, a workbook with a title over its header', async () => {
    const { body } = await house.upload<Import>(
      'winter-prices.xlsx',
      readFileSync(resolve(import.meta.dirname, '../../demo/files/winter-prices.xlsx')),
    );
    expect(body.reading).toMatchObject({ headerRow: 1, sheet: 'Winter prices' });
    expect((await wait(body.id, 'planned')).counts['rows']).toBe(40);
  });
  it('of a large workbook keeps every cell, umlauts too', async () => {
    const b = new ExcelJS.Workbook();
    const s = b.addWorksheet('x');
    s.addRow(['SKU', 'Title', 'Marke']);
    for (let i = 0; i < 3000; i++) s.addRow([`XL-${i}`, `Größe ${i} für Küche`, 'Fräulein Töpfer']);
    const { body } = await house.upload<Import>('large.xlsx', new Uint8Array(await b.xlsx.writeBuffer()));
    const done = await wait(body.id, 'planned');
    expect(done.counts['create']).toBe(3000);
    expect(
      await house.rows(
        `select count(*)::int as n
          from import_rows
          where import_id = ? and changes::text like '%Größe%für Küche%' and changes::text like '%Fräulein Töpfer%'`,
        [body.id],
      ),
    ).toEqual([{ n: 3000 }]);
  });
  it('is dropped with its file', async () => {
    const { body } = await house.upload<Import>('gone.csv', 'SKU,Title\nG-1,Gone\n');
    await wait(body.id, 'planned');
    expect((await house.call('DELETE', `/imports/${body.id}`)).body).toEqual({ ok: true });
    expect((await house.call('GET', `/imports/${body.id}`)).status).toBe(404);
    expect(await house.rows('select 1 from files where name = ?', ['gone.csv'])).toEqual([]);
  });
});
