import { cedarpostDocument } from '@basileus/rulebooks/cedarpost';
import { afterEach, describe, expect, it } from 'vitest';
import {
  type BookDocument,
  createJudge,
  endReviews,
  isItemCode,
  openShelf,
  type RunningMarket,
  sellerKey,
  startMarket,
  workThrough,
} from '.';
import type { Group } from './book';

const book = cedarpostDocument as BookDocument;
const judge = createJudge(book);
const good = (ref: string, more: Group = {}): Group => ({
  act: 'add',
  ref,
  kin: { part: 'alone' },
  aisle: 'cook.stove.woks',
  say: {
    name: 'Tallow Lane Wok 12 in',
    maker: 'Tallow Lane',
    story: 'A wok of carbon steel with high sides for quick cooking.',
    code: '9521234567899',
  },
  photos: ['https://p.example/1.jpg'],
  worth: { ask: 44.5 },
  stock: { on_hand: 12, ships: 'two' },
  state: 'sealed',
  box: { l: 14, w: 14, h: 5, lb: 4.2 },
  facts: { material: 'carbon_steel', diameter_in: 12.6 },
  safety: { hazard: 'none' },
  ...more,
});
const openDesk = () => ({ book, judge, shelf: openShelf(undefined), now: 1000, reviewMs: 500 });
const notesOf = (desk: ReturnType<typeof openDesk>, ...records: Group[]) =>
  workThrough(desk, 'goods', records).map((l) => (l.notes ?? []).map((n) => `${n.id} ${n.at}`));

describe('an entry', () => {
  it('is taken, looked at for a while, then shown', () => {
    const desk = openDesk();
    expect(workThrough(desk, 'goods', [good('A')])).toEqual([{ n: 0, ref: 'A', went: 'in', entry: 'G70001' }]);
    expect(endReviews(desk.shelf, 1499)).toBe(0);
    expect(endReviews(desk.shelf, 1500)).toBe(1);
    expect(desk.shelf.memory.entries['A']!.standing).toBe('showing');
  });
  it('that is doubted is turned down, and looked at again when it is amended', () => {
    const desk = openDesk();
    const record = good('A');
    workThrough(desk, 'goods', [{ ...record, say: { ...(record['say'] as Group), name: 'Replica of a famous wok' } }]);
    endReviews(desk.shelf, 9999);
    expect(desk.shelf.memory.entries['A']!.standing).toBe('turned_down');
    notesOf(desk, { act: 'amend', ref: 'A', say: { name: 'Tallow Lane Wok 12 in' } });
    expect(desk.shelf.memory.entries['A']!.standing).toBe('looked_at');
  });
  it.each<[string, Group, string]>([
    ['no photos', { photos: [] }, 'n_form photos'],
    ['a price of many decimals', { worth: { ask: 44.505 } }, 'n_form worth.ask'],
    ['a price as a text', { worth: { ask: '44.50' } }, 'n_form worth.ask'],
    ['a floor over the price', { worth: { ask: 10, least: 12, most: 20 } }, 'n_range worth.ask'],
    ['a floor without a ceiling', { worth: { ask: 10, least: 8 } }, 'n_missing worth.most'],
    [
      'a sale that is none',
      { worth: { ask: 10, deal: { ask: 10, from: '2026-11-27T00:00:00Z' } } },
      'n_deal worth.deal.ask',
    ],
    [
      'a sale without a zone',
      { worth: { ask: 10, deal: { ask: 9, from: '2026-11-27T00:00:00' } } },
      'n_form worth.deal.from',
    ],
    ['lithium without a UN number', { safety: { hazard: 'lithium_metal', cells: 1 } }, 'n_missing safety.un'],
    ['an aisle that takes nothing', { aisle: 'cook' }, 'n_aisle aisle'],
    [
      'a color that is not listed',
      { facts: { material: 'carbon_steel', diameter_in: 12, color: 'teal' } },
      'n_list facts.color',
    ],
    [
      'a fact of another aisle',
      { facts: { material: 'carbon_steel', diameter_in: 12, pages: 9 } },
      'n_unused facts.pages',
    ],
  ])('with %s is out', (_, more, note) => {
    expect(notesOf(openDesk(), good('A', more))[0]).toContain(note);
  });
  it('changes only where it is named, is emptied by null, and stays right as a whole', () => {
    const desk = openDesk();
    workThrough(desk, 'goods', [good('A', { facts: { material: 'carbon_steel', diameter_in: 12.6, color: 'jet' } })]);
    expect(notesOf(desk, { act: 'amend', ref: 'A', facts: { color: null } })).toEqual([[]]);
    expect(desk.shelf.memory.entries['A']!.record['facts']).toEqual({ material: 'carbon_steel', diameter_in: 12.6 });
    expect(notesOf(desk, { act: 'amend', ref: 'A', facts: { material: null } })).toEqual([
      ['n_missing facts.material'],
    ]);
    expect(notesOf(desk, { act: 'amend', ref: 'A', say: { maker: 'Other' } })).toEqual([['n_fixed say.maker']]);
  });
  it('has its code alone, whatever zeros stand before it', () => {
    const other = good('B');
    const twin = { ...other, say: { ...(other['say'] as Group), code: '09521234567899' } };
    expect(notesOf(openDesk(), good('A'), twin)[1]).toEqual(['n_code_twice say.code']);
  });
  it('stands once in a file', () => {
    expect(notesOf(openDesk(), good('A'), good('A'))[1]).toEqual(['n_twice ref']);
  });
});

