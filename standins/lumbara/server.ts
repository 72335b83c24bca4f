// Lumbara's stand-in: an entry holds its items side by side in one record. Files come as a part of a form, in Shift_JIS; the
// answer is the file as it was sent, with two columns added.
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
import type { BookDocument, Fault } from './book';
import { createJudge, type Judge } from './judge';
import { findEntries, writeShelfList } from './lists';
import { writeEntryPage } from './page';
import { listColumns, readSheet, readText, toCells, writeSheet } from './sheet';
import { findItem, type Handed, openShelf, type Shelf } from './shelf';
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
    kindOf: ({ path }) => (path === '/uke' ? 'file' : path.startsWith('/kekka/') ? 'answer' : 'other'),
    answer: (request) => answer(market, request),
    control: (what, body) => control(market, what, body),
    tick: (now) => workThroughFiles(market, now) + endReviews(shelf, now),
    sell: (random) => sellSome(shelf, random),
    save: shelf.save,
  };
  return { ...serve(works, options.sellEveryMs, port, ready), shelf, moods };
}

const sheet = (bytes: Uint8Array, headers: Record<string, string> = {}): Reply => ({
  ...reply(200, '', { 'Content-Type': 'text/csv; charset=Shift_JIS', ...headers }),
  bytes,
});

function answer(market: Market, request: StandInRequest): Reply | Promise<Reply> {
  const { shelf } = market;
  const { method, path, url } = request;
  if (method === 'POST' && path === '/uke') return takeFile(market, request);
  const [, ticket] = /^\/kekka\/(\d+)\.csv$/.exec(path) ?? [];
  if (ticket !== undefined) {
    const file = shelf.memory.files[ticket];
    if (!file) return reply(404, 'そのような札はありません。');
    return file.answer === undefined ? reply(202, '') : sheet(Buffer.from(file.answer, 'base64'));
  }
  if (path === '/keisai.csv') {
    const { bytes, cursor } = writeShelfList(shelf, Number(url.searchParams.get('ato') || 0));
    return sheet(bytes, { 'X-Shiori': String(cursor) });
  }
  if (path === '/sagasu') return sheet(findEntries(shelf, url.searchParams.get('kotoba') ?? ''));
  const [, number = ''] = /^\/shina\/(\d+)$/.exec(path) ?? [];
  const entry = Object.values(shelf.memory.entries).find((e) => e.number === number && e.standing === '1');
  return entry
    ? reply(200, writeEntryPage(entry), { 'Content-Type': 'text/html; charset=utf-8' })
    : reply(404, 'ここには何もありません。');
}

/** The part of a form in which the file is, and the word by which it is known. */
async function openForm({ bytes, headers }: StandInRequest): Promise<{ file: Uint8Array; word: string } | undefined> {
  try {
    const form = await new Response(new Uint8Array(bytes), {
      headers: { 'Content-Type': headers['content-type'] ?? '' },
    }).formData();
    const file = form.get('chomen'),
      word = form.get('fuda');
    if (!file || typeof file === 'string') return undefined;
    return { file: new Uint8Array(await file.arrayBuffer()), word: typeof word === 'string' ? word : '' };
  } catch {
    return undefined;
  }
}

/** Takes a file; the same word again is the same file. */
async function takeFile({ options, shelf }: Market, request: StandInRequest): Promise<Reply> {
  const to = (file: Handed): Reply => reply(200, `札番=${file.ticket}`);
  const form = await openForm(request);
  if (!form) return reply(400, '帳面がありません。');
  const known = form.word === '' ? undefined : Object.values(shelf.memory.files).find((f) => f.key === form.word);
  if (known) return to(known);
  const kind = request.url.searchParams.get('shurui') ?? '';
  const rows = readSheet(form.file);
  if (rows === undefined) return reply(400, '文字が読めません。');
  if (kind !== 'ichiran' && kind !== 'nedan') return reply(400, '受け取れない種類です。');
  const columns = listColumns(options.book, kind);
  // The book of entries names its columns; that of prices does not.
  const header = kind === 'ichiran' ? rows.shift() : undefined;
  const missing = header ? columns.filter((c) => !header.includes(c)) : [];
  if (missing.length) return reply(400, `欄がありません。${missing.slice(0, 5).join('、')}`);
  const file: Handed = {
    ticket: String(shelf.memory.nextFile++),
    key: form.word,
    form: kind,
    header,
    rows,
    doneAt: Date.now() + options.workMs,
    answer: undefined,
  };
  shelf.memory.files[file.ticket] = file;
  shelf.save();
  return to(file);
}

