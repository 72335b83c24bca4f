// The host of the demo's pictures: asked from the beginning, where its stand-in runs.
import type { Db } from '../database';
import { askHost } from '../pictures';

const host = 'pictures.brindlewick.example',
  mostWithPictures = 5000;

/** Lets the demo's pictures be looked at. A large house is left to decide for itself: its pictures are many. */
export async function showPictures(db: Db, url: string | undefined, size: number): Promise<void> {
  if (url !== undefined && size <= mostWithPictures) await askHost(db, host, url, 'Catalog desk');
}

/** Where the stand-in is now; nothing where its pictures are not looked at. */
export const findPictures = (db: Db, url: string | undefined): Promise<unknown> =>
  db.raw('update picture_hosts set address = coalesce(?, address) where host = ?', [url ?? null, host]);
