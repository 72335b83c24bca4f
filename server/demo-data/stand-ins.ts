// Where the stand-ins are: their ports are others at every start.
import type { Db } from '../database';
import { loadMarkets } from '../markets';
import { findBusinessSystem } from './business';
import { findPictures } from './pictures';

/** The stand-ins of markets that take files over SFTP speak it where they are told things over HTTP. */
export const toSftp = (url: string): string => url.replace(/^http:/, 'sftp:');

/** Tells a house that is there where the stand-ins are now. */
export async function findStandIns(db: Db, standIns: Readonly<Record<string, string>>): Promise<void> {
  for (const { id, key, rulebook } of await loadMarkets(db)) {
    const url = standIns[key];
    if (url !== undefined)
      await db.raw(`update markets set connection = connection || jsonb_build_object('url', ?::text) where id = ?`, [
        rulebook.transport.kind === 'sftp' ? toSftp(url) : url,
        id,
      ]);
  }
  const { countinghouse, picturehost } = standIns;
  if (countinghouse !== undefined) await findBusinessSystem(db, countinghouse);
  await findPictures(db, picturehost);
}
