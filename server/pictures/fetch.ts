// Fetching a picture. Only hosts that a person has named are ever asked, and no redirect is followed to another.
import http from 'node:http';
import https from 'node:https';

/** What came: bytes, a status that says that there is none, or nothing that could be told. */
export type Fetched =
  { is: 'bytes'; bytes: Buffer } | { is: 'none'; status: number } | { is: 'too-large' } | { is: 'unreachable' };

const timeoutMs = 20_000;
/** Bytes of a picture at the most. */
export const mostPictureBytes = 30_000_000;

/** The address where a link is asked: its own, or the same path at another by which its host is reached from here. */
export function toTarget(link: string, address: string | null): URL {
  const url = new URL(link);
  url.username = '';
  url.password = '';
  if (address === null) return url;
  // Put together part by part: a path that begins with two slashes would be another host.
  const target = new URL(address);
  target.pathname = url.pathname;
  target.search = url.search;
  return target;
}

interface Answer {
  status: number;
  body: AsyncIterable<Uint8Array>;
  /** Nothing more of it is wanted. */
  drop: () => Promise<void>;
}
const headers = { Accept: 'image/*' };

/** Asks over a connection that may have been kept open. */
async function askKept(target: URL): Promise<Answer> {
  const response = await fetch(target, { headers, redirect: 'manual', signal: AbortSignal.timeout(timeoutMs) });
  return {
    status: response.status,
    body: response.body ?? none(),
    drop: async () => void (await response.body?.cancel()),
  };
}
async function* none(): AsyncGenerator<Uint8Array> {
  // An answer without a body.
}

/** Asks over a connection of its own. */
const askAfresh = (target: URL): Promise<Answer> =>
  new Promise((done, fail) => {
    const { get } = target.protocol === 'https:' ? https : http;
    get(target, { agent: false, headers, signal: AbortSignal.timeout(timeoutMs) }, (response) => {
      done({
        status: response.statusCode ?? 0,
        body: response as AsyncIterable<Uint8Array>,
        drop: () => Promise.resolve(void response.destroy()),
      });
    }).on('error', fail);
  });

/**
 * A host may close connections that were kept open just as they are used again, several at once: that is asked once more, at
 * once, and over a connection that nobody can have closed.
 */
async function ask(target: URL): Promise<Answer> {
  try {
    return await askKept(target);
  } catch (error) {
    // Who did not answer in time is not asked again so soon.
    if (error instanceof Error && error.name === 'TimeoutError') throw error;
    return askAfresh(target);
  }
}

/** Fetches what is behind a link. */
export async function fetchPicture(link: string, address: string | null): Promise<Fetched> {
  try {
    const response = await ask(toTarget(link, address));
    // Busy or broken is not gone.
    if (response.status === 429 || response.status >= 500) {
      await response.drop();
      return { is: 'unreachable' };
    }
    if (response.status !== 200) {
      await response.drop();
      return { is: 'none', status: response.status };
    }
    const chunks: Uint8Array[] = [];
    let size = 0;
    for await (const chunk of response.body) {
      size += chunk.length;
      if (size > mostPictureBytes) return { is: 'too-large' };
      chunks.push(chunk);
    }
    return { is: 'bytes', bytes: Buffer.concat(chunks) };
  } catch {
    return { is: 'unreachable' };
  }
}
