// Countinghouse, the business system's stand-in: its articles over HTTP in pages, and all of them as the file of the night.
import iconv from 'iconv-lite';
import Papa from 'papaparse';
import {
  type Moods,
  type Pace,
  type Reply,
  reply,
  serve,
  type Served,
  startMoods,
  type StandInRequest,
  type Works,
} from '../frame';
import { type Article, type Ledger, moveSome, openLedger } from './articles';

/** The key that its one reader is known by. */
export const readerKey = 'ch-4471-tally';
export interface RunningSystem extends Served {
  ledger: Ledger;
  moods: Moods;
}

export function startSystem(options: Pace, port: number, ready: (port: number) => void): RunningSystem {
  const ledger = openLedger(options.file),
    moods = startMoods();
  const works: Works = {
    moods,
    kindOf: ({ path }) => (path.startsWith('/articles') || path.startsWith('/nightly') ? 'answer' : 'other'),
    answer: (request) => answer(ledger, request),
    control: (what, body) => control(ledger, what, body),
    tick: () => 0,
    sell: (random) => moveSome(ledger, random, new Date()),
    save: ledger.save,
  };
  const served = serve(works, options.sellEveryMs, port, ready);
  return {
    ...served,
    stop: async () => {
      ledger.saveNow();
      await served.stop();
    },
    ledger,
    moods,
  };
}

const json = (status: number, value: unknown): Reply =>
  reply(status, JSON.stringify(value), { 'Content-Type': 'application/json' });
const usualPage = 500,
  mostOnPage = 1000;

function answer({ memory }: Ledger, { method, path, url, headers }: StandInRequest): Reply {
  if (method !== 'GET') return json(405, { problem: 'Articles are read here, and nothing is written.' });
  if (headers.authorization !== `Bearer ${readerKey}`) return json(401, { problem: 'This reader is not known.' });
  if (path === '/articles') return listArticles(memory.articles, url);
  if (path === '/nightly/articles.csv') return writeNightly(memory.articles);
  return json(404, { problem: 'There is nothing here.' });
}

/** A page of articles, of all or of those changed since a moment, and the address of the next. */
function listArticles(articles: readonly Article[], url: URL): Reply {
  const since = url.searchParams.get('since') ?? '';
  if (since !== '' && Number.isNaN(Date.parse(since))) return json(400, { problem: `“${since}” is no moment.` });
  const size = Math.min(mostOnPage, Math.max(1, Number(url.searchParams.get('size')) || usualPage)),
    from = Math.max(0, Number(url.searchParams.get('from')) || 0);
  const meant = since === '' ? articles : articles.filter((a) => a.changed >= new Date(since).toISOString());
  const next = new URLSearchParams({ from: String(from + size), size: String(size), ...(since ? { since } : {}) });
  return json(200, {
    as_of: new Date().toISOString(),
    articles: meant.slice(from, from + size),
    next: from + size < meant.length ? `/articles?${next.toString()}` : null,
  });
}

const heads = {
  article: 'Article',
  variant: 'Variant',
  unit: 'Unit',
  barcode: 'Barcode',
  name: 'Name',
  group: 'Group',
  cost: 'Cost',
  list_price: 'List price',
  on_hand: 'On hand',
  blocked: 'Blocked',
  long_text: 'Long text',
} as const;

/** All articles as the old program writes them every night: semicolons, decimal commas, the letters of Western Europe. */
function writeNightly(articles: readonly Article[]): Reply {
  const columns = Object.keys(heads) as (keyof typeof heads)[];
  const cell = (a: Article, c: keyof typeof heads): string =>
    c === 'cost' || c === 'list_price'
      ? a[c].replace('.', ',')
      : c === 'blocked'
        ? a.blocked
          ? 'yes'
          : 'no'
        : String(a[c]);
  const text = Papa.unparse([columns.map((c) => heads[c]), ...articles.map((a) => columns.map((c) => cell(a, c)))], {
    delimiter: ';',
    newline: '\r\n',
  });
  return {
    ...reply(200, '', { 'Content-Type': 'text/csv; charset=windows-1252' }),
    bytes: iconv.encode(text, 'windows-1252'),
  };
}

function control({ memory, save }: Ledger, what: string, body: string): Reply {
  switch (what) {
    // New books: whoever enters a demo begins with empty ones.
    case 'begin':
      memory.articles = [];
      save();
      return json(200, { articles: 0 });
    // Articles are put into the books behind what stands there.
    case 'enter': {
      const articles = JSON.parse(body) as Article[];
      for (const a of articles) memory.articles.push(a);
      save();
      return json(200, { articles: memory.articles.length });
    }
    case 'change': {
      const { article, variant = '', unit = 'PCS', ...to } = JSON.parse(body) as Partial<Article>;
      const found = memory.articles.find((a) => a.article === article && a.variant === variant && a.unit === unit);
      if (!found) return json(404, { problem: 'There is no such article.' });
      Object.assign(found, to, { changed: new Date().toISOString() });
      save();
      return json(200, found);
    }
    default:
      return json(404, { problem: `Nobody here does “${what}”.` });
  }
}
