// Looking at pictures in the background: links that came are known within the minute, and what is behind them is fetched
// from the hosts that a person lets be asked, a few at a time.
import { z } from 'zod';
import { type Db, rowsOf } from '../database';
import { announce } from '../events';
import { defineJob, enqueue, hurry } from '../jobs';
import { fetchPicture } from './fetch';
import { keepLinks } from './links';
import { readPicture } from './read';
import { forgetSome, type Found, storeFound } from './store';

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
  /** To the microsecond, as a Date does not have it. */
  due: string;
}

/** Links of hosts that may be asked whose time has come; none of hosts that did not answer just now. */
const loadDue = (db: Db, away: readonly string[]): Promise<Due[]> =>
  rowsOf<Due>(
    db,
    `select p.url, h.host, h.address, p.tries, p.due_at::text as due
      from picture_hosts h
      cross join lateral (
        select url, tries, due_at from pictures where host = h.host and due_at <= now() order by due_at limit ?) p
      where not h.host = any(?) limit ?`,
    [linksAtOnce, away, linksAtOnce],
  );

async function look({ url, address, tries, due }: Due): Promise<Found> {
  const fetched = await fetchPicture(url, address);
  const { facts, thumb }: Pick<Found, 'facts' | 'thumb'> =
    fetched.is === 'bytes'
      ? await readPicture(fetched.bytes)
      : {
          facts:
            fetched.is === 'none'
              ? { is: 'missing', status: fetched.status }
              : fetched.is === 'too-large'
                ? { is: 'strange' }
                : { is: 'unreachable' },
          thumb: null,
        };
  return { link: url, tries, due, facts, thumb };
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
    while (await write(forgetSome)) await write((tx) => announce(tx, { topic: 'pictures' }));
    const away: string[] = [],
      until = Date.now() + turnMs;
    let looked = 0;
    for (;;) {
      const due = await loadDue(db, away);
      if (due.length === 0) return { again: restSeconds };
      const found = await lookAtAll(due);
      await write(async (tx) => {
        await storeFound(tx, found);
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
