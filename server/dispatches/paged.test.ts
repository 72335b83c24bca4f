// A market over lines of JSON: known by a key, with a quota, answering in pages; families by key, floor and ceiling,
// moments; through the whole path.
import { readFileSync } from 'node:fs';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { openFile } from '../files';
import { type House, openHouse, until } from '../tests/house';
import { openSending, ready } from '../tests/sending';

let house: House;
let cedarpost: ReturnType<typeof openSending>;
const m = '/markets/cedarpost';
const key = 'brindlewick-desk';
const entry = (sku: string) => house.cedarpost!.shelf.memory.entries[sku]?.record as Record<string, never> | undefined;
beforeAll(async () => {
  house = await openHouse('paged_test', { size: 160, with: ['cedarpost'] });
  cedarpost = openSending(house, 'cedarpost');
});
afterEach(() => {
  Object.assign(house.cedarpost!.moods, { failNext: 0, garbageNext: 0, hangUpNext: 0, forgetNext: 0, slowMs: 0 });
});
afterAll(() => house.close());
const linesOf = async (id: number) =>
  (await cedarpost.textOf(id))
    .trim()
    .split('\n')
    .map((l) => JSON.parse(l) as Record<string, never>);

describe('a market of lines of JSON', () => {
  it('takes prices in its own money, sizes in its own units, and plain words, from the product', async () => {
    const [item] = await cedarpost.loadItems(`${ready('create')} and p.kind <> 'family'`);
    expect(item!.values['box_l']).toMatch(/^\d+(\.\d{1,2})? in$/);
    expect(item!.values['box_weight']).toMatch(/^\d+(\.\d{1,2})? lb$/);
    expect(item!.values['story']).not.toContain('<');
    const [product] = await house.rows<{ usd: string }>(
      `select facts ->> 'price@usd' as usd from products where id = ?`,
      [item!.product_id],
    );
    expect(item!.values['ask']).toBe(product!.usd);
  });
  it('is sent a family head first, each member under it, in objects with exact numbers', async () => {
    const [head] = await cedarpost.loadItems(`${ready('create')} and p.kind = 'family'`);
    const members = await cedarpost.loadItems(`${ready('create')} and p.parent_id = ?`, head!.product_id);
    expect(members.length).toBeGreaterThan(1);
    const d = await cedarpost.send(
      'create',
      [head!, ...members].map((i) => i.id),
    );
    expect(d).toMatchObject({ state: 'answered', accepted: members.length + 1, refused: 0 });
    const [first, second] = await linesOf(d.id);
    expect(first).toMatchObject({ act: 'add', ref: head!.sku, kin: { part: 'head' } });
    expect(first).not.toHaveProperty('worth');
    expect(second).toMatchObject({ act: 'add', kin: { of: head!.sku, part: 'member' } });
    expect((await cedarpost.textOf(d.id)).split('\n')[1]).toContain(
      `"ask":${Number(members[0]!.values['ask']).toFixed(2)}`,
    );
    await until(
      () =>
        cedarpost.loadItems(
          'l.id = any(?)',
          [head!, ...members].map((i) => i.id),
        ),
      (rows) => rows.every((r) => r.market_state === 'live'),
    );
    const [row] = await cedarpost.loadItems('l.id = ?', members[0]!.id);
    const link = (await house.call<{ rows: { link: string }[] }>('GET', `${m}/shelf?q=${row!.sku}`)).body.rows[0]!.link;
    expect(link).toMatch(/\/goods\/G\d+$/);
    expect(await (await fetch(link)).text()).toContain('Cedarpost');
  });
  it('revises only what changed, and empties a field with null', async () => {
    const item = await cedarpost.quiet(`p.kind <> 'family' and l."values" ->> 'points' is not null`);
    const points = item.values['points'] as never;
    expect((await cedarpost.patch(item.id, 'points', points, '')).status).toBe(200);
    await cedarpost.patch(item.id, 'name', item.values['name']!, `${item.values['name']!} II`);
    const d = await cedarpost.send('revise', [item.id]);
    expect(d).toMatchObject({ state: 'answered', accepted: 1 });
    const [line] = await linesOf(d.id);
    expect(line!['say']).toEqual({ name: `${item.values['name']!} II`, points: null });
    expect(line).not.toHaveProperty('photos');
    expect(entry(item.sku)).toMatchObject({ say: { name: `${item.values['name']!} II` } });
    expect((entry(item.sku) as unknown as { say: object }).say).not.toHaveProperty('points');
  });
  it('sends a sale with the moments at which it begins and ends there', async () => {
    const item = await cedarpost.quiet(`p.kind <> 'family'`);
    const sale = (Number(item.values['ask']) * 0.9).toFixed(2);
    const change = await house.call('PATCH', '/products', {
      cells: [
        { id: item.product_id, field: 'sale_start', before: null, after: '2026-11-27' },
        { id: item.product_id, field: 'sale_end', before: null, after: '2026-11-30' },
      ],
    });
    expect(change.status).toBe(200);
    await cedarpost.patch(item.id, 'deal', null, sale);
    await until(
      () => cedarpost.loadItems(`l.id = ? and ${ready('price')}`, item.id),
      (rows) => rows[0]?.values['deal_until'] !== undefined,
    );
    const d = await cedarpost.send('price', [item.id]);
    expect(d).toMatchObject({ state: 'answered', accepted: 1 });
    expect((await linesOf(d.id))[0]).toEqual({
      ref: item.sku,
      worth: { deal: { ask: Number(sale), from: '2026-11-27T00:00:00-07:00', until: '2026-11-30T23:59:59-07:00' } },
    });
  });
  it('holds floor and ceiling before the market does', async () => {
    const item = await cedarpost.quiet(`p.kind <> 'family'`);
    const above = (Number(item.values['ask']) + 5).toFixed(2);
    await cedarpost.patch(item.id, 'least', null, above);
    const causes = await house.call<{ rows: { check: string; message: string }[] }>('GET', `${m}/causes`);
    expect(causes.body.rows.map((c) => `${c.check}/${c.message}`)).toEqual(
      expect.arrayContaining(['price-rules/underFloor', 'demanded-missing/must']),
    );
    await cedarpost.patch(item.id, 'least', above, null);
  });
  it('lights every field that a line was refused for', async () => {
    const item = await cedarpost.quiet(`p.kind <> 'family'`);
    // What stands there is not what we believe, so that a revision that is right in itself makes no right entry.
    const there = house.cedarpost!.shelf.memory.entries[item.sku]!;
    const { photos: _, ...rest } = there.record;
    there.record = { ...rest, box: { l: 500, w: 1, h: 1, lb: 1 } };
    await cedarpost.patch(item.id, 'name', item.values['name']!, `${item.values['name']!} B`);
    const d = await cedarpost.send('revise', [item.id]);
    expect(d).toMatchObject({ state: 'answered', refused: 1 });
    const [line] = await cedarpost.linesOf(d.id);
    expect([line!, ...line!.more].map((f) => [f.code, f.field])).toEqual([
      ['n_missing', 'photos'],
      ['n_form', 'box_l'],
    ]);
  });
  it('withdraws and restores by the keys alone', async () => {
    const item = await cedarpost.quiet(`p.kind <> 'family'`);
    await house.call('POST', `${m}/listings/wish`, { ids: [item.id], wish: 'withdraw' });
    const down = await cedarpost.send('withdraw', [item.id]);
    expect(await linesOf(down.id)).toEqual([expect.objectContaining({ act: 'shelve', ref: item.sku })]);
    await until(
      () => cedarpost.loadItems('l.id = ?', item.id),
      (r) => r[0]!.market_state === 'withdrawn',
    );
    await house.call('POST', `${m}/listings/wish`, { ids: [item.id], wish: 'restore' });
    const up = await cedarpost.send('restore', [item.id]);
    expect(up).toMatchObject({ state: 'answered', accepted: 1 });
    await until(
      () => cedarpost.loadItems('l.id = ?', item.id),
      (r) => r[0]!.market_state === 'live',
    );
  });
  it('that is turned down stands there to be revised, and is looked at again', async () => {
    const item = await cedarpost.quiet(`p.kind <> 'family'`);
    const there = house.cedarpost!.shelf.memory.entries[item.sku]!;
    Object.assign(there, { standing: 'turned_down', because: 'We doubt it.' });
    house.cedarpost!.shelf.touch(there);
    const become = (state: string) =>
      until(
        () => cedarpost.loadItems('l.id = ?', item.id),
        (r) => r[0]!.market_state === state,
      );
    await cedarpost.look();
    await become('refused');
    const shelf = await house.call<{ rows: { sku: string; reason: string }[] }>('GET', `${m}/shelf?state=refused`);
    expect(shelf.body.rows).toMatchObject([{ sku: item.sku, reason: 'We doubt it.' }]);
    await cedarpost.patch(item.id, 'name', item.values['name']!, `${item.values['name']!} III`);
    expect(await cedarpost.send('revise', [item.id])).toMatchObject({ accepted: 1 });
    await become('live');
  });
  it('shows a file before it goes as a tree, with what changed lit', async () => {
    const item = await cedarpost.quiet(`p.kind <> 'family'`);
    await cedarpost.patch(item.id, 'state', item.values['state']!, 'opened');
    const r = await house.call<{
      encoding: string;
      looks: {
        as: string;
        records: { sku: string; branches: { name: string; depth: number; isChanged: boolean }[] }[];
      };
    }>('GET', `${m}/plan/revise/file`);
    const { looks, encoding } = r.body;
    expect([looks.as, encoding]).toEqual(['tree', 'utf-8']);
    const record = looks.records.find((x) => x.sku === item.sku)!;
    expect(record.branches.filter((b) => b.isChanged)).toEqual([
      { depth: 0, name: 'state', cell: 'opened', isChanged: true },
    ]);
    await cedarpost.patch(item.id, 'state', 'opened', item.values['state']!);
  });
});

