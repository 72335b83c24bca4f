// How a market is reached. A port: what it answers is text as the market writes it; reading it is the core's work.
import { type FoundEntry, readFoundList, readShelfList, type ShelfLine } from '@basileus/core/answers';
import type { Found, HttpTransport } from '@basileus/core/rulebook';
import { findNamed } from '@basileus/core/text';
import { AppError } from '../http';
import type { Market } from './load';

export interface MarketFile {
  name: string;
  operation: string;
  form: string;
  key: string;
  bytes: Uint8Array;
}
export interface MarketPort {
  /** Hands a file over. The same key twice is one submission. Answers the market's ticket. */
  submit: (file: MarketFile) => Promise<string>;
  /** The receipt's text, or undefined while the market is still at work. */
  fetchReceipt: (ticket: string) => Promise<string | undefined>;
  /** Changes on the market's shelf since a cursor. */
  readShelf: (cursor: string | null) => Promise<{ cursor: string; lines: ShelfLine[] }>;
  find: (words: string) => Promise<FoundEntry[]>;
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

const retried = 'It is tried again by itself.';
const unreachable = (says: string, about: object = {}, retryAfter?: number): AppError =>
  new AppError('market-unreachable', says, { remedy: retried, ...about }, retryAfter);

/** A path with what stands in braces filled in. */
const fillPath = (path: string, parts: Readonly<Record<string, string>>): string =>
  path.replace(/\{([a-z]+)\}/g, (_, name: string) => encodeURIComponent(parts[name] ?? ''));

/** What an answer that is not believed any more is told by: nobody there, busy, or out of order. */
function judgeStatus(market: string, response: Response): AppError | undefined {
  // RFC 6585, 4 and RFC 9110, 15.6.4: the request was not handled.
  if (response.status === 429 || response.status === 503)
    return unreachable(
      response.status === 429 ? `${market} asks us to slow down.` : `${market} is not there for the moment (503).`,
      { notTaken: true },
      readRetryAfter(response.headers.get('retry-after'), Date.now()),
    );
  return response.status >= 500 ? unreachable(`${market} answered with an error (${response.status}).`) : undefined;
}

/** Asks the market under its address. Every failure to reach it is one refusal, worth trying again. */
function createAsk({ name, connection }: Market): (path: string, init?: RequestInit) => Promise<Response> {
  const base = connection.url;
  return async (path, init = {}) => {
    if (!base)
      throw new AppError('market-unreachable', `${name} has no address to send to.`, {
        remedy: 'Give its address under Connection, or download the file and upload it by hand.',
      });
    try {
      const response = await fetch(addressUnder(base, path), {
        ...init,
        // Where it leads is not what the person entered.
        redirect: 'error',
        signal: AbortSignal.timeout(timeoutMs),
      });
      const refusal = judgeStatus(name, response);
      if (!refusal) return response;
      await response.body?.cancel();
      throw refusal;
    } catch (error) {
      if (error instanceof AppError) throw error;
      const { code } = ((error as Error).cause ?? {}) as { code?: string };
      throw unreachable(`${name} cannot be reached or dropped the connection.`, {
        // Nobody was there to take it.
        notTaken: code === 'ECONNREFUSED' || code === 'ENOTFOUND',
      });
    }
  };
}

async function readText(market: string, response: Response): Promise<string> {
  try {
    const chunks: Uint8Array[] = [];
    let size = 0;
    for await (const chunk of response.body ?? []) {
      size += (chunk as Uint8Array).length;
      if (size > mostAnswerBytes) throw new Error('too long');
      chunks.push(chunk as Uint8Array);
    }
    return Buffer.concat(chunks).toString('utf8');
  } catch {
    throw unreachable(`${market} dropped the connection while answering.`);
  }
}

/** A piece of an answer, from where the rulebook says that it stands. */
function findPiece(terms: Found, response: Response, text: string): string | undefined {
  const place = terms.in === 'body' ? text : (response.headers.get(terms.in.header) ?? '');
  return findNamed(terms.pattern, place);
}

/** The market over HTTP, by the paths its rulebook names. */
export function openMarketPort(market: Market): MarketPort {
  const { rulebook, name } = market;
  const { transport } = rulebook;
  if (transport.kind !== 'http')
    throw new AppError('not-now', `${name} takes files by hand only.`, {
      remedy: 'Download the file and bring it to the market; give its answer back here.',
    });
  const ask = createAsk(market);
  return {
    submit: (file) => submitFile(name, transport, ask, file),
    fetchReceipt: async (ticket) => {
      const r = await ask(fillPath(transport.answer.path, { ticket }));
      if (transport.answer.waiting.includes(r.status)) {
        await readText(name, r);
        return undefined;
      }
      if (r.status === 404)
        throw new AppError('bad-input', `${name} does not know the ticket ${ticket} any more.`, {
          remedy: 'Build the dispatch anew.',
        });
      return readText(name, r);
    },
    readShelf: async (cursor) => {
      const r = await ask(fillPath(transport.shelf.path, { cursor: cursor ?? '' }));
      const text = await readText(name, r);
      const next = findPiece(transport.shelf.cursor, r, text);
      const reading = readShelfList(rulebook, text);
      if (next === undefined || !reading.ok)
        throw unreachable(`${name} answered with something that is not its shelf list.`);
      return { cursor: next, lines: reading.lines };
    },
    find: async (words) => {
      if (!transport.find) return [];
      const reading = readFoundList(rulebook, await readText(name, await ask(fillPath(transport.find, { words }))));
      if (!reading.ok) throw unreachable(`${name} answered with something that is not a list of entries.`);
      return reading.lines;
    },
  };
}

/** The page of an entry as buyers see it, at its first site where none is named; null where nothing is known of pages. */
export function linkToEntry({ rulebook, connection }: Market, number: string, site?: string): string | null {
  const { transport, sites } = rulebook;
  if (transport.kind !== 'http' || !connection.url) return null;
  return connection.url.replace(/\/$/, '') + fillPath(transport.page, { number, site: site ?? sites[0]!.key });
}

async function submitFile(
  market: string,
  { submit }: HttpTransport,
  ask: (path: string, init?: RequestInit) => Promise<Response>,
  { name, operation, form, key, bytes }: MarketFile,
): Promise<string> {
  const r = await ask(fillPath(submit.path, { operation, form, name }), {
    method: 'POST',
    headers: { 'Content-Type': submit.contentType, [submit.keyHeader]: key },
    body: Buffer.from(bytes),
  });
  const text = await readText(market, r);
  const ticket = findPiece(submit.ticket, r, text);
  if (submit.taken.includes(r.status) && ticket) return ticket;
  throw new AppError(
    r.status >= 400 ? 'bad-input' : 'market-unreachable',
    `${market} did not take the file: ${text.slice(0, 200).replace(/\s+/g, ' ') || `it answered ${r.status}`}`,
    { remedy: 'Correct the file’s form; nothing of it was worked through.' },
  );
}
