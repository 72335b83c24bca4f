// Quillhaven's stand-in: a small market of its own behind HTTP. It takes files, works through them in its own time,
// answers with receipts, shows a page to buyers, and can be told to be slow, to fail, to answer garbage or to hang up.
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import Papa from 'papaparse';
import type { BookDocument } from './book';
import { writeItemPage } from './page';
import { openShelf, type Shelf, type Ticket } from './shelf';
import { endReviews, sellSome, workThrough } from './work';

export interface Moods {
  slowMs: number;
  failNext: number;
  garbageNext: number;
  hangUpNext: number;
  forgetNext: number;
  uncleared: string[];
}
export interface MarketOptions {
  book: BookDocument;
  file?: string;
  workMs: number;
  reviewMs: number;
  sellEveryMs: number;
}
export interface RunningMarket {
  server: Server;
  shelf: Shelf;
  moods: Moods;
  stop: () => Promise<void>;
}

const mostBytes = 80_000_000;

/** Starts the market on a port of loopback. */
export function startMarket(options: MarketOptions, port: number, ready: (port: number) => void): RunningMarket {
  const shelf = openShelf(options.file);
  const moods: Moods = {
    slowMs: 0,
    failNext: 0,
    garbageNext: 0,
    hangUpNext: 0,
    forgetNext: 0,
    uncleared: ['Tidewrack Trading Co'],
  };
  let isDirty = false,
    seed = 7;
  const random = () => {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    return seed / 4294967296;
  };
  const tick = setInterval(() => {
    work();
    if (endReviews(shelf, Date.now()) > 0) isDirty = true;
    if (isDirty) {
      shelf.save();
      isDirty = false;
    }
  }, 150);
  const selling =
    options.sellEveryMs > 0
      ? setInterval(() => {
          if (sellSome(shelf, random) > 0) isDirty = true;
        }, options.sellEveryMs)
      : undefined;

  function work(): void {
    for (const t of Object.values(shelf.memory.tickets)) {
      if (t.receipt !== undefined || t.doneAt > Date.now()) continue;
      const answers = workThrough(options.book, shelf, t.operation, t.rows, {
        reviewMs: options.reviewMs,
        now: Date.now(),
        uncleared: moods.uncleared,
      });
      t.receipt =
        Papa.unparse(
          [
            ['line', 'house_sku', 'verdict', 'code', 'field', 'entry'],
            ...answers.map((a) => [a.line, a.sku, a.verdict, a.code, a.field, a.number]),
          ],
          { delimiter: '\t', newline: '\r\n' },
        ) + '\r\n';
      t.rows = [];
      isDirty = true;
    }
  }

  async function answer(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const url = new URL(request.url ?? '/', 'http://market');
    const body = await readBody(request);
    const path = url.pathname;
    if (path.startsWith('/_control/')) {
      control(path.slice(10), body, response);
      return;
    }
    if (moods.slowMs > 0) await new Promise((r) => setTimeout(r, moods.slowMs));
    if (path === '/inbox' || path.startsWith('/inbox/')) {
      if (moods.failNext > 0) {
        moods.failNext--;
        text(response, 503, 'The house is closed for a moment.');
        return;
      }
      if (path === '/inbox' && moods.forgetNext > 0) {
        moods.forgetNext--;
        takeFile(url, request, body);
        request.socket.destroy();
        return;
      }
      if (moods.hangUpNext > 0) {
        moods.hangUpNext--;
        request.socket.destroy();
        return;
      }
      if (moods.garbageNext > 0) {
        moods.garbageNext--;
        text(response, 200, '\u0000\u0001<<<\tnot what you expect\n');
        return;
      }
    }
    if (path === '/inbox' && request.method === 'POST') {
      const t = takeFile(url, request, body);
      if (typeof t === 'string') text(response, 400, t);
      else text(response, 202, `ticket\t${t.id}\n`);
      return;
    }
    const receipt = /^\/inbox\/([^/]+)\/receipt$/.exec(path);
    if (receipt) {
      const t = shelf.memory.tickets[decodeURIComponent(receipt[1]!)];
      if (!t) text(response, 404, 'No such ticket.');
      else if (t.receipt === undefined) text(response, 202, 'At work.');
      else text(response, 200, t.receipt);
      return;
    }
    if (path === '/shelf') {
      text(response, 200, writeShelf(Number(url.searchParams.get('since') ?? 0)));
      return;
    }
    if (path === '/find') {
      text(response, 200, find(url.searchParams.get('q') ?? ''));
      return;
    }
    const item = /^\/item\/([^/]+)$/.exec(path);
    const entry = item && Object.values(shelf.memory.entries).find((e) => e.number === decodeURIComponent(item[1]!));
    if (entry) {
      response
        .writeHead(200, { 'Content-Type': 'text/html; charset=utf-8' })
        .end(writeItemPage(entry, shelf, options.book));
      return;
    }
    text(response, 404, 'Nothing stands here.');
  }

  function takeFile(url: URL, request: IncomingMessage, body: string): Ticket | string {
    const key = String(request.headers['idempotency-key'] ?? '');
    const known = key ? Object.values(shelf.memory.tickets).find((t) => t.key === key) : undefined;
    if (known) return known;
    const operation = url.searchParams.get('operation') ?? '';
    const layout = options.book.layouts.find((l) => l.operations.includes(operation));
    if (!layout) return `Files for “${operation}” are not taken.`;
    const parsed = Papa.parse<string[]>(body.replace(/^\ufeff/, ''), { delimiter: '\t', skipEmptyLines: true }).data;
    const keys = parsed[1] ?? [];
    const missing = layout.columns.filter((c) => !keys.includes(c.key)).map((c) => c.key);
    if (missing.length) return `The second header row lacks ${missing.slice(0, 5).join(', ')}.`;
    const rows = parsed.slice(2).map((r) => Object.fromEntries(keys.map((k, i) => [k, r[i] ?? ''])));
    const t: Ticket = {
      id: `T${String(shelf.memory.nextTicket++).padStart(6, '0')}`,
      key,
      operation,
      name: url.searchParams.get('name') ?? '',
      rows,
      doneAt: Date.now() + options.workMs + moods.slowMs,
      receipt: undefined,
      fault: undefined,
    };
    shelf.memory.tickets[t.id] = t;
    shelf.save();
    return t;
  }

  function writeShelf(since: number): string {
    const changed = Object.values(shelf.memory.entries)
      .filter((e) => e.stamp > since)
      .sort((a, b) => a.stamp - b.stamp)
      .slice(0, 5000);
    const cursor = changed.at(-1)?.stamp ?? Math.max(since, shelf.memory.clock - 1);
    return (
      [
        `cursor\t${cursor}`,
        'house_sku\tentry\tstanding\treason\tstamp',
        ...changed.map((e) => [e.sku, e.number, e.standing, e.reason, e.stamp].join('\t')),
      ].join('\n') + '\n'
    );
  }

  function find(q: string): string {
    const words = q.toLowerCase().split(/\s+/).filter(Boolean);
    const hits = Object.values(shelf.memory.entries)
      .filter(
        (e) =>
          e.standing === 'on shelf' &&
          words.every((w) =>
            `${e.cells['title'] ?? ''} ${e.cells['brand'] ?? ''} ${e.cells['item_number'] ?? ''} ${e.number}`
              .toLowerCase()
              .includes(w),
          ),
      )
      .slice(0, 20);
    return (
      [
        'number\ttitle\tbrand\titem_number\tshelf',
        ...hits.map((e) =>
          [e.number, e.cells['title'], e.cells['brand'], e.cells['item_number'], e.cells['shelf']]
            .map((c) => (c ?? '').replace(/\s+/g, ' '))
            .join('\t'),
        ),
      ].join('\n') + '\n'
    );
  }

  function control(what: string, body: string, response: ServerResponse): void {
    if (what === 'mood') {
      Object.assign(moods, JSON.parse(body || '{}'));
      text(response, 200, JSON.stringify(moods));
      return;
    }
    if (what === 'counts') {
      const counts: Record<string, number> = {};
      for (const e of Object.values(shelf.memory.entries)) counts[e.standing] = (counts[e.standing] ?? 0) + 1;
      text(response, 200, JSON.stringify({ entries: counts, tickets: Object.keys(shelf.memory.tickets).length }));
      return;
    }
    if (what === 'entry') {
      text(response, 200, JSON.stringify(shelf.memory.entries[body.trim()] ?? null));
      return;
    }
    if (what === 'shelve') {
      const parsed = Papa.parse<string[]>(body, { delimiter: '\t', skipEmptyLines: true }).data;
      const rows = parsed.slice(2).map((r) => Object.fromEntries((parsed[1] ?? []).map((k, i) => [k, r[i] ?? ''])));
      rows.forEach((cells, i) => {
        const sku = cells['house_sku'] ?? '';
        shelf.memory.entries[sku] = {
          sku,
          number: `Q${700_001 + i}`,
          standing: 'on shelf',
          reason: '',
          cells,
          readyAt: 0,
          stamp: 0,
          quantity: Number(cells['quantity'] ?? 0),
          sold: 0,
        };
        shelf.touch(shelf.memory.entries[sku]!);
      });
      shelf.save();
      text(response, 200, String(rows.length));
      return;
    }
    text(response, 404, 'No such control.');
  }

  const server = createServer((request, response) => {
    answer(request, response).catch((e: unknown) => {
      if (!response.headersSent) text(response, 400, e instanceof Error ? e.message : 'Not understood.');
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
      clearInterval(tick);
      clearInterval(selling);
      shelf.save();
      server.closeAllConnections();
      await new Promise<void>((r) =>
        server.close(() => {
          r();
        }),
      );
    },
  };
}

const text = (response: ServerResponse, status: number, body: string): void => {
  response.writeHead(status, { 'Content-Type': 'text/plain; charset=utf-8' }).end(body);
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