describe('an answer in pages', () => {
  it('is read to its last page, and not believed where a page is garbage or another file’s', async () => {
    const items = (
      await cedarpost.loadItems(`l.market_state = 'live' and l.in_flight = 0 and p.kind <> 'family'`)
    ).slice(0, 3);
    for (const i of items)
      await cedarpost.patch(i.id, 'on_hand', i.values['on_hand']!, String(Number(i.values['on_hand']) + 7));
    const d = await cedarpost.build(
      'stock',
      items.map((i) => i.id),
      'hand',
    );
    const give = (text: string) => house.upload<{ message: string }>('a.json', text, `/dispatches/${d.id}/receipt`);
    const line = (n: number) => ({ n, ref: items[n]!.sku, went: 'in' });
    const page = (lines: object[], more: object = {}) =>
      JSON.stringify({ whole: true, file: d.fileName, records: 3, lines, ...more });
    const sent = (await linesOf(d.id)).map((l) => String(l['ref']));
    items.sort((a, b) => sent.indexOf(a.sku) - sent.indexOf(b.sku));
    expect((await give('<html>')).body.message).toContain('no JSON');
    expect((await give(page([line(0)], { file: 'other.jsonl' }))).body.message).toContain('other.jsonl');
    expect((await give(page([line(0)], { records: 9 }))).body.message).toContain('with 9 rows');
    expect((await give(page([{ ...line(0), ref: 'STRANGER' }]))).body.message).toContain('STRANGER');
    const two = `${page([line(0), line(1)], { next: '2' })}\n${page([line(2)])}`;
    expect((await give(two)).status).toBe(200);
    expect(await cedarpost.read(d.id)).toMatchObject({ state: 'answered', accepted: 3 });
  });
  it('is fetched page by page from the market', async () => {
    const many = await cedarpost.loadItems(`l.market_state = 'live' and l.in_flight = 0 and p.kind <> 'family'`);
    for (const i of many)
      await cedarpost.patch(i.id, 'on_hand', i.values['on_hand']!, String(Number(i.values['on_hand']) + 3));
    const going = await cedarpost.loadItems(ready('stock'));
    // Eight lines make a page here.
    expect(going.length).toBeGreaterThan(16);
    const d = await cedarpost.send(
      'stock',
      going.map((i) => i.id),
    );
    expect(d).toMatchObject({ state: 'answered', accepted: going.length });
    const [kept] = await house.rows<{ file: number }>('select receipt_file_id as file from dispatches where id = ?', [
      d.id,
    ]);
    let receipt = '';
    for await (const chunk of openFile(house.db, kept!.file)()) receipt += Buffer.from(chunk).toString('utf8');
    expect(receipt.split('\n')).toHaveLength(Math.ceil(going.length / 8));
  });
});

