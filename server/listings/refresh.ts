// Keeping listings true: values resolved from product, correspondences and what was typed; checked; what must go out
// worked out. Only what a change touches is made anew: a product, its family, and those that share its barcode.
import { categoryMissing, type CheckContext } from '@basileus/core/checks';
import type { Correspondences, Values } from '@basileus/core/listing';
import { type Db, rowOf, rowsOf, type Write, writeOn } from '../database';
import { announce } from '../events';
import { loadCorrespondences, type Market } from '../markets/load';
import { planOf } from './plan';
import { type FullRow, loadFullRows, toListing } from './rows';
import { type Outcome, storeOutcomes } from './store';

const sortedKeys = (values: Values): string[] => Object.keys(values).sort();

/** Rows that are worked through before others have their turn: some milliseconds. */
const rowsAtOnce = 50;
/** Lets whatever waits in this thread be answered first. */
const others = (): Promise<void> => new Promise((r) => setImmediate(r));

/** Makes whole families anew in one market. `rows` must hold every member of each family it names. */
export async function refreshRows(db: Db, market: Market, c: Correspondences, rows: readonly FullRow[]): Promise<void> {
  const gtins = [...new Set(rows.flatMap((r) => (r.gtin14 ? [r.gtin14] : [])))];
  const [twins, skuTwins] = await Promise.all([
    rowsOf<{ gtin14: string; skus: string[] }>(
      db,
      `select gtin14, array_agg(sku order by sku) as skus
        from products
        where gtin14 = any(?)
        group by 1
        having count(*) > 1`,
      [gtins],
    ),
    rowsOf<{ skus: string[] }>(
      db,
      `select array_agg(sku order by sku) as skus
        from products
        where sku_fold in (select sku_fold from products where id = any(?))
        group by sku_fold
        having count(*) > 1`,
      [rows.map((r) => r.id)],
    ),
  ]);
  const sameGtin = new Map(twins.map((t) => [t.gtin14, t.skus]));
  const sameSku = new Map(skuTwins.flatMap((t) => t.skus.map((s) => [s, t.skus] as const)));
  const built: ({ row: FullRow } & ReturnType<typeof toListing>)[] = [];
  for (const [i, row] of rows.entries()) {
    if (i % rowsAtOnce === 0) await others();
    built.push({ row, ...toListing(market, row, c) });
  }
  const families = new Map<number, typeof built>();
  for (const b of built)
    if (b.row.kind === 'family' || b.row.kind === 'variant')
      (families.get(b.row.root_id) ?? families.set(b.row.root_id, []).get(b.row.root_id)!).push(b);
  const blockedParents = new Set<number>();
  const outcomes: Outcome[] = [];
  // Parents first: a variant is held while its parent is.
  const inOrder = [...built].sort((x, y) => Number(y.row.kind === 'family') - Number(x.row.kind === 'family'));
  for (const [i, b] of inOrder.entries()) {
    if (i % rowsAtOnce === 0) await others();
    const context: CheckContext = {};
    const sharing = b.row.gtin14 ? sameGtin.get(b.row.gtin14)?.filter((s) => s !== b.row.sku) : undefined;
    if (sharing?.length) context.sameGtin = sharing;
    const alike = sameSku.get(b.row.sku)?.filter((s) => s !== b.row.sku);
    if (alike?.length) context.sameSku = alike;
    if (b.row.market_state === 'withdrawn' && b.row.wish === 'restore' && market.rulebook.sku.burntWhenWithdrawn)
      context.isBurnt = true;
    const family = families.get(b.row.root_id);
    if (family)
      context.family = family
        .filter((f) => f !== b && f.row.market_category !== null)
        .map((f) => ({
          sku: f.row.sku,
          role: f.row.kind === 'family' ? ('parent' as const) : ('variant' as const),
          values: f.listing.values,
        }));
    const category = market.category(b.listing.category);
    const findings = category ? category.check(b.listing, context) : [categoryMissing()];
    const isChanged =
      JSON.stringify(b.row.old_values, sortedKeys(b.row.old_values)) !==
      JSON.stringify(b.listing.values, sortedKeys(b.listing.values));
    const refusalOpen = b.row.refusal_open && !isChanged;
    const planned = category
      ? planOf(
          market,
          b.row,
          b.listing,
          findings,
          refusalOpen,
          b.row.kind === 'variant' && blockedParents.has(b.row.root_id),
        )
      : [];
    if (b.row.kind === 'family' && (!category || planned.some((p) => p.operation === 'create' && p.held)))
      blockedParents.add(b.row.root_id);
    outcomes.push({
      id: b.row.listing_id,
      values: b.listing.values,
      origins: b.origins,
      findings,
      planned,
      refusalOpen,
      productVersion: b.row.version,
    });
  }
  await storeOutcomes(db, market, outcomes);
}

const pageOfFamilies = 500;

/** Families checked anew in pages, each in a transaction of its own. */
export async function refreshFamilies(
  db: Db,
  market: Market,
  roots: readonly number[],
  told: (rows: number) => Promise<void>,
  write: Write = writeOn(db),
): Promise<void> {
  const c = await loadCorrespondences(db, market.id);
  for (let i = 0; i < roots.length; i += pageOfFamilies) {
    const page = roots.slice(i, i + pageOfFamilies);
    const rows = await write(async (tx) => {
      const found = await loadFullRows(tx, market.id, 'coalesce(p.parent_id, p.id) = any(?)', [page], true);
      await refreshRows(tx, market, c, found);
      return found.length;
    });
    await told(rows);
  }
}

export type Progress = (done: number, total: number) => Promise<void>;

/** A whole market anew; `progress` is told after each page. */
export async function refreshMarket(db: Db, market: Market, progress: Progress): Promise<void> {
  const total =
    (await rowOf<{ n: number }>(db, 'select count(*) as n from listings where market_id = ?', [market.id]))?.n ?? 0;
  const roots = await rowsOf<{ id: number }>(db, 'select id from products where parent_id is null order by id');
  let done = 0;
  await refreshFamilies(
    db,
    market,
    roots.map((r) => r.id),
    async (rows) => {
      done += rows;
      await progress(Math.min(done, total), total);
    },
  );
  await announce(db, { topic: 'listings' });
}
