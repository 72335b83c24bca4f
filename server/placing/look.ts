// Looks at every item that waits for a category on a market: what was placed before is learnt first, then each is judged.
import { createLeafModel, type LeafModel, type LeafProposal, type Sureness } from '@basileus/core/suggest';
import { listLeaves } from '@basileus/core/rulebook';
import { type Db, rowOf, type Write } from '../database';
import { announce } from '../events';
import type { Market } from '../markets';
import { loadUnits, toTold, type Unit } from './units';

const unitsAtOnce = 1000;
/** Placed items that are judged as if they were not, to know how far the rest may be believed. */
const mostTried = 2000;

export const rankOf: Record<Sureness, number> = { sure: 3, likely: 2, unsure: 1 };

/** What is kept of why a leaf is proposed. */
export interface KeptReason {
  words: string[];
  chosen: number;
  elsewhere: string[];
  family: boolean;
}
interface Kept {
  product: number;
  leaf: string;
  sureness: number;
  reason: KeptReason;
  others: string[];
}

type Progress = (done: number, total: number) => Promise<void>;

/** All units of a market, page by page. */
async function eachPage(db: Db, market: Market, see: (units: Unit[]) => Promise<void>): Promise<void> {
  let after = 0;
  for (;;) {
    const last = await rowOf<{ last: number | null }>(
      db,
      `select max(id) as last from (select id from products where parent_id is null and id > ? order by id limit ?) r`,
      [after, unitsAtOnce],
    );
    if (last === undefined || last.last === null) return;
    await see(await loadUnits(db, market.id, after, unitsAtOnce));
    after = last.last;
  }
}

/** Looks at everything that waits for a category on a market, and keeps what it is thought to be. */
export async function lookForLeaves(db: Db, market: Market, progress: Progress, write: Write): Promise<void> {
  const model = createLeafModel(listLeaves(market.rulebook));
  let units = 0,
    placed = 0;
  await eachPage(db, market, async (page) => {
    for (const u of page) {
      const leaf = onlyLeaf(u);
      if (leaf === undefined) continue;
      model.learn(toTold(u), leaf);
      placed++;
    }
    units += page.length;
    await progress(0, 0);
  });
  const step = Math.max(1, Math.ceil(placed / mostTried));
  let done = 0,
    seen = 0,
    tried = 0,
    same = 0;
  await eachPage(db, market, async (page) => {
    for (const u of page) {
      const leaf = onlyLeaf(u);
      if (leaf === undefined || seen++ % step !== 0) continue;
      tried++;
      if (isToldSame(model, u, leaf)) same++;
    }
    const waiting = page.filter((u) => u.waiting > 0);
    if (waiting.length > 0) await write((tx) => keep(tx, market, waiting, model));
    done += page.length;
    await progress(done, units);
  });
  await write(async (tx) => {
    await tx.raw(
      `delete from leaf_proposals x where x.market_id = ? and not exists (
        select 1 from products p join listings l on l.product_id = p.id and l.market_id = x.market_id
          where (p.id = x.product_id or p.parent_id = x.product_id) and l.category is null)`,
      [market.id],
    );
    await tx.raw(
      `insert into leaf_looks (market_id, looked_at, tried, same) values (?, now(), ?, ?)
        on conflict (market_id) do update set looked_at = excluded.looked_at, tried = excluded.tried, same = excluded.same`,
      [market.id, tried, same],
    );
    await announce(tx, { topic: 'listings' });
  });
}

/** The leaf in which a unit is placed; undefined where it is in none, or in several. */
const onlyLeaf = (u: Unit): string | undefined => (u.leaves.length === 1 ? u.leaves[0] : undefined);

/** Whether an item that somebody placed would have been placed the same, by all the others. */
function isToldSame(model: LeafModel, unit: Unit, leaf: string): boolean {
  const told = toTold(unit);
  model.forget(told, leaf);
  const [first] = model.propose(told, 1);
  model.learn(told, leaf);
  return first?.key === leaf;
}

function judge(model: LeafModel, unit: Unit): Kept {
  const proposals = model.propose(toTold(unit), mostProposed);
  const placed = onlyLeaf(unit);
  const [best]: (LeafProposal | undefined)[] = proposals;
  const others = proposals.map((p) => p.key).filter((key) => key !== (placed ?? best?.key));
  // A family goes together: what came to it later goes where the rest is.
  if (placed !== undefined)
    return {
      product: unit.id,
      leaf: placed,
      sureness: rankOf.sure,
      reason: { words: [], chosen: 0, elsewhere: [], family: true },
      others,
    };
  return {
    product: unit.id,
    leaf: best?.key ?? '',
    sureness: best ? rankOf[best.sureness] : 0,
    reason: {
      words: best?.words.slice(0, mostWords) ?? [],
      chosen: best?.chosen ?? 0,
      elsewhere: best?.elsewhere ?? [],
      family: false,
    },
    others,
  };
}
const mostProposed = 5,
  mostWords = 3;

const keep = (tx: Db, market: Market, units: readonly Unit[], model: LeafModel): Promise<unknown> =>
  tx.raw(
    `insert into leaf_proposals (market_id, product_id, leaf, sureness, reason, others)
      select ?, r.product, r.leaf, r.sureness, r.reason, array(select jsonb_array_elements_text(r.others))
        from jsonb_to_recordset(?::jsonb) as r(product bigint, leaf text, sureness smallint, reason jsonb, others jsonb)
        where exists (select 1 from products p where p.id = r.product)
      on conflict (market_id, product_id) do update
        set leaf = excluded.leaf, sureness = excluded.sureness, reason = excluded.reason, others = excluded.others`,
    [market.id, JSON.stringify(units.map((u) => judge(model, u)))],
  );
