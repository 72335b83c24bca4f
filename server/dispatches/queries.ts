import type { DispatchShape } from '@basileus/contract';
import { findForm } from '@basileus/core/forms';
import type { Form, Operation } from '@basileus/core/rulebook';
import { type Db, rowOf, rowsOf } from '../database';
import type { Market } from '../markets';

export interface DispatchRow {
  id: number;
  market_id: number;
  market_key: string;
  operation: Operation;
  /** Key of the form that its file was written in. */
  form: string | null;
  state: DispatchShape['state'];
  key: string;
  part: number;
  parts: number;
  left_at: Date | null;
  file_id: number;
  file_name: string;
  ticket: string | null;
  total: number;
  accepted: number;
  remarked: number;
  refused: number;
  mended: number;
  attempts: number;
  /** Tries in a row that the market left unanswered. */
  trouble: number;
  fault: string | null;
  retry_at: Date | null;
  by_whom: string;
  by_clock: boolean;
  created_at: Date;
  sent_at: Date | null;
  answered_at: Date | null;
}

/** The form that a dispatch's file was written in; of one whose form is gone by now, the first of its operation. */
export const formOf = ({ rulebook }: Market, d: Pick<DispatchRow, 'form' | 'operation'>): Form | undefined =>
  rulebook.forms.find((f) => f.key === d.form) ?? findForm(rulebook, d.operation);

/** True while a dispatch has work before it: it is still to leave, or to be answered. */
export const isUnderway = (state: DispatchRow['state']): boolean =>
  state === 'built' || state === 'sending' || state === 'sent';

/** Under this key the market knows the submission; each file of a sending is one of its own. */
export const submissionKey = (d: Pick<DispatchRow, 'key' | 'part'>): string =>
  d.part === 1 ? d.key : `${d.key}.${d.part}`;

const select = `select d.*, m.key as market_key,
    (select count(*) from dispatch_lines x where x.dispatch_id = d.id and x.state = 'refused' and x.mended and not x.resent) as mended
  from dispatches d
  join markets m on m.id = d.market_id`;

export const loadDispatch = (db: Db, id: number): Promise<DispatchRow | undefined> =>
  rowOf<DispatchRow>(db, `${select} where d.id = ?`, [id]);
/** The dispatches of one sending, file by file. */
export const loadDispatchesByKey = (db: Db, key: string): Promise<DispatchRow[]> =>
  rowsOf<DispatchRow>(db, `${select} where d.key = ? order by d.part`, [key]);
export const loadDispatches = (db: Db, market: string, offset: number, limit: number): Promise<DispatchRow[]> =>
  rowsOf<DispatchRow>(db, `${select} where (? = '' or m.key = ?) order by d.id desc offset ? limit ?`, [
    market,
    market,
    offset,
    limit,
  ]);

export const countDispatches = async (db: Db, market: string): Promise<number> =>
  (await rowOf<{ n: number }>(
    db,
    `select count(*) as n from dispatches d join markets m on m.id = d.market_id where ? = '' or m.key = ?`,
    [market, market],
  ))!.n;

export const toDispatchShape = (r: DispatchRow): DispatchShape => ({
  id: r.id,
  market: r.market_key,
  operation: r.operation,
  state: r.state,
  part: r.part,
  parts: r.parts,
  hasLeft: r.left_at !== null,
  total: r.total,
  accepted: r.accepted,
  remarked: r.remarked,
  refused: r.refused,
  mended: r.mended,
  by: r.by_whom,
  byClock: r.by_clock,
  fault: r.fault,
  // Of one that has come to an end, or is well by now, it is the moment of long ago.
  retry:
    isUnderway(r.state) && r.fault !== null && r.retry_at ? { at: r.retry_at.toISOString(), failed: r.trouble } : null,
  ticket: r.ticket,
  fileName: r.file_name,
  createdAt: r.created_at.toISOString(),
  sentAt: r.sent_at?.toISOString() ?? null,
  answeredAt: r.answered_at?.toISOString() ?? null,
  attempts: r.attempts,
});
