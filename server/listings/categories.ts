// Own categories against the market's tree: what is placed, what was chosen, what is proposed and why.
import { listLeaves } from '@basileus/core/rulebook';
import { proposeCategories } from '@basileus/core/suggest';
import { type Db, rowsOf } from '../database';
import { loadCorrespondences, type Market } from '../markets/load';

export interface CategoryGroup {
  ownCategory: string;
  items: number;
  placed: number;
  chosen: { key: string; count: number }[];
  rule: string | null;
  proposals: { key: string; path: string[]; score: number; reason: string }[];
}

export async function loadCategoryGroups(
  db: Db,
  market: Market,
): Promise<{ recent: { key: string; path: string[]; count: number }[]; rows: CategoryGroup[] }> {
  const [groups, chosen, recent, c] = await Promise.all([
    rowsOf<{ own: string; items: number; placed: number; title: string; description: string }>(
      db,
      `select coalesce(p.category, '') as own, count(*) as items, count(l.category) as placed,
          (array_agg(p.title order by p.id))[1] as title,
          coalesce((array_agg(p.description order by p.id))[1], '') as description
        from listings l
        join products p on p.id = l.product_id
        where l.market_id = ?
        group by 1
        order by count(*) - count(l.category) desc, 1`,
      [market.id],
    ),
    rowsOf<{ own: string; key: string; count: number }>(
      db,
      `select coalesce(p.category, '') as own, l.category as key, count(*) as count
        from listings l
        join products p on p.id = l.product_id
        where l.market_id = ? and l.category is not null
        group by 1, 2
        order by 3 desc`,
      [market.id],
    ),
    rowsOf<{ key: string; count: number }>(
      db,
      `select category as key, count(*) as count
        from listings
        where market_id = ? and category is not null
        group by 1
        order by max(updated_at) desc, 2 desc limit 8`,
      [market.id],
    ),
    loadCorrespondences(db, market.id),
  ]);
  const leaves = listLeaves(market.rulebook);
  const pathOf = new Map(leaves.map((l) => [l.key, l.path]));
  const known = new Map<string, { key: string; count: number }[]>();
  for (const { own, key, count } of chosen) (known.get(own) ?? known.set(own, []).get(own)!).push({ key, count });
  return {
    recent: recent.map((r) => ({ ...r, path: pathOf.get(r.key) ?? [] })),
    rows: groups.map((g) => {
      const used = new Map((known.get(g.own) ?? []).map((k) => [k.key, k.count]));
      return {
        ownCategory: g.own,
        items: g.items,
        placed: g.placed,
        chosen: known.get(g.own) ?? [],
        rule: c.categories.get(g.own) ?? null,
        proposals: proposeCategories({ title: g.title, category: g.own, description: g.description }, leaves, used).map(
          (p) => ({ key: p.key, path: [...p.path], score: Math.round(p.score * 100) / 100, reason: p.reason }),
        ),
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
