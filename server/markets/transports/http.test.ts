// The market as a port, against the real stand-in: what it gives when all is well and what it says when it is not.
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { quillhavenDocument } from '@basileus/rulebooks/quillhaven';
import { findForm } from '@basileus/core/forms';
import { type HttpTransport, parseRulebook } from '@basileus/core/rulebook';
import { type BookDocument, type RunningMarket, startMarket } from '@basileus/standins/quillhaven';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { until } from '../../tests/house';
import { openFreeGate } from '../gate';
import type { Market } from '../load';
import { type MarketPort, openMarketPort } from '../port';
import { linkToEntry } from './http';

const reading = parseRulebook(quillhavenDocument);
if (!reading.ok) throw new Error('The rulebook is not valid.');
let market: RunningMarket,
  port: MarketPort,
  url = '';
const as = (address: string | undefined): Market =>
  ({
    name: 'Quillhaven',
    rulebook: reading.rulebook,
    connection: address ? { url: address } : {},
  }) as unknown as Market;
const openAt = (market: Market): MarketPort => openMarketPort(market, openFreeGate(undefined));
beforeAll(async () => {
  const n = await new Promise<number>((done) => {
    market = startMarket(
      { book: quillhavenDocument as BookDocument, workMs: 30, reviewMs: 10, sellEveryMs: 0 },
      0,
      done,
    );
  });
  url = `http://127.0.0.1:${n}`;
  port = openAt(as(url));
});
afterEach(() => {
  Object.assign(market.moods, { failNext: 0, garbageNext: 0, hangUpNext: 0, forgetNext: 0, slowMs: 0 });
});
afterAll(async () => {
  await market.stop();
});

const form = findForm(reading.rulebook, 'stock')!;
const keys = form.slots.map((c) => c.key).join('\t');
const file = (key: string, text = `${keys}\r\n${keys}\r\nGHOST\t3\r\n`) => ({
  name: 'stock.txt',
  operation: 'stock',
  form: form.key,
  key,
  bytes: Buffer.from(text),
  records: 1,
});

describe('the port', () => {
  it('submits a file, waits without an answer, then gives the receipt', async () => {
    const ticket = await port.submit(file('port-1'));
    expect(ticket).toMatch(/^T\d+$/);
    const receipt = await until(
      () => port.fetchReceipt(ticket, 'full'),
      (r) => r !== undefined,
    );
    expect(receipt).toContain('GHOST\tTURNED BACK\tQ23\thouse_sku');
  });
  it('gives the same ticket for the same key, another for another', async () => {
    const first = await port.submit(file('port-2'));
    expect(await port.submit(file('port-2'))).toBe(first);
    expect(await port.submit(file('port-3'))).not.toBe(first);
  });
  it.each([
    ['fails', { failNext: 1 }, /is not there for the moment \(503\)/],
    ['hangs up', { hangUpNext: 1 }, /cannot be reached or dropped the connection/],
    ['answers garbage', { garbageNext: 1 }, /did not take the file/],
  ])('says that the market %s, as something worth trying again', async (_, mood, says) => {
    Object.assign(market.moods, mood);
    await expect(port.submit(file('port-4'))).rejects.toMatchObject({
      code: 'market-unreachable',
      message: expect.stringMatching(says) as string,
    });
    expect(await port.submit(file('port-4'))).toMatch(/^T\d+$/);
  });
  it('says what is wrong with a file, as something not worth trying again', async () => {
    await expect(port.submit(file('port-5', 'a\tb\r\na\tb\r\n'))).rejects.toMatchObject({
      code: 'bad-input',
      message: expect.stringContaining('The second header row lacks house_sku') as string,
    });
  });
  it('does not know a ticket that never was', async () => {
    await expect(port.fetchReceipt('T999999', 'full')).rejects.toMatchObject({ code: 'bad-input' });
  });
  it('says that nobody is there, and that it has no address', async () => {
    await expect(openAt(as('http://127.0.0.1:9')).submit(file('x'))).rejects.toMatchObject({
      code: 'market-unreachable',
    });
    await expect(openAt(as(undefined)).readShelf(null)).rejects.toMatchObject({
      message: 'Quillhaven has no address to send to.',
    });
  });
  it('never leaves the address that the person entered, whatever a rulebook says and wherever the market leads', async () => {
    const transport = reading.rulebook.transport as HttpTransport;
    const asked: string[] = [];
    const other = createServer((request, response) => {
      asked.push(request.url ?? '');
      response.writeHead(302, { Location: 'http://127.0.0.1:9/inside' }).end();
    });
    await new Promise<void>((done) => other.listen(0, '127.0.0.1', done));
    const url = `http://127.0.0.1:${String((other.address() as AddressInfo).port)}/seller`;
    for (const path of ['@127.0.0.1:9/x', '//127.0.0.1:9/x', '/../x'])
      await expect(
        openAt({
          ...as(url),
          rulebook: { ...reading.rulebook, transport: { ...transport, shelf: { ...transport.shelf, path } } },
        }).readShelf(null),
      ).rejects.toThrow();
    await expect(openAt(as(url)).readShelf(null)).rejects.toMatchObject({
      code: 'market-unreachable',
    });
    expect(asked.filter((a) => !a.startsWith('/seller/'))).toEqual([]);
    expect(asked.length).toBeGreaterThan(0);
    other.close();
    for (const path of ['@evil.example', '//evil.example', '/../x', 'http://evil.example', '/a?b/c', '/a b'])
      expect(
        parseRulebook({
          ...(quillhavenDocument as object),
          transport: { ...transport, shelf: { ...transport.shelf, path } },
        }),
        path,
      ).toMatchObject({ ok: false, faults: [{ path: 'transport.shelf.path' }] });
  });
  it('reads the shelf from a cursor on, each change once', async () => {
    const entry = (sku: string, stamp: number) => ({
      sku,
      number: `Q-${sku}`,
      standing: 'on shelf' as const,
      reason: '',
      cells: { title: `Fine thing ${sku}`, brand: 'House', item_number: '', shelf: 'woks' },
      readyAt: 0,
      stamp,
      quantity: 1,
      sold: 0,
    });
    const { memory, touch } = market.shelf;
    for (const sku of ['S-1', 'S-2']) {
      memory.entries[sku] = entry(sku, 0);
      touch(memory.entries[sku]!);
    }
    const first = await port.readShelf(null);
    expect(first.lines.map((l) => l.sku)).toEqual(['S-1', 'S-2']);
    expect((await port.readShelf(first.cursor)).lines).toEqual([]);
    touch(memory.entries['S-1']!);
    const second = await port.readShelf(first.cursor);
    expect(second.lines.map((l) => [l.sku, l.state])).toEqual([['S-1', 'on shelf']]);
  });
  it('finds entries by words', async () => {
    expect((await port.find('fine S-2')).map((e) => [e.title, e.category])).toEqual([['Fine thing S-2', 'woks']]);
    expect(await port.find('nothing like it')).toEqual([]);
  });
  it('links to the page that a buyer sees', async () => {
    const html = await (await fetch(linkToEntry(as(url), market.shelf.memory.entries['S-2']!.number)!)).text();
    expect(html).toContain('Fine thing S-2');
    expect((await fetch(linkToEntry(as(url), 'Q0')!)).status).toBe(404);
  });
});
