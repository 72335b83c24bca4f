// The append-only history: one line a deed, kept as a fact.
import { type HistoryFact, historyFact } from '@basileus/contract';
import { type Db, parseColumn, rowOf, rowsOf } from '../database';

/** Adds one line to the history, in the transaction of what it tells of. */
export async function recordHistory(db: Db, actor: string, fact: HistoryFact): Promise<void> {
  await db.raw('insert into history (actor, fact) values (?, ?)', [actor, JSON.stringify(fact)]);
}

/** A page of the history, newest first, with how many lines there are; of one person, or of all where `by` is ''. */
export async function loadHistory(db: Db, { by, offset, limit }: { by: string; offset: number; limit: number }) {
  const where = by === '' ? '' : 'where actor = ?',
    asked = by === '' ? [] : [by];
  const rows = await rowsOf<{ id: number; at: Date; actor: string; fact: unknown }>(
    db,
    `select id, at, actor, fact from history ${where} order by id desc offset ? limit ?`,
    [...asked, offset, limit],
  );
  return {
    total: (await rowOf<{ n: number }>(db, `select count(*) as n from history ${where}`, asked))!.n,
    rows: rows.map(({ at, fact, ...r }) => ({
      ...r,
      at: at.toISOString(),
      fact: parseColumn('history.fact', historyFact, fact),
    })),
  };
}
