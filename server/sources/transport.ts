// How a business system is reached: its rows as JSON a page after the other, or as one text file. Only the host that the
// person entered is ever asked.
import type { SourceRow } from '@basileus/core/source';
import {
  createEncodingJudge,
  createRowReader,
  createTextDecoder,
  detectDelimiter,
  type Encoding,
  SheetError,
  sniffFile,
} from '@basileus/core/sheet';
import { AppError } from '../http';
import { say } from '@basileus/core/text';

export interface Reached {
  name: string;
  way: 'pages' | 'file';
  address: string;
  decimalSign: '.' | ',';
  sinceParam: string;
  key: string | undefined;
}

const timeoutMs = 30_000;
const mostPageBytes = 50_000_000,
  mostFileBytes = 200_000_000,
  mostRows = 2_000_000,
  mostColumns = 500;

const unreachable = (says: string, remedy = 'It is tried again by itself.', retryAfter?: number): AppError =>
  new AppError('source-unreachable', says, { remedy }, retryAfter);
const odd = (says: string): AppError =>
  new AppError('bad-input', says, { field: 'address', remedy: say`Look whether the address is the right one.` });

async function ask({ name, key }: Reached, url: URL): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(url, {
      headers: { Accept: '*/*', ...(key === undefined ? {} : { Authorization: `Bearer ${key}` }) },
      // Where it leads is not what the person entered.
      redirect: 'error',
      signal: AbortSignal.timeout(timeoutMs),
    });
  } catch {
    throw unreachable(`${name} cannot be reached or dropped the connection.`);
  }
  if (response.ok) return response;
  await response.body?.cancel();
  if (response.status === 401 || response.status === 403)
    throw new AppError('bad-input', say`${name} does not take the key that it was given (${response.status}).`, {
      field: 'key',
      remedy: say`Give the right key.`,
    });
  const wait = Number(response.headers.get('retry-after') ?? '');
  if (response.status === 429 || response.status >= 500)
    throw unreachable(
      `${name} answered with an error (${response.status}).`,
      undefined,
      Number.isFinite(wait) && wait > 0 ? wait : undefined,
    );
  throw odd(`${name} answered ${response.status} at ${url.pathname}.`);
}

/** The bytes of an answer, as they come; past `most` it is refused. */
async function* readBytes(response: Response, name: string, most: number): AsyncGenerator<Uint8Array> {
  let size = 0;
  try {
    for await (const chunk of response.body ?? []) {
      size += (chunk as Uint8Array).length;
      if (size > most) throw odd(`${name} answered with more than ${Math.round(most / 1_000_000)} MB at once.`);
      yield chunk as Uint8Array;
    }
  } catch (error) {
    if (error instanceof AppError) throw error;
    throw unreachable(`${name} dropped the connection while answering.`);
  }
}

/** A value of a row of JSON as a text; entries of a list divided by bars. Groups are left out. */
function toText(value: unknown): string | undefined {
  if (value === null || value === undefined) return '';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'string') return value;
  if (typeof value === 'number') return String(value);
  return Array.isArray(value) ? value.map((v) => toText(v) ?? '').join('|') : undefined;
}

interface Page {
  rows: SourceRow[];
  next: string | null;
  asOf: string | null;
}

/** A page: the rows are the one list of groups in it, wherever it stands; `next` is the address of the next page. */
export function readPage(text: string, name: string): Page {
  let body: unknown;
  try {
    body = JSON.parse(text);
  } catch {
    throw unreachable(`${name} answered with something that is not JSON.`);
  }
  const isGroup = (x: unknown): x is Record<string, unknown> =>
    typeof x === 'object' && x !== null && !Array.isArray(x);
  const list = Array.isArray(body)
    ? body
    : isGroup(body)
      ? Object.values(body).find((v) => Array.isArray(v))
      : undefined;
  if (!Array.isArray(list)) throw odd(`${name} answered with no list of rows.`);
  const rows = list.filter(isGroup).map((row) =>
    Object.fromEntries(
      Object.entries(row).flatMap(([k, v]) => {
        const said = toText(v);
        return said === undefined ? [] : [[k, said]];
      }),
    ),
  );
  const say = (key: string): string | null => {
    const v = isGroup(body) ? body[key] : undefined;
    return typeof v === 'string' && v !== '' ? v : null;
  };
  return { rows, next: say('next'), asOf: say('as_of') };
}

/** The next page under the host that the person entered; another one is never asked. */
function followTo(next: string, at: URL, name: string): URL {
  const url = new URL(next, at);
  if (url.origin !== at.origin) throw odd(`${name} names a next page on another host, ${url.host}.`);
  return url;
}

