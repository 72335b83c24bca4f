// Wadiline's stand-in: sheets of XML in folders over SFTP; people read what is new, and may think otherwise days later.
import {
  type Moods,
  type Pace,
  readFile,
  type Reply,
  reply,
  type Repriced,
  serve,
  type Served,
  startMoods,
  type StandInRequest,
  type Works,
  writeFile,
} from '../frame';
import type { BookDocument } from './book';
import { createJudge, type Judge } from './judge';
import { addOther, putLists, writeSaid } from './lists';
import { writeDesk, writeEntryPage, writeOtherPage } from './page';
import { readSheet } from './sheet';
import type { Other } from './others';
import { openShelf, othersOn, type Shelf } from './shelf';
import { endReviews, sellSome, workThrough, writeOver } from './work';

export interface MarketOptions extends Pace {
  book: BookDocument;
}
export interface RunningMarket extends Served {
  shelf: Shelf;
  moods: Moods;
}
interface Market {
  options: MarketOptions;
  shelf: Shelf;
  judge: Judge;
  moods: Moods;
  /** Answers of which half has been put there so far, whole, by their paths. */
  halves: Map<string, string>;
}
/** By what the market knows its one seller. */
export const seller = { user: 'brindlewick', password: 'brindlewick-desk' } as const;

/** Starts the market on a port of loopback: SFTP for sellers, and the web for buyers and those behind the scenes. */
export function startMarket(options: MarketOptions, port: number, ready: (port: number) => void): RunningMarket {
  const shelf = openShelf(options.file),
    moods = startMoods();
  const market: Market = { options, shelf, judge: createJudge(options.book), moods, halves: new Map() };
  putLists(shelf);
  const works: Works = {
    moods,
    kindOf: () => 'other',
    answer: (request) => (request.path === '/desk' ? atDesk(market, request) : showPage(market, request.path)),
    control: (what, body) => control(market, what, body),
    tick: (now) => {
      const done = takeFiles(market, now) + workThroughFiles(market, now) + endReviews(shelf, now, options.reviewMs);
      if (done > 0) putLists(shelf);
      return done;
    },
    sell: (random) => sellSome(shelf, random),
    save: shelf.save,
  };
  const { memory } = shelf;
  const door = {
    ...seller,
    publicKeys: () => memory.publicKeys ?? [],
    hostKey: memory.hostKey,
    folders: memory.folders,
    changed: shelf.save,
  };
  return { ...serve(works, options.sellEveryMs, port, ready, door), shelf, moods };
}

function showPage({ shelf }: Market, path: string): Reply {
  const [, tongue = '', number = ''] = /^\/(ar|en)\/(W\d+)$/.exec(path) ?? [];
  const entry = Object.values(shelf.memory.entries).find((e) => e.number === number && e.standing === 'on_sale');
  const other = othersOn(shelf).find((o) => o.number === number);
  if (other) return reply(200, writeOtherPage(other, entry, tongue), { 'Content-Type': 'text/html; charset=utf-8' });
  return entry
    ? reply(200, writeEntryPage(entry, tongue), { 'Content-Type': 'text/html; charset=utf-8' })
    : reply(404, 'There is nothing here.');
}

/** The seller's desk: the public keys by which the market knows it, each a line; one that is left there is known from then on. */
function atDesk({ shelf }: Market, { method, body, headers }: StandInRequest): Reply {
  const { memory } = shelf;
  if (headers.origin !== undefined && headers.origin !== `http://${headers.host ?? ''}`)
    return reply(403, 'The desk takes nothing from other pages.');
  if (method === 'POST') {
    const lines = (new URLSearchParams(body).get('keys') ?? '').split(/\r?\n/).map((l) => l.trim());
    memory.publicKeys = lines.filter((l) => /^(ssh|ecdsa)-\S+ [A-Za-z0-9+/=]+/.test(l));
    shelf.save();
  }
  return reply(200, writeDesk(seller.user, memory.publicKeys ?? []), { 'Content-Type': 'text/html; charset=utf-8' });
}

