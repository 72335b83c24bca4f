// The hosts of pictures: which of them may be asked, and what was found there.
import type { listPictureHosts, pictureStates } from '@basileus/contract';
import type { z } from 'zod';
import { type Db, rowOf, rowsOf } from '../database';
import { announce } from '../events';
import { AppError } from '../http';
import { wakePictures } from './job';
import { say } from '@basileus/core/text';

type Listed = z.output<typeof listPictureHosts.response>;
type State = (typeof pictureStates)[number];

/** All hosts of the catalog's links, those with most links first. */
export async function listHosts(db: Db): Promise<Listed> {
  const counts = await rowsOf<{ host: string; state: State; n: number }>(
    db,
    'select host, state, count(*) as n from pictures group by 1, 2',
  );
  const asked = await rowsOf<{ host: string; address: string | null; by_whom: string; at: Date }>(
    db,
    'select host, address, by_whom, at from picture_hosts',
  );
  const hosts = new Set([...counts.map((c) => c.host), ...asked.map((a) => a.host)]);
  const rows = [...hosts].map((host) => {
    const own = counts.filter((c) => c.host === host);
    const of = (state: State): number => own.find((c) => c.state === state)?.n ?? 0;
    const a = asked.find((x) => x.host === host);
    return {
      host,
      links: own.reduce((n, c) => n + c.n, 0),
      found: {
        waiting: of('waiting'),
        there: of('there'),
        missing: of('missing'),
        strange: of('strange'),
        unreachable: of('unreachable'),
      },
      asked: a ? { by: a.by_whom, at: a.at.toISOString(), address: a.address } : null,
    };
  });
  return { rows: rows.sort((a, b) => b.links - a.links || (a.host < b.host ? -1 : 1)) };
}

/** Lets a host be asked; its pictures are looked at from now on. */
export async function askHost(db: Db, host: string, address: string | null, actor: string): Promise<void> {
  await db.transaction(async (tx) => {
    await tx.raw(
      `insert into picture_hosts (host, address, by_whom) values (?, ?, ?)
        on conflict (host) do update set address = excluded.address, by_whom = excluded.by_whom, at = now()`,
      [host, address, actor],
    );
    await tx.raw(
      `update pictures set due_at = now(), tries = 0 where host = ? and state in ('waiting', 'unreachable')`,
      [host],
    );
    await wakePictures(tx);
    await announce(tx, { topic: 'pictures' });
  });
}

/** All pictures of a host are looked at anew. */
export async function lookAtHostAgain(db: Db, host: string): Promise<void> {
  if (!(await rowOf(db, 'select 1 as x from picture_hosts where host = ?', [host])))
    throw new AppError('not-now', say`${host} is not asked for pictures.`, { remedy: say`Let it be asked first.` });
  await db.transaction(async (tx) => {
    await tx.raw('update pictures set due_at = now(), tries = 0 where host = ?', [host]);
    await wakePictures(tx);
  });
}

/** A host is not asked any more, and what was found there is not shown; the job takes it out of what is said of listings. */
export const leaveHost = (db: Db, host: string): Promise<void> =>
  db.transaction(async (tx) => {
    await tx.raw('delete from picture_hosts where host = ?', [host]);
    await wakePictures(tx);
    await announce(tx, { topic: 'pictures' });
  });
