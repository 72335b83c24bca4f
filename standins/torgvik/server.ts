// Torgvik's stand-in: one entry sold in two countries. Files are semicolon-divided; the answer names only what was refused.
import Papa from 'papaparse';
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
import type { BookDocument } from './book';
import { createJudge, type Judge } from './judge';
import { findGoods, writeGoodsList } from './lists';
import { writeGoodPage } from './page';
import { type Handed, openShelf, type Shelf } from './shelf';
import { endReviews, sellSome, workThrough } from './work';

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
}

/** Starts the market on a port of loopback. */
export function startMarket(options: MarketOptions, port: number, ready: (port: number) => void): RunningMarket {
  const shelf = openShelf(options.file),
    moods = startMoods();
  const market: Market = { options, shelf, judge: createJudge(options.book) };
  const works: Works = {
    moods,
    kindOf: ({ method, path }) => (!path.startsWith('/inlamning/') ? 'other' : method === 'POST' ? 'file' : 'answer'),
    answer: (request) => answer(market, request),
    control: (what, body) => control(market, what, body),
    tick: (now) => workThroughFiles(market, now) + endReviews(shelf, now),
    sell: (random) => sellSome(shelf, random),
    save: shelf.save,
  };
  return { ...serve(works, options.sellEveryMs, port, ready), shelf, moods };
}

const csv = { 'Content-Type': 'text/csv; charset=utf-8' };

function answer(market: Market, request: StandInRequest): Reply {
  const { shelf, options } = market;
  const { method, path, url } = request;
  if (method === 'POST' && path.startsWith('/inlamning/')) return takeFile(market, request);
  const handed = /^\/inlamning\/([^/]+)\/fel$/.exec(path);
  if (handed) {
    const file = shelf.memory.files[handed[1]!];
    if (!file) return reply(404, 'Ingen sådan inlämning.');
    return file.answer === undefined ? reply(204, '') : reply(200, file.answer, csv);
  }
  if (path === '/varor') {
    const { text, cursor } = writeGoodsList(shelf, options.book, Number(url.searchParams.get('efter') || 0));
    return reply(200, text, { ...csv, 'X-Markor': String(cursor) });
  }
  if (path === '/sok') return reply(200, findGoods(shelf, url.searchParams.get('ord') ?? ''), csv);
  const [, site = '', number = ''] = /^\/([a-z]+)\/vara\/(\d+)$/.exec(path) ?? [];
  const good = Object.values(shelf.memory.goods).find(
    (g) => g.number === number && g.places[site]?.standing === 'aktiv',
  );
  return good
    ? reply(200, writeGoodPage(good, site), { 'Content-Type': 'text/html; charset=utf-8' })
    : reply(404, 'Här finns ingenting.');
}

/** Takes a file under its key; the same key again is the same file. */
function takeFile({ options, shelf }: Market, { path, url, headers, body }: StandInRequest): Reply {
  const key = String(headers['idempotency-key'] ?? '');
  const to = (file: Handed): Reply => reply(201, '', { Location: `/inlamning/${file.id}` });
  const known = key ? Object.values(shelf.memory.files).find((f) => f.key === key) : undefined;
  if (known) return to(known);
  const form = options.book.forms.find((f) => f.key === path.slice('/inlamning/'.length));
  if (!form) return reply(400, 'Sådana filer tas inte emot.');
  const lines = Papa.parse<string[]>(body.replace(/^\ufeff/, ''), { delimiter: ';', skipEmptyLines: true }).data;
  const heads = form.container.heads.length;
  const keys = lines[heads - 1] ?? [];
  const missing = form.slots.filter((s) => !keys.includes(s.key)).map((s) => s.key);
  if (missing.length) return reply(400, `Rad ${heads} saknar ${missing.slice(0, 5).join(', ')}.`);
  const file: Handed = {
    id: `I${String(shelf.memory.nextFile++).padStart(5, '0')}`,
    key,
    form: form.key,
    name: url.searchParams.get('fil') ?? '',
    rows: lines.slice(heads).map((r) => Object.fromEntries(keys.map((k, i) => [k, r[i] ?? '']))),
    doneAt: Date.now() + options.workMs,
    answer: undefined,
  };
  shelf.memory.files[file.id] = file;
  shelf.save();
  return to(file);
}

