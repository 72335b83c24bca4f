// What the frame asks of a market, and gives it: requests, replies, moods. Each market brings its own works.
import type { IncomingHttpHeaders } from 'node:http';

export interface Moods {
  slowMs: number;
  failNext: number;
  garbageNext: number;
  hangUpNext: number;
  forgetNext: number;
}
export const startMoods = (): Moods => ({ slowMs: 0, failNext: 0, garbageNext: 0, hangUpNext: 0, forgetNext: 0 });

export interface StandInRequest {
  method: string;
  url: URL;
  path: string;
  headers: IncomingHttpHeaders;
  /** The body as text in UTF-8, and as it came. */
  body: string;
  bytes: Buffer;
}
export interface Reply {
  status: number;
  text: string;
  /** What goes instead of the text, where it goes in another encoding. */
  bytes?: Uint8Array;
  headers?: Record<string, string>;
}
export const reply = (status: number, text: string, headers: Record<string, string> = {}): Reply => ({
  status,
  text,
  headers,
});

/** What somebody changes of an entry on a market's own pages: amounts with a point, each as it is there after that. */
export interface Repriced {
  sku: string;
  /** The country in which, where prices are by country. */
  site?: string;
  price?: string;
  sale?: string;
  pieces?: string;
}

/** A market behind the frame. Times are milliseconds. */
export interface Works {
  moods: Moods;
  /** Whether moods act on a request: on a file that is handed in, on an answer that is asked for, or not at all. */
  kindOf: (request: StandInRequest) => 'file' | 'answer' | 'other';
  answer: (request: StandInRequest) => Reply | Promise<Reply>;
  /** What a person behind the scenes tells or asks; not part of what a seller sees. */
  control: (what: string, body: string) => Reply;
  /** Time has come to `now`: work is done, reviews end. Answers how much happened. */
  tick: (now: number) => number;
  /** Buyers come. Answers how much was sold. */
  sell: (random: () => number) => number;
  save: () => void;
}
/** How a market is started: where it keeps its memory, how long it takes for a file and for a review. */
export interface Pace {
  file?: string;
  workMs: number;
  reviewMs: number;
  sellEveryMs: number;
}
