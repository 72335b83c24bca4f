// What was found behind links to pictures, as checks ask for it.
import type { PictureFacts, PictureKind } from '@basileus/core/pictures';
import { type Db, rowOf, rowsOf } from '../database';

type Row = { url: string } & (
  | { state: 'there'; width: number; height: number; kind: PictureKind; bytes: number; on_white: boolean }
  | { state: 'missing'; status: number }
  | { state: 'strange' }
);

const toFacts = (r: Row): PictureFacts =>
  r.state === 'there'
    ? { is: 'there', width: r.width, height: r.height, kind: r.kind, bytes: r.bytes, isOnWhite: r.on_white }
    : r.state === 'missing'
      ? { is: 'missing', status: r.status }
      : { is: 'strange' };

/** Facts by link, of those that were looked at; undefined where nobody lets us look at any. */
export async function loadPictureFacts(
  db: Db,
  links: readonly string[],
): Promise<ReadonlyMap<string, PictureFacts> | undefined> {
  if (links.length === 0 || !(await rowOf(db, 'select 1 as x from picture_hosts limit 1'))) return undefined;
  const rows = await rowsOf<Row>(
    db,
    `select url, state, status, width, height, kind, bytes, on_white from pictures p join picture_hosts h on h.host = p.host
      where url = any(?) and state in ('there', 'missing', 'strange')`,
    [[...new Set(links)]],
  );
  return new Map(rows.map((r) => [r.url, toFacts(r)]));
}
