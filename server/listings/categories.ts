// Own categories against the market's tree: what is placed, what was chosen, what is proposed and why.
import { listLeaves } from '@basileus/core/rulebook';
import { proposeCategories } from '@basileus/core/suggest';
import { type Db, rowsOf } from '../database';
import { loadCorrespondences, type Market } from '../markets';
import { loadOwnCounts, type OwnCount } from './tallies';

export interface CategoryGroup {
  ownCategory: string;
  items: number;
  placed: number;
  waiting: number;
  leftOut: number;
  chosen: { key: string; count: number }[];
  rule: string | null;
  proposals: { key: string; path: string[]; score: number; reason: string }[];
}

interface Group {
  own: string;
  items: number;
  placed: number;
  /** Without a category, but for what is left out of the market. */
  waiting: number;
  leftOut: number;
  chosen: { key: string; count: number }[];
}

/** Own categories, those with most left to place first. */
function toGroups(counts: readonly OwnCount[], out: ReadonlyMap<string, LeftOut>): Group[] {
  const groups = new Map<string, Group>();
  for (const { own, chosen, n } of counts) {
    const g = groups.get(own) ?? { own, items: 0, placed: 0, waiting: 0, leftOut: 0, chosen: [] };
    groups.set(own, g);
    g.items += n;
    if (chosen === null) continue;
    g.placed += n;
    g.chosen.push({ key: chosen, count: n });
  }
  for (const g of groups.values()) {
    const { all = 0, unplaced = 0 } = out.get(g.own) ?? {};
    g.leftOut = all;
    g.waiting = Math.max(0, g.items - g.placed - unplaced);
    g.chosen.sort((a, b) => b.count - a.count);
  }
  return [...groups.values()].sort((a, b) => b.waiting - a.waiting || (a.own < b.own ? -1 : 1));
}

interface LeftOut {
  own: string;
  all: number;
  unplaced: number;
}
/** What is left out of a market, by our category. */
const loadLeftOut = async (db: Db, market: number): Promise<ReadonlyMap<string, LeftOut>> =>
  new Map(
    (
      await rowsOf<LeftOut>(
        db,
        `select own_category as own, count(*) as all, count(*) filter (where category is null) as unplaced
          from listings
          where market_id = ? and market_state = 'left out'
          group by 1`,
        [market],
      )
    ).map((r) => [r.own, r]),
  );

const mostRecent = 8;

/** The market's categories that were given to something last. */
function listRecent(counts: readonly OwnCount[]): { key: string; count: number }[] {
  const byKey = new Map<string, { key: string; count: number; changed: number }>();
  for (const { chosen, n, changed } of counts) {
    if (chosen === null) continue;
    const known = byKey.get(chosen) ?? { key: chosen, count: 0, changed: 0 };
    byKey.set(chosen, { key: chosen, count: known.count + n, changed: Math.max(known.changed, changed) });
  }
  return [...byKey.values()]
    .sort((a, b) => b.changed - a.changed)
    .slice(0, mostRecent)
    .map(({ key, count }) => ({ key, count }));
}

/** The first item of each own category: what it is called and what is written of it. */
async function loadSamples(
  db: Db,
  own: readonly string[],
): Promise<Map<string, { title: string; description: string }>> {
  const rows = await rowsOf<{ own: string; title: string; description: string }>(
    db,
    `select o.own, p.title, coalesce(p.description, '') as description
      from unnest(?::text[]) o (own)
      cross join lateral (
        (select title, description from products where category = o.own order by id limit 1)
        union all (select title, description from products where o.own = '' and category is null order by id limit 1)) p`,
    [own],
  );
  return new Map(rows.map((r) => [r.own, r]));
}

export async function loadCategoryGroups(
  db: Db,
  market: Market,
): Promise<{ recent: { key: string; path: string[]; count: number }[]; rows: CategoryGroup[] }> {
  const [counts, out, c] = await Promise.all([
    loadOwnCounts(db, market.id),
    loadLeftOut(db, market.id),
    loadCorrespondences(db, market.id),
  ]);
  const groups = toGroups(counts, out);
  const samples = await loadSamples(
    db,
    groups.map((g) => g.own),
  );
  const leaves = listLeaves(market.rulebook);
  const pathOf = new Map(leaves.map((l) => [l.key, l.path]));
  return {
    recent: listRecent(counts).map((r) => ({ ...r, path: pathOf.get(r.key) ?? [] })),
    rows: groups.map((g) => {
      const used = new Map(g.chosen.map((k) => [k.key, k.count]));
      const { title = '', description = '' } = samples.get(g.own) ?? {};
      return {
        ownCategory: g.own,
        items: g.items,
        placed: g.placed,
        waiting: g.waiting,
        leftOut: g.leftOut,
        chosen: g.chosen,
        rule: c.categories.get(g.own) ?? null,
        proposals: proposeCategories({ title, category: g.own, description }, leaves, used).map((p) => ({
          key: p.key,
          path: [...p.path],
          score: Math.round(p.score * 100) / 100,
          reason: p.reason,
        })),
      };
    }),
  };
}

/** Categories remembered for own categories, given to listings that have none; for new items. */
export async function applyCategoryRules(db: Db, market: Market): Promise<number> {
  const changed = await rowsOf(
    db,
    `update listings l
      set category = c.theirs, market_revision = 0, updated_at = now()
      from products p, correspondences c
      where p.id = l.product_id and l.market_id = ? and l.category is null and c.market_id = l.market_id
        and c.kind = 'category' and c.ours = p.category
      returning l.id`,
    [market.id],
  );
  return changed.length;
}
