// Items that the market has already from others: found by their identifiers, decided by a person, joined by an offer.
import { addOther, putLists } from '@basileus/standins/wadiline';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { writeOn } from '../database';
import { loadCorrespondences, loadMarket, openGate, openMarketPort } from '../markets';
import { type House, openHouse, until } from '../tests/house';
import { type Item, openSending, ready } from '../tests/sending';
import { judgeEntries, lookUpNew } from './entries';
import { prepareRows } from './judge';
import { loadFullRows } from './rows';

interface Row {
  id: number;
  sku: string;
  state: string;
  category: string | null;
  number: string | null;
  entry: { is: string; number: string; facts: Record<string, string> } | null;
  levels: Record<string, string>;
  values: Record<string, string>;
  findings: { check: string; message: string; field: string; level: string }[];
}
let house: House, wadiline: ReturnType<typeof openSending>, quillhaven: ReturnType<typeof openSending>;
const m = '/markets/wadiline';
const listed = async (entry: string) =>
  (await house.call<{ rows: Row[]; total: number }>('GET', `${m}/listings?entry=${entry}`)).body;
const rowOf = async (id: number) => (await house.call<Row>('GET', `${m}/listings/${id}`)).body;
const judge = async (ids: number[], is: string) =>
  (await house.call<{ changed: number; there: number }>('POST', `${m}/entries`, { ids, is })).body;
const put = (item: Item, number: string, more: object = {}, facts = {}): void => {
  addOther(house.wadiline!.shelf, {
    number,
    name: `Sold by others ${number}`,
    maker: item.values['maker']!,
    barcode: item.values['barcode']!,
    shelf: 'HC-WOK',
    facts,
    ...more,
  });
};
const lookUp = async (market = 'wadiline'): Promise<void> => {
  const { body } = await house.call<{ job: string; items: number }>('POST', `/markets/${market}/look-up`, {});
  expect(body.items).toBeGreaterThan(10);
  await until(
    () => house.rows<{ state: string }>('select state from jobs where id = ?', [body.job]),
    ([job]) => job?.state === 'done',
  );
};
const operationsOf = async (id: number) =>
  (
    await house.rows<{ planned: { operation: string; held: string | null }[] }>(
      'select planned from listings where id = ?',
      [id],
    )
  )[0]!.planned;

let same: Item, differing: Item, ofAnother: Item;
beforeAll(async () => {
  house = await openHouse('entries_test', { size: 120, with: ['torgvik', 'wadiline'] });
  wadiline = openSending(house, 'wadiline');
  quillhaven = openSending(house, 'quillhaven');
  const items = await wadiline.loadItems(
    `${ready('create')} and p.kind <> 'family' and l."values" ->> 'barcode' is not null and l."values" ->> 'across' is not null`,
  );
  [same, differing, ofAnother] = items as [Item, Item, Item];
  put(same, 'W910001', {}, { across: same.values['across'] });
  put(differing, 'W910002', {}, { across: '77 cm' });
  put(ofAnother, 'W910003', { maker: 'Somebody else' });
});
afterAll(() => house.close());

