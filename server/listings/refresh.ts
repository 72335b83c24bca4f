// Keeping listings true: values resolved from product, correspondences and what was typed; checked; what must go out
// worked out. Only what a change touches is made anew: a product, its family, and those that share its barcode.
import { categoryMissing, type CheckContext, type Finding, wordFinding } from '@basileus/core/checks';
import { isPriceMoveHeld, planOperations, type Wish } from '@basileus/core/feed';
import { type Correspondences, type Listing, resolveListing, type RowRole, type Values } from '@basileus/core/listing';
import type { Part } from '@basileus/core/rulebook';
import { computePublishable } from '@basileus/core/stock';
import { type Db, rowsOf } from '../database';
import { announce } from '../events';
import { enqueue } from '../jobs/queue';
import { loadCorrespondences, loadMarkets, type Market } from '../markets/load';
import { type ProductRow, productFrom, productSelect, toFields } from '../products/fields';

export interface ListingRow {
  listing_id: number;
  market_category: string | null;
  overrides: Record<string, string | string[]>;
  old_values: Values;
  market_state: string;
  wish: Wish;
  accepted_details: Values | null;
  accepted_price: Values | null;
  accepted_stock: Values | null;
  refusal_open: boolean;
  released_price: string | null;
  version_l: number;
}
export type FullRow = ListingRow & ProductRow & { root_id: number };

const listingSelect = `l.id as listing_id, l.category as market_category, l.overrides, l."values" as old_values, l.market_state, l.wish, l.accepted_details, l.accepted_price, l.accepted_stock, l.refusal_open, l.released_price, l.version as version_l, coalesce(p.parent_id, p.id) as root_id`;

/** Listings of a market with their products, by a condition on p or l. */
export const loadFullRows = (
  db: Db,
  marketId: number,
  where: string,
  bindings: readonly unknown[],
): Promise<FullRow[]> =>
  rowsOf<FullRow>(
    db,
    `select ${productSelect}, ${listingSelect} from ${productFrom} join listings l on l.product_id = p.id and l.market_id = ? where ${where}`,
    [marketId, ...bindings],
  );

export const roleOf = (row: { kind: string }): RowRole =>
  row.kind === 'family' ? 'parent' : row.kind === 'variant' ? 'variant' : 'single';

/** The market's attributes that divide a family, from the fields of ours that do. */
export function toMarketAxes(market: Market, category: string, ours: readonly string[], c: Correspondences): string[] {
  const compiled = market.category(category)?.compiled;
  if (!compiled) return [];
  return ours.map((field) => {
    const fed = compiled.attributes
      .filter((a) => (c.fields.get(a.attribute.key) ?? a.attribute.from) === field)
      .map((a) => a.attribute.key);
    return fed.find((k) => compiled.axes.includes(k)) ?? fed[0] ?? field;
  });
}

/** A row made into the listing that checks and feeds see. Stock is what may be published under the market's rule. */
export function toListing(
  market: Market,
  row: FullRow,
  c: Correspondences,
): { listing: Listing; origins: Record<string, unknown> } {
  const fields = toFields(row);
  if (row.kind !== 'family')
    fields['stock'] = String(
      computePublishable(
        { onHand: row.on_hand ?? 0, reserved: row.reserved ?? 0 },
        { buffer: market.settings.buffer, cap: market.rulebook.offer.quantityCap, least: market.settings.least },
      ),
    );
  const category = row.market_category ?? '';
  const compiled = market.category(category)?.compiled;
  const resolved = compiled
    ? resolveListing(compiled, fields, roleOf(row), row.overrides, c)
    : { values: {}, origins: {} };
  return {
    listing: {
      sku: row.sku,
      role: roleOf(row),
      parentSku: row.parent_sku ?? undefined,
      category,
      axes: toMarketAxes(market, category, row.axes, c),
      values: resolved.values,
      cost: typeof fields['cost'] === 'string' ? fields['cost'] : undefined,
      accepted: row.accepted_details ?? undefined,
    },
    origins: resolved.origins,
  };
}

interface Outcome {
  id: number;
  values: Values;
  origins: unknown;
  findings: Finding[];
  planned: { operation: string; held: string | null }[];
  refusalOpen: boolean;
}