describe('the key of a market', () => {
  it('is kept apart: said to be there, never read out, not in the history, not in the log', async () => {
    const r = await house.call<{ asksKey: boolean; keySince: string }>('GET', m);
    expect(r.body).toMatchObject({ asksKey: true, keySince: expect.any(String) as string });
    expect(JSON.stringify(r.body)).not.toContain(key);
    const secret = 'another-key-0815';
    expect((await house.call('PATCH', m, { secret })).status).toBe(200);
    const everywhere = await Promise.all(
      ['/history?limit=50', m, '/markets', '/jobs'].map((p) => house.call('GET', p)),
    );
    expect(JSON.stringify(everywhere.map((e) => e.body))).not.toContain(secret);
    expect(JSON.stringify(everywhere[0]!.body)).toContain('"key"');
    const elsewhere = await house.rows<{ n: number }>(
      `select count(*)::int as n from markets where connection::text like ? or settings::text like ?`,
      [`%${secret}%`, `%${secret}%`],
    );
    expect(elsewhere[0]!.n).toBe(0);
  });
  it('that is wrong only delays: what waits goes when it is right', async () => {
    const item = await cedarpost.quiet(`p.kind <> 'family'`);
    await cedarpost.patch(item.id, 'on_hand', item.values['on_hand']!, String(Number(item.values['on_hand']) + 11));
    const { id } = await cedarpost.build('stock', [item.id]);
    const troubled = await until(
      () => cedarpost.read(id),
      (d) => d.fault !== null,
    );
    expect(troubled.fault).toContain('does not take the key');
    expect(await house.call('POST', `${m}/try`, {})).toMatchObject({ body: { is: 'bad' } });
    expect(await house.call('POST', `${m}/try`, { secret: key })).toMatchObject({ body: { is: 'good' } });
    await house.call('PATCH', m, { secret: key });
    expect(
      await until(
        () => cedarpost.read(id),
        (d) => d.state === 'answered',
      ),
    ).toMatchObject({ accepted: 1 });
  });
  it('is forgotten when the address leads to another house, and never tried there', async () => {
    const seen: (string | undefined)[] = [];
    const { createServer } = await import('node:http');
    const spy = createServer((request, response) => {
      seen.push(request.headers.authorization);
      response.writeHead(401).end('{}');
    });
    await new Promise<void>((done) => {
      spy.listen(0, '127.0.0.1', done);
    });
    const elsewhere = `http://127.0.0.1:${(spy.address() as { port: number }).port}`;
    const home = (await house.call<{ url: string }>('GET', m)).body.url;
    try {
      expect(await house.call('POST', `${m}/try`, { url: elsewhere })).toMatchObject({
        body: { is: 'bad', says: expect.stringContaining('none is kept') as string },
      });
      await house.call('PATCH', m, { url: elsewhere });
      expect((await house.call<{ keySince: null }>('GET', m)).body.keySince).toBeNull();
      expect(seen.filter((s) => s?.includes(key))).toEqual([]);
    } finally {
      await house.call('PATCH', m, { url: home, secret: key });
      spy.close();
    }
  });
  it.each(['two words', 'line\nend', ''])('%j is none', async (secret) => {
    expect((await house.call('PATCH', m, { secret })).status).toBe(400);
  });
});

it('no key stands in a file that is shipped', () => {
  expect(readFileSync(new URL('../../rulebooks/cedarpost/rulebook.json', import.meta.url), 'utf8')).not.toContain(key);
});