const writeFaults = (faults: readonly Fault[]): string => faults.map((f) => `${f.code}:${f.column}`).join('/');

/** Works through the files whose time has come; answers how many. */
function workThroughFiles({ options, shelf, judge }: Market, now: number): number {
  let done = 0;
  for (const file of Object.values(shelf.memory.files)) {
    if (file.answer !== undefined || file.doneAt > now) continue;
    const { book, reviewMs } = options;
    const columns = file.header ?? listColumns(book, file.form);
    const records = file.rows.map((r) => toCells(columns, r));
    const faults = workThrough({ book, judge, shelf, now, reviewMs }, file.form, records);
    file.answer = writeSheet([
      ...(file.header ? [[...file.header, '裁き', '添え書き']] : []),
      ...file.rows.map((r, i) => [
        ...columns.map((_, k) => r[k] ?? ''),
        faults[i]!.length > 0 ? '9' : '0',
        writeFaults(faults[i]!),
      ]),
    ]).toString('base64');
    file.rows = [];
    done++;
  }
  return done;
}

/** What the market holds, and things put there from behind the scenes. */
function control({ options, shelf, judge }: Market, what: string, body: string): Reply {
  if (what === 'counts') {
    const counts: Record<string, number> = {};
    for (const e of Object.values(shelf.memory.entries))
      for (const i of Object.values(e.items)) counts[i.standing] = (counts[i.standing] ?? 0) + 1;
    return reply(200, JSON.stringify({ entries: counts, tickets: Object.keys(shelf.memory.files).length }));
  }
  if (what === 'entry') {
    const sku = body.trim();
    const found = findItem(shelf, sku);
    return reply(200, JSON.stringify(found?.item ?? shelf.memory.entries[sku] ?? null));
  }
  if (what === 'reprice') {
    // Somebody changed it on the market's own pages.
    const { sku, price, sale, pieces } = JSON.parse(body) as Repriced;
    const item = findItem(shelf, sku)?.item;
    if (!item) return reply(404, 'No such item.');
    item.cells = {
      ...item.cells,
      ...(price === undefined ? {} : { '枝{n}値': price }),
      ...(sale === undefined ? {} : { '枝{n}安値': sale }),
    };
    if (pieces !== undefined) item.quantity = Number(pieces);
    shelf.touch(item);
    shelf.save();
    return reply(200, '{}');
  }
  if (what === 'shelve') {
    // Told in the text of a file, whatever its encoding would be.
    const rows = readText(body);
    const header = rows.shift()!;
    const records = rows.map((r) => toCells(header, r));
    workThrough({ book: options.book, judge, shelf, now: 0, reviewMs: 0 }, 'ichiran', records);
    endReviews(shelf, 0);
    shelf.save();
    // One number for each row that was told: those of an entry by itself, of a family and of each item in it.
    const numbers = records.flatMap((cells) => {
      const entry = shelf.memory.entries[cells['組番'] ?? ''];
      const named = Object.keys(cells).filter((c) => /^枝\d+符号$/.test(c) && cells[c] !== '');
      const isAlone = named.length === 1 && cells[named[0]!] === cells['組番'];
      return Array.from({ length: named.length + (isAlone ? 0 : 1) }, () => entry?.number ?? '');
    });
    return reply(200, JSON.stringify({ numbers }));
  }
  return reply(404, 'No such control.');
}
