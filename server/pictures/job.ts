// Looking at pictures in the background: links that came are known within the minute, and what is behind them is fetched
// from the hosts that a person lets be asked, a few at a time.
import { z } from 'zod';
import { type Db, rowsOf } from '../database';
import { announce } from '../events';
import { defineJob, enqueue, hurry } from '../jobs';
import { fetchPicture } from './fetch';
import { keepLinks } from './links';
import { readPicture } from './read';
import { type Found, storeFound } from './store';

const kind = 'look-at-pictures',
  once = 'pictures';
const linksAtOnce = 60,
  askedAtOnce = 6,
  restSeconds = 60,
  turnMs = 600_000;

interface Due {
  url: string;
  host: string;
  address: string | null;
  tries: number;
}

/** Links of hosts that may be asked whose time has come; none of hosts that did not answer just now. */
const loadDue = (db: Db, away: readonly string[]): Promise<Due[]> =>
  rowsOf<Due>(
    db,
    `select p.url, h.host, h.address, p.tries
      from picture_hosts h
      cross join lateral (
        select url, tries from pictures where host = h.host and due_at <= now() order by due_at limit ?) p
      where not h.host = any(?) limit ?`,
    [linksAtOnce, away, linksAtOnce],
  );

async function look({ url, address }: Due): Promise<Found> {
  const fetched = await fetchPicture(url, address);
  if (fetched.is === 'none') return { link: url, facts: { is: 'missing', status: fetched.status }, thumb: null };
  if (fetched.is === 'too-large') return { link: url, facts: { is: 'strange' }, thumb: null };
  if (fetched.is === 'unreachable') return { link: url, facts: fetched, thumb: null };
  return { link: url, ...(await readPicture(fetched.bytes)) };
}

/** Looks at some, a few at the same time. */
async function lookAtAll(due: readonly Due[]): Promise<Found[]> {
  const waiting = [...due],
    found: Found[] = [];
  const work = async (): Promise<void> => {
    for (let next = waiting.shift(); next; next = waiting.shift()) found.push(await look(next));
  };
  await Promise.all(Array.from({ length: askedAtOnce }, work));
  return found;
}

export const lookAtPicturesJob = defineJob({
  kind,
  payload: z.strictObject({}),
  attempts: 1000,
  mostSeconds: 3600,
  run: async (_, { db, write, progress }) => {
    await keepLinks(write);
    const away: string[] = [],
      until = Date.now() + turnMs;
    let looked = 0;
    for (;;) {
      const due = await loadDue(db, away);
      if (due.length === 0) return { again: restSeconds };
      const found = await lookAtAll(due);
      const tries = new Map(due.map((d) => [d.url, d.tries]));
      await write(async (tx) => {
        await storeFound(tx, found, (link) => tries.get(link) ?? 0);
        await announce(tx, { topic: 'pictures' });
      });
      // A host none of whose pictures came is left in peace for this round.
      for (const host of new Set(due.map((d) => d.host))) {
        const own = found.filter((f) => due.find((d) => d.url === f.link)?.host === host);
        if (own.every((f) => f.facts.is === 'unreachable')) away.push(host);
      }
      looked += found.length;
      await progress(looked, looked);
      // A first look at a large catalog takes hours: a run ends long before it would be ended.
      if (Date.now() > until) return { again: 1 };
    }
  },
});

/** The pictures are looked at soon. */
export const wakePictures = async (tx: Db): Promise<void> => {
  await enqueue(tx, { kind, title: '', payload: {}, once });
  await hurry(tx, kind, once);
};
