// What items that wait for a category are thought to be: by leaf, and item by item.
import type { LeafReason, Sureness } from '@basileus/contract';
import { getCategoryPath, type Rulebook } from '@basileus/core/rulebook';
import { type Db, rowOf, rowsOf } from '../database';
import { loadMarkets, type Market } from '../markets';
import { lookKind, onceOf } from './ask';
import { type KeptReason, rankOf } from './look';
import { readPlace, waitsSql } from './units';

/** Listings that wait with what their unit is thought to be; `?` is the market. */
const waiting = `listings l
  join products p on p.id = l.product_id
  left join leaf_proposals x on x.market_id = l.market_id and x.product_id = coalesce(p.parent_id, p.id)
  where l.market_id = ? and ${waitsSql}`;
const ofOwn = (own: string | undefined): [sql: string, bindings: unknown[]] =>
  own === undefined ? ['', []] : [`and coalesce(p.category, '') = ?`, [own]];

const pathIn = (book: Rulebook, leaf: string): string[] =>
  book.tree.some((n) => n.key === leaf) ? getCategoryPath(book, leaf).map((n) => n.label) : [];

/** Turns what is kept of a reason into what a page can say. */
async function prepareReasons(db: Db): Promise<(kept: KeptReason) => LeafReason> {
  const markets = new Map((await loadMarkets(db)).map((m) => [m.key, m]));
  return (kept) => ({
    ...kept,
    elsewhere: kept.elsewhere.flatMap((place) => {
      const { market: key, leaf } = readPlace(place);
      const market = markets.get(key);
      return market ? [{ market: market.name, leaf: pathIn(market.rulebook, leaf).at(-1) ?? leaf }] : [];
    }),
  });
}

interface LeafRow {
  leaf: string;
  sure: number;
  likely: number;
  unsure: number;
  none: number;
}

export async function readPlacing(db: Db, market: Market, own: string | undefined) {
  const [where, bindings] = ofOwn(own);
  const [look, job, rows, toReason] = await Promise.all([
    rowOf<{ at: string; tried: number; same: number }>(
      db,
      `select to_json(looked_at) #>> '{}' as at, tried, same from leaf_looks where market_id = ?`,
      [market.id],
    ),
    rowOf<{ id: string }>(
      db,
      `select id from jobs where kind = ? and once = ? and state in ('queued', 'running') order by created_at desc limit 1`,
      [lookKind, onceOf(market)],
    ),
    rowsOf<LeafRow & { unseen: number }>(
      db,
      `select coalesce(x.leaf, '') as leaf,
          count(*) filter (where x.sureness = 3)::int as sure,
          count(*) filter (where x.sureness = 2)::int as likely,
          count(*) filter (where x.sureness = 1)::int as unsure,
          count(*) filter (where x.sureness = 0)::int as none,
          count(*) filter (where x.leaf is null)::int as unseen
        from ${waiting} ${where}
        group by 1`,
      [market.id, ...bindings],
    ),
    prepareReasons(db),
  ]);
  const examples = await loadExamples(db, market, own);
  return {
    lookedAt: look?.at ?? null,
    job: job?.id ?? null,
    tried: look?.tried ?? 0,
    same: look?.same ?? 0,
    unseen: rows.reduce((n, r) => n + r.unseen, 0),
    leaves: rows
      .filter((r) => r.sure + r.likely + r.unsure + r.none > 0)
      .sort(
        (a, b) =>
          Number(a.leaf === '') - Number(b.leaf === '') ||
          b.sure - a.sure ||
          b.likely - a.likely ||
          b.unsure - a.unsure ||
          (a.leaf < b.leaf ? -1 : 1),
      )
      .map((r) => {
        const found = examples.get(r.leaf);
        return {
          key: r.leaf,
          path: pathIn(market.rulebook, r.leaf),
          sure: r.sure,
          likely: r.likely,
          unsure: r.unsure + r.none,
          examples: found?.titles ?? [],
          reason: toReason(found?.reason ?? noReason),
        };
      }),
  };
}
const noReason: KeptReason = { words: [], chosen: 0, elsewhere: [], family: false };

