// How a market is reached. A port: what it answers is text as the market writes it; reading it is the core's work.
import { AppError } from '../http';
import type { Market } from './load';

export interface ShelfLine {
  house_sku: string;
  entry: string;
  standing: string;
  reason: string;
  stamp: string;
}
export interface FoundEntry {
  number: string;
  title: string;
  brand: string;
  item_number: string;
  shelf: string;
}
export interface MarketPort {
  /** Hands a file over. The same key twice is one submission. Answers the market's ticket. */
  submit: (file: { name: string; operation: string; key: string; bytes: Uint8Array }) => Promise<string>;
  /** The receipt's text, or undefined while the market is still at work. */
  fetchReceipt: (ticket: string) => Promise<string | undefined>;
  /** Changes on the market's shelf since a cursor. */
  readShelf: (cursor: string | null) => Promise<{ cursor: string; lines: ShelfLine[] }>;
  find: (words: string) => Promise<FoundEntry[]>;
  linkTo: (number: string) => string;
}

const timeoutMs = 15_000;
/** What a market may answer with at the most: a receipt of a full file with every line remarked on. */
const mostAnswerBytes = 100_000_000;

/** Seconds that a Retry-After header asks for, in either of its forms (RFC 9110, 10.2.3); undefined where it says nothing. */
export function readRetryAfter(header: string | null, now: number): number | undefined {
  const text = header?.trim() ?? '';
  if (/^\d{1,9}$/.test(text)) return Number(text);
  const at = /^[A-Z][a-z]{2}, \d{2} [A-Z][a-z]{2} \d{4} [\d:]{8} GMT$/.test(text) ? Date.parse(text) : NaN;
  return Number.isNaN(at) ? undefined : Math.max(0, Math.ceil((at - now) / 1000));
}

/** The address of a path under the one that the person entered; another host can never come of it. */
function addressUnder(base: string, path: string): URL {
  const entered = new URL(base);
  const address = new URL(entered.href.replace(/\/$/, '') + path);
  if (address.origin !== entered.origin || !address.pathname.startsWith(`${entered.pathname.replace(/\/$/, '')}/`))
    throw new Error(`${path} leaves the address of the market`);
  return address;
}

/** The market over HTTP, by the paths its rulebook names. Every failure to reach it is one refusal, worth trying again. */
export function openMarketPort(market: Market): MarketPort {
  const base = market.connection.url;
  const { transport } = market.rulebook;
  const ask = async (path: string, init: RequestInit = {}): Promise<Response> => {
    if (!base)
      throw new AppError('market-unreachable', `${market.name} has no address to send to.`, {
        remedy: 'Give its address under Connection, or download the file and upload it by hand.',
      });
    try {
      const response = await fetch(addressUnder(base, path), {
        ...init,
        // Where it leads is not what the person entered.
        redirect: 'error',
        signal: AbortSignal.timeout(timeoutMs),
      });
      if (response.status === 429 || response.status === 503) {
        await response.body?.cancel();
        throw new AppError(
          'market-unreachable',
          response.status === 429
            ? `${market.name} asks us to slow down.`
            : `${market.name} is not there for the moment (503).`,
          // RFC 6585, 4 and RFC 9110, 15.6.4: the request was not handled.
          { remedy: 'It is tried again by itself.', notTaken: true },
          readRetryAfter(response.headers.get('retry-after'), Date.now()),
        );
      }
      if (response.status >= 500)
        throw new AppError('market-unreachable', `${market.name} answered with an error (${response.status}).`, {
          remedy: 'It is tried again by itself.',
        });
      return response;
    } catch (error) {
      if (error instanceof AppError) throw error;
      const { code } = ((error as Error).cause ?? {}) as { code?: string };
      throw new AppError('market-unreachable', `${market.name} cannot be reached or dropped the connection.`, {
        remedy: 'It is tried again by itself.',
        // Nobody was there to take it.
        notTaken: code === 'ECONNREFUSED' || code === 'ENOTFOUND',
      });
    }
  };
  const textOf = async (r: Response): Promise<string> => {
    try {
      const chunks: Uint8Array[] = [];
      let size = 0;
      for await (const chunk of r.body ?? []) {
        size += (chunk as Uint8Array).length;
        if (size > mostAnswerBytes) throw new Error('too long');
        chunks.push(chunk as Uint8Array);
      }
      return Buffer.concat(chunks).toString('utf8');
    } catch {
      throw new AppError('market-unreachable', `${market.name} dropped the connection while answering.`, {
        remedy: 'It is tried again by itself.',
      });
    }
  };
  return {
    submit: async ({ name, operation, key, bytes }) => {
      const r = await ask(`${transport.submit}?operation=${operation}&name=${encodeURIComponent(name)}`, {
        method: 'POST',
        headers: { 'Content-Type': 'text/tab-separated-values; charset=utf-8', 'Idempotency-Key': key },
        body: Buffer.from(bytes),
      });
      const text = await textOf(r);
      const ticket = /^ticket\t(\S+)/m.exec(text)?.[1];
      if (r.status === 202 && ticket) return ticket;
      throw new AppError(
        r.status >= 400 ? 'bad-input' : 'market-unreachable',
        `${market.name} did not take the file: ${text.slice(0, 200).replace(/\s+/g, ' ') || `it answered ${r.status}`}`,
        { remedy: 'Correct the file’s form; nothing of it was worked through.' },
      );
    },
    fetchReceipt: async (ticket) => {
      const r = await ask(transport.receipt.replace('{ticket}', encodeURIComponent(ticket)));
      if (r.status === 202) {
        await textOf(r);
        return undefined;
      }
      if (r.status === 404)
        throw new AppError('bad-input', `${market.name} does not know the ticket ${ticket} any more.`, {
          remedy: 'Build the dispatch anew.',
        });
      return textOf(r);
    },
    readShelf: async (cursor) => {
      const [head = '', header = '', ...lines] = (
        await textOf(await ask(`${transport.shelf}${cursor ? `?since=${encodeURIComponent(cursor)}` : ''}`))
      )
        .split('\n')
        .map((l) => l.replace(/\r$/, ''));
      const next = /^cursor\t(.+)$/.exec(head)?.[1];
      if (next === undefined || !header.startsWith('house_sku\t'))
        throw new AppError('market-unreachable', `${market.name} answered with something that is not its shelf list.`, {
          remedy: 'It is tried again by itself.',
        });
      return {
        cursor: next,
        lines: lines.filter(Boolean).map((l) => {
          const [house_sku = '', entry = '', standing = '', reason = '', stamp = ''] = l.split('\t');
          return { house_sku, entry, standing, reason, stamp };
        }),
      };
    },
    find: async (words) => {
      if (!transport.find) return [];
      const [, ...lines] = (await textOf(await ask(`${transport.find}?q=${encodeURIComponent(words)}`)))
        .split('\n')
        .filter(Boolean);
      return lines.map((l) => {
        const [number = '', title = '', brand = '', item_number = '', shelf = ''] = l.split('\t');
        return { number, title, brand, item_number, shelf };
      });
    },
    linkTo: (number) => `${base ?? ''}/item/${encodeURIComponent(number)}`,
  };
}
