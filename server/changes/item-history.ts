// What was changed of one item and of its listings, newest first.
import type { readItemHistory } from '@basileus/contract';
import type { FieldChange } from '@basileus/core/change';
import type { z } from 'zod';
import { type Db, rowOf, rowsOf } from '../database';
import { loadFields } from '../fields';
import { AppError } from '../http';
import { loadMarkets } from '../markets';
import { say } from '@basileus/core/text';

type Page = z.output<typeof readItemHistory.response>;

interface Row extends FieldChange {
  set: number;
  title: string;
  actor: string;
  at: Date;
  market_id: number | null;
}

/** Changes of an item, in one field or in all. */
export async function loadItemHistory(
  db: Db,
  id: number,
  { field, offset, limit }: { field: string; offset: number; limit: number },
): Promise<Page> {
  if (!(await rowOf(db, 'select 1 as x from products where id = ?', [id])))
    throw new AppError('not-found', say`There is no item ${id}.`);
  const rows = await rowsOf<Row>(
    db,
    `with mine as (
        select i.id, i.change_set_id, i.changes from change_items i join change_sets s on s.id = i.change_set_id
          where s.target = 'products' and i.target_id = ?
        union all
        select i.id, i.change_set_id, i.changes
          from listings l join change_items i on i.target_id = l.id join change_sets s on s.id = i.change_set_id
          where s.target = 'listings' and s.market_id = l.market_id and l.product_id = ?)
      select s.id as "set", s.title, s.actor, s.at, s.market_id, c.field, c.before, c.after
      from mine m join change_sets s on s.id = m.change_set_id
        cross join lateral jsonb_to_recordset(m.changes) as c(field text, before jsonb, after jsonb)
      where ? = '' or c.field = ?
      order by s.id desc, m.id desc, c.field offset ? limit ?`,
    [id, id, field, field, offset, limit + 1],
  );
  const book = await loadFields(db),
    markets = new Map((await loadMarkets(db)).map((m) => [m.id, m]));
  return {
    rows: rows.slice(0, limit).map(({ market_id, at, ...r }) => {
      const market = market_id === null ? undefined : markets.get(market_id);
      return { ...r, at: at.toISOString(), market: market?.key ?? null, label: (market ?? book).labelOf(r.field) };
    }),
    isMore: rows.length > limit,
  };
}