describe('what a market has already', () => {
  it('is found by a look-up, and is not created beside it', async () => {
    await lookUp();
    const { rows, total } = await listed('found');
    expect(total).toBe(3);
    expect(rows.map((r) => r.id).sort()).toEqual([same.id, differing.id, ofAnother.id].sort());
    const row = rows.find((r) => r.id === same.id)!;
    expect(row).toMatchObject({ state: 'blocked', entry: { is: 'found', number: 'W910001' } });
    expect(row.findings).toContainEqual(
      expect.objectContaining({ check: 'market-entry', message: 'there', level: 'blocker', field: 'barcode' }),
    );
    expect(await operationsOf(same.id)).toEqual([{ operation: 'create', held: 'blocked' }]);
  });
  it('is told apart where a person says that it is another item: then it is created', async () => {
    expect(await judge([differing.id], 'other')).toEqual({ changed: 1, there: 0 });
    expect(await rowOf(differing.id)).toMatchObject({ state: 'ready', entry: { is: 'other' } });
    expect(await operationsOf(differing.id)).toEqual([{ operation: 'create', held: null }]);
    // The next look-up leaves it as it was decided, whatever the entry says by then.
    const { others } = house.wadiline!.shelf.memory;
    house.wadiline!.shelf.memory.others = others!.filter((o) => o.number !== 'W910002');
    put(differing, 'W910002', { name: 'Another name' }, { across: '77 cm' });
    await lookUp();
    expect((await rowOf(differing.id)).entry?.is).toBe('other');
    expect(await judge([differing.id], 'found')).toEqual({ changed: 1, there: 0 });
    expect((await rowOf(differing.id)).state).toBe('blocked');
  });
  it('is joined with the terms of an offer alone, in the leaf of the entry', async () => {
    expect(await judge([same.id, differing.id, ofAnother.id], 'joined')).toEqual({ changed: 3, there: 0 });
    const row = await rowOf(same.id);
    expect(row).toMatchObject({ state: 'ready', category: 'woks', entry: { is: 'joined' } });
    expect(Object.keys(row.values).sort()).toEqual(['barcode', 'pieces', 'price', 'ready']);
    expect(row.levels['name@en']).toBeUndefined();
    expect(row.findings).toEqual([]);
    expect(await operationsOf(same.id)).toEqual([{ operation: 'offer', held: null }]);
  });
  it('is a caution where it says otherwise of the item, and a blocker where it is of another', async () => {
    expect((await rowOf(differing.id)).findings).toEqual([
      expect.objectContaining({ message: 'differs', field: 'across', level: 'caution' }),
    ]);
    expect((await rowOf(ofAnother.id)).findings).toEqual([
      expect.objectContaining({ message: 'otherItem', field: 'maker', level: 'blocker' }),
    ]);
    expect(await operationsOf(ofAnother.id)).toEqual([{ operation: 'offer', held: 'blocked' }]);
  });
  it('is compared again with the next look-up: what the entry says otherwise by then is found', async () => {
    const { memory } = house.wadiline!.shelf;
    const say = (number: string, across: string): void => {
      memory.others = memory.others!.map((o) => (o.number === number ? { ...o, facts: { ...o.facts, across } } : o));
      putLists(house.wadiline!.shelf);
    };
    say('W910001', '77 cm');
    say('W910002', differing.values['across']!);
    await lookUp();
    expect((await rowOf(same.id)).findings).toEqual([
      expect.objectContaining({ message: 'differs', field: 'across', level: 'caution' }),
    ]);
    expect((await rowOf(differing.id)).findings).toEqual([]);
    // What is found no more is known as it was.
    const [kept] = memory.others!.filter((o) => o.number === 'W910001');
    memory.others = memory.others!.filter((o) => o.number !== 'W910001');
    putLists(house.wadiline!.shelf);
    await lookUp();
    expect((await rowOf(same.id)).entry).toMatchObject({ is: 'joined', number: 'W910001', facts: { across: '77 cm' } });
    memory.others = [...memory.others, kept!];
    say('W910001', same.values['across']!);
    say('W910002', '77 cm');
    await lookUp();
    expect((await rowOf(same.id)).findings).toEqual([]);
  });
  it('is on sale at once under the number of the entry, and follows in price', async () => {
    const d = await wadiline.send('offer', [same.id]);
    expect(d).toMatchObject({ state: 'answered', accepted: 1, refused: 0 });
    expect(await wadiline.textOf(d.id)).toContain(`ref="${same.sku}" joins="W910001"`);
    await until(
      () => rowOf(same.id),
      (r) => r.state === 'live' && r.number === 'W910001',
    );
    expect(await judge([same.id], 'other')).toEqual({ changed: 0, there: 1 });
    await wadiline.patch(same.id, 'price', same.values['price']!, '8.125');
    expect((await operationsOf(same.id)).map((p) => p.operation)).toEqual(['price']);
  });
  it('is refused as a new entry by the market itself, whatever was said here', async () => {
    await judge([differing.id], 'other');
    const d = await wadiline.send('create', [differing.id]);
    expect(d).toMatchObject({ accepted: 0, refused: 1 });
    expect((await wadiline.linesOf(d.id))[0]).toMatchObject({ code: 'w16', field: 'barcode' });
  });
  it('is forgotten where it is gone', async () => {
    await judge([differing.id], 'found');
    house.wadiline!.shelf.memory.others = [];
    put(same, 'W910001');
    await lookUp();
    expect((await listed('found')).rows.map((r) => r.id)).not.toContain(differing.id);
    expect(await rowOf(differing.id)).toMatchObject({ state: 'ready', entry: null });
  });
});

