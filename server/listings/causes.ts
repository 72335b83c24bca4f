// Findings grouped by cause: facts and counts; what they are called is said where they are shown.
import type { Cause } from '@basileus/contract';
import { getCheck, levels } from '@basileus/core/checks';
import { type Db, rowOf, rowsOf } from '../database';
import type { Market } from '../markets';
import { type ListingFilter, stateSql, toWhere } from './queries';
import { loadCauseCounts, loadLevelCounts, loadStateCounts } from './tallies';

export type CauseFilter = Pick<ListingFilter, 'brand' | 'ownCategory' | 'category' | 'import'> & { search: string };

/** Condition on the findings f, their listings l and products p that hold a text somewhere in value or item. */
const foundSql = `(lower(f.value) like ? or p.search like ?)`;
const toLike = (text: string): string => `%${text.toLowerCase().replace(/[\\%_]/g, '\\$&')}%`;

const order = new Map(levels.map((l, i) => [l, i]));

/**
 * Causes of a market, the most urgent first: how many listings each has, how many of these have a mechanical remedy, and
 * how many a search finds in value, SKU or title. The filter narrows all of it.
 */
export async function loadCauses(
  db: Db,
  market: Market,
  filter: CauseFilter,
): Promise<{ rows: Cause[]; blockers: number; cautions: number; tips: number; listings: number; ready: number }> {
  const isWhole = Object.values(filter).every((v) => v === '' || v === 0);
  const [rows, totals] = await (isWhole ? loadKept(db, market) : loadNarrowed(db, market, filter));
  const examples = new Map(
    (
      await rowsOf<Cause['example'] & { id: number }>(
        db,
        `select f.id, p.sku, f.value, f.params
          from findings f
          join listings l on l.id = f.listing_id
          join products p on p.id = l.product_id
          where f.id = any(?)`,
        [rows.map((r) => r.example)],
      )
    ).map(({ id, ...example }) => [id, example] as const),
  );
  const causes = rows.flatMap((r) => {
    const example = examples.get(r.example);
    return example && getCheck(r.check) ? [{ ...r, example }] : [];
  });
  causes.sort(
    (a, b) =>
      order.get(a.level)! - order.get(b.level)! || b.count - a.count || a.example.sku.localeCompare(b.example.sku),
  );
  return { rows: causes, ...totals };
}

type Totals = { blockers: number; cautions: number; tips: number; listings: number; ready: number };
type CountedCause = Omit<Cause, 'example'> & { example: number };

/** All causes of a market, from what is kept; one finding of each is looked up for an example. */
async function loadKept(db: Db, market: Market): Promise<[CountedCause[], Totals]> {
  const [causes, levels, states] = await Promise.all([
    loadCauseCounts(db, [market.id]),
    loadLevelCounts(db, market.id),
    loadStateCounts(db, [market.id]),
  ]);
  const examples = await rowsOf<{ at: number; id: number }>(
    db,
    `select c.at, f.id
      from jsonb_to_recordset(?::jsonb) as c(at int, "check" text, message text, field text)
      cross join lateral (
        select id from findings
          where market_id = ? and "check" = c."check" and message = c.message and field = c.field
          order by id limit 1
      ) f`,
    [JSON.stringify(causes.map(({ check, message, field }, at) => ({ at, check, message, field }))), market.id],
  );
  const exampleOf = new Map(examples.map((e) => [e.at, e.id]));
  return [
    causes.map(({ market: _, ...c }, at) => ({ ...c, found: c.count, example: exampleOf.get(at) ?? 0 })),
    {
      blockers: levels.blocker,
      cautions: levels.caution,
      tips: levels.tip,
      listings: states.reduce((n, s) => n + s.n, 0),
      ready: states.find((s) => s.state === 'ready')?.n ?? 0,
    },
  ];
}

/** Causes of some listings, counted. */
async function loadNarrowed(db: Db, market: Market, filter: CauseFilter): Promise<[CountedCause[], Totals]> {
  const { search, ...narrow } = filter;
  const { where, bindings } = toWhere(market, narrow);
  const like = toLike(search);
  const [rows, totals] = await Promise.all([
    rowsOf<CountedCause>(
      db,
      `select f."check", f.message, f.field, min(f.level) as level, count(distinct f.listing_id) as count,
          count(distinct f.listing_id) filter (where f.remedies -> 0 ->> 'safe' = 'true') as safe,
          count(distinct f.listing_id) filter (where f.remedies -> 0 ->> 'safe' = 'false') as likely,
          count(distinct f.listing_id) filter (where ${search === '' ? 'true' : foundSql}) as found,
          min(f.id) as example
        from findings f
        join listings l on l.id = f.listing_id
        join products p on p.id = l.product_id
        where ${where}
        group by 1, 2, 3`,
      search === '' ? bindings : [like, like, ...bindings],
    ),
    rowOf<Totals>(
      db,
      `select coalesce(sum(l.blockers), 0) as blockers, coalesce(sum(l.cautions), 0) as cautions,
          coalesce(sum(l.tips), 0) as tips, count(*) as listings, count(*) filter (where ${stateSql} = 'ready') as ready
        from listings l
        join products p on p.id = l.product_id
        where ${where}`,
      bindings,
    ),
  ]);
  return [rows, totals!];
}
