// A market whose entries hold their variants side by side in one record: sent whole or not at all, answered by the file that
// comes back with columns added, mended where one variant is at fault, joined by a variant later, taken down one by one.
import iconv from 'iconv-lite';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type House, openHouse, until } from '../tests/house';
import { type Item, type Line, openSending } from '../tests/sending';

let house: House;
const m = '/markets/lumbara';
let lumbara: ReturnType<typeof openSending>;
interface Member extends Item {
  kind: string;
  root: number;
  planned: { operation: string; held: string | null }[];
}
/** Rows of a family on the market, the family's own first. */
const loadFamily = (root: number) =>
  house.rows<Member>(
    `select l.id, p.sku, l.market_state, l.version, l.product_id, l."values", p.kind, coalesce(p.parent_id, p.id) as root,
        l.planned
      from listings l join products p on p.id = l.product_id join markets m on m.id = l.market_id
      where m.key = 'lumbara' and coalesce(p.parent_id, p.id) = ?
      order by p.parent_id is not null, p.id`,
    [root],
  );
/** Families of which nothing is on the market and all may go, but for those that were used already. */
const used: number[] = [];
async function findFamily(): Promise<Member[]> {
  const [root] = await house.rows<{ root: number }>(
    `select coalesce(p.parent_id, p.id) as root
      from listings l join products p on p.id = l.product_id join markets m on m.id = l.market_id
      where m.key = 'lumbara' and not coalesce(p.parent_id, p.id) = any(?)
      group by 1
      having count(*) between 3 and 5 and bool_and(l.market_state = 'none' and l.in_flight = 0
        and l.planned @> '[{"operation": "create", "held": null}]')
      order by 1 limit 1`,
    [used],
  );
  used.push(root!.root);
  return loadFamily(root!.root);
}
const idsOf = (rows: readonly Item[]) => rows.map((r) => r.id);
const entryOf = (sku: string) => house.lumbara!.shelf.memory.entries[sku];
const bytesOf = async (id: number) =>
  new Uint8Array(await (await fetch(`${house.base}/api/dispatches/${id}/file`)).arrayBuffer());
const untilLive = (root: number) =>
  until(
    () => loadFamily(root),
    (rows) => rows.every((r) => r.market_state === 'live'),
  );

beforeAll(async () => {
  house = await openHouse('families_test', { size: 240, with: ['lumbara'] });
  lumbara = openSending(house, 'lumbara');
});
afterAll(() => house.close());

describe('a family that is one record', () => {
  it('has what speaks for it once, and what is bought in each variant', async () => {
    const [head, ...variants] = await findFamily();
    used.pop();
    expect(head!.kind).toBe('family');
    expect(head!.values).toHaveProperty('na');
    expect(head!.values).not.toHaveProperty('ne');
    expect(variants.length).toBeGreaterThan(1);
    for (const v of variants) {
      expect(v.values).not.toHaveProperty('na');
      expect(v.values['ne']).toMatch(/^\d+$/);
    }
  });
  it('begins with some that are live, as the market has them', async () => {
    const live = await lumbara.loadItems(`l.market_state = 'live' and p.kind = 'variant'`);
    expect(live.length).toBeGreaterThan(10);
    const { entries } = house.lumbara!.shelf.memory;
    const there = new Set(Object.values(entries).flatMap((e) => Object.keys(e.items)));
    expect(live.filter((l) => !there.has(l.sku))).toEqual([]);
  });
  it('goes as one line in Shift_JIS with its variants side by side, and is live with all of them', async () => {
    const family = await findFamily();
    const [head, ...variants] = family;
    const d = await lumbara.send('create', idsOf(family));
    expect(d).toMatchObject({ state: 'answered', total: family.length, accepted: family.length, refused: 0 });
    const text = new TextDecoder('shift_jis', { fatal: true }).decode(await bytesOf(d.id));
    const [header, line, ...rest] = text.trimEnd().split('\r\n');
    expect(rest).toEqual([]);
    const cells = Object.fromEntries(
      line!.split('","').map((c, i) => [header!.split('","')[i]!.replaceAll('"', ''), c.replaceAll('"', '')]),
    );
    expect(cells).toMatchObject({ 用件: '1', 組番: head!.sku, 呼び名: head!.values['na'], 新旧: '1' });
    expect(variants.map((_, i) => cells[`枝${i + 1}符号`])).toEqual(variants.map((v) => v.sku));
    expect(cells['枝2値']).toBe(variants[1]!.values['ne']);
    expect(cells[`枝${variants.length + 1}符号`]).toBe('');
    await untilLive(head!.root);
    expect(Object.keys(entryOf(head!.sku)!.items)).toEqual(variants.map((v) => v.sku));
  });
  it('goes whole when one of its variants is chosen', async () => {
    const family = await findFamily();
    const d = await lumbara.send('create', [family.at(-1)!.id]);
    expect(d).toMatchObject({ total: family.length, accepted: family.length });
    await untilLive(family[0]!.root);
  });
});