const mostExamples = 3;

/** By leaf, what some of the surest items are called, and why the first is thought to belong there. */
async function loadExamples(
  db: Db,
  market: Market,
  own: string | undefined,
): Promise<Map<string, { titles: string[]; reason: KeptReason }>> {
  const [where, bindings] = ofOwn(own);
  const rows = await rowsOf<{ leaf: string; titles: string[]; reasons: KeptReason[] }>(
    db,
    `select y.leaf, array_agg(y.title order by y.n) as titles, jsonb_agg(y.reason order by y.n) as reasons
      from (select x.leaf, q.title, x.reason,
          row_number() over (partition by x.leaf order by x.sureness desc, x.product_id) as n
        from leaf_proposals x
        join products q on q.id = x.product_id
        where x.market_id = ? and exists (
          select 1 from products p join listings l on l.product_id = p.id and l.market_id = x.market_id
            where (p.id = x.product_id or p.parent_id = x.product_id) and ${waitsSql} ${where})) y
      where y.n <= ?
      group by 1`,
    [market.id, ...bindings, mostExamples],
  );
  return new Map(rows.map((r) => [r.leaf, { titles: r.titles, reason: r.reasons[0]! }]));
}

interface ItemRow {
  id: number;
  listing: number;
  sku: string;
  title: string;
  own: string;
  items: number;
  rank: number;
  reason: KeptReason;
  others: string[];
  total: number;
}

export async function listPlacing(
  db: Db,
  market: Market,
  query: { own?: string | undefined; leaf: string; least: Sureness; offset: number; limit: number },
) {
  const [where, bindings] = ofOwn(query.own);
  const rows = await rowsOf<ItemRow>(
    db,
    `select q.id, min(l.id) as listing, q.sku, q.title, coalesce(q.category, '') as own, count(*)::int as items,
        x.sureness as rank, x.reason, x.others, count(*) over ()::int as total
      from leaf_proposals x
      join products q on q.id = x.product_id
      cross join lateral (
        select id, category from products where id = q.id
        union all select id, category from products where parent_id = q.id) p
      join listings l on l.product_id = p.id and l.market_id = x.market_id
      where x.market_id = ? and x.leaf = ? and x.sureness >= ? and ${waitsSql} ${where}
      group by q.id, x.market_id, x.product_id
      order by x.sureness desc, q.id
      offset ? limit ?`,
    [market.id, query.leaf, query.leaf === '' ? 0 : rankOf[query.least], ...bindings, query.offset, query.limit],
  );
  const toReason = await prepareReasons(db);
  return {
    total: rows[0]?.total ?? 0,
    rows: rows.map(({ rank, total: _, ...r }) => ({
      ...r,
      sureness: surenessOf(rank),
      reason: toReason(r.reason),
      others: r.others.map((key) => ({ key, path: pathIn(market.rulebook, key) })).filter((o) => o.path.length > 0),
    })),
  };
}

const surenessOf = (rank: number): Sureness | null =>
  (Object.keys(rankOf) as Sureness[]).find((s) => rankOf[s] === rank) ?? null;

/** Listings that are placed when these leaves are taken, with where each goes; the first of them, where `most` is told. */
export const loadTaken = (
  db: Db,
  market: Market,
  taken: { own?: string | undefined; leaves: readonly string[]; least: Sureness; except: readonly number[] },
  most?: number,
): Promise<{ id: number; leaf: string }[]> => {
  const [where, bindings] = ofOwn(taken.own);
  return rowsOf<{ id: number; leaf: string }>(
    db,
    `select l.id, x.leaf from ${waiting}
      and x.leaf = any(?) and x.sureness >= ? and x.product_id <> all(?) ${where}
      order by x.product_id, l.id
      limit ?`,
    [market.id, taken.leaves, rankOf[taken.least], taken.except, ...bindings, most ?? null],
  );
};