describe('a look-up', () => {
  it('takes no entry for another’s that is our own', async () => {
    const market = await loadMarket(house.db, 'wadiline');
    const [live] = await wadiline.loadItems(
      `l.market_state = 'live' and l.number is not null and l."values" ->> 'barcode' is not null`,
    );
    const [item] = await wadiline.loadItems(
      `${ready('create')} and p.kind <> 'family' and l."values" ->> 'barcode' is not null`,
    );
    const [{ number } = { number: '' }] = await house.rows<{ number: string }>(
      'select number from listings where id = ?',
      [live!.id],
    );
    const entryOf = (number: string) => ({
      number,
      title: 'A thing',
      brand: '',
      identifier: item!.values['barcode']!,
      category: '',
      facts: {},
    });
    const look = (number: string) =>
      lookUpNew(
        house.db,
        market,
        { findItems: () => Promise.resolve([entryOf(number)]) },
        () => Promise.resolve(),
        writeOn(house.db),
      );
    await look(number);
    expect((await rowOf(item!.id)).entry).toBeNull();
    await look('W1');
    expect((await rowOf(item!.id)).entry).toMatchObject({ is: 'found', number: 'W1' });
  });
  it('reads a list in a folder once, however many items are asked for', async () => {
    const market = await loadMarket(house.db, 'wadiline');
    const port = openMarketPort(market, openGate(house.db, market));
    const number = '0009521234567899'.slice(3);
    addOther(house.wadiline!.shelf, {
      number: 'W930001',
      name: 'A thing',
      maker: 'X',
      barcode: number,
      shelf: 'HC-WOK',
      facts: {},
    });
    expect((await port.findItems([number])).map((f) => f.number)).toEqual(['W930001']);
    // What comes after it has been read is for the next look-up.
    house.wadiline!.shelf.memory.others = [];
    addOther(house.wadiline!.shelf, {
      number: 'W930002',
      name: 'Another',
      maker: 'X',
      barcode: '9529990000308',
      shelf: 'HC-WOK',
      facts: {},
    });
    expect((await port.findItems([`0${number}`, '9529990000308'])).map((f) => f.number)).toEqual(['W930001']);
    expect(
      (await openMarketPort(market, openGate(house.db, market)).findItems(['9529990000308'])).map((f) => f.number),
    ).toEqual(['W930002']);
  });
  it('is refused where the market takes no offers on its entries', async () => {
    const { status, body } = await house.call<{ message: string }>('POST', '/markets/torgvik/look-up', {});
    expect(status).toBe(409);
    expect(body.message).toContain('takes no offers on entries');
  });
  it('asks a market over HTTP for one item after the other', async () => {
    const [item] = await quillhaven.loadItems(
      `${ready('create')} and p.kind <> 'family' and l."values" ->> 'item_number' is not null`,
    );
    house.market.shelf.memory.others = [
      {
        number: 'Q610001',
        title: 'Sold by others',
        brand: item!.values['brand']!.toUpperCase(),
        itemNumber: item!.values['item_number']!,
        shelf: 'graters',
      },
    ];
    await lookUp('quillhaven');
    const { body } = await house.call<Row>('GET', `/markets/quillhaven/listings/${item!.id}`);
    expect(body.entry).toMatchObject({ is: 'found', number: 'Q610001' });
    await house.call('POST', '/markets/quillhaven/entries', { ids: [item!.id], is: 'joined' });
    const d = await quillhaven.send('offer', [item!.id]);
    expect(d).toMatchObject({ state: 'answered', accepted: 1 });
    expect(house.market.shelf.memory.entries[item!.sku]).toMatchObject({ number: 'Q610001', joins: true });
  });
});

describe('a family', () => {
  it('has nothing to say where all its variants join entries, and speaks again where one does not', async () => {
    const market = await loadMarket(house.db, 'quillhaven');
    const [family] = await house.rows<{ id: number; variants: number[] }>(
      `select f.id, array_agg(l.id::int) as variants
        from listings f join products p on p.id = f.product_id and p.kind = 'family'
        join products v on v.parent_id = p.id join listings l on l.product_id = v.id and l.market_id = f.market_id
        where f.market_id = ? and f.market_state = 'none'
        group by f.id having bool_and(l.market_state = 'none' and l.in_flight = 0) and count(*) > 1 order by 1 limit 1`,
      [market.id],
    );
    const { id, variants } = family!;
    await house.db.raw(
      `update listings set entry_is = 'found', entry = '{"number": "W2", "title": "", "category": "", "facts": {}}' where id = any(?)`,
      [variants],
    );
    const stateOf = async (): Promise<string> =>
      (await house.rows<{ s: string }>('select market_state as s from listings where id = ?', [id]))[0]!.s;
    await judgeEntries(house.db, market, { ids: variants.slice(1), is: 'joined' }, 'test');
    expect(await stateOf()).toBe('none');
    // Who joins an entry stands by itself: no family is looked at with it, and it is looked at with none.
    const prepared = await prepareRows(
      house.db,
      market,
      await loadCorrespondences(house.db, market.id),
      await loadFullRows(house.db, market.id, 'l.id = any(?)', [[id, ...variants]]),
    );
    const relatives = new Map(prepared.map((p) => [p.row.listing_id, p.context.family?.length]));
    expect(relatives.get(id)).toBe(1);
    expect(variants.slice(1).map((v) => relatives.get(v))).toEqual(variants.slice(1).map(() => undefined));
    await judgeEntries(house.db, market, { ids: variants, is: 'joined' }, 'test');
    expect(await stateOf()).toBe('left out');
    await judgeEntries(house.db, market, { ids: [variants[0]!], is: 'other' }, 'test');
    expect(await stateOf()).toBe('none');
  });
});