describe('a family that is refused for one of its variants', () => {
  let family: Member[], dispatch: number, lines: Line[];
  it('lights the field on that variant, and says of the others that they wait with it', async () => {
    family = await findFamily();
    const twin = family[2]!;
    // The market knows of another item with this barcode, which our checks cannot know.
    const { shelf } = house.lumbara!;
    shelf.memory.entries['OTHER'] = {
      key: 'OTHER',
      number: '1',
      cells: {},
      divided: [],
      standing: '1',
      reason: '',
      readyAt: 0,
      stamp: 0,
      items: {
        OTHER: {
          sku: 'OTHER',
          cells: { '枝{n}JAN': String(twin.values['jan']) },
          standing: '1',
          quantity: 1,
          sold: 0,
          stamp: 0,
        },
      },
    };
    const d = await lumbara.send('create', idsOf(family));
    dispatch = d.id;
    expect(d).toMatchObject({ state: 'answered', accepted: 0, refused: family.length });
    lines = await lumbara.linesOf(d.id);
    const bySku = new Map(lines.map((l) => [l.sku, l]));
    expect(bySku.get(twin.sku)).toMatchObject({ state: 'refused', code: '308', field: 'jan' });
    expect(bySku.get(family[1]!.sku)).toMatchObject({ state: 'refused', code: '', field: '' });
    delete shelf.memory.entries['OTHER'];
  });
  it('holds the whole family until that one is mended, and then goes again', async () => {
    const waiting = await loadFamily(family[0]!.root);
    expect(waiting.map((r) => r.planned[0]?.held)).toEqual(
      family.map((r) => (r.sku === family[2]!.sku ? 'refused' : 'member')),
    );
    const refusals = (
      await house.call<{ rows: { code: string; field: string; open: number }[] }>(
        'GET',
        `/dispatches/${dispatch}/refusals`,
      )
    ).body.rows;
    expect(refusals.filter((r) => r.open > 0)).toMatchObject([{ code: '308', field: 'jan', open: 1 }]);
    await house.call('POST', `/dispatches/${dispatch}/refusals`, { code: '308', field: 'jan' });
    expect((await loadFamily(family[0]!.root)).map((r) => r.planned[0]?.held)).toEqual(family.map(() => null));
    const again = await house.call<{ dispatch: { id: number } }>('POST', `/dispatches/${dispatch}/resend`, {
      key: 'families-again',
    });
    expect(again.status).toBe(200);
    const d = await until(
      () => lumbara.read(again.body.dispatch.id),
      (x) => x.state === 'answered',
    );
    expect(d).toMatchObject({ total: family.length, accepted: family.length, refused: 0 });
    await untilLive(family[0]!.root);
  });
});

