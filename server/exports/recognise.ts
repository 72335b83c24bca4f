// Which file that went out a file is that comes in: by its mark where it is a workbook that has kept it, else by its columns
// and its SKUs.
import { type Db, rowOf, rowsOf } from '../database';
import type { Values } from '@basileus/core/listing';

const mostCandidates = 20;
/** Of the SKUs of a sample so many must have gone out in it, and so many of its columns must be there. */
const leastShare = 0.6;

export interface Incoming {
  /** Of a workbook that has kept it. */
  mark: string | null;
  name: string;
  /** Fields that its columns are read as, and SKUs of its first rows. */
  fields: readonly string[];
  skus: readonly string[];
}

/** The export that a file is the return of; undefined where it is none that is known. */
export async function recogniseExport(db: Db, file: Incoming): Promise<number | undefined> {
  const marked =
    file.mark === null
      ? undefined
      : await rowOf<{ id: number }>(db, `select id from exports where mark = ? and state = 'ready'`, [file.mark]);
  if (marked) return marked.id;
  if (file.skus.length === 0) return undefined;
  const read = new Set(file.fields);
  const candidates = await rowsOf<{ id: number; name: string; columns: string[] }>(
    db,
    `select id, name, columns from exports where state = 'ready' order by id desc limit ?`,
    [mostCandidates],
  );
  // Of several that it may be, the one whose number stands in its name, else the last.
  const number = /(\d+)(?: ?\(\d+\))?\.[a-z]+$/i.exec(file.name)?.[1];
  candidates.sort((a, b) => Number(String(b.id) === number) - Number(String(a.id) === number));
  for (const { id, columns } of candidates) {
    const there = columns.filter((c) => read.has(c)).length;
    // A file of two columns may be anybody's; it is ours where it says so.
    if (there < Math.max(2, columns.length * leastShare) || there < read.size * leastShare) continue;
    const { n } = (await rowOf<{ n: number }>(
      db,
      'select count(*)::int as n from export_rows where export_id = ? and sku = any(?)',
      [id, file.skus],
    ))!;
    if (n >= file.skus.length * leastShare) return id;
  }
  return undefined;
}

/** What went out of some rows, by SKU. */
export const loadWentOut = async (db: Db, id: number, skus: readonly string[]): Promise<Map<string, Values>> =>
  new Map(
    (
      await rowsOf<{ sku: string; values: Values }>(
        db,
        'select sku, "values" from export_rows where export_id = ? and sku = any(?)',
        [id, skus],
      )
    ).map((r) => [r.sku, r.values]),
  );