/** Works through the files whose time has come; answers how many. */
function workThroughFiles({ options, shelf, judge }: Market, now: number): number {
  let done = 0;
  for (const file of Object.values(shelf.memory.files)) {
    if (file.answer !== undefined || file.doneAt > now) continue;
    const { book, reviewMs } = options;
    const refusals = workThrough({ book, judge, shelf, now, reviewMs }, file.form, file.rows);
    const heads = book.forms.find((f) => f.key === file.form)!.container.heads.length;
    const lines = [
      ['rad', 'felkod', 'falt', 'forklaring'],
      ...[...refusals].map(([i, faults]) => [
        String(i + heads + 1),
        faults.map((f) => f.code).join(','),
        faults.map((f) => f.field).join(','),
        '',
      ]),
    ];
    file.answer = `\ufeffDatei;${file.name};Zeilen;${file.rows.length};abgelehnt;${refusals.size}\r\n${Papa.unparse(lines, { delimiter: ';', newline: '\r\n' })}\r\n`;
    file.rows = [];
    done++;
  }
  return done;
}

/** What the market holds, and things put there from behind the scenes. */
function control({ options, shelf }: Market, what: string, body: string): Reply {
  if (what === 'counts') {
    const counts: Record<string, number> = {};
    for (const g of Object.values(shelf.memory.goods))
      for (const [site, p] of Object.entries(g.places)) {
        const name = `${site} ${p.standing}`;
        counts[name] = (counts[name] ?? 0) + 1;
      }
    return reply(200, JSON.stringify({ entries: counts, tickets: Object.keys(shelf.memory.files).length }));
  }
  if (what === 'entry') return reply(200, JSON.stringify(shelf.memory.goods[body.trim()] ?? null));
  if (what === 'reprice') {
    // Somebody changed it on the market's own pages, in one country.
    const { sku, site = '', price, sale, pieces } = JSON.parse(body) as Repriced;
    const good = shelf.memory.goods[sku],
      place = good?.places[site];
    if (!good || !place) return reply(404, 'No such goods.');
    if (price !== undefined) good.cells[`pris_${site}`] = price.replace('.', ',');
    if (sale !== undefined) good.cells[`reapris_${site}`] = sale.replace('.', ',');
    if (pieces !== undefined) good.quantity = Number(pieces);
    shelf.touch(place);
    shelf.save();
    return reply(200, '{}');
  }
  if (what === 'shelve') {
    const form = options.book.forms.find((f) => f.key === 'hel')!;
    const lines = Papa.parse<string[]>(body.replace(/^\ufeff/, ''), { delimiter: ';', skipEmptyLines: true }).data;
    const heads = form.container.heads.length,
      keys = lines[heads - 1] ?? [];
    const numbers = lines.slice(heads).map((line) => {
      const cells = Object.fromEntries(keys.map((k, i) => [k, line[i] ?? '']));
      const sku = cells['vara_nr'] ?? '';
      const good = {
        sku,
        number: String(shelf.memory.nextNumber++),
        cells,
        places: Object.fromEntries(
          options.book.sites.map((s) => [
            s.key,
            { standing: 'aktiv' as const, reason: '', readyAt: 0, stamp: shelf.memory.clock++, sold: 0 },
          ]),
        ),
        quantity: Number(cells['antal'] ?? 0),
      };
      shelf.memory.goods[sku] = good;
      return good.number;
    });
    shelf.save();
    return reply(200, JSON.stringify({ numbers }));
  }
  return reply(404, 'No such control.');
}