async function* readPages(source: Reached, since: string | undefined): AsyncGenerator<SourceRow[]> {
  let url: URL | undefined = new URL(source.address);
  if (since !== undefined && source.sinceParam !== '') url.searchParams.set(source.sinceParam, since);
  const seen = new Set<string>();
  while (url) {
    if (seen.has(url.href)) throw odd(`${source.name} names the same page twice.`);
    seen.add(url.href);
    const response = await ask(source, url);
    const chunks: Uint8Array[] = [];
    for await (const c of readBytes(response, source.name, mostPageBytes)) chunks.push(c);
    const page = readPage(Buffer.concat(chunks).toString('utf8'), source.name);
    yield page.rows;
    url = page.next === null ? undefined : followTo(page.next, url, source.name);
  }
}

const charsets: Readonly<Record<string, Encoding>> = {
  'utf-8': 'utf-8',
  'windows-1252': 'windows-1252',
  'iso-8859-1': 'windows-1252',
  shift_jis: 'shift_jis',
  'windows-31j': 'shift_jis',
  'utf-16le': 'utf-16le',
  'utf-16be': 'utf-16be',
};
/** The encoding that the answer says of itself (RFC 9110, 8.3.2), else the one that its bytes speak for, all of them. */
function findEncoding(contentType: string | null, chunks: readonly Uint8Array[]): Encoding {
  const said = /;\s*charset="?([^\s;"]+)"?/i.exec(contentType ?? '')?.[1]?.toLowerCase();
  const known = said === undefined ? undefined : charsets[said];
  if (known) return known;
  const sniffed = sniffFile(chunks[0] ?? new Uint8Array());
  if (sniffed.kind === 'text' && (sniffed.mark || sniffed.encoding.startsWith('utf-16'))) return sniffed.encoding;
  const judge = createEncodingJudge();
  for (const c of chunks) judge.push(c);
  return judge.judge();
}

/** A text file with a heading row, with whatever delimiter. */
async function* readFile(source: Reached): AsyncGenerator<SourceRow[]> {
  const response = await ask(source, new URL(source.address));
  const chunks: Uint8Array[] = [];
  for await (const c of readBytes(response, source.name, mostFileBytes)) chunks.push(c);
  if (chunks.length === 0) throw odd(`${source.name} answered with an empty file.`);
  const decoder = createTextDecoder(findEncoding(response.headers.get('content-type'), chunks));
  let reader: ReturnType<typeof createRowReader> | undefined, columns: string[] | undefined;
  const toRows = (lines: readonly string[][]): SourceRow[] =>
    lines.flatMap((cells) => {
      if (cells.every((c) => c.trim() === '')) return [];
      if (columns === undefined) {
        columns = cells.map((c) => c.trim());
        return [];
      }
      return [Object.fromEntries(columns.flatMap((c, i) => (c === '' ? [] : [[c, cells[i] ?? '']])))];
    });
  for (const [i, chunk] of chunks.entries()) {
    let text = decoder.push(chunk);
    if (i === 0) text = text.replace(/^\ufeff/, '');
    reader ??= createRowReader(detectDelimiter(text).delimiter);
    yield toRows(reader.push(text));
    chunks[i] = new Uint8Array();
  }
  yield toRows(reader!.push(decoder.end()));
  yield toRows(reader!.end());
}

async function* readSheet(source: Reached): AsyncGenerator<SourceRow[]> {
  try {
    yield* readFile(source);
  } catch (error) {
    if (!(error instanceof SheetError)) throw error;
    throw odd(`The file of ${source.name} cannot be read: ${error.message}`);
  }
}

/** A number with a decimal comma as it is written with a point; anything else as it is. */
const turnSign = (text: string): string => (/^-?\d+,\d+$/.test(text) ? text.replace(',', '.') : text);

/** All rows of a business system, or those that have changed since a moment, in stretches as they come. */
export async function* readSource(source: Reached, since?: string): AsyncGenerator<SourceRow[]> {
  let total = 0;
  const batches = source.way === 'pages' ? readPages(source, since) : readSheet(source);
  for await (const rows of batches) {
    total += rows.length;
    if (total > mostRows) throw odd(`${source.name} has more than ${mostRows.toLocaleString('en-GB')} rows.`);
    const wide = rows.find((r) => Object.keys(r).length > mostColumns);
    if (wide) throw odd(`${source.name} has rows of more than ${mostColumns} columns.`);
    if (rows.length > 0)
      yield source.decimalSign === '.'
        ? rows
        : rows.map((r) => Object.fromEntries(Object.entries(r).map(([k, v]) => [k, turnSign(v)])));
  }
}
