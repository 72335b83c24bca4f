// Quillhaven's stand-in: a small market of its own behind HTTP. It takes files, works through them in its own time,
// answers with receipts, shows a page to buyers, and can be told to be slow, to fail, to answer garbage or to hang up.
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { control } from './control';
import { takeFile, workThroughTickets } from './inbox';
import { findEntries, writeShelfList } from './lists';
import { type Answer, type Market, type MarketOptions, type Moods, startMoods } from './market';
import { writeItemPage } from './page';
import { openShelf, type Shelf } from './shelf';
import { endReviews, sellSome } from './work';

export interface RunningMarket {
  server: Server;
  shelf: Shelf;
  moods: Moods;
  stop: () => Promise<void>;
}

const mostBytes = 80_000_000;
const tickMs = 150;

/** Starts the market on a port of loopback. */
export function startMarket(options: MarketOptions, port: number, ready: (port: number) => void): RunningMarket {
  const market: Market = { options, shelf: openShelf(options.file), moods: startMoods() };
  const { shelf, moods } = market;
  const stopClock = startClock(market);
  const server = createServer((request, response) => {
    answer(market, request, response).catch((e: unknown) => {
      if (!response.headersSent)
        send(response, { status: 400, text: e instanceof Error ? e.message : 'Not understood.' });
    });
  });
  server.listen(port, '127.0.0.1', () => {
    const a = server.address();
    ready(typeof a === 'object' && a ? a.port : port);
  });
  return {
    server,
    shelf,
    moods,
    stop: async () => {
      stopClock();
      shelf.save();
      server.closeAllConnections();
      await new Promise<void>((closed) => {
        server.close(() => {
          closed();
        });
      });
    },
  };
}

/** Time passes: tickets are worked through, reviews end, things are sold. Answers how to stop it. */
function startClock(market: Market): () => void {
  const { shelf, options } = market;
  let isDirty = false,
    seed = 7;
  const random = () => {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    return seed / 4294967296;
  };
  const tick = setInterval(() => {
    if (workThroughTickets(market, Date.now()) + endReviews(shelf, Date.now()) > 0) isDirty = true;
    if (isDirty) shelf.save();
    isDirty = false;
  }, tickMs);
  const selling =
    options.sellEveryMs > 0
      ? setInterval(() => {
          if (sellSome(shelf, random) > 0) isDirty = true;
        }, options.sellEveryMs)
      : undefined;
  return () => {
    clearInterval(tick);
    clearInterval(selling);
  };
}

async function answer(market: Market, request: IncomingMessage, response: ServerResponse): Promise<void> {
  const { shelf, moods, options } = market;
  const url = new URL(request.url ?? '/', 'http://market');
  const path = url.pathname;
  if (path.startsWith('/_control/') && !isFromHere(request)) {
    send(response, { status: 403, text: 'Only programs on this machine may tell the market how to behave.' });
    return;
  }
  const body = await readBody(request);
  if (path.startsWith('/_control/')) {
    send(response, control(market, path.slice('/_control/'.length), body));
    return;
  }
  if (moods.slowMs > 0) await new Promise((r) => setTimeout(r, moods.slowMs));
  const take = () => takeFile(market, url, String(request.headers['idempotency-key'] ?? ''), body);
  if (path === '/inbox' || path.startsWith('/inbox/')) {
    const mood = followMood(moods, path === '/inbox');
    if (mood === 'forget') take();
    if (mood === 'forget' || mood === 'hang-up') {
      request.socket.destroy();
      return;
    }
    if (mood) {
      send(response, mood);
      return;
    }
  }
  if (path === '/inbox' && request.method === 'POST') {
    const t = take();
    send(response, typeof t === 'string' ? { status: 400, text: t } : { status: 202, text: `ticket\t${t.id}\n` });
    return;
  }
  const receipt = /^\/inbox\/([^/]+)\/receipt$/.exec(path);
  if (receipt) {
    const t = shelf.memory.tickets[decodeURIComponent(receipt[1]!)];
    if (!t) send(response, { status: 404, text: 'No such ticket.' });
    else send(response, t.receipt === undefined ? { status: 202, text: 'At work.' } : { status: 200, text: t.receipt });
    return;
  }
  if (path === '/shelf') {
    send(response, { status: 200, text: writeShelfList(shelf, Number(url.searchParams.get('since') ?? 0)) });
    return;
  }
  if (path === '/find') {
    send(response, { status: 200, text: findEntries(shelf, url.searchParams.get('q') ?? '') });
    return;
  }
  const item = /^\/item\/([^/]+)$/.exec(path);
  const entry = item && Object.values(shelf.memory.entries).find((e) => e.number === decodeURIComponent(item[1]!));
  if (entry) {
    const page = writeItemPage(entry, shelf, options.book);
    response.writeHead(200, { 'Content-Type': 'text/html; charset=utf-8' }).end(page);
    return;
  }
  send(response, { status: 404, text: 'Nothing stands here.' });
}

/** True for a program on this machine: asked under a loopback name, and by no web page. */
const isFromHere = ({ headers }: IncomingMessage): boolean =>
  /^(localhost|127\.0\.0\.1|\[::1\])(:\d+)?$/.test(headers.host ?? '') &&
  headers.origin === undefined &&
  ['none', undefined].includes(headers['sec-fetch-site'] as string | undefined);

/** What the market does instead of its work, each as often as it was told to; `forget` takes the file and then hangs up. */
function followMood(moods: Moods, isFile: boolean): Answer | 'forget' | 'hang-up' | undefined {
  if (moods.failNext > 0) {
    moods.failNext--;
    return { status: 503, text: 'The house is closed for a moment.' };
  }
  if (isFile && moods.forgetNext > 0) {
    moods.forgetNext--;
    return 'forget';
  }
  if (moods.hangUpNext > 0) {
    moods.hangUpNext--;
    return 'hang-up';
  }
  if (moods.garbageNext > 0) {
    moods.garbageNext--;
    return { status: 200, text: '\u0000\u0001<<<\tnot what you expect\n' };
  }
  return undefined;
}

const send = (response: ServerResponse, { status, text }: Answer): void => {
  response.writeHead(status, { 'Content-Type': 'text/plain; charset=utf-8' }).end(text);
};

async function readBody(request: IncomingMessage): Promise<string> {
  const chunks: Buffer[] = [];
  let size = 0;
  for await (const chunk of request as AsyncIterable<Buffer>) {
    size += chunk.length;
    if (size > mostBytes) throw new Error('The file is too large.');
    chunks.push(chunk);
  }
  return Buffer.concat(chunks).toString('utf8');
}
