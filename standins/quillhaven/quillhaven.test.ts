import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { quillhavenDocument } from '@basileus/rulebooks/quillhaven';
import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { createRandom } from '../../core/tests/random';
import validator from 'validator';
import { findEntries } from './lists';
import { type BookDocument, endReviews, isTrueNumber, openShelf, startMarket, workThrough } from '.';

const book = quillhavenDocument as BookDocument;
const options = { reviewMs: 1000, now: 0, uncleared: ['Shady'] };
const good: Record<string, string> = {
  line_wish: 'NEW',
  house_sku: 'CF-1',
  shelf: 'carafes',
  title: 'Withy & Wren Brook Carafe 1 l',
  brand: 'Withy & Wren',
  item_number: '9521234567899',
  item_number_kind: 'F',
  description: '<p>A carafe that pours without a drip, for water.</p>',
  price: '18.99',
  quantity: '12',
  handling_days: 'h2',
  condition: 'fresh',
  parcel_weight: '1.05',
  parcel_weight_unit: 'kg',
  material: 'glassy',
  capacity: '1',
  capacity_unit: 'l',
  picture_1: 'https://p.example/1.jpg',
  picture_2: 'https://p.example/2.jpg',
  picture_3: 'https://p.example/3.jpg',
};
let shelf = openShelf(undefined);
beforeEach(() => {
  shelf = openShelf(undefined);
});
const send = (rows: Record<string, string>[], operation = 'create') =>
  workThrough(book, shelf, operation, rows, options).map((a) => [a.verdict, a.code, a.field].filter(Boolean).join(' '));
const one = (change: Record<string, string>) => send([{ ...good, ...change }])[0];

