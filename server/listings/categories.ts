// Own categories against the market's tree: what is placed, what was chosen, what is proposed and why.
import type { LeafReason, Sureness } from '@basileus/contract';
import { listLeaves } from '@basileus/core/rulebook';
import { createLeafModel, proposeCategories } from '@basileus/core/suggest';
import { type Db, rowsOf } from '../database';
import type { Market } from '../markets';
import { loadOwnCounts, type OwnCount } from './tallies';

export interface CategoryGroup {
  ownCategory: string;
  items: number;
  placed: number;
  waiting: number;
  leftOut: number;
  chosen: { key: string; count: number }[];
  rule: string | null;
  /** The own category over it for which that is remembered, where it is not itself. */
  ruleOf: string | null;
  /** Own categories that it stands under, from the top. */
  above: string[];
  proposals: { key: string; path: string[]; sureness: Sureness; reason: LeafReason }[];
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

/** The first item of each own category: what it is called and of which brand. */
async function loadSamples(db: Db, own: readonly string[]): Promise<Map<string, { title: string; brand: string }>> {
  const rows = await rowsOf<{ own: string; title: string; brand: string }>(
    db,
    `select o.own, p.title, coalesce(p.brand, '') as brand
      from unnest(?::text[]) o (own)
      cross join lateral (select title, brand from products where category = o.own order by id limit 1) p`,
    [own],
  );
  return new Map(rows.map((r) => [r.own, r]));
}

const ruleOf = (rule: NearestRule | undefined): string | null =>
  rule === undefined || rule.ours === rule.name ? null : rule.ours;

/** By own category, those that it stands under, from the top. */
const loadAbove = async (db: Db): Promise<ReadonlyMap<string, string[]>> =>
  new Map(
    (
      await rowsOf<{ name: string; above: string[] }>(
        db,
        `select name, array_agg(ancestor order by depth desc) as above from own_lineage where depth > 0 group by 1`,
      )
    ).map((r) => [r.name, r.above]),
  );

export async function loadCategoryGroups(
  db: Db,
  market: Market,
): Promise<{ recent: { key: string; path: string[]; count: number }[]; rows: CategoryGroup[] }> {
  const [counts, out, rules, lineage] = await Promise.all([
    loadOwnCounts(db, market.id),
    loadLeftOut(db, market.id),
    loadNearestRules(db, market),
    loadAbove(db),
  ]);
  const groups = toGroups(counts, out);
  // What is chosen for one that has no items of its own counts for those under it.
  const listed = new Set(groups.map((g) => g.own));
  for (const own of new Set([...listed].flatMap((name) => lineage.get(name) ?? [])))
    if (!listed.has(own)) groups.push({ own, items: 0, placed: 0, waiting: 0, leftOut: 0, chosen: [] });
  const samples = await loadSamples(
    db,
    groups.map((g) => g.own),
  );
  const leaves = listLeaves(market.rulebook),
    model = createLeafModel(leaves);
  const pathOf = new Map(leaves.map((l) => [l.key, l.path]));
  return {
    recent: listRecent(counts).map((r) => ({ ...r, path: pathOf.get(r.key) ?? [] })),
    rows: groups.map((g) => {
      const used = new Map(g.chosen.map((k) => [k.key, k.count]));
      const { title = '', brand = '' } = samples.get(g.own) ?? {},
        told = { titles: [title], brand, own: g.own, elsewhere: [] };
      return {
        ownCategory: g.own,
        items: g.items,
        placed: g.placed,
        waiting: g.waiting,
        leftOut: g.leftOut,
        chosen: g.chosen,
        rule: rules.get(g.own)?.theirs ?? null,
        ruleOf: ruleOf(rules.get(g.own)),
        above: lineage.get(g.own) ?? [],
        // What has no category of ours has nothing in common: each is placed by itself.
        proposals: (g.own === '' ? [] : proposeCategories(model, told, used)).map((p) => ({
          key: p.key,
          path: pathOf.get(p.key) ?? [],
          sureness: p.sureness,
          reason: { words: p.words, chosen: p.chosen, elsewhere: [], family: false },
        })),
      };
    }),
  };
}

/** By own category, the market's category that is remembered for it or for the nearest that it stands under. */
const nearestRule = `select distinct on (g.name) g.name, c.ours, c.theirs
  from own_lineage g
  join correspondences c on c.ours = g.ancestor and c.kind = 'category' and c.market_id = ?
  order by g.name, g.depth`;

interface NearestRule {
  name: string;
  ours: string;
  theirs: string;
}
const loadNearestRules = async (db: Db, market: Market): Promise<ReadonlyMap<string, NearestRule>> =>
  new Map((await rowsOf<NearestRule>(db, nearestRule, [market.id])).map((r) => [r.name, r]));

/** Own categories for which what is remembered for one of them counts: itself, and those under it that have nothing nearer. */
export const governedSql = `select g.name
  from own_lineage g
  where g.ancestor = ? and not exists (
    select 1 from own_lineage n join correspondences c on c.ours = n.ancestor and c.kind = 'category' and c.market_id = ?
    where n.name = g.name and n.depth < g.depth)`;

/** What new items meet on a market by their own category: the leaf that they are given, and whether they are wanted. */
export async function loadOwnRules(
  db: Db,
  market: Market,
): Promise<{ leaves: ReadonlyMap<string, string>; unwanted: ReadonlySet<string> }> {
  const rules = await loadNearestRules(db, market);
  const unwanted = await rowsOf<{ ours: string }>(
    db,
    `select ours from correspondences where market_id = ? and kind = 'unwanted'`,
    [market.id],
  );
  return {
    leaves: new Map([...rules].map(([own, r]) => [own, r.theirs])),
    unwanted: new Set(unwanted.map((u) => u.ours)),
  };
}

/** Categories remembered for own categories, given to listings that have none: to all of them, or to those of new items. */
export async function applyCategoryRules(db: Db, market: Market, items?: readonly number[]): Promise<number> {
  const changed = await rowsOf(
    db,
    `update listings l
      set category = r.theirs, market_revision = 0, updated_at = now()
      from products p, (${nearestRule}) r
      where p.id = l.product_id and l.market_id = ? and l.category is null and r.name = p.category
        ${items ? 'and p.id = any(?)' : ''}
      returning l.id`,
    [market.id, market.id, ...(items ? [[...items]] : [])],
  );
  return changed.length;
}