describe('a family of which one variant is at fault here', () => {
  it('waits as a whole, and goes without it when it is left out', async () => {
    const family = await findFamily();
    const bad = family[1]!;
    await lumbara.patch(bad.id, 'ne', String(bad.values['ne']), '0');
    const held = await loadFamily(family[0]!.root);
    expect(held.map((r) => r.planned[0]?.held)).toEqual(family.map((r) => (r.id === bad.id ? 'blocked' : 'member')));
    const refused = await house.call<{ message: string }>('POST', `${m}/dispatches`, {
      operation: 'create',
      ids: idsOf(family),
      looked: true,
      by: 'wire',
      key: 'families-held',
    });
    expect(refused.status).toBe(409);
    await house.call('POST', `${m}/listings/wanted`, { ids: [bad.id], wanted: false });
    const d = await lumbara.send('create', idsOf(family));
    expect(d).toMatchObject({ total: family.length - 1, accepted: family.length - 1 });
    expect(Object.keys(entryOf(family[0]!.sku)!.items)).not.toContain(bad.sku);
  });
});

describe('a family that stands', () => {
  let family: Member[];
  beforeAll(async () => {
    family = await findFamily();
    await lumbara.send('create', idsOf(family));
    family = await untilLive(family[0]!.root);
  });
  it('is joined by a variant in a record that says nothing else of it', async () => {
    const [head, , last] = family;
    const entry = entryOf(head!.sku)!;
    delete entry.items[last!.sku];
    await house.rows(
      `update listings set market_state = 'none', accepted_details = null, accepted_price = null, accepted_stock = null
        where id = ? returning id`,
      [last!.id],
    );
    await lumbara.patch(last!.id, 'ne', String(last!.values['ne']), '7777');
    const d = await lumbara.send('create', [last!.id]);
    expect(d).toMatchObject({ total: 1, accepted: 1 });
    expect(entry).not.toBe(entryOf(head!.sku));
    expect(entryOf(head!.sku)!.cells['呼び名']).toBe(head!.values['na']);
    expect(entryOf(head!.sku)!.items[last!.sku]!.cells['枝{n}値']).toBe('7777');
  });
  it('is priced and stocked by variant, in a file without a header row', async () => {
    const one = family[1]!;
    const price = String(Number(one.values['ne']) + 100);
    await lumbara.patch(one.id, 'ne', String(one.values['ne']), price);
    const d = await lumbara.send('price', [one.id]);
    expect(d).toMatchObject({ total: 1, accepted: 1 });
    expect(await lumbara.textOf(d.id)).toBe(`"${one.sku}","${price}","","","",""\r\n`);
    expect(entryOf(family[0]!.sku)!.items[one.sku]!.cells['枝{n}値']).toBe(price);
  });
  it('loses one variant where one is withdrawn, and keeps the others', async () => {
    const [head, one, two] = family;
    await house.call('POST', `${m}/listings/wish`, { ids: [one!.id], wish: 'withdraw' });
    const d = await lumbara.send('withdraw', [one!.id]);
    expect(d).toMatchObject({ total: 1, accepted: 1 });
    const { items } = entryOf(head!.sku)!;
    expect([items[one!.sku]!.standing, items[two!.sku]!.standing]).toEqual(['9', '1']);
    expect((await lumbara.loadItems('l.id = ?', one!.id))[0]!.market_state).toBe('withdrawn');
  });
});

describe('an answer that is not of this file', () => {
  it('is not believed: another family stands where one was sent', async () => {
    const family = await findFamily();
    const d = await lumbara.build('create', idsOf(family), 'hand');
    const text = new TextDecoder('shift_jis').decode(await bytesOf(d.id)).trimEnd();
    const answer = (change: (t: string) => string): Uint8Array => {
      const [header, line] = change(text).split('\r\n');
      return iconv.encode(`${header},"裁き","添え書き"\r\n${line},"0",""\r\n`, 'shift_jis');
    };
    const strange = await house.upload<{ message: string }>(
      'kekka.csv',
      answer((t) => t.replace(`"${family[0]!.sku}"`, '"ELSE"')),
      `/dispatches/${d.id}/receipt`,
    );
    expect([strange.status, strange.body.message]).toEqual([
      422,
      'Line 1 of the receipt speaks of ELSE, which is not what was sent there; the receipt is not believed.',
    ]);
    const own = await house.upload(
      'kekka.csv',
      answer((t) => t),
      `/dispatches/${d.id}/receipt`,
    );
    expect(own.status).toBe(200);
    expect(await lumbara.read(d.id)).toMatchObject({ state: 'answered', accepted: family.length });
  });
});
