// How a market is reached. A port: what it answers is text as the market writes it; reading it is the core's work.
import type { FoundEntry, ShelfLine } from '@basileus/core/answers';
import { AppError } from '../http';
import type { Gate } from './gate';
import type { Market } from './load';
import { openHttpPort } from './transports/http';
import { openSftpPort } from './transports/sftp';
import { say } from '@basileus/core/text';

export interface MarketFile {
  name: string;
  operation: string;
  form: string;
  key: string;
  bytes: Uint8Array;
  /** Records in it: what a market counts that takes so many in a stretch of time. */
  records: number;
}

export interface MarketPort {
  /** Hands a file over. The same key twice is one submission. Answers the market's ticket. */
  submit: (file: MarketFile) => Promise<string>;
  /** The text of the receipt for a file of a form, or undefined while the market is still at work. Pages of JSON stand a line each. */
  fetchReceipt: (ticket: string, form: string) => Promise<string | undefined>;
  /** Changes on the market's shelf since a cursor. */
  readShelf: (cursor: string | null) => Promise<{ cursor: string; lines: ShelfLine[] }>;
  find: (words: string) => Promise<FoundEntry[]>;
  /** Entries of the items with these identifiers, asked for one by one or read from one list. */
  findItems: (identifiers: readonly string[]) => Promise<FoundEntry[]>;
  /** Moves a receipt that has been read out of the way, where the market has a place for those. */
  putAside?: (ticket: string) => Promise<void>;
}

/** The market as its rulebook says that it is reached, through a gate that holds its key and counts what is asked of it. */
export function openMarketPort(market: Market, gate: Gate): MarketPort {
  const { transport } = market.rulebook;
  switch (transport.kind) {
    case 'http':
      return openHttpPort(market, transport, gate);
    case 'sftp':
      return openSftpPort(market, transport, gate);
    case 'by-hand':
      throw new AppError('not-now', say`${market.name} takes files by hand only.`, {
        remedy: say`Download the file and bring it to the market; give its answer back here.`,
      });
  }
}

/** Lines of a shelf that are read at the most, a shelf being what a seller has. */
const mostShelfLines = 5_000_000;

/** The whole shelf, however many times the market has to be asked for it. */
export async function readWholeShelf(port: MarketPort): Promise<ShelfLine[]> {
  const lines: ShelfLine[] = [];
  for (let cursor: string | null = null; ;) {
    const shelf: Awaited<ReturnType<MarketPort['readShelf']>> = await port.readShelf(cursor);
    for (const line of shelf.lines) lines.push(line);
    if (shelf.lines.length === 0 || shelf.cursor === cursor || lines.length > mostShelfLines) return lines;
    cursor = shelf.cursor;
  }
}

const sftpPaceSeconds = 2;

/** Seconds between two questions after the same thing, so that a market with a quota is left most of it for files. */
export function paceOf({ rulebook: { transport } }: Market): number {
  // A connection is opened for every question.
  if (transport.kind === 'sftp') return sftpPaceSeconds;
  const quota = transport.kind === 'http' ? transport.quota : undefined;
  return quota === undefined ? 0 : Math.ceil((quota.seconds / quota.requests) * 3);
}
