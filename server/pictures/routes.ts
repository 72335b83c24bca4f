import {
  askPictureHost,
  describePictures,
  leavePictureHost,
  listPictureHosts,
  lookAgain,
  matchPictures,
  readThumb,
} from '@basileus/contract';
import type { pictureStates } from '@basileus/contract';
import type { PictureKind } from '@basileus/core/pictures';
import type { Router } from 'express';
import type { z } from 'zod';
import { type Db, rowOf, rowsOf } from '../database';
import { AppError, route } from '../http';
import type { Threads } from '../jobs';
import { askHost, leaveHost, listHosts, lookAtHostAgain } from './hosts';
import { say } from '@basileus/core/text';

type Matched = z.output<typeof matchPictures.response>;
const mostMatchSeconds = 120;
const ok = { ok: true as const };

export function addPictureRoutes(router: Router, db: Db, threads: Threads): void {
  route(router, listPictureHosts, () => listHosts(db));
  route(router, askPictureHost, async ({ params, body, actor }) => {
    await askHost(db, params.host, body.address, actor);
    return ok;
  });
  route(router, leavePictureHost, async ({ params }) => {
    await leaveHost(db, params.host);
    return ok;
  });
  route(router, lookAgain, async ({ params }) => {
    await lookAtHostAgain(db, params.host);
    return ok;
  });
  route(router, matchPictures, ({ body }) => threads.ask<Matched>('match-pictures', body, mostMatchSeconds));
  route(router, describePictures, async ({ body }) => ({
    rows: await rowsOf<{
      link: string;
      state: (typeof pictureStates)[number];
      status: number | null;
      width: number | null;
      height: number | null;
      kind: PictureKind | null;
      bytes: number | null;
      isOnWhite: boolean | null;
    }>(
      db,
      `select url as link, state, status, width, height, kind, bytes, on_white as "isOnWhite"
        from pictures p join picture_hosts h on h.host = p.host where url = any(?)`,
      [body.links],
    ),
  }));
  route(router, readThumb, async ({ query, response }) => {
    const found = await rowOf<{ thumb: Buffer | null }>(
      db,
      'select thumb from pictures p join picture_hosts h on h.host = p.host where url = ?',
      [query.link],
    );
    if (!found?.thumb) throw new AppError('not-found', say`Nobody has looked at this picture.`);
    // Kept by the browser, and asked for each time whether it still is the one.
    response.type('image/webp').set('Cache-Control', 'private, no-cache').send(found.thumb);
    return undefined;
  });
}
