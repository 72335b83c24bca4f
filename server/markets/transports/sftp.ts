// Markets that take files in folders over SFTP. A file is put under a name of its own, then renamed, so that the market
// never sees half of one; its name is its key: put again under the same name it is the same submission.
import { createHash } from 'node:crypto';
import {
  type Decoding,
  findAnswerDecoding,
  type FoundEntry,
  readFoundList,
  readShelfList,
  toDecoding,
} from '@basileus/core/answers';
import { parseGtin } from '@basileus/core/identifiers';
import type { SftpTransport } from '@basileus/core/rulebook';
import { fold, say } from '@basileus/core/text';
import type { Client } from 'ssh2';
import SftpClient from 'ssh2-sftp-client';
import { AppError } from '../../http';
import { decodeText } from '../decode';
import type { Gate } from '../gate';
import { isPrivateKey } from '../key-pairs';
import type { Market } from '../load';
import type { MarketFile, MarketPort } from '../port';

const timeoutMs = 15_000;
/** What a market may answer with at the most: a receipt of a full file with every line remarked on. */
const mostAnswerBytes = 100_000_000;
const usualPort = 22;
const mostFound = 20;

const unreachable = (says: string, about: object = {}): AppError =>
  new AppError('market-unreachable', says, { remedy: say`It is tried again by itself.`, ...about });

/** What the host shows, as OpenSSH writes it. */
const toFingerprint = (hostKey: Buffer): string =>
  `SHA256:${createHash('sha256').update(hostKey).digest('base64').replace(/=+$/, '')}`;

interface Place {
  host: string;
  port: number;
  user: string;
  /** The folder that the person entered, with a slash at its end where it is not the one we come into. */
  base: string;
}

function placeOf({ name, connection }: Market): Place {
  if (!connection.url || !connection.user)
    throw unreachable(`${name} has no address to send to, or no name that it knows us by.`, {
      notTaken: true,
      remedy: say`Give both under Connection, or download the file and bring it there by hand.`,
    });
  const { hostname, port, pathname } = new URL(connection.url);
  const folder = decodeURIComponent(pathname).replace(/\/+$/, '');
  return {
    host: hostname,
    port: port === '' ? usualPort : Number(port),
    user: connection.user,
    base: folder === '' ? '' : `${folder}/`,
  };
}

/** What a failure to get in means. The key that we have for the host decides first: nothing is said to a stranger. */
function toRefusal(market: string, error: unknown, isStranger: boolean, level: string | undefined): AppError {
  if (error instanceof AppError) return error;
  const { code } = error as { code?: string };
  if (isStranger)
    return unreachable(`The host of ${market} shows another key than before; nothing was sent to it.`, {
      notTaken: true,
      remedy: say`Ask the market whether it has a new host key; if so, say so under Connection.`,
    });
  if (level === 'client-authentication')
    return unreachable(`${market} does not take the name and the key that it was given.`, {
      notTaken: true,
      remedy: say`Give the right ones under Connection; what waits goes on by itself.`,
    });
  return unreachable(`${market} cannot be reached or dropped the connection.`, {
    notTaken: code === 'ECONNREFUSED' || code === 'ENOTFOUND',
  });
}

/** Comes in, does something, and goes out again. Every failure to get or stay there is one refusal, worth trying again. */
async function visit<T>(market: Market, gate: Gate, act: (client: SftpClient, base: string) => Promise<T>): Promise<T> {
  const { name } = market,
    place = placeOf(market);
  const key = await gate.loadKey();
  if (key === undefined)
    throw unreachable(`${name} knows sellers by a key, and none is kept.`, {
      notTaken: true,
      remedy: say`Give the key under Connection; what waits goes on by itself.`,
    });
  const known = await gate.loadHost();
  let shown = '';
  // A connection that is lost while nothing is asked of it must neither end the program nor be spoken of.
  const quiet = (): void => undefined;
  const client = new SftpClient('market', { error: quiet, end: quiet, close: quiet });
  const { client: ssh } = client as unknown as { client: Client };
  let level: string | undefined;
  ssh.on('error', (error: Error & { level?: string }) => {
    level = error.level;
  });
  try {
    await client.connect({
      host: place.host,
      port: place.port,
      username: place.user,
      ...(isPrivateKey(key) ? { privateKey: key } : { password: key }),
      readyTimeout: timeoutMs,
      hostVerifier: (hostKey: Buffer) => {
        shown = toFingerprint(hostKey);
        return known === undefined || shown === known;
      },
    });
    // Questions and answers are small and take turns: each would wait for the acknowledgement of the one before.
    ssh.setNoDelay(true);
    if (known === undefined) await gate.keepHost(shown);
    return await act(client, place.base);
  } catch (error) {
    throw toRefusal(name, error, known !== undefined && shown !== '' && shown !== known, level);
  } finally {
    await client.end().catch(() => undefined);
  }
}

