// Cedarpost's stand-in: lines of JSON over HTTP for whoever has a key, so many in a stretch of time; answers come in pages.
import {
  type Moods,
  type Pace,
  type Reply,
  reply,
  type Repriced,
  serve,
  type Served,
  startMoods,
  type StandInRequest,
  type Works,
} from '../frame';
import type { BookDocument, Group, Json } from './book';
import { createGate, type Gate } from './gate';
import { createJudge, type Judge } from './judge';
import { listEntries, search } from './lists';
import { writeEntryPage } from './page';
import { isGroup, mergeInto, textAt } from './place';
import { type Drop, openShelf, type Shelf } from './shelf';
import { endReviews, sellSome, workThrough } from './work';

export interface MarketOptions extends Pace {
  book: BookDocument;
  /** Lines of an answer on a page. */
  linesOnPage?: number;
}
export interface RunningMarket extends Served {
  shelf: Shelf;
  moods: Moods;
}
interface Market {
  options: MarketOptions;
  shelf: Shelf;
  judge: Judge;
  gate: Gate;
}

/** Starts the market on a port of loopback. */
export function startMarket(options: MarketOptions, port: number, ready: (port: number) => void): RunningMarket {
  const shelf = openShelf(options.file),
    moods = startMoods();
  const market: Market = { options, shelf, judge: createJudge(options.book), gate: createGate(options.book) };
  const works: Works = {
    moods,
    kindOf: ({ method, path }) => (!path.startsWith('/drops') ? 'other' : method === 'POST' ? 'file' : 'answer'),
    answer: (request) => answer(market, request),
    control: (what, body) => control(market, what, body),
    tick: (now) => workThroughDrops(market, now) + endReviews(shelf, now),
    sell: (random) => sellSome(shelf, random),
    save: shelf.save,
  };
  return { ...serve(works, options.sellEveryMs, port, ready), shelf, moods };
}

const json = (status: number, value: unknown): Reply =>
  reply(status, typeof value === 'string' ? value : JSON.stringify(value), { 'Content-Type': 'application/json' });
const usualPage = 200;

function answer(market: Market, request: StandInRequest): Reply {
  const { shelf, gate } = market;
  const { method, path, url } = request;
  const page = /^\/goods\/(G\d+)$/.exec(path);
  if (page) {
    const entry = Object.values(shelf.memory.entries).find((e) => e.number === page[1] && e.standing === 'showing');
    return entry
      ? reply(200, writeEntryPage(entry), { 'Content-Type': 'text/html; charset=utf-8' })
      : reply(404, 'There is nothing here.');
  }
  const isFile = method === 'POST' && path === '/drops';
  const records = isFile ? request.body.split('\n').filter((l) => l.trim() !== '') : [];
  const refusal = gate.refuse(request, records.length, Date.now());
  if (refusal) return refusal;
  if (isFile) return takeFile(market, request, records);
  const asked = /^\/drops\/([^/]+)\/lines$/.exec(path);
  if (asked) {
    const drop = shelf.memory.drops[asked[1]!];
    return drop
      ? json(200, writeLines(drop, Number(url.searchParams.get('from') || 0), market.options.linesOnPage ?? usualPage))
      : json(404, { because: 'There is no such drop.' });
  }
  if (path === '/entries') return json(200, listEntries(shelf, Number(url.searchParams.get('after') || 0)));
  if (path === '/search') return json(200, search(shelf, url.searchParams.get('words') ?? ''));
  return json(404, { because: 'There is nothing here.' });
}

function writeLines(drop: Drop, from: number, linesOnPage: number) {
  const lines = (drop.lines ?? []).slice(from, from + linesOnPage);
  const next = from + linesOnPage;
  return {
    whole: drop.lines !== undefined,
    file: drop.file,
    records: drop.count,
    lines,
    ...(drop.lines && next < drop.lines.length ? { next: String(next) } : {}),
  };
}

/** Takes a file under its key; the same key again is the same file. */
function takeFile({ options, shelf }: Market, { url, headers }: StandInRequest, lines: readonly string[]): Reply {
  const key = String(headers['idempotency-key'] ?? '');
  const known = key ? Object.values(shelf.memory.drops).find((d) => d.key === key) : undefined;
  if (known) return json(202, { drop: known.id });
  const form = url.searchParams.get('of') ?? '';
  if (!options.book.forms.some((f) => f.key === form))
    return json(400, { because: `Nothing is dropped as “${form}”.` });
  const records: Group[] = [];
  for (const [i, line] of lines.entries()) {
    const record = parse(line);
    if (!record) return json(400, { because: `Line ${i + 1} is no object.` });
    records.push(record);
  }
  const drop: Drop = {
    id: `D${String(shelf.memory.nextDrop++).padStart(5, '0')}`,
    key,
    form,
    file: url.searchParams.get('file') ?? '',
    records,
    count: records.length,
    doneAt: Date.now() + options.workMs,
    lines: undefined,
  };
  shelf.memory.drops[drop.id] = drop;
  shelf.save();
  return json(202, { drop: drop.id });
}

function parse(line: string): Group | undefined {
  try {
    const value = JSON.parse(line) as Json;
    return isGroup(value) ? value : undefined;
  } catch {
    return undefined;
  }
}

/** Works through the drops whose time has come; answers how many. */
function workThroughDrops({ options, shelf, judge }: Market, now: number): number {
  let done = 0;
  for (const drop of Object.values(shelf.memory.drops)) {
    if (drop.lines !== undefined || drop.doneAt > now) continue;
    const { book, reviewMs } = options;
    drop.lines = workThrough({ book, judge, shelf, now, reviewMs }, drop.form, drop.records);
    drop.records = [];
    done++;
  }
  return done;
}

/** What the market holds, and things put there from behind the scenes. */
function control({ shelf }: Market, what: string, body: string): Reply {
  const { memory } = shelf;
  if (what === 'counts') {
    const entries: Record<string, number> = {};
    for (const { standing } of Object.values(memory.entries)) entries[standing] = (entries[standing] ?? 0) + 1;
    return json(200, { entries, tickets: Object.keys(memory.drops).length });
  }
  if (what === 'entry') return json(200, memory.entries[body.trim()] ?? null);
  if (what === 'reprice') {
    // Somebody changed it on the market's own pages.
    const { sku, price, sale, pieces } = JSON.parse(body) as Repriced;
    const entry = memory.entries[sku];
    if (!entry) return json(404, { because: 'No such entry.' });
    entry.record = mergeInto(entry.record, {
      worth: {
        ...(price === undefined ? {} : { ask: Number(price) }),
        ...(sale === undefined ? {} : { deal: { ask: Number(sale) } }),
      },
      ...(pieces === undefined ? {} : { stock: { on_hand: Number(pieces) } }),
    });
    shelf.touch(entry);
    shelf.save();
    return json(200, {});
  }
  if (what === 'shelve') {
    const numbers = body
      .split('\n')
      .filter((l) => l.trim() !== '')
      .map((line) => {
        const { act: _, ...record } = JSON.parse(line) as Group;
        const entry = {
          ref: textAt(record, 'ref'),
          number: `G${memory.nextNumber++}`,
          record,
          standing: 'showing' as const,
          because: '',
          readyAt: 0,
          stamp: memory.clock++,
          sold: 0,
        };
        memory.entries[entry.ref] = entry;
        return entry.number;
      });
    shelf.save();
    return json(200, { numbers });
  }
  return json(404, { because: 'No such control.' });
}
