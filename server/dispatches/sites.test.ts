// A market with two sites from one entry, through the whole path: sent whole, answered by what it refused, standing
// otherwise in each country, priced by country, taken out and put back.
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type House, openHouse, until } from '../tests/house';
import { openSending, ready } from '../tests/sending';

let house: House;
const m = '/markets/torgvik';
let torgvik: ReturnType<typeof openSending>;
const accepted = async (id: number) =>
  (await house.rows<{ p: Record<string, string> }>('select accepted_price as p from listings where id = ?', [id]))[0]!
    .p;
const stands = (id: number) =>
  house.rows<{ site: string; market_state: string; reason: string }>(
    `select site, market_state, reason from standings where listing_id = ? order by site`,
    [id],
  );

beforeAll(async () => {
  house = await openHouse('sites_test', { size: 120, with: ['torgvik'] });
  torgvik = openSending(house, 'torgvik');
});
afterAll(() => house.close());

describe('a market with two sites', () => {
  it('has no rows for families, and takes texts and prices of its languages and currencies from the product', async () => {
    expect(await torgvik.loadItems(`p.kind = 'family'`)).toEqual([]);
    const [item] = await torgvik.loadItems(ready('create'));
    expect(item!.values['titel@de']).toMatch(/\S/);
    expect(item!.values['titel@sv']).not.toBe(item!.values['titel@de']);
    expect(Number(item!.values['pris@se'])).toBeGreaterThan(Number(item!.values['pris@de']) * 5);
    expect(item!.values['paket_l']).toMatch(/^\d+ mm$/);
  });
  it('says what is missing in one language or at one site alone', async () => {
    const causes = (await house.call<{ rows: { check: string; field: string }[] }>('GET', `${m}/causes`)).body.rows;
    expect(causes.filter((c) => c.check === 'demanded-missing').map((c) => c.field)).toContain('titel@sv');
  });
  it('begins with some entries live in both countries, as the market has them', async () => {
    const live = await torgvik.loadItems(`l.market_state = 'live'`);
    expect(live.length).toBeGreaterThan(5);
    const { memory } = house.torgvik!.shelf;
    expect(live.every((l) => memory.goods[l.sku]?.cells['pris_se'] !== undefined)).toBe(true);
  });
  it('is sent a whole entry in its own form, and what it does not name was taken', async () => {
    const items = (await torgvik.loadItems(ready('create'))).slice(0, 6);
    expect(items.length).toBeGreaterThan(2);
    const d = await torgvik.send(
      'create',
      items.map((i) => i.id),
    );
    expect(d).toMatchObject({ state: 'answered', total: items.length, accepted: items.length, refused: 0 });
    expect(d.fileName).toMatch(/^tv_hel_\d{8}T\d{6}\.csv$/);
    const [german, swedish, keys, first] = (await torgvik.textOf(d.id)).replace(/^\ufeff/, '').split('\r\n');
    expect([german!.split(';')[1], swedish!.split(';')[1], keys!.split(';')[1]]).toEqual(['Regal', 'Hylla', 'hylla']);
    expect(first).toMatch(/;\d+,\d{2};\d+,\d{2};/);
    // Reviewed in each country by itself, live in both.
    await until(
      () =>
        torgvik.loadItems(
          'l.id = any(?)',
          items.map((i) => i.id),
        ),
      (rows) => rows.every((r) => r.market_state === 'live'),
    );
    expect(await stands(items[0]!.id)).toEqual([
      { site: 'de', market_state: 'live', reason: '' },
      { site: 'se', market_state: 'live', reason: '' },
    ]);
  });
  it('lights every field that a line was refused for', async () => {
    const [item] = await torgvik.loadItems(ready('create'));
    // The market judges otherwise than its rulebook says: what our checks cannot know.
    const { shelf } = house.torgvik!;
    const twin = item!.values['streckkod']!;
    shelf.memory.goods['OTHER'] = {
      sku: 'OTHER',
      number: '1',
      quantity: 1,
      cells: { streckkod: twin },
      places: { de: { standing: 'aktiv', reason: '', readyAt: 0, stamp: 0, sold: 0 } },
    };
    const d = await torgvik.send('create', [item!.id]);
    expect(d).toMatchObject({ state: 'answered', refused: 1 });
    expect(await torgvik.linesOf(d.id)).toMatchObject([
      { state: 'refused', code: '131', field: 'streckkod', site: '' },
    ]);
    expect((await torgvik.loadItems('l.id = ?', item!.id))[0]).toMatchObject({ market_state: 'refused' });
    delete shelf.memory.goods['OTHER'];
  });
  it('holds a price that moved far in one country, and lets it go once somebody has looked', async () => {
    const [item] = await torgvik.loadItems(`l.market_state = 'live' and l.in_flight = 0 and l.planned = '[]'`);
    const price = item!.values['pris@se']!;
    const planned = async () =>
      (await house.rows<{ planned: unknown }>('select planned from listings where id = ?', [item!.id]))[0]!.planned;
    await torgvik.patch(item!.id, 'pris@se', price, '9999.00');
    expect(await planned()).toEqual([{ operation: 'price', held: 'price-moved' }]);
    expect((await house.call('POST', `${m}/release`, { ids: [item!.id] })).body).toEqual({ released: 1 });
    expect(await planned()).toEqual([{ operation: 'price', held: null }]);
    // It is that very price that somebody has looked at, in that country.
    await torgvik.patch(item!.id, 'pris@se', '9999.00', '9998.00');
    expect(await planned()).toEqual([{ operation: 'price', held: 'price-moved' }]);
    await torgvik.patch(item!.id, 'pris@se', '9998.00', price);
    expect(await planned()).toEqual([]);
  });
  it('gets a price in one country only, where that price has changed, with the currency of the country', async () => {
    const item = await torgvik.quiet();
    const before = item.values['pris@se']!;
    await torgvik.patch(item.id, 'pris@se', before, String(Number(before) + 10));
    const d = await torgvik.send('price', [item.id]);
    expect(d).toMatchObject({ state: 'answered', total: 1, accepted: 1 });
    const [, row] = (await torgvik.textOf(d.id)).trim().split('\r\n');
    expect(row!.split(';').slice(1, 4)).toEqual(['SE', `${(Number(before) + 10).toFixed(2).replace('.', ',')}`, 'SEK']);
    expect(house.torgvik!.shelf.memory.goods[item.sku]!.cells['pris_de']).toBe(
      Number(item.values['pris@de']).toFixed(2).replace('.', ','),
    );
    expect(await accepted(item.id)).toMatchObject({ 'pris@se': String(Number(before) + 10) });
  });
  it('gets stock, which is of no country, in both', async () => {
    const item = await torgvik.quiet();
    await torgvik.patch(item.id, 'antal', item.values['antal'] ?? null, '7');
    expect(await torgvik.send('stock', [item.id])).toMatchObject({ total: 2, accepted: 2 });
    expect(house.torgvik!.shelf.memory.goods[item.sku]!.quantity).toBe(7);
  });
  it('keeps what one country took where the other refused', async () => {
    const item = await torgvik.quiet();
    const { 'pris@de': de, 'pris@se': se } = item.values;
    await torgvik.patch(item.id, 'pris@de', de!, (Number(de) + 1).toFixed(2));
    await torgvik.patch(item.id, 'pris@se', se!, (Number(se) + 1).toFixed(2));
    // Sweden has taken it off the shelf, which we have not heard of yet.
    house.torgvik!.shelf.memory.goods[item.sku]!.places['se']!.standing = 'stoppad';
    const d = await torgvik.send('price', [item.id]);
    expect((await torgvik.linesOf(d.id)).map((l) => [l.site, l.state, l.code])).toEqual([
      ['se', 'refused', '170'],
      ['de', 'accepted', ''],
    ]);
    expect(await accepted(item.id)).toMatchObject({ 'pris@de': (Number(de) + 1).toFixed(2), 'pris@se': se });
    const [left] = await house.rows<{ planned: { operation: string; held: string | null }[] }>(
      'select planned from listings where id = ?',
      [item.id],
    );
    expect(left!.planned).toEqual([{ operation: 'price', held: 'refused' }]);
  });
  it('does not let a price that is held slip out with a text, though the row must be whole', async () => {
    const item = await torgvik.quiet();
    const { 'pris@de': price, 'titel@de': title } = item.values;
    await torgvik.patch(item.id, 'pris@de', price!, (Number(price) * 3).toFixed(2));
    await torgvik.patch(item.id, 'titel@de', title!, `${title!} neu`);
    const [row] = await house.rows<{ planned: { operation: string; held: string | null }[] }>(
      'select planned from listings where id = ?',
      [item.id],
    );
    expect(row!.planned).toEqual([
      { operation: 'revise', held: null },
      { operation: 'price', held: 'price-moved' },
    ]);
    expect(await torgvik.send('revise', [item.id])).toMatchObject({ accepted: 1 });
    expect(house.torgvik!.shelf.memory.goods[item.sku]!.cells).toMatchObject({
      titel_de: `${title!} neu`,
      pris_de: Number(price).toFixed(2).replace('.', ','),
    });
  });
  it('stands otherwise in each country after a review, and Home says so', async () => {
    const [item] = await torgvik.loadItems(ready('create'));
    const text = item!.values['titel@sv']!;
    await torgvik.patch(item!.id, 'titel@sv', text, `${text} kopia`);
    await torgvik.send('create', [item!.id]);
    const places = await until(
      () => stands(item!.id),
      (s) => s.some((x) => x.market_state === 'refused'),
    );
    expect(places).toEqual([
      { site: 'de', market_state: 'live', reason: '' },
      { site: 'se', market_state: 'refused', reason: 'Äkthet oviss' },
    ]);
    expect((await torgvik.loadItems('l.id = ?', item!.id))[0]).toMatchObject({ market_state: 'live' });
    const shelf = await house.call<{
      rows: { sku: string; sites: { site: string; state: string; link: string | null }[] }[];
    }>('GET', `${m}/shelf?state=refused`);
    expect(shelf.body.rows.find((r) => r.sku === item!.sku)!.sites).toMatchObject([
      { site: 'de', state: 'live', link: expect.stringMatching(/\/de\/vara\/\d+$/) as string },
      { site: 'se', state: 'refused', link: null },
    ]);
    const { today } = (
      await house.call<{ today: { kind: string; market: string; count: number }[] }>('GET', '/overview?market=torgvik')
    ).body;
    expect(today.find((t) => t.kind === 'turned-back')).toMatchObject({ count: 1 });
    // Mended, it is sent whole again, read again, and live in both.
    await torgvik.patch(item!.id, 'titel@sv', `${text} kopia`, text);
    const d = await torgvik.send('revise', [item!.id]);
    expect(d).toMatchObject({ refused: 0 });
    await until(
      () => stands(item!.id),
      (s) => s.every((x) => x.market_state === 'live'),
    );
  });
  it('takes an entry out of both countries, and puts it back as a new one, which is how it is done there', async () => {
    const item = await torgvik.quiet();
    await house.call('POST', `${m}/listings/wish`, { ids: [item.id], wish: 'withdraw' });
    const out = await torgvik.send('withdraw', [item!.id]);
    expect(out).toMatchObject({ total: 2, accepted: 2, fileName: expect.stringMatching(/^tv_stopp_/) as string });
    expect((await torgvik.loadItems('l.id = ?', item!.id))[0]).toMatchObject({ market_state: 'withdrawn' });
    await house.call('POST', `${m}/listings/wish`, { ids: [item!.id], wish: 'restore' });
    const back = await torgvik.send('restore', [item!.id]);
    expect(back).toMatchObject({ total: 1, accepted: 1, fileName: expect.stringMatching(/^tv_hel_/) as string });
    await until(
      () => torgvik.loadItems('l.id = ?', item!.id),
      (r) => r[0]!.market_state === 'live',
    );
  });
  it('does not believe an answer to another file', async () => {
    const item = await torgvik.quiet();
    const before = item.values['pris@de']!;
    await torgvik.patch(item.id, 'pris@de', before, (Number(before) + 1).toFixed(2));
    const { id, fileName } = await torgvik.build('price', [item.id], 'hand');
    const give = (text: string) => house.upload<{ message: string }>('fel.csv', text, `/dispatches/${id}/receipt`);
    const answer = (file: string, rows: number) =>
      `Datei;${file};Zeilen;${rows};abgelehnt;0\r\nrad;felkod;falt;forklaring\r\n`;
    expect((await give(answer('tv_bud_other.csv', 1))).body.message).toContain('tv_bud_other.csv');
    expect((await give(answer(fileName, 3))).body.message).toContain('with 3 rows');
    expect((await torgvik.read(id)).state).toBe('by hand');
    expect((await give(answer(fileName, 1))).status).toBe(200);
    expect(await torgvik.read(id)).toMatchObject({
      state: 'answered',
      accepted: 1,
    });
  });
});