describe('the market’s own verdict', () => {
  it('takes a good entry, gives it a number, and reads it before it is shown', () => {
    expect(one({})).toBe('TAKEN');
    expect(shelf.memory.entries['CF-1']).toMatchObject({ standing: 'being read', number: 'Q710001' });
    expect(endReviews(shelf, 999)).toBe(0);
    expect(endReviews(shelf, 1000)).toBe(1);
    expect(shelf.memory.entries['CF-1']!.standing).toBe('on shelf');
  });
  it.each([
    ['an empty must', { title: '' }, 'TURNED BACK Q10 title'],
    ['a value not on the list', { material: 'gold' }, 'TURNED BACK Q11 material'],
    ['a field of another shelf', { page_count: '96' }, 'TURNED BACK Q13 page_count'],
    ['too long', { title: 'x'.repeat(141) }, 'TURNED BACK Q14 title'],
    ['a wrong number', { item_number: '9521234567890' }, 'TURNED BACK Q20 item_number'],
    ['a shop’s number', { item_number: '2012345678903' }, 'TURNED BACK Q20 item_number'],
    ['the wrong kind', { item_number_kind: 'B' }, 'TURNED BACK Q12 item_number_kind'],
    ['promotion', { title: 'Withy & Wren carafe, best price' }, 'TURNED BACK Q40 title'],
    [
      'a link',
      { description: '<p>See https://x.example for more of these things.</p>' },
      'TURNED BACK Q40 description',
    ],
    ['a script', { description: '<script>x</script> and forty characters of text' }, 'TURNED BACK Q12 description'],
    ['a picture without s', { picture_1: 'http://p.example/1.jpg' }, 'TURNED BACK Q60 picture_1'],
    ['a sale that is none', { sale_price: '18.99', sale_start: '2026-11-27' }, 'TURNED BACK Q50 sale_price'],
    ['a sale without a start', { sale_price: '17' }, 'TURNED BACK Q10 sale_start'],
    ['a brand that is not cleared', { brand: 'Shady' }, 'TURNED BACK Q41 brand'],
    ['an unknown shelf', { shelf: 'boats' }, 'TURNED BACK Q12 shelf'],
    ['a unit of its own', { capacity: '35', capacity_unit: 'fl oz' }, 'TURNED BACK Q12 capacity'],
    ['a number out of range', { capacity: '80' }, 'TURNED BACK Q12 capacity'],
    ['few pictures', { picture_2: '', picture_3: '' }, 'NOTED N01 picture_1'],
  ])('of %s', (_, change, verdict) => {
    expect(one(change)).toBe(verdict);
  });
  it('takes an offer on an entry of another seller, on its own terms alone', () => {
    const offer = {
      line_wish: 'OFFER',
      house_sku: 'BW-1',
      entry: 'Q600002',
      item_number: '9520000012182',
      condition: 'fresh',
      price: '9.50',
      quantity: '4',
      handling_days: 'h2',
    };
    const offerTo = (change: Record<string, string>) => send([{ ...offer, ...change }], 'offer')[0];
    expect(offerTo({ entry: 'Q1' })).toBe('TURNED BACK Q25 entry');
    expect(offerTo({ item_number: '9521234567899' })).toBe('TURNED BACK Q25 item_number');
    expect(offerTo({ price: '' })).toBe('TURNED BACK Q10 price');
    expect(offerTo({ condition: 'chewed' })).toBe('TURNED BACK Q11 condition');
    expect(offerTo({})).toBe('TAKEN');
    expect(shelf.memory.entries['BW-1']).toMatchObject({ number: 'Q600002', standing: 'on shelf', joins: true });
    expect(send([{ house_sku: 'BW-1', price: '8.00' }], 'price')).toEqual(['TAKEN']);
    expect(send([{ line_wish: 'EDIT', house_sku: 'BW-1', title: 'Mine' }], 'revise')).toEqual([
      'TURNED BACK Q23 house_sku',
    ]);
    expect(one({ item_number: '9520000012182' })).toBe('TURNED BACK Q21 item_number');
    expect(findEntries(shelf, '9520000012182')).toContain('Q600002\tDune 2 Bowl, White\tSaltern Pottery');
  });
  it('knows rows by each other: twice a SKU, twice a number, a SKU that is there', () => {
    expect(send([good, good])).toEqual(['TAKEN', 'TURNED BACK Q22 house_sku']);
    expect(send([{ ...good, house_sku: 'CF-2' }])).toEqual(['TURNED BACK Q21 item_number']);
    expect(send([good])).toEqual(['TURNED BACK Q22 house_sku']);
  });
  it('wants the head of a family first, and members that differ', () => {
    const head = {
      ...good,
      house_sku: 'CF-F',
      family_row: 'head',
      divided_by: 'capacity',
      item_number: '',
      item_number_kind: '',
      price: '',
      quantity: '',
      handling_days: '',
      condition: '',
      parcel_weight: '',
      parcel_weight_unit: '',
      capacity: '',
      capacity_unit: '',
    };
    const member = (sku: string, amount: string, number: string) => ({
      ...good,
      house_sku: sku,
      family_row: 'member',
      family_sku: 'CF-F',
      divided_by: 'capacity',
      capacity: amount,
      item_number: number,
    });
    expect(send([member('CF-M0', '1', '9521234567899')])).toEqual(['TURNED BACK Q30 family_sku']);
    expect(
      send([
        head,
        member('CF-M1', '1', '9521234567899'),
        member('CF-M2', '1', '9529999999993'),
        { ...member('CF-M3', '2', '9520000001001'), divided_by: 'brand' },
      ]),
    ).toEqual(['TAKEN', 'TAKEN', 'TURNED BACK Q31 capacity', 'TURNED BACK Q30 divided_by']);
  });
  it('changes only what a partial line names, and clears by its token', () => {
    send([good]);
    expect(
      send([{ line_wish: 'EDIT', house_sku: 'CF-1', title: 'Withy & Wren Brook Carafe, tall', colour: '' }], 'revise'),
    ).toEqual(['TAKEN']);
    expect(shelf.memory.entries['CF-1']!.cells).toMatchObject({
      title: 'Withy & Wren Brook Carafe, tall',
      material: 'glassy',
    });
    expect(send([{ line_wish: 'EDIT', house_sku: 'CF-1', material: '#empty#' }], 'revise')).toEqual([
      'TURNED BACK Q10 material',
    ]);
    expect(send([{ line_wish: 'EDIT', house_sku: 'CF-1', brand: 'Other' }], 'revise')).toEqual([
      'TURNED BACK Q12 brand',
    ]);
    expect(send([{ house_sku: 'GHOST', price: '3' }], 'price')).toEqual(['TURNED BACK Q23 house_sku']);
    expect(send([{ house_sku: 'CF-1', price: '189.90' }], 'price')).toEqual(['TURNED BACK Q51 price']);
    expect(send([{ house_sku: 'CF-1', price: '19.99' }], 'price')).toEqual(['TAKEN']);
    expect(send([{ house_sku: 'CF-1', quantity: '1500' }], 'stock')).toEqual(['NOTED N03 quantity']);
    expect(shelf.memory.entries['CF-1']!.quantity).toBe(999);
  });
  it('burns a SKU that was taken down', () => {
    send([good]);
    expect(send([{ line_wish: 'DOWN', house_sku: 'CF-1' }], 'withdraw')).toEqual(['TAKEN']);
    expect(send([good])).toEqual(['TURNED BACK Q24 house_sku']);
  });
  it('judges numbers as the package validator does', () => {
    const random = createRandom(6);
    for (let i = 0; i < 5000; i++) {
      const n = String(Math.floor(1e12 + random() * 8.9e12));
      expect(isTrueNumber(n), n).toBe(validator.isEAN(n));
    }
  });
});

