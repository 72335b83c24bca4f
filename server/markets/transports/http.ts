// Markets over HTTP, by the paths, statuses and places that their rulebooks name.
import {
  type Decoding,
  findAnswerDecoding,
  type FoundEntry,
  readFoundList,
  readShelfList,
  toDecoding,
} from '@basileus/core/answers';
import { readJsonAt } from '@basileus/core/forms';
import type { Found, HttpTransport } from '@basileus/core/rulebook';
import { findNamed, say } from '@basileus/core/text';
import { AppError } from '../../http';
import { decodeText, readCharset } from '../decode';
import type { Gate } from '../gate';
import type { Market } from '../load';
import type { MarketFile, MarketPort } from '../port';

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

/** What an answer that is not believed any more is told by: not known, nobody there, busy, or out of order. */
function judgeStatus(market: string, response: Response): AppError | undefined {
  if (response.status === 401 || response.status === 403)
    return unreachable(`${market} does not take the key that it was given (${response.status}).`, {
      notTaken: true,
      remedy: say`Give the right key under Connection; what waits goes on by itself.`,
    });
  // RFC 6585, 4 and RFC 9110, 15.6.4: the request was not handled.
  if (response.status === 429 || response.status === 503)
    return unreachable(
      response.status === 429 ? `${market} asks us to slow down.` : `${market} is not there for the moment (503).`,
      { notTaken: true },
      readRetryAfter(response.headers.get('retry-after'), Date.now()),
    );
  return response.status >= 500 ? unreachable(`${market} answered with an error (${response.status}).`) : undefined;
}

type Ask = (path: string, init?: RequestInit, records?: number) => Promise<Response>;