describe('a family', () => {
  const head = good('F', {
    kin: { part: 'head', vary: ['diameter'] },
    say: { name: 'Tallow Lane Woks', maker: 'Tallow Lane', story: 'Woks of carbon steel in several sizes for all.' },
    facts: { material: 'carbon_steel' },
  });
  const { worth: _w, stock: _s, state: _t, box: _b, safety: _f, ...family } = head;
  const member = (ref: string, diameter_in: number, code: string, more: Group = {}): Group => {
    const one = good(ref, {
      kin: { of: 'F', part: 'member', vary: ['diameter'] },
      facts: { material: 'carbon_steel', diameter_in },
    });
    return { ...one, say: { ...(one['say'] as Group), code }, ...more };
  };
  it('is its head and members that differ', () => {
    expect(notesOf(openDesk(), family, member('F-1', 11, '9521234567899'), member('F-2', 12, '9529990000018'))).toEqual(
      [[], [], []],
    );
  });
  it('needs its head first, the same aisle and axes, and members that are not alike', () => {
    expect(notesOf(openDesk(), member('F-1', 11, '9521234567899'))[0]).toEqual(['n_kin kin.of']);
    const alike = notesOf(openDesk(), family, member('F-1', 11, '9521234567899'), member('F-2', 11, '9529990000018'));
    expect(alike[2]).toEqual(['n_kin facts.diameter_in']);
    const elsewhere = member('F-1', 11, '9521234567899', { aisle: 'cook.stove.griddles' });
    expect(notesOf(openDesk(), family, elsewhere)[1]).toEqual(['n_kin aisle']);
  });
});

it.each([
  ['9521234567899', true],
  ['952123456789', false],
  ['036000291452', true],
  ['9521234567890', false],
  ['2012345678903', false],
  ['95200002', false],
])('%s is an item code: %s', (code, is) => {
  expect(isItemCode(code)).toBe(is);
});

describe('the door', () => {
  let market: RunningMarket | undefined;
  afterEach(() => market?.stop());
  const open = async (quota = book.transport.quota) => {
    const port = await new Promise<number>((done) => {
      market = startMarket(
        { book: { ...book, transport: { quota } }, workMs: 0, reviewMs: 0, sellEveryMs: 0, linesOnPage: 1 },
        0,
        done,
      );
    });
    return (path: string, init: RequestInit = {}, key = sellerKey) =>
      fetch(`http://127.0.0.1:${port}${path}`, {
        ...init,
        headers: { ...init.headers, Authorization: `Bearer ${key}` },
      });
  };
  it('knows a seller by the key', async () => {
    const ask = await open();
    expect((await ask('/entries', {}, 'stranger')).status).toBe(401);
    expect((await ask('/entries')).status).toBe(200);
  });
  it('asks to slow down, in both forms that there are for it', async () => {
    const ask = await open({ seconds: 60, requests: 1, records: 10 });
    expect((await ask('/entries')).status).toBe(200);
    const waits = [await ask('/entries'), await ask('/entries')].map((r) => r.headers.get('retry-after')!);
    expect(waits[0]).toMatch(/^\d+$/);
    expect(Date.parse(waits[1]!)).toBeGreaterThan(Date.now());
    expect((await ask('/entries')).status).toBe(429);
  });
  it('takes a file once under its key, and answers in pages', async () => {
    const ask = await open({ seconds: 60, requests: 100_000, records: 100 });
    const drop = async () =>
      (await (
        await ask('/drops?of=goods&file=a.jsonl', {
          method: 'POST',
          headers: { 'Idempotency-Key': 'k' },
          body: `${JSON.stringify(good('A'))}\n${JSON.stringify(good('B'))}\n`,
        })
      ).json()) as { drop: string };
    const { drop: id } = await drop();
    expect((await drop()).drop).toBe(id);
    interface Page {
      whole: boolean;
      lines: { went: string }[];
      next?: string;
    }
    let first: Page;
    do first = (await (await ask(`/drops/${id}/lines`)).json()) as Page;
    while (!first.whole);
    expect(first).toMatchObject({ file: 'a.jsonl', records: 2, lines: [{ went: 'in' }], next: '1' });
    const second = (await (await ask(`/drops/${id}/lines?from=1`)).json()) as Page;
    expect(second).toMatchObject({ lines: [{ n: 1, went: 'out' }] });
    expect(second.next).toBeUndefined();
  });
  it('refuses a file of which a line is none, as a whole', async () => {
    const ask = await open();
    const r = await ask('/drops?of=goods', { method: 'POST', body: '{"ref":"A"}\n[1]\n' });
    expect([r.status, await r.text()]).toEqual([400, '{"because":"Line 2 is no object."}']);
  });
  it('finds what stands there, its own and that of others', async () => {
    const ask = await open();
    expect(await (await ask('/search?words=rowan%20skillet')).json()).toMatchObject({
      found: [{ entry: 'G9001' }, { entry: 'G9002' }],
    });
  });
});
