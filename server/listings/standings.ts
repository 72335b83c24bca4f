// How items stand on all markets, a page of them at a time.
import type { listStandings } from '@basileus/contract';
import type { z } from 'zod';
import { type Db, rowsOf } from '../database';
import { loadMarkets } from '../markets';
import { stateSql } from './queries';

type Row = z.output<typeof listStandings.response>['rows'][number];

/** The listings of these items: state, price at the first site, what the least price leaves, and the first finding of the highest level. */
export async function loadStandings(db: Db, products: readonly number[]): Promise<Row[]> {
  const markets = await loadMarkets(db);
  const prices = markets.map((m) => ({ id: m.id, key: m.key, price: m.rulebook.offers[0]!.price }));
  return rowsOf<Row>(
    db,
    `select l.product_id as product, m.key as market, l.id as listing, ${stateSql} as state, l.number,
        l."values" ->> m.price as price, l.margin, f.finding
      from listings l
      join jsonb_to_recordset(?::jsonb) as m(id bigint, key text, price text) on m.id = l.market_id
      left join lateral (
        select jsonb_build_object('check', f."check", 'message', f.message, 'level', f.level, 'field', f.field,
            'value', f.value, 'params', f.params, 'remedies', f.remedies) as finding
          from findings f
          where f.listing_id = l.id and f.level <> 'tip'
          order by f.level <> 'blocker', f.id limit 1) f on true
      where l.product_id = any(?)
      order by l.product_id, m.id`,
    [JSON.stringify(prices), products],
  );
}

/** A condition on products p: they stand so on a market, or on any where none is named; undefined where nothing is asked. */
export async function toStandingSql(
  db: Db,
  { on, state }: { on: string; state: string },
): Promise<{ sql: string; bindings: unknown[] } | undefined> {
  if (state === '') return undefined;
  const markets = (await loadMarkets(db)).filter((m) => on === '' || m.key === on).map((m) => m.id);
  return {
    sql: `p.id in (select l.product_id from listings l where l.market_id = any(?) and ${stateSql} = ?)`,
    bindings: [markets, state],
  };
}