/** Asks the market under its address. Every failure to reach it is one refusal, worth trying again. */
function createAsk({ name, connection }: Market, { login }: HttpTransport, gate: Gate): Ask {
  const base = connection.url;
  return async (path, init = {}, records = 0) => {
    if (!base)
      throw new AppError('market-unreachable', say`${name} has no address to send to.`, {
        remedy: say`Give its address under Connection, or download the file and upload it by hand.`,
      });
    const headers = new Headers(init.headers);
    if (login) headers.set('Authorization', `Bearer ${await needKey(name, gate)}`);
    await gate.spend(records);
    try {
      const response = await fetch(addressUnder(base, path), {
        ...init,
        headers,
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

async function needKey(market: string, gate: Gate): Promise<string> {
  const key = await gate.loadKey();
  if (key !== undefined) return key;
  throw unreachable(`${market} knows sellers by a key, and none is kept.`, {
    notTaken: true,
    remedy: say`Give the key under Connection; what waits goes on by itself.`,
  });
}

/** Longest wait in the midst of a question that a busy market is given, and how often. */
const patienceSeconds = 90,
  patienceTimes = 60;

/** Goes on with a page when a market that is busy, or a quota that is used up, says when. */
async function askPatiently(ask: Ask, path: string): Promise<Response> {
  for (let times = 0; ; times++)
    try {
      return await ask(path);
    } catch (error) {
      const seconds = error instanceof AppError && error.about.notTaken ? error.retryAfterSeconds : undefined;
      if (seconds === undefined || seconds > patienceSeconds || times >= patienceTimes) throw error;
      await new Promise((go) => setTimeout(go, seconds * 1000));
    }
}

async function readText(market: string, response: Response, decoding: Decoding = 'utf-8'): Promise<string> {
  const chunks: Uint8Array[] = [];
  try {
    let size = 0;
    for await (const chunk of response.body ?? []) {
      size += (chunk as Uint8Array).length;
      if (size > mostAnswerBytes) throw new Error('too long');
      chunks.push(chunk as Uint8Array);
    }
  } catch {
    throw unreachable(`${market} dropped the connection while answering.`);
  }
  return decodeText(Buffer.concat(chunks), decoding, readCharset(response.headers.get('content-type')));
}

/** A piece of an answer, from where the rulebook says that it stands. */
function findPiece(terms: Found, response: Response, text: string): string | undefined {
  if ('json' in terms) return readJsonAt(text, terms.json);
  const place = terms.in === 'body' ? text : (response.headers.get(terms.in.header) ?? '');
  return findNamed(terms.pattern, place);
}

/** The market over HTTP, by the paths its rulebook names. */
export function openHttpPort(market: Market, transport: HttpTransport, gate: Gate): MarketPort {
  const { rulebook, name } = market;
  const ask = createAsk(market, transport, gate);
  const find = async (words: string): Promise<FoundEntry[]> => {
    if (!transport.find) return [];
    const found = await ask(fillPath(transport.find, { words }));
    const reading = readFoundList(
      rulebook,
      await readText(name, found, rulebook.lists.find && toDecoding(rulebook.lists.find.container)),
    );
    if (!reading.ok) throw unreachable(`${name} answered with something that is not a list of entries.`);
    return reading.lines;
  };
  return {
    submit: (file) => submitFile(name, transport, ask, file),
    fetchReceipt: (ticket, form) => fetchReceipt(name, transport, ask, ticket, findAnswerDecoding(rulebook, form)),
    readShelf: async (cursor) => {
      const r = await ask(fillPath(transport.shelf.path, { cursor: cursor ?? '' }));
      const text = await readText(name, r, toDecoding(rulebook.lists.shelf.container));
      const next = findPiece(transport.shelf.cursor, r, text);
      const reading = readShelfList(rulebook, text);
      if (next === undefined || !reading.ok)
        throw unreachable(`${name} answered with something that is not its shelf list.`);
      return { cursor: next, lines: reading.lines };
    },
    find,
    findItems: async (identifiers) => {
      const all: FoundEntry[] = [];
      for (const identifier of identifiers) all.push(...(await find(identifier)));
      return all;
    },
  };
}

/** The page of an entry as buyers see it, at its first site where none is named; null where nothing is known of pages. */
export function linkToEntry({ rulebook, connection }: Market, number: string, site?: string): string | null {
  const { transport, sites } = rulebook;
  if (transport.kind !== 'http' || !connection.url) return null;
  return connection.url.replace(/\/$/, '') + fillPath(transport.page, { number, site: site ?? sites[0]!.key });
}

/** Pages of one answer that are fetched at the most. */
const mostPages = 10_000;

async function fetchReceipt(
  market: string,
  { answer }: HttpTransport,
  ask: Ask,
  ticket: string,
  decoding: Decoding,
): Promise<string | undefined> {
  const r = await ask(fillPath(answer.path, { ticket }));
  if (answer.waiting.includes(r.status)) {
    await r.body?.cancel();
    return undefined;
  }
  if (r.status === 404)
    throw new AppError('bad-input', say`${market} does not know the ticket ${ticket} any more.`, {
      remedy: say`Build the dispatch anew.`,
    });
  const { until, pages } = answer;
  const text = await readText(market, r, decoding);
  // What is no answer at all has no word for being whole: reading it says what is wrong with it.
  const isWhole = until && readJsonAt(text, until.json);
  if (until && isWhole !== undefined && isWhole !== until.is) return undefined;
  if (!pages) return text;
  const all = [text];
  for (let next = findPiece(pages.next, r, text), before = new Set<string>(); next !== undefined && next !== '';) {
    if (before.has(next) || all.length >= mostPages)
      throw unreachable(`${market} answered with pages that do not come to an end.`);
    before.add(next);
    const page = await askPatiently(ask, fillPath(pages.path, { ticket, next }));
    all.push(await readText(market, page, decoding));
    next = findPiece(pages.next, page, all.at(-1)!);
  }
  return all.length === 1 ? text : all.map(toOneLine).join('\n');
}

/** A page of JSON on a line of its own; what is none stays, for whoever reads it to say so. */
function toOneLine(page: string): string {
  try {
    return JSON.stringify(JSON.parse(page));
  } catch {
    return page;
  }
}

async function submitFile(
  market: string,
  { submit }: HttpTransport,
  ask: Ask,
  { name, operation, form, key, bytes, records }: MarketFile,
): Promise<string> {
  const path = fillPath(submit.path, { operation, form, name }),
    known = { [submit.keyHeader]: key };
  const r = await ask(
    path,
    submit.multipart
      ? { method: 'POST', headers: known, body: makeForm(submit.multipart, { name, operation, form, key, bytes }) }
      : {
          method: 'POST',
          headers: { ...known, 'Content-Type': submit.contentType },
          body: Buffer.from(bytes),
        },
    records,
  );
  const text = await readText(market, r);
  const ticket = findPiece(submit.ticket, r, text);
  if (submit.taken.includes(r.status) && ticket) return ticket;
  throw new AppError(
    r.status >= 400 ? 'bad-input' : 'market-unreachable',
    say`${market} did not take the file: ${text.slice(0, 200).replace(/\s+/g, ' ') || say`it answered ${r.status}`}`,
    { remedy: say`Correct the file’s form; nothing of it was worked through.` },
  );
}

/** A file as a part of a form, with what else the market wants beside it (RFC 7578). */
function makeForm(
  { file, fields }: NonNullable<HttpTransport['submit']['multipart']>,
  { bytes, ...parts }: Omit<MarketFile, 'records'>,
): FormData {
  const form = new FormData();
  for (const [name, text] of Object.entries(fields))
    form.append(
      name,
      text.replace(/\{([a-z]+)\}/g, (_, part: string) => (parts as Readonly<Record<string, string>>)[part] ?? ''),
    );
  form.append(file, new Blob([Buffer.from(bytes)]), parts.name);
  return form;
}