describe('the process', () => {
  const folder = mkdtempSync(join(tmpdir(), 'quillhaven-'));
  afterAll(() => {
    rmSync(folder, { recursive: true, force: true });
  });
  const run = async (file: string) => {
    let port = 0;
    const market = await new Promise<ReturnType<typeof startMarket>>((done) => {
      const m = startMarket({ book, file, workMs: 1, reviewMs: 1, sellEveryMs: 0 }, 0, (p) => {
        port = p;
        setImmediate(() => {
          done(m);
        });
      });
    });
    return { market, base: `http://127.0.0.1:${port}` };
  };
  const keys = book.forms.find((f) => f.key === book.operations['create']!.form)!.slots.map((c) => c.key);
  const file = [keys.join('\t'), keys.join('\t'), keys.map((k) => good[k] ?? '').join('\t')].join('\r\n') + '\r\n';
  it('wakes up as it was, and knows a key it has seen', async () => {
    const first = await run(join(folder, 'shelf.json'));
    const post = async (base: string, key: string) =>
      (
        await fetch(`${base}/inbox?operation=create&name=x`, {
          method: 'POST',
          body: file,
          headers: { 'Idempotency-Key': key },
        })
      ).text();
    const ticket = await post(first.base, 'k1');
    expect(await post(first.base, 'k1')).toBe(ticket);
    await first.market.stop();
    const second = await run(join(folder, 'shelf.json'));
    expect(await post(second.base, 'k1')).toBe(ticket);
    expect(await post(second.base, 'k2')).not.toBe(ticket);
    await second.market.stop();
  });
  it('refuses a file without its columns, an unknown operation and an unknown ticket', async () => {
    const { market, base } = await run(join(folder, 'other.json'));
    expect((await fetch(`${base}/inbox?operation=create`, { method: 'POST', body: 'a\tb\r\na\tb\r\n' })).status).toBe(
      400,
    );
    expect((await fetch(`${base}/inbox?operation=burn`, { method: 'POST', body: file })).status).toBe(400);
    expect((await fetch(`${base}/inbox/T9/receipt`)).status).toBe(404);
    await market.stop();
  });
});
