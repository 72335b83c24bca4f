// A market that knows us by a key, slows us down and answers in pages: the port against a market of a few lines.
import { createServer, type RequestListener, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { type HttpTransport, parseRulebook } from '@basileus/core/rulebook';
import { cedarpostDocument } from '@basileus/rulebooks/cedarpost';
import { afterEach, describe, expect, it } from 'vitest';
import { openFreeGate } from '../gate';
import type { Market } from '../load';
import { type MarketPort, openMarketPort } from '../port';

const reading = parseRulebook(cedarpostDocument);
if (!reading.ok) throw new Error('The rulebook is not valid.');
const book = reading.rulebook;
let server: Server | undefined;
afterEach(() => {
  server?.closeAllConnections();
  server?.close();
});

/** A port to a market that answers by this; without a key where `key` is undefined. */
async function open(listen: RequestListener, key: string | undefined = 'k-1'): Promise<MarketPort> {
  server = createServer(listen);
  await new Promise<void>((done) => {
    server!.listen(0, '127.0.0.1', done);
  });
  const url = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const market = { name: 'Cedarpost', rulebook: book, connection: { url } } as unknown as Market;
  return openMarketPort(market, openFreeGate(key));
}
const page = (n: number, next?: number, more: object = {}) =>
  JSON.stringify({
    whole: true,
    lines: [{ n, ref: `R${n}`, went: 'in' }],
    ...(next === undefined ? {} : { next: String(next) }),
    ...more,
  });
const asked = (url: string | undefined): number => Number(/from=(\d+)/.exec(url ?? '')?.[1] ?? 0);

describe('pages', () => {
  it('are fetched to the last, each on a line of its own', async () => {
    const seen: (string | undefined)[] = [];
    const port = await open((request, response) => {
      seen.push(request.headers.authorization);
      const n = asked(request.url);
      response.end(JSON.stringify(JSON.parse(page(n, n < 3 ? n + 1 : undefined)), null, 2));
    });
    expect((await port.fetchReceipt('D1', 'full'))!.split('\n')).toEqual([page(0, 1), page(1, 2), page(2, 3), page(3)]);
    expect(new Set(seen)).toEqual(new Set(['Bearer k-1']));
  });
  it.each([
    ['seconds', () => '1'],
    ['a date', () => new Date(Date.now() + 1200).toUTCString()],
  ])('go on where a busy market asks to wait, by %s', async (_, wait) => {
    let refusals = 0;
    const port = await open((request, response) => {
      const n = asked(request.url);
      if (n === 1 && refusals++ === 0) response.writeHead(429, { 'Retry-After': wait() }).end();
      else response.end(page(n, n < 2 ? n + 1 : undefined));
    });
    expect((await port.fetchReceipt('D1', 'full'))!.split('\n')).toHaveLength(3);
    expect(refusals).toBe(2);
  });
  it('that lead in a circle come to an end', async () => {
    const port = await open((request, response) => {
      response.end(page(asked(request.url), 1));
    });
    await expect(port.fetchReceipt('D1', 'full')).rejects.toMatchObject({
      code: 'market-unreachable',
      message: expect.stringContaining('do not come to an end') as string,
    });
  });
  it('are waited for while the answer says that it is not whole', async () => {
    const port = await open((_, response) => {
      response.end(JSON.stringify({ whole: false, lines: [] }));
    });
    expect(await port.fetchReceipt('D1', 'full')).toBeUndefined();
  });
});

describe('the key', () => {
  it('has to be there before anything is asked', async () => {
    let requests = 0;
    const listen: RequestListener = (_, response) => {
      requests++;
      response.end('{}');
    };
    server = createServer(listen);
    await new Promise<void>((done) => {
      server!.listen(0, '127.0.0.1', done);
    });
    const url = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
    const market = { name: 'Cedarpost', rulebook: book, connection: { url } } as unknown as Market;
    await expect(openMarketPort(market, openFreeGate(undefined)).readShelf(null)).rejects.toMatchObject({
      about: { notTaken: true },
      message: expect.stringContaining('none is kept') as string,
    });
    expect(requests).toBe(0);
  });
  it.each([401, 403])('that is refused with %i has surely left nothing there', async (status) => {
    const port = await open((_, response) => {
      response.writeHead(status).end();
    });
    const file = { name: 'f', operation: 'stock', form: 'stock', key: 'x', bytes: Buffer.from('{}\n'), records: 1 };
    await expect(port.submit(file)).rejects.toMatchObject({
      code: 'market-unreachable',
      about: { notTaken: true, remedy: expect.stringContaining('Connection') as string },
    });
  });
  it('is not among what this market’s document says', () => {
    expect(JSON.stringify((book.transport as HttpTransport).login)).toBe('{"kind":"bearer"}');
  });
});
