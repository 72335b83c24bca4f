// A market that takes a workbook by hand and answers with one: the file that leaves the house, and the answer given back.
import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import ExcelJS from 'exceljs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type House, openHouse, until } from '../tests/house';
import { openSending, ready } from '../tests/sending';

type Loose = Record<string, unknown>;
const document = JSON.parse(
  readFileSync(resolve(import.meta.dirname, '../../docs/examples/thimble-row.json'), 'utf8'),
) as { market: { key: string; name: string }; forms: Loose[]; answers: Loose[] };
Object.assign(document.market, { key: 'needle_row', name: 'Needle Row' });
Object.assign(document.forms[0]!, {
  container: { kind: 'workbook', sheet: 'The stall', heads: [{ row: 'labels' }, { row: 'keys' }] },
  fileName: 'stall-{stamp}.xlsx',
});
document.answers[0]!['container'] = { kind: 'workbook', sheet: 'Reply', heads: [{ row: 'keys' }] };

/** The same by text, in files of few bytes. */
const small = JSON.parse(
  readFileSync(resolve(import.meta.dirname, '../../docs/examples/thimble-row.json'), 'utf8'),
) as typeof document;
Object.assign(small.market, { key: 'pin_row', name: 'Pin Row' });
const mostBytes = 2500;
for (const form of small.forms) form['maxBytes'] = mostBytes;

let house: House, stall: ReturnType<typeof openSending>;
beforeAll(async () => {
  house = await openHouse('workbook_test', { size: 60 });
  for (const added of [document, small]) await house.call('POST', '/markets', { document: added });
  await until(
    () =>
      house.rows<{ n: number }>(
        `select checks_from as n from markets where key in ('needle_row', 'pin_row') and revision > 0`,
      ),
    (all) => all.length === 2 && all.every((m) => m.n === 1),
  );
  stall = openSending(house, 'needle_row');
});
afterAll(() => house.close());
const placed = async () => {
  await house.call('POST', '/markets/needle_row/assign-category', { ownCategory: 'Frying pans', category: 'kitchen' });
  return stall.loadItems(ready('create'));
};

describe('a market of workbooks', () => {
  it('gets a workbook with texts as texts, which is shown as a table before', async () => {
    const items = (await placed()).slice(0, 3);
    expect(items.length).toBeGreaterThan(1);
    const look = (
      await house.call<{ looks: { as: string; delimiter: null; rows: string[][]; heads: number } }>(
        'GET',
        '/markets/needle_row/plan/create/file',
      )
    ).body;
    expect(look.looks).toMatchObject({ as: 'table', delimiter: null, heads: 2 });
    const dispatch = await stall.build(
      'create',
      items.map((i) => i.id),
      'hand',
    );
    expect(dispatch.fileName).toMatch(/^stall-.*\.xlsx$/);
    const file = await fetch(`${house.base}/api/dispatches/${dispatch.id}/file`);
    expect(file.headers.get('content-type')).toBe('application/vnd.openxmlformats-officedocument.spreadsheetml.sheet');
    const workbook = new ExcelJS.Workbook();
    await workbook.xlsx.load((await file.arrayBuffer()) as never);
    const sheet = workbook.getWorksheet('The stall')!;
    expect(sheet.rowCount).toBe(2 + items.length);
    expect(sheet.getRow(2).getCell(2).value).toBe('no');
    const barcode = sheet.getRow(3).getCell(7);
    expect([barcode.type, barcode.value]).toEqual([ExcelJS.ValueType.String, items[0]!.values['barcode']]);
  });
  it('answers with one, which is read; what is none is refused and changes nothing', async () => {
    const [dispatch] = await house.rows<{ id: number; total: number }>(
      'select id, total from dispatches order by id desc limit 1',
    );
    const lines = await house.rows<{ line: number; sku: string }>(
      'select line, sku from dispatch_lines where dispatch_id = ? order by line',
      [dispatch!.id],
    );
    const wrong = await house.upload('reply.xlsx', 'not a workbook', `/dispatches/${dispatch!.id}/receipt`);
    expect(wrong.status).toBe(400);
    expect((await stall.read(dispatch!.id)).state).toBe('by hand');
    const workbook = new ExcelJS.Workbook();
    workbook
      .addWorksheet('Reply')
      .addRows([
        ['line', 'no', 'reply', 'why', 'where', 'place'],
        ...lines.map(({ line, sku }) =>
          line === 1 ? [line, sku, 'no', 'photo', 'photos', ''] : [line, sku, 'yes', '', '', `T-${line}`],
        ),
      ]);
    const answered = await house.upload(
      'reply.xlsx',
      new Uint8Array(await workbook.xlsx.writeBuffer()),
      `/dispatches/${dispatch!.id}/receipt`,
    );
    expect(answered.status).toBe(200);
    expect(await stall.read(dispatch!.id)).toMatchObject({
      state: 'answered',
      accepted: dispatch!.total - 1,
      refused: 1,
    });
  });
});

describe('a market whose files may have few bytes', () => {
  it('gets as many as are needed, none of them larger, with every row in one of them', async () => {
    await house.call('POST', '/markets/pin_row/assign-category', { ownCategory: 'Frying pans', category: 'kitchen' });
    const pins = openSending(house, 'pin_row');
    const items = await pins.loadItems(ready('create'));
    const built = await house.call<{ dispatches: { id: number; total: number; fileName: string }[] }>(
      'POST',
      '/markets/pin_row/dispatches',
      { operation: 'create', by: 'hand', key: 'few-bytes-of-pin-row' },
    );
    const { dispatches } = built.body;
    expect(dispatches.length).toBeGreaterThan(2);
    const files = await Promise.all(
      dispatches.map(async (d) =>
        Buffer.from(await (await fetch(`${house.base}/api/dispatches/${d.id}/file`)).arrayBuffer()),
      ),
    );
    expect(Math.max(...files.map((f) => f.length))).toBeLessThanOrEqual(mostBytes);
    // Not divided more than it takes: two that follow one another would not go into one.
    for (const [i, f] of files.entries()) if (i > 0) expect(f.length + files[i - 1]!.length).toBeGreaterThan(mostBytes);
    expect(dispatches.reduce((n, d) => n + d.total, 0)).toBe(items.length);
    expect(files.every((f) => f.toString('utf8').startsWith(files[0]!.toString('utf8').split('\n', 1)[0]!))).toBe(true);
  });
});
