import { readFileSync } from 'node:fs';
import { request } from 'node:http';
import { resolve } from 'node:path';
import ExcelJS from 'exceljs';
import { zipSync } from 'fflate';
import iconv from 'iconv-lite';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type House, openHouse, takeBack, until } from '../tests/house';

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
  it('short rows are read, what is missing is blank; a row that is too long is refused, for its cells may be pushed along', async () => {
    const { body } = await house.upload<Import>(
      'ragged.csv',
      'SKU,Title,Brand,Price\nRG-1,One\nRG-2,Two,B,3.50,extra,more\n,,\nRG-3\n',
    );
    const done = await wait(body.id, 'planned', 'failed');
    expect(done.counts).toMatchObject({ create: 1, refuse: 2 });
    expect(
      await house.rows(`select sku from import_rows where import_id = ? and problems @> '[{"kind": "pushed"}]'`, [
        body.id,
      ]),
    ).toEqual([{ sku: 'RG-2' }]);
  });
  it('formulas in cells are text, and guarded in what is written for people', async () => {
    const { body } = await house.upload<Import>('formula.csv', 'SKU,Title,Price\nF-1,"=HYPERLINK(""x"")",x\n');
    await wait(body.id, 'planned');
    const refused = await house.call<string>('GET', `/imports/${body.id}/refused.csv`);
    expect(refused.body).toContain(`"'=HYPERLINK(""x"")"`);
    expect(refused.headers.get('content-disposition')).toContain('attachment');
  });
  it('reads Japanese as it was written, and texts that were guarded against a spreadsheet', async () => {
    const { body } = await house.upload<Import>(
      'guarded.csv',
      iconv.encode(
        `SKU;GTIN;Title\n="FP-HEAR-24CM";="9520000001025";鉄のフライパン\n'FP-HEAR-28CM;;まるいなべ\n`,
        'shift_jis',
      ),
    );
    expect(body.reading).toMatchObject({ encoding: 'shift_jis', delimiter: ';' });
    await wait(body.id, 'planned');
    const { rows } = (
      await house.call<{ rows: { sku: string; action: string; changes: { field: string; after: string }[] }[] }>(
        'GET',
        `/imports/${body.id}/rows`,
      )
    ).body;
    expect(rows.map((r) => [r.sku, r.action, r.changes.find((c) => c.field === 'title')?.after])).toEqual([
      ['FP-HEAR-24CM', 'update', '鉄のフライパン'],
      ['FP-HEAR-28CM', 'update', 'まるいなべ'],
    ]);
    await house.call('DELETE', `/imports/${body.id}`);
  });
  it('reads an OpenDocument spreadsheet, one of its sheets or another', async () => {
    const spaces = ['office', 'table', 'text'].map(
      (n) => `xmlns:${n}="urn:oasis:names:tc:opendocument:xmlns:${n}:1.0"`,
    );
    const table = (name: string, rows: string[][]) =>
      `<table:table table:name="${name}">${rows
        .map(
          (r) =>
            `<table:table-row>${r.map((c) => `<table:table-cell office:value-type="string"><text:p>${c}</text:p></table:table-cell>`).join('')}</table:table-row>`,
        )
        .join('')}</table:table>`;
    const sheets =
      table('Prices', [
        ['SKU', 'Price'],
        ['FP-HEAR-24CM', '41.70'],
      ]) +
      table('Titles', [
        ['SKU', 'Title'],
        ['FP-HEAR-28CM', 'Another title'],
      ]);
    const content = `<office:document-content ${spaces.join(' ')}><office:body><office:spreadsheet>${sheets}</office:spreadsheet></office:body></office:document-content>`;
    const { body } = await house.upload<Import & { sheets: { name: string }[] }>(
      'prices.ods',
      Buffer.from(zipSync({ 'content.xml': new TextEncoder().encode(content) })),
    );
    expect(body.sheets.map((s) => s.name)).toEqual(['Prices', 'Titles']);
    await wait(body.id, 'planned');
    const changes = async () =>
      (
        await house.call<{ rows: { sku: string; changes: { field: string; after: string }[] }[] }>(
          'GET',
          `/imports/${body.id}/rows`,
        )
      ).body.rows.map((r) => [r.sku, r.changes[0]?.field, r.changes[0]?.after]);
    expect(await changes()).toEqual([['FP-HEAR-24CM', 'price', '41.70']]);
    const { reading } = (await house.call<{ reading: object }>('GET', `/imports/${body.id}`)).body;
    await house.call('PUT', `/imports/${body.id}/reading`, { ...reading, sheet: 'Titles' });
    await wait(body.id, 'planned');
    expect(await changes()).toEqual([['FP-HEAR-28CM', 'title', 'Another title']]);
    await house.call('DELETE', `/imports/${body.id}`);
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
    expect(await house.rows('select price from products where sku = ?', ['N-1'])).toEqual([{ price: '1.3000' }]);
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
    await takeBack(house, set!.id);
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
  it('refuses the rows that hold what cannot be kept, each with its reason, and writes the others', async () => {
    const rows = [
      'OK-1,Fine,3.50,4',
      'BAD-1,Dear,10000000000,1',
      'BAD-2,Many,1,2147483648',
      `${'S'.repeat(5000)},Long,1,1`,
      'BAD-3,In dollars,$12,1',
      'BAD-4,Zero \0 inside,1,1',
      'OK-2,Also fine,3.5,',
    ];
    const { body } = await house.upload<Import>('bad-cells.csv', `SKU,Title,Price,Stock\n${rows.join('\n')}\n`);
    const planned = await wait(body.id, 'planned', 'failed');
    expect(planned.counts).toMatchObject({ lines: 8, above: 1, rows: 7, create: 2, refuse: 5 });
    const { rows: refused } = (
      await house.call<{ rows: { row: number; problems: { field: string; kind: string; says: string }[] }[] }>(
        'GET',
        `/imports/${body.id}/rows?action=refuse`,
      )
    ).body;
    expect(refused.map((r) => [r.row, r.problems[0]!.field, r.problems[0]!.kind])).toEqual([
      [3, 'price', 'not-held'],
      [4, 'stock', 'not-held'],
      [5, 'sku', 'not-held'],
      [6, 'price', 'not-read'],
      [7, '', 'unreadable'],
    ]);
    await house.call('POST', `/imports/${body.id}/apply`);
    await wait(body.id, 'applied', 'failed');
    expect(await house.rows(`select sku from products where sku like 'OK-%' or sku like 'BAD-%' order by 1`)).toEqual([
      { sku: 'OK-1' },
      { sku: 'OK-2' },
    ]);
  });
  it('counts what went in against what came out, and says what a quotation mark has swallowed', async () => {
    const lines = Array.from({ length: 60 }, (_, i) => `SW-${i},Pan ${i},Brand,3.50`);
    lines[20] = 'SW-20,"Pan 20,Brand,3.50';
    lines[30] = 'SW-30,"Pan 30",Brand,3.50';
    // One row that is wider than the others does not make the table wider.
    lines[40] = 'SW-40,Pan, with lid,Brand,3.50';
    const { body } = await house.upload<Import>(
      'swallowed.csv',
      `SKU,Title,Brand,Price\n${lines.join('\n')}\n\nAll prices without tax and free to your door\n`,
    );
    const { counts } = await wait(body.id, 'planned');
    expect(counts).toMatchObject({
      lines: 53,
      above: 1,
      blank: 1,
      notes: 1,
      firstNote: 53,
      swallowed: 10,
      rows: 50,
      create: 48,
      refuse: 2,
    });
    expect(counts['rows']! + counts['swallowed']!).toBe(60);
  });
  it('reads rows that are longer than a sample of the file', async () => {
    const wide = (first: string, cell: (i: number) => string) =>
      [first, ...Array.from({ length: 16_383 }, (_, i) => cell(i))].join(',');
    const { body } = await house.upload<Import>(
      'wide.csv',
      `${wide('SKU', (i) => (i === 9 ? 'Title' : `Name of a column ${i}`))}\n${wide('WIDE-1', () => 'x')}\n${wide('WIDE-2', () => 'x')}\n`,
    );
    expect(body.reading.columns).toHaveLength(16_384);
    expect((await wait(body.id, 'planned')).counts).toMatchObject({ rows: 2, create: 2 });
    const more = await house.upload<Refusal>('wider.csv', `SKU${',x'.repeat(16_384)}\nA\n`);
    expect(more.body.message).toContain('Row 1 reaches column XFE; the last column of a sheet is XFD, the 16,384th.');
  });
  it('reads a file as Windows-1252 though its first umlaut stands behind 300 kB', async () => {
    const rows = Array.from({ length: 12_000 }, (_, i) => `LATE-${i};Pan number ${i};3,50`).join('\n');
    const { body } = await house.upload<Import>(
      'late.csv',
      Buffer.from(`SKU;Titel;Preis\n${rows}\nLATE-X;K\xfcchensieb;1,00\n`, 'latin1'),
    );
    expect(body.reading).toMatchObject({ encoding: 'windows-1252' });
    await wait(body.id, 'planned');
    expect(
      await house.rows(`select changes -> 0 ->> 'after' as t from import_rows where import_id = ? and sku = 'LATE-X'`, [
        body.id,
      ]),
    ).toEqual([{ t: 'Küchensieb' }]);
  });
  it('reads the price list of the demo, a workbook with a title over its header', async () => {
    const { body } = await house.upload<Import>(
      'winter-prices.xlsx',
      readFileSync(resolve(import.meta.dirname, '../../demo/files/winter-prices.xlsx')),
    );
    expect(body.reading).toMatchObject({ headerRow: 1, sheet: 'Winter prices' });
    expect((await wait(body.id, 'planned')).counts['rows']).toBe(40);
  });
  it('reads the sheet with the items, though instructions stand before it', async () => {
    const b = new ExcelJS.Workbook();
    b.addWorksheet('Empty');
    b.addWorksheet('How to').addRows([['How to fill this workbook'], ['Fill the sheet Items']]);
    const old = b.addWorksheet('Last year', { state: 'hidden' });
    old.addRows([
      ['SKU', 'Title'],
      ['OLD-1', 'Old'],
    ]);
    b.addWorksheet('Items').addRows([
      ['SKU', 'Title'],
      ['SHEET-1', 'Pan'],
    ]);
    const { body } = await house.upload<Import>('template.xlsx', new Uint8Array(await b.xlsx.writeBuffer()));
    expect(body.reading).toMatchObject({ sheet: 'Items' });
    expect((await wait(body.id, 'planned')).counts).toMatchObject({ rows: 1, create: 1 });
    // Where no sheet has any the first is shown, and the person chooses.
    const notes = new ExcelJS.Workbook();
    for (const name of ['One', 'Two']) notes.addWorksheet(name).addRows([['Remark'], ['Nice'], ['Good']]);
    const none = await house.upload<Import>('notes.xlsx', new Uint8Array(await notes.xlsx.writeBuffer()));
    expect(none.body.reading).toMatchObject({ sheet: 'One' });
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

describe('two writers', () => {
  const field = async (sku: string, name: string) =>
    (await house.rows<{ v: string }>(`select ${name} as v from products where sku = ?`, [sku]))[0]?.v;
  const edit = async (sku: string, name: string, after: string) => {
    const [p] = await house.rows<{ id: number; v: string }>(`select id, ${name} as v from products where sku = ?`, [
      sku,
    ]);
    const r = await house.call<{ applied: number }>('PATCH', '/products', {
      cells: [{ id: p!.id, field: name, before: p!.v, after }],
    });
    expect(r.body.applied).toBe(1);
  };
  const conflicts = async (id: number) =>
    (
      await house.call<{ rows: { row: number; sku: string; clash: string; conflicts: unknown[] }[] }>(
        'GET',
        `/imports/${id}/rows?action=conflict`,
      )
    ).body.rows.map(({ row, sku, clash, conflicts: c }) => ({ row, sku, clash, conflicts: c }));
  const make = async (name: string, text: string) => {
    const { body } = await house.upload<Import>(name, text);
    await wait(body.id, 'planned');
    return body.id;
  };
  const write = async (id: number) => {
    await house.call('POST', `/imports/${id}/apply`);
    return wait(id, 'applied', 'failed');
  };

  it('an import does not overwrite what a colleague changed since the file was read; it waits for a decision', async () => {
    await write(await make('base.csv', 'SKU,Title,Brand,MPN\nTW-A,Old title,Old,M1\nTW-B,Old title,Old,M1\n'));
    const id = await make('ours.csv', 'SKU,Title,Brand,MPN\nTW-A,File title,File,M1\nTW-B,File title,Old,M2\n');
    await edit('TW-A', 'title', 'Colleague title');
    await edit('TW-B', 'title', 'File title');
    const done = await write(id);
    // Theirs stays, what only the file changed is written, what both made the same is no conflict.
    expect(await field('TW-A', 'title')).toBe('Colleague title');
    expect(await field('TW-A', 'brand')).toBe('File');
    expect(await field('TW-B', 'mpn')).toBe('M2');
    expect(done.counts['conflicts']).toBe(1);
    expect(await conflicts(id)).toEqual([
      {
        row: 2,
        sku: 'TW-A',
        clash: 'changed',
        conflicts: [{ field: 'title', base: 'Old title', theirs: 'Colleague title', ours: 'File title' }],
      },
    ]);
    const decided = await house.call('POST', `/imports/${id}/decisions`, { take: 'file' });
    expect(decided.body).toMatchObject({ decided: 1 });
    expect((await wait(id, 'applied')).counts['conflicts']).toBe(0);
    expect(await field('TW-A', 'title')).toBe('File title');
  });
  it('a decision that came too late waits again, and may keep what stands there', async () => {
    const id = await make('late.csv', 'SKU,Title\nTW-A,From the file\n');
    await edit('TW-A', 'title', 'Second');
    await write(id);
    expect(await conflicts(id)).toMatchObject([{ clash: 'changed' }]);
    await edit('TW-A', 'title', 'Third');
    await house.call('POST', `/imports/${id}/decisions`, { take: 'file', rows: [2] });
    await wait(id, 'applied');
    expect(await field('TW-A', 'title')).toBe('Third');
    expect(await conflicts(id)).toMatchObject([{ conflicts: [{ theirs: 'Third', ours: 'From the file' }] }]);
    expect((await house.call('POST', `/imports/${id}/decisions`, { take: 'ours' })).body).toEqual({
      decided: 1,
      job: null,
    });
    expect(await conflicts(id)).toEqual([]);
    expect(await field('TW-A', 'title')).toBe('Third');
  });
  it('of two imports that add the same SKUs, none loses a row silently', async () => {
    const rows = (title: string) => Array.from({ length: 1200 }, (_, i) => `RACE-${i},${title} ${i}`).join('\n');
    const [a, b] = [await make('a.csv', `SKU,Title\n${rows('A')}\n`), await make('b.csv', `SKU,Title\n${rows('B')}\n`)];
    await Promise.all([a, b].map((id) => house.call('POST', `/imports/${id}/apply`)));
    const [x, y] = [await wait(a, 'applied', 'failed'), await wait(b, 'applied', 'failed')];
    const there = (await house.rows<{ n: number }>(`select count(*) as n from products where sku like 'RACE-%'`))[0]!.n;
    expect(there).toBe(1200);
    expect([x.state, y.state]).toEqual(['applied', 'applied']);
    expect(x.counts['conflicts']! + y.counts['conflicts']!).toBe(1200);
    const [first] = (await conflicts(x.counts['conflicts'] ? a : b)) as {
      clash: string;
      conflicts: { base: null }[];
    }[];
    expect(first).toMatchObject({ clash: 'added', conflicts: [{ field: 'title', base: null }] });
  });
  it('findings agree with what stands there after two writers at once', async () => {
    const [p] = await house.rows<{ id: number; title: string }>(
      `select id, title from products where sku = 'FP-HEAR-32CM'`,
    );
    let before = p!.title;
    for (let i = 0; i < 6; i++) {
      const after = `Title ${i} ${'x'.repeat(i * 50)}`;
      await Promise.all([
        house.call('PATCH', '/products', { cells: [{ id: p!.id, field: 'title', before, after }] }),
        house.call('PATCH', '/products', {
          cells: [
            {
              id: p!.id,
              field: 'mpn',
              before: i ? `M${i - 1}` : ((await field('FP-HEAR-32CM', 'mpn')) ?? null),
              after: `M${i}`,
            },
          ],
        }),
      ]);
      before = after;
    }
    const [row] = await house.rows<{ shown: string; typed: string; kept: number; counted: number }>(
      `select l."values" ->> 'title' as shown, p.title as typed, l.blockers + l.cautions + l.tips as kept,
          (select count(*)::int from findings f where f.listing_id = l.id) as counted
        from listings l join products p on p.id = l.product_id where p.id = ?`,
      [p!.id],
    );
    expect(row!.shown).toBe(row!.typed);
    expect(row!.kept).toBe(row!.counted);
    expect(row!.typed).toBe(before);
  });
});

describe('what hangs on what an import changes', () => {
  it('follows: who shared a barcode that a file corrects shares it no more', async () => {
    const [a, b] = await house.rows<{ id: number; sku: string; gtin: string }>(
      `select p.id, p.sku, p.gtin from products p where p.gtin is not null and p.id in (select min(q.id) from products q where q.kind = 'variant' group by q.parent_id)
        and exists (select 1 from listings l where l.product_id = p.id and l.market_id = 1 and l.category is not null) order by p.id desc limit 2`,
    );
    const isTwin = async (id: number) =>
      (
        await house.rows(
          `select 1 from findings f join listings l on l.id = f.listing_id where l.product_id = ? and f."check" = 'identifier-twice'`,
          [id],
        )
      ).length > 0;
    await house.call('PATCH', '/products', {
      cells: [{ id: a!.id, field: 'gtin', before: a!.gtin, after: b!.gtin }],
    });
    expect([await isTwin(a!.id), await isTwin(b!.id)]).toEqual([true, true]);
    const i = (await house.upload<Import>('right.csv', `SKU,GTIN,Price\r\n${a!.sku},${a!.gtin},\r\n`)).body;
    await wait(i.id, 'planned');
    await house.call('POST', `/imports/${i.id}/apply`);
    await wait(i.id, 'applied');
    expect([await isTwin(a!.id), await isTwin(b!.id)]).toEqual([false, false]);
  });
});

describe('an import taken back', () => {
  const setOf = async (name: string) =>
    (
      await house.rows<{ id: number }>('select id from change_sets where title = ? order by id desc', [
        `Import ${name}`,
      ])
    )[0]!.id;
  const run = async (name: string, text: string) => {
    const { body } = await house.upload<Import>(name, text);
    await wait(body.id, 'planned');
    await house.call('POST', `/imports/${body.id}/apply`);
    await wait(body.id, 'applied', 'failed');
    return setOf(name);
  };
  const stockOf = async (sku: string) =>
    (
      await house.rows<{ n: number }>(
        'select s.on_hand as n from stock s join products p on p.id = s.product_id where p.sku = ?',
        [sku],
      )
    )[0]?.n;
  it('removes what it added, keeps what was changed since, never puts stock back; brought back, it is all there again', async () => {
    const [pan] = await house.rows<{ id: number; price: string }>(
      `select id, price from products where sku = 'FP-HEAR-20CM'`,
    );
    const set = await run(
      'season.csv',
      'SKU,Family SKU,Title,Price,Stock,Colour\nTB-FAM,,A family,,,\nTB-1,TB-FAM,First,5.00,3,Red\nTB-2,TB-FAM,Second,5.00,4,Blue\nTB-3,,Third,6.00,5,\nTB-4,,Fourth,6.00,6,\nFP-HEAR-20CM,,,77.77,9,\n',
    );
    const [third] = await house.rows<{ id: number }>(`select id from products where sku = 'TB-3'`);
    await house.call('PATCH', '/products', {
      cells: [{ id: third!.id, field: 'mpn', before: null, after: 'touched' }],
    });
    const [fourth] = await house.rows<{ id: number }>(`select id from products where sku = 'TB-4'`);
    await house.rows(`update listings set market_state = 'live' where product_id = ? returning id`, [fourth!.id]);
    const counts = { restored: 1, stock: 1, changed: 0, removed: 3, keptChanged: 1, keptSent: 1, keptFamily: 0 };
    expect((await house.call('GET', `/change-sets/${set}/reversal`)).body).toMatchObject(counts);
    const back = await takeBack(house, set);
    expect(back.outcome).toMatchObject(counts);
    expect(await house.rows(`select sku, title from products where sku like 'TB-%' order by 1`)).toEqual([
      { sku: 'TB-3', title: 'Third' },
      { sku: 'TB-4', title: 'Fourth' },
    ]);
    expect(await house.rows('select price from products where id = ?', [pan!.id])).toEqual([{ price: pan!.price }]);
    // What was on the shelf before the import says nothing of what is there now.
    expect(await stockOf('FP-HEAR-20CM')).toBe(9);
    expect((await house.call<{ kept: unknown[] }>('GET', `/change-sets/${set}`)).body.kept).toEqual([
      { sku: 'TB-3', leftAs: 'changed' },
      { sku: 'TB-4', leftAs: 'sent' },
    ]);
    const again = await takeBack(house, back.id);
    expect(again.title).toBe('Brought back: Import season.csv');
    expect(again.outcome).toMatchObject({ restored: 1, recreated: 3, keptTaken: 0, stock: 0 });
    expect(
      await house.rows(
        `select p.sku, p.kind, q.sku as parent, p.price, p.facts ->> 'colour' as colour from products p left join products q on q.id = p.parent_id where p.sku like 'TB-%' order by 1`,
      ),
    ).toMatchObject([
      { sku: 'TB-1', kind: 'variant', parent: 'TB-FAM', price: '5.0000', colour: 'Red' },
      { sku: 'TB-2', kind: 'variant', parent: 'TB-FAM' },
      { sku: 'TB-3' },
      { sku: 'TB-4' },
      { sku: 'TB-FAM', kind: 'family', parent: null },
    ]);
    expect(await house.rows('select price from products where id = ?', [pan!.id])).toEqual([{ price: '77.7700' }]);
    expect(await stockOf('TB-1')).toBe(3);
    // And once more away.
    expect((await takeBack(house, again.id)).outcome).toMatchObject({ removed: 3, restored: 1 });
  });
  it('writes no more of its rows, though some waited for a decision', async () => {
    await run('first.csv', 'SKU,Title,Brand\nDEC-1,Base,Base\n');
    const { body } = await house.upload<Import>('second.csv', 'SKU,Title,Brand\nDEC-1,From the file,Changed\n');
    await wait(body.id, 'planned');
    await house.rows(`update products set title = 'Theirs', version = version + 1 where sku = 'DEC-1' returning id`);
    await house.call('POST', `/imports/${body.id}/apply`);
    expect((await wait(body.id, 'applied')).counts['conflicts']).toBe(1);
    await takeBack(house, await setOf('second.csv'));
    expect((await house.call('POST', `/imports/${body.id}/decisions`, { take: 'file' })).body).toMatchObject({
      code: 'not-now',
    });
    expect((await house.call('POST', `/imports/${body.id}/decisions`, { take: 'ours' })).body).toMatchObject({
      decided: 1,
    });
    expect(await house.rows(`select title, brand from products where sku = 'DEC-1'`)).toEqual([
      { title: 'Theirs', brand: 'Base' },
    ]);
  });
  it('is refused while it is still being written, and of any size', async () => {
    const rows = Array.from({ length: 1500 }, (_, i) => `BULK-${i},Bulk ${i},2.00`).join('\n');
    const set = await run('bulk.csv', `SKU,Title,Price\n${rows}\n`);
    await house.rows(`update imports set state = 'applying' where change_set_id = ? returning id`, [set]);
    expect((await house.call('POST', `/change-sets/${set}/reverse`)).body).toMatchObject({ code: 'not-now' });
    await house.rows(`update imports set state = 'applied' where change_set_id = ? returning id`, [set]);
    expect((await takeBack(house, set)).outcome).toMatchObject({ removed: 1500, restored: 0 });
    expect(await house.rows(`select 1 from products where sku like 'BULK-%'`)).toEqual([]);
  });
});

describe('a new family in a file', () => {
  it('leaves what belongs to its variants out, says so, and is written without it', async () => {
    const file = [
      'SKU;Family SKU;Title;Price;Barcode;Colour',
      'NF-1;;Jug;24,99;9520000000103;',
      'NF-1-R;NF-1;Jug, red;24,99;9520000000110;Red',
      'NF-1-B;NF-1;Jug, blue;25,99;9520000000127;Blue',
      'NF-2;;Bowl;12,50;9520000000134;Red',
    ].join('\n');
    const up = await house.upload<Import>('families.csv', file);
    await wait(up.body.id, 'planned');
    const { rows } = (
      await house.call<{
        rows: { sku: string; changes: { field: string }[]; problems: { field: string; says: string }[] }[];
      }>('GET', `/imports/${up.body.id}/rows`)
    ).body;
    const of = (sku: string) => rows.find((r) => r.sku === sku)!;
    expect(
      of('NF-1')
        .changes.map((c) => c.field)
        .sort(),
    ).toEqual(['title']);
    expect(of('NF-1').problems.map((p) => p.says)).toContain(
      'Price “24.99” is left out: it belongs to the variants of this family.',
    );
    for (const sku of ['NF-1-R', 'NF-2']) expect(of(sku).changes.map((c) => c.field)).toContain('price');
    await house.call('POST', `/imports/${up.body.id}/apply`);
    await wait(up.body.id, 'applied');
    expect(
      await house.rows(`select sku, kind, price::text, gtin from products where sku like 'NF-%' order by sku`),
    ).toEqual([
      { sku: 'NF-1', kind: 'family', price: null, gtin: null },
      { sku: 'NF-1-B', kind: 'variant', price: '25.9900', gtin: '9520000000127' },
      { sku: 'NF-1-R', kind: 'variant', price: '24.9900', gtin: '9520000000110' },
      { sku: 'NF-2', kind: 'single', price: '12.5000', gtin: '9520000000134' },
    ]);
  });
});
