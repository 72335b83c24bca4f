// What the overview is made of, each part one statement over the markets in scope.
import { type Db, rowsOf } from '../database';

export const loadAnswers = (
  db: Db,
  markets: readonly number[],
): Promise<{ day: string; accepted: number; refused: number }[]> =>
  rowsOf(
    db,
    `select to_char(answered_at, 'YYYY-MM-DD') as day, sum(accepted + remarked) as accepted, sum(refused) as refused
      from dispatches
      where answered_at is not null and market_id = any(?)
      group by 1
      order by 1 desc limit 14`,
    [markets],
  );

export const loadWaitingImports = (db: Db): Promise<{ id: number; name: string; refuse: number }[]> =>
  rowsOf(
    db,
    `select id, name, coalesce((counts ->> 'refuse')::int, 0) as refuse
      from imports
      where state = 'planned' and due_at is null
      order by id desc limit 5`,
  );

export const loadRefusedLines = (
  db: Db,
  markets: readonly number[],
): Promise<{ id: number; market_id: number; n: number; mended: number }[]> =>
  rowsOf(
    db,
    `select d.id, d.market_id, count(*) filter (where not x.mended) as n, count(*) filter (where x.mended) as mended
      from dispatches d
      join dispatch_lines x on x.dispatch_id = d.id
      where x.state = 'refused' and not x.resent and d.market_id = any(?)
      group by 1, 2
      order by 1 desc limit 10`,
    [markets],
  );

export const loadFailedDispatches = (
  db: Db,
  markets: readonly number[],
): Promise<{ id: number; market_id: number; total: number; fault: string }[]> =>
  rowsOf(
    db,
    `select id, market_id, total, coalesce(fault, '') as fault
      from dispatches
      where state = 'failed' and market_id = any(?)
      order by id desc limit 5`,
    [markets],
  );

/** Sendings by the clock of which something stayed, and that no sending of a person has overtaken. */
export const loadUnsent = (db: Db, markets: readonly number[]): Promise<{ market_id: number; last: unknown }[]> =>
  rowsOf(
    db,
    `select s.market_id, s.last
      from sendings s
      where s.market_id = any(?) and (s.last ->> 'fault' is not null
        or exists (select 1 from jsonb_array_elements(s.last -> 'surprises') x
          where not exists (select 1 from dispatches d
            where d.market_id = s.market_id and d.operation = x ->> 'operation' and d.created_at > (s.last ->> 'at')::timestamptz)))
      order by s.id desc limit 10`,
    [markets],
  );

/** Entries that the market turned back after a review, everywhere. */
export const loadTurnedBack = (db: Db, markets: readonly number[]): Promise<{ market_id: number; n: number }[]> =>
  rowsOf(
    db,
    `select market_id, count(*) as n
      from listings
      where market_state = 'refused' and number is not null and market_id = any(?)
      group by 1`,
    [markets],
  );

export const loadFailedJobs = (db: Db): Promise<{ title: string; error: string; link: string | null }[]> =>
  rowsOf(
    db,
    `select title, coalesce(error, '') as error, link
      from jobs
      where state = 'failed' and title <> '' and updated_at > now() - interval '1 day'
      order by updated_at desc limit 3`,
  );
