// Fetching a picture. Only hosts that a person has named are ever asked, and no redirect is followed to another.

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

/** A host may close a connection that was kept open just as it is used again; that is asked once more, at once. */
async function ask(target: URL): Promise<Response> {
  const once = (): Promise<Response> =>
    fetch(target, { headers: { Accept: 'image/*' }, redirect: 'manual', signal: AbortSignal.timeout(timeoutMs) });
  try {
    return await once();
  } catch (error) {
    // Who did not answer in time is not asked again so soon.
    if (error instanceof Error && error.name === 'TimeoutError') throw error;
    return once();
  }
}

/** Fetches what is behind a link. */
export async function fetchPicture(link: string, address: string | null): Promise<Fetched> {
  try {
    const response = await ask(toTarget(link, address));
    // Busy or broken is not gone.
    if (response.status === 429 || response.status >= 500) {
      await response.body?.cancel();
      return { is: 'unreachable' };
    }
    if (response.status !== 200) {
      await response.body?.cancel();
      return { is: 'none', status: response.status };
    }
    const chunks: Uint8Array[] = [];
    let size = 0;
    for await (const chunk of response.body ?? []) {
      size += chunk.length;
      if (size > mostPictureBytes) return { is: 'too-large' };
      chunks.push(chunk);
    }
    return { is: 'bytes', bytes: Buffer.concat(chunks) };
  } catch {
    return { is: 'unreachable' };
  }
}
