// Quillhaven's stand-in: a small market of its own behind HTTP. It takes files, works through them in its own time,
// answers with receipts, and shows a page to buyers.
import { type Reply, reply, serve, type Served, type StandInRequest, type Works } from '../frame';
import { control } from './control';
import { takeFile, workThroughTickets } from './inbox';
import { findEntries, writeShelfList } from './lists';
import { type Market, type MarketOptions, type Moods, startMoods } from './market';
import { writeItemPage } from './page';
import { openShelf, type Shelf } from './shelf';
import { endReviews, sellSome } from './work';

export interface RunningMarket extends Served {
  shelf: Shelf;
  moods: Moods;
}

/** Starts the market on a port of loopback. */
export function startMarket(options: MarketOptions, port: number, ready: (port: number) => void): RunningMarket {
  const market: Market = { options, shelf: openShelf(options.file), moods: startMoods() };
  const { shelf, moods } = market;
  const works: Works = {
    moods,
    kindOf: ({ path }) => (path === '/inbox' ? 'file' : path.startsWith('/inbox/') ? 'answer' : 'other'),
    answer: (request) => answer(market, request),
    control: (what, body) => control(market, what, body),
    tick: (now) => workThroughTickets(market, now) + endReviews(shelf, now),
    sell: (random) => sellSome(shelf, random),
    save: shelf.save,
  };
  return { ...serve(works, options.sellEveryMs, port, ready), shelf, moods };
}

function answer(market: Market, { method, url, path, headers, body }: StandInRequest): Reply {
  const { shelf, options } = market;
  if (path === '/inbox' && method === 'POST') {
    const t = takeFile(market, url, String(headers['idempotency-key'] ?? ''), body);
    return typeof t === 'string' ? reply(400, t) : reply(202, `ticket\t${t.id}\n`);
  }
  const receipt = /^\/inbox\/([^/]+)\/receipt$/.exec(path);
  if (receipt) {
    const t = shelf.memory.tickets[decodeURIComponent(receipt[1]!)];
    if (!t) return reply(404, 'No such ticket.');
    return t.receipt === undefined ? reply(202, 'At work.') : reply(200, t.receipt);
  }
  if (path === '/shelf') return reply(200, writeShelfList(shelf, Number(url.searchParams.get('since') ?? 0)));
  if (path === '/find') return reply(200, findEntries(shelf, url.searchParams.get('q') ?? ''));
  const item = /^\/item\/([^/]+)$/.exec(path);
  const entry = item && Object.values(shelf.memory.entries).find((e) => e.number === decodeURIComponent(item[1]!));
  return entry
    ? reply(200, writeItemPage(entry, shelf, options.book), { 'Content-Type': 'text/html; charset=utf-8' })
    : reply(404, 'Nothing stands here.');
}