/** Makes whole families anew in one market. `rows` must hold every member of each family it names. */
async function refreshRows(db: Db, market: Market, c: Correspondences, rows: readonly FullRow[]): Promise<void> {
  const gtins = [...new Set(rows.flatMap((r) => (r.gtin14 ? [r.gtin14] : [])))];
  const [twins, skuTwins] = await Promise.all([
    rowsOf<{ gtin14: string; skus: string[] }>(
      db,
      `select gtin14, array_agg(sku order by sku) as skus from products where gtin14 = any(?) group by 1 having count(*) > 1`,
      [gtins],
    ),
    rowsOf<{ skus: string[] }>(
      db,
      `select array_agg(sku order by sku) as skus from products where sku_fold in (select sku_fold from products where id = any(?)) group by sku_fold having count(*) > 1`,
      [rows.map((r) => r.id)],
    ),
  ]);
  const sameGtin = new Map(twins.map((t) => [t.gtin14, t.skus]));
  const sameSku = new Map(skuTwins.flatMap((t) => t.skus.map((s) => [s, t.skus] as const)));
  const built = rows.map((row) => ({ row, ...toListing(market, row, c) }));
  const families = new Map<number, typeof built>();
  for (const b of built)
    if (b.row.kind === 'family' || b.row.kind === 'variant')
      (families.get(b.row.root_id) ?? families.set(b.row.root_id, []).get(b.row.root_id)!).push(b);
  const blockedParents = new Set<number>();
  const outcomes: Outcome[] = [];
  // Parents first: a variant is held while its parent is.
  for (const b of [...built].sort((x, y) => Number(y.row.kind === 'family') - Number(x.row.kind === 'family'))) {
    const context: CheckContext = {};
    const sharing = b.row.gtin14 ? sameGtin.get(b.row.gtin14)?.filter((s) => s !== b.row.sku) : undefined;
    if (sharing?.length) context.sameGtin = sharing;
    const alike = sameSku.get(b.row.sku)?.filter((s) => s !== b.row.sku);
    if (alike?.length) context.sameSku = alike;
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
    });
  }
  await storeOutcomes(db, market, outcomes);
}

const sortedKeys = (values: Values): string[] => Object.keys(values).sort();

function planOf(
  market: Market,
  row: FullRow,
  listing: Listing,
  findings: readonly Finding[],
  refusalOpen: boolean,
  isParentHeld: boolean,
): { operation: string; held: string | null }[] {
  const accepted = {
    details: row.accepted_details ?? undefined,
    price: row.accepted_price ?? undefined,
    stock: row.accepted_stock ?? undefined,
  };
  const compiled = market.category(listing.category)!.compiled;
  const parts = new Map<string, Part>(market.rulebook.attributes.map((a) => [a.key, a.part]));
  const blockers = findings.filter((f) => f.level === 'blocker');
  const priceField = market.rulebook.roles.price;
  return planOperations(
    compiled,
    listing.role,
    listing.values,
    accepted,
    row.wish,
    row.market_state === 'withdrawn',
  ).map(({ operation }) => {
    const relevant =
      operation === 'price' || operation === 'stock'
        ? blockers.filter((f) => parts.get(f.field) === operation || f.field === 'sku')
        : operation === 'withdraw' || operation === 'restore'
          ? []
          : blockers;
    const before = row.accepted_price?.[priceField],
      after = listing.values[priceField];
    const isHeldPrice =
      operation === 'price' &&
      typeof after === 'string' &&
      row.released_price !== after &&
      isPriceMoveHeld(typeof before === 'string' ? before : undefined, after, market.rulebook.offer.priceMoveHeld);
    const held = relevant.length
      ? 'blocked'
      : refusalOpen && operation !== 'stock'
        ? 'refused'
        : isParentHeld && operation === 'create'
          ? 'family'
          : isHeldPrice
            ? 'price-moved'
            : null;
    return { operation, held };
  });
}

async function storeOutcomes(db: Db, market: Market, outcomes: readonly Outcome[]): Promise<void> {
  if (outcomes.length === 0) return;
  const count = (o: Outcome, level: string) => o.findings.filter((f) => f.level === level).length;
  const records = outcomes.map((o) => ({
    id: o.id,
    values: o.values,
    origins: o.origins,
    planned: o.planned,
    refusal_open: o.refusalOpen,
    blockers: count(o, 'blocker'),
    cautions: count(o, 'caution'),
    tips: count(o, 'tip'),
  }));
  await db.raw(
    `update listings l set "values" = r."values", origins = r.origins, planned = r.planned, refusal_open = r.refusal_open, blockers = r.blockers, cautions = r.cautions, tips = r.tips, checked_at = now(),
      version = case when l."values" is distinct from r."values" then l.version + 1 else l.version end
    from jsonb_to_recordset(?::jsonb) as r(id bigint, "values" jsonb, origins jsonb, planned jsonb, refusal_open boolean, blockers int, cautions int, tips int) where l.id = r.id`,
    [JSON.stringify(records)],
  );
  await db.raw(
    `update dispatch_lines d set mended = true from listings l where d.listing_id = l.id and d.state = 'refused' and not d.mended and not d.resent and l.id = any(?) and not l.refusal_open`,
    [outcomes.map((o) => o.id)],
  );
  await db.raw('delete from findings where listing_id = any(?)', [outcomes.map((o) => o.id)]);
  const wording = { market: market.name, labelOf: market.labelOf };
  const findings = outcomes.flatMap((o) =>
    o.findings.map((f) => ({
      listing_id: o.id,
      c: f.check,
      message: f.message,
      level: f.level,
      field: f.field,
      value: f.value.slice(0, 500),
      params: f.params,
      remedies: f.remedies,
      says: wordFinding(f, wording),
    })),
  );
  for (let i = 0; i < findings.length; i += 5000) {
    await db.raw(
      `insert into findings (listing_id, market_id, "check", message, level, field, value, params, remedies, says) select r.listing_id, ?, r.c, r.message, r.level, r.field, r.value, r.params, r.remedies, r.says from jsonb_to_recordset(?::jsonb) as r(listing_id bigint, c text, message text, level text, field text, value text, params jsonb, remedies jsonb, says text)`,
      [market.id, JSON.stringify(findings.slice(i, i + 5000)).replace(/\\u0000/g, '')],
    );
  }
}