/** A file as text; undefined where there is none. */
async function readTextFile(
  market: string,
  client: SftpClient,
  path: string,
  decoding: Decoding,
): Promise<string | undefined> {
  if ((await client.exists(path)) !== '-') return undefined;
  const { size } = await client.stat(path);
  if (size > mostAnswerBytes)
    throw unreachable(`${market} answered with ${size} bytes, which is more than any answer has.`);
  const bytes = await client.get(path);
  return decodeText(bytes as Buffer, decoding);
}

const stemOf = (name: string): string => name.replace(/\.[^.]*$/, '');

/** The market in its folders, by the names its rulebook gives them. */
export function openSftpPort(market: Market, transport: SftpTransport, gate: Gate): MarketPort {
  const { rulebook, name } = market;
  const { answer } = transport;
  const answerName = (ticket: string): string =>
    answer.name.replace('{stem}', stemOf(ticket)).replace('{name}', ticket);
  let byItem: Promise<ReadonlyMap<string, FoundEntry[]>> | undefined;
  const readEntries = async (): Promise<FoundEntry[]> => {
    const { find } = transport;
    if (!find) return [];
    const text = await visit(market, gate, (client, base) =>
      readTextFile(
        name,
        client,
        base + find.file,
        rulebook.lists.find ? toDecoding(rulebook.lists.find.container) : 'utf-8',
      ),
    );
    if (text === undefined) return [];
    const reading = readFoundList(rulebook, text);
    if (!reading.ok) throw unreachable(`${name} has put there something that is not a list of entries.`);
    return reading.lines;
  };
  return {
    submit: (file) => visit(market, gate, (client, base) => putFile(client, base + transport.submit.folder, file)),
    fetchReceipt: (ticket, form) =>
      visit(market, gate, (client, base) =>
        readTextFile(name, client, `${base}${answer.folder}/${answerName(ticket)}`, findAnswerDecoding(rulebook, form)),
      ),
    putAside: async (ticket) => {
      const { aside } = answer;
      if (aside === undefined) return;
      await visit(market, gate, async (client, base) => {
        await client.rename(`${base}${answer.folder}/${answerName(ticket)}`, `${base}${aside}/${answerName(ticket)}`);
      });
    },
    readShelf: (cursor) =>
      visit(market, gate, async (client, base) => {
        const path = base + transport.shelf.file;
        if ((await client.exists(path)) !== '-') return { cursor: cursor ?? '', lines: [] };
        const { modifyTime, size } = await client.stat(path);
        const now = `${modifyTime}/${size}`;
        // The whole shelf is in the file: one that is as it was says nothing new.
        if (now === cursor) return { cursor: now, lines: [] };
        const reading = readShelfList(
          rulebook,
          (await readTextFile(name, client, path, toDecoding(rulebook.lists.shelf.container))) ?? '',
        );
        if (!reading.ok) throw unreachable(`${name} has put there something that is not its shelf list.`);
        return { cursor: now, lines: reading.lines };
      }),
    find: async (words) => findByWords(await readEntries(), words),
    findItems: async (identifiers) => {
      // The whole list is in the file: read once, however many items are asked for.
      byItem ??= readEntries().then(groupByItem);
      const entries = await byItem;
      return identifiers.flatMap((id) => entries.get(toItemKey(id)) ?? []);
    },
  };
}

/** Puts a file so that the market sees all of it or nothing. A name that is there already was put before. */
async function putFile(client: SftpClient, folder: string, { name, bytes }: MarketFile): Promise<string> {
  const path = `${folder}/${name}`;
  if ((await client.exists(path)) !== false) return name;
  try {
    await client.put(Buffer.from(bytes), `${path}.part`);
  } catch (error) {
    const { code } = error as { code?: number | string };
    throw unreachable(`The file could not be put into ${folder} (${code ?? 'no reason given'}).`, { notTaken: true });
  }
  await client.rename(`${path}.part`, path);
  return name;
}

/** What names an item, however many noughts stand before its number; other texts by themselves. */
function toItemKey(identifier: string): string {
  const read = parseGtin(identifier);
  return read.ok ? read.padded : identifier.trim();
}

function groupByItem(entries: readonly FoundEntry[]): ReadonlyMap<string, FoundEntry[]> {
  const byItem = new Map<string, FoundEntry[]>();
  for (const e of entries) {
    const key = toItemKey(e.identifier);
    (byItem.get(key) ?? byItem.set(key, []).get(key)!).push(e);
  }
  return byItem;
}

/** Entries that hold every word. */
function findByWords(entries: readonly FoundEntry[], words: string): FoundEntry[] {
  const wanted = fold(words)
    .split(' ')
    .filter((w) => w !== '');
  return entries
    .filter((e) => {
      const text = fold(Object.values(e).join(' '));
      return wanted.every((w) => text.includes(w));
    })
    .slice(0, mostFound);
}