describe('an item that is not sold in one of the countries', () => {
  const want = (ids: number[], wanted: boolean, sites: string[]) =>
    house.call<{ changed: number; message: string; remedy: string }>('POST', `${m}/listings/wanted`, {
      ids,
      wanted,
      sites,
    });
  interface Shown {
    id: number;
    sitesOut: string[];
    values: Record<string, string>;
    levels: Record<string, string>;
    findings: { field: string }[];
  }
  const show = async (id: number) => (await house.call<Shown>('GET', `${m}/listings/${id}`)).body;
  it('is asked for nothing there, and has no value of it', async () => {
    const [bare] = await torgvik.loadItems(
      `l.market_state = 'none' and exists (select 1 from findings f where f.listing_id = l.id and f.field = 'titel@sv' and f.level = 'blocker')`,
    );
    expect((await want([bare!.id], false, ['se'])).body.changed).toBe(1);
    const now = await show(bare!.id);
    expect(now.sitesOut).toEqual(['se']);
    expect(Object.keys({ ...now.values, ...now.levels }).filter((k) => /@(se|sv)$/.test(k))).toEqual([]);
    expect(now.values['titel@de']).toBeDefined();
    expect(now.findings.filter((f) => /@(se|sv)$/.test(f.field))).toEqual([]);
    expect((await want([bare!.id], false, ['se'])).body.changed).toBe(0);
    expect((await want([bare!.id], true, ['se'])).body.changed).toBe(1);
    expect((await show(bare!.id)).findings.map((f) => f.field)).toContain('titel@sv');
  });
  it('is sold at a site that its market does not let go', async () => {
    const [item] = await house.rows<{ id: number }>(
      `select l.id from listings l join markets x on x.id = l.market_id where x.key = 'quillhaven' order by l.id limit 1`,
    );
    const [site] = (await house.call<{ sites: { key: string; name: string }[] }>('GET', '/markets/quillhaven/rulebook'))
      .body.sites;
    const refused = await house.call<{ message: string }>('POST', '/markets/quillhaven/listings/wanted', {
      ids: [item!.id],
      wanted: false,
      sites: [site!.key],
    });
    expect(refused).toMatchObject({
      status: 400,
      body: { message: `Quillhaven sells every entry at ${site!.name}; it cannot be left out.` },
    });
  });
  it('is never out of all of them, nor of a place that the market has not', async () => {
    const [item] = await torgvik.loadItems(ready('create'));
    expect((await want([item!.id], false, ['de', 'se'])).body.changed).toBe(0);
    expect(await want([item!.id], false, ['no'])).toMatchObject({
      status: 400,
      body: { message: 'Torgvik has no site “no”.', remedy: 'Choose among de, se.' },
    });
  });
  it('is new in the one country alone, gets prices there alone, and comes to the other when it is wanted there', async () => {
    const [item] = await torgvik.loadItems(ready('create'));
    await want([item!.id], false, ['se']);
    expect(await torgvik.send('create', [item!.id])).toMatchObject({ accepted: 1, refused: 0 });
    await until(
      () => torgvik.loadItems(`l.id = ? and l.market_state = 'live' and l.in_flight = 0`, item!.id),
      (r) => r.length === 1,
    );
    expect((await stands(item!.id)).map((s) => [s.site, s.market_state])).toEqual([['de', 'live']]);
    const { goods } = house.torgvik!.shelf.memory;
    expect(Object.keys(goods[item!.sku]!.places)).toEqual(['de']);
    const price = item!.values['pris@de']!;
    await torgvik.patch(item!.id, 'pris@de', price, (Number(price) + 1).toFixed(2));
    const dearer = await torgvik.send('price', [item!.id]);
    expect((await torgvik.linesOf(dearer.id)).map((l) => [l.site, l.state])).toEqual([['de', 'accepted']]);
    await want([item!.id], true, ['se']);
    expect(await torgvik.send('revise', [item!.id])).toMatchObject({ accepted: 1, refused: 0 });
    expect(goods[item!.sku]!.places['se']).toBeDefined();
  });
  it('ends in the one where it stood in both, and stays in the other', async () => {
    const item = await torgvik.quiet();
    await want([item.id], false, ['de']);
    const planned = await house.rows<{ planned: { operation: string; held: string | null }[] }>(
      'select planned from listings where id = ?',
      [item.id],
    );
    expect(planned[0]!.planned).toEqual([{ operation: 'revise', held: null }]);
    expect(await torgvik.send('revise', [item.id])).toMatchObject({ accepted: 1, refused: 0 });
    await until(
      async () => {
        await torgvik.look();
        return stands(item.id);
      },
      (s) => s.some((x) => x.site === 'de' && x.market_state === 'withdrawn'),
    );
    expect((await stands(item.id)).find((s) => s.site === 'se')).toMatchObject({ market_state: 'live' });
    expect((await torgvik.loadItems('l.id = ?', item.id))[0]).toMatchObject({ market_state: 'live' });
    expect(
      (await house.rows<{ planned: unknown[] }>('select planned from listings where id = ?', [item.id]))[0]!.planned,
    ).toEqual([]);
  });
});