/** Past this many products a change is followed up by a job instead of in the request. */
const mostAtOnce = 3000;

/** Follows a change of products up in every market: themselves, their families, and all that share a barcode or nearly a SKU. */
export async function refreshProducts(
  db: Db,
  productIds: readonly number[],
  alsoGtins: readonly string[] = [],
): Promise<void> {
  if (productIds.length === 0) return;
  const markets = await loadMarkets(db);
  if (productIds.length > mostAtOnce) {
    for (const m of markets) await refreshLater(db, m);
    return;
  }
  const roots = (
    await rowsOf<{ id: number }>(
      db,
      `with seed as (select id, parent_id, gtin14, sku_fold from products where id = any(?)),
      touched as (select coalesce(parent_id, id) as id from seed union select coalesce(p.parent_id, p.id) from products p join seed s on s.gtin14 = p.gtin14 union select coalesce(p.parent_id, p.id) from products p join seed s on s.sku_fold = p.sku_fold union select coalesce(p.parent_id, p.id) from products p where p.gtin14 = any(?)
        union select bp.bundle_id from bundle_parts bp join seed s on s.id = bp.part_id)
    select id from touched`,
      [productIds, alsoGtins],
    )
  ).map((r) => r.id);
  for (const market of markets) {
    const c = await loadCorrespondences(db, market.id);
    await refreshRows(
      db,
      market,
      c,
      await loadFullRows(db, market.id, 'coalesce(p.parent_id, p.id) = any(?)', [roots]),
    );
  }
  await announce(db, { topic: 'listings' });
}

/** The same for listings of one market, named by id. */
export async function refreshListings(db: Db, market: Market, listingIds: readonly number[]): Promise<void> {
  if (listingIds.length === 0) return;
  const c = await loadCorrespondences(db, market.id);
  await refreshRows(
    db,
    market,
    c,
    await loadFullRows(
      db,
      market.id,
      `coalesce(p.parent_id, p.id) in (select coalesce(q.parent_id, q.id) from listings x join products q on q.id = x.product_id where x.id = any(?))`,
      [listingIds],
    ),
  );
  await announce(db, { topic: 'listings' });
}

/** A whole market anew, family by family, in pages; `progress` is told after each. */
export async function refreshMarket(
  db: Db,
  market: Market,
  progress: (done: number, total: number) => Promise<void>,
): Promise<void> {
  const total = Number(
    (await rowsOf<{ n: number }>(db, 'select count(*) as n from listings where market_id = ?', [market.id]))[0]?.n ?? 0,
  );
  const c = await loadCorrespondences(db, market.id);
  let after = 0,
    done = 0;
  for (;;) {
    const roots = (
      await rowsOf<{ id: number }>(
        db,
        'select id from products where parent_id is null and id > ? order by id limit 500',
        [after],
      )
    ).map((r) => r.id);
    if (roots.length === 0) break;
    const rows = await loadFullRows(db, market.id, 'coalesce(p.parent_id, p.id) = any(?)', [roots]);
    await db.transaction((tx) => refreshRows(tx, market, c, rows));
    after = roots.at(-1)!;
    done += rows.length;
    await progress(Math.min(done, total), total);
  }
  await announce(db, { topic: 'listings' });
}

/** Asks for a whole market to be made anew, as a job; asking twice while one waits makes one. */
export const refreshLater = (db: Db, market: Market): Promise<string> =>
  enqueue(db, {
    kind: 'refresh-market',
    title: `Checking ${market.name} anew`,
    payload: { market: market.key },
    once: `refresh-${market.key}`,
    link: `/${market.key}/check`,
  });