/** Takes whole files out of the folder; one whose name has been taken before is the same file, and is let go. */
function takeFiles({ options, shelf, judge }: Market, now: number): number {
  const { memory } = shelf;
  let taken = 0;
  for (const path of Object.keys(memory.folders.files)) {
    const name = path.slice('/in/'.length);
    if (!path.startsWith('/in/') || name.endsWith('.part')) continue;
    const text = readFile(memory.folders, path)!.toString('utf8');
    delete memory.folders.files[path];
    taken++;
    if (memory.seen[name]) continue;
    memory.seen[name] = true;
    memory.taken[name] = {
      name,
      form: name.startsWith('wd-terms-') ? 'terms' : name.startsWith('wd-offer-') ? 'offer' : 'full',
      entries: readSheet(text, judge.many),
      doneAt: now + options.workMs,
    };
  }
  return taken;
}

/** Works through the files whose time has come, and puts there what it says of them. */
function workThroughFiles({ options, shelf, judge, moods, halves }: Market, now: number): number {
  const { memory } = shelf;
  let done = 0;
  for (const file of Object.values(memory.taken)) {
    if (file.doneAt > now) continue;
    const { book, reviewMs } = options;
    const path = `/said/${file.name.replace(/\.[^.]*$/, '')}.said.xml`;
    const said = workThrough({ book, judge, shelf, now, reviewMs }, file.form, file.entries ?? []);
    const text = writeSaid(file.name, said);
    // Half a file, until somebody has looked at it: the whole one comes with the next tick.
    const isHalf = moods.garbageNext > 0;
    writeFile(memory.folders, path, Buffer.from(isHalf ? text.slice(0, text.length / 2) : text, 'utf8'));
    if (isHalf) {
      moods.garbageNext--;
      halves.set(path, text);
    }
    delete memory.taken[file.name];
    done++;
  }
  if (done === 0)
    for (const [path, text] of halves) {
      if (memory.folders.files[path]) writeFile(memory.folders, path, Buffer.from(text, 'utf8'));
      halves.delete(path);
      done++;
    }
  return done;
}
/** What the market holds, and things put there from behind the scenes. */
function control({ shelf, judge }: Market, what: string, body: string): Reply {
  const { memory } = shelf;
  if (what === 'counts') {
    const entries: Record<string, number> = {};
    for (const { standing } of Object.values(memory.entries)) entries[standing] = (entries[standing] ?? 0) + 1;
    return reply(200, JSON.stringify({ entries, tickets: Object.keys(memory.seen).length }));
  }
  if (what === 'entry') return reply(200, JSON.stringify(memory.entries[body.trim()] ?? null));
  if (what === 'other') {
    addOther(shelf, JSON.parse(body) as Other);
    shelf.save();
    return reply(200, '{}');
  }
  if (what === 'reprice') {
    // Somebody changed its terms on the market's own pages.
    const { sku, price, sale, pieces } = JSON.parse(body) as Repriced;
    const entry = memory.entries[sku];
    if (!entry) return reply(404, 'No such entry.');
    for (const [term, text] of Object.entries({ price, sale, pieces }))
      if (text !== undefined) entry.cells[`terms.${term}`] = text;
    shelf.touch(entry);
    putLists(shelf);
    shelf.save();
    return reply(200, '{}');
  }
  if (what === 'shelve') {
    const numbers = (readSheet(body, judge.many) ?? []).map((cells) => {
      const ref = String(cells['@ref']);
      const entry = {
        ref,
        number: `W${memory.nextNumber++}`,
        cells: writeOver({}, cells),
        standing: 'on_sale' as const,
        because: '',
        readAt: 0,
        since: memory.clock++,
        sold: 0,
      };
      memory.entries[ref] = entry;
      return entry.number;
    });
    putLists(shelf);
    shelf.save();
    return reply(200, JSON.stringify({ numbers }));
  }
  return reply(404, 'No such control.');
}
