// Puts the demo into an empty database: the market, the catalog, correspondences, and a first state of the shelf that
// the market's stand-in is told too, so that both sides agree from the first minute.
import { splitByGroup } from '@basileus/core/feed';
import { type FeedRow, findForm, writeForm } from '@basileus/core/forms';
import { buildCatalog, type DemoProduct, lines } from '@basileus/demo/catalog';
import { quillhavenDocument } from '@basileus/rulebooks/quillhaven';
import type { Logger } from 'pino';
import { type Db, rowOf, rowsOf } from '../database';
import { recordHistory } from '../history';
import { loadFullRows, refreshMarket, toListing } from '../listings';
import { loadCorrespondences, loadMarket, type Market } from '../markets';
import { insertProducts, setStock } from '../products';

export interface DemoOptions {
  size: number;
  standInUrl: string;
}

/** Fixed values and sources that the house has chosen for Quillhaven. */
const fieldChoices: readonly (readonly [string, string])[] = [
  ['condition', '=fresh'],
  ['handling_days', '=h2'],
  ['tax_class', '=full'],
  ['delivery_profile', '=small'],
  ['voltage', '=230 V'],
  ['plug_kind', '=three'],
  ['age_limited', '=yes'],
  ['edge_kind', '=smooth'],
  ['auto_off', '=yes'],
  ['battery_needed', '=yes'],
  ['batteries_included', '=yes'],
  ['weighing_limit', '=5 kg'],
  ['weighing_step', '=1 g'],
  ['roast', '=medium'],
  ['issue_rhythm', '=quart'],
];

/** Loads the demo once; a database that has products is left alone. */
export async function loadDemo(db: Db, options: DemoOptions, log: Logger): Promise<boolean> {
  const there = await rowOf<{ n: number }>(db, 'select count(*) as n from markets');
  if (there && there.n > 0) {
    await db.raw(`update markets set connection = jsonb_build_object('url', ?::text) where key = 'quillhaven'`, [
      options.standInUrl,
    ]);
    return false;
  }
  await db.transaction(async (tx) => {
    const book = (await rowOf<{ id: number }>(
      tx,
      `insert into rulebooks (market_key, version, document) values ('quillhaven', '2026.10', ?) returning id`,
      [JSON.stringify(quillhavenDocument)],
    ))!;
    await tx.raw(
      `insert into markets (key, name, rulebook_id, settings, connection) values ('quillhaven', 'Quillhaven', ?, ?, ?)`,
      [book.id, JSON.stringify({ buffer: 2, least: 1 }), JSON.stringify({ url: options.standInUrl })],
    );
    await loadCatalog(tx, options.size);
    const market = await loadMarket(tx, 'quillhaven');
    for (const [attribute, source] of fieldChoices)
      await tx.raw(
        `insert into correspondences (market_id, kind, attribute, ours, theirs) values (?, 'field', ?, ?, ?)`,
        [market.id, attribute, source, attribute],
      );
    const rules = [...new Map(lines.flatMap((l) => (l.leaf ? [[l.category, l.leaf] as const] : [])))];
    for (const [ours, theirs] of rules)
      await tx.raw(`insert into correspondences (market_id, kind, ours, theirs) values (?, 'category', ?, ?)`, [
        market.id,
        ours,
        theirs,
      ]);
    await tx.raw(
      `update listings l
        set category = c.theirs
        from products p, correspondences c
        where p.id = l.product_id and c.kind = 'category' and c.ours = p.category and c.market_id = l.market_id`,
    );
    await typeSome(tx, market);
  });
  const market = await loadMarket(db, 'quillhaven');
  await refreshMarket(db, market, () => Promise.resolve());
  const live = await putOnShelf(db, market, options.standInUrl, log);
  await recordHistory(db, 'Basileus', { is: 'laid-out', live });
  return true;
}

async function loadCatalog(db: Db, size: number): Promise<void> {
  let batch: DemoProduct[] = [];
  const flush = async () => {
    for (const isParent of [true, false]) {
      const items = batch.filter((p) => (p.kind === 'family') === isParent);
      const added = await insertProducts(
        db,
        items.map((p) => {
          const { sku, parent_sku: parent, stock: _, ...fields } = p.fields;
          return {
            sku: String(sku),
            kind: p.kind,
            parentSku: typeof parent === 'string' ? parent : null,
            axes: p.axes,
            fields,
          };
        }),
      );
      const ids = new Map(added.map((a) => [a.sku, a.id]));
      await setStock(
        db,
        items.flatMap((p) => {
          const id = ids.get(String(p.fields['sku']));
          return id === undefined || p.fields['stock'] === undefined
            ? []
            : [{ id, on_hand: Number(p.fields['stock']), reserved: p.reserved }];
        }),
      );
    }
    const parts = batch.flatMap((p) =>
      p.parts.map((part) => ({ bundle: String(p.fields['sku']), part: part.sku, count: part.count })),
    );
    if (parts.length)
      await db.raw(
        `insert into bundle_parts (bundle_id, part_id, count)
          select b.id, p.id, r.count
          from jsonb_to_recordset(?::jsonb) as r(bundle text, part text, count int)
          join products b on b.sku = r.bundle
          join products p on p.sku = r.part`,
        [JSON.stringify(parts)],
      );
    batch = [];
  };
  for (const p of buildCatalog(size)) {
    batch.push(p);
    if (batch.length >= 2000) await flush();
  }
  await flush();
}

/** What people have typed for this market already: hobs for some pans, lids, care of some linen. */
async function typeSome(db: Db, market: Market): Promise<void> {
  const typed: Record<string, Record<string, unknown>> = {
    frying_pans: {
      hob_kinds: ['gas', 'elec', 'cera', 'indu'],
      coating: 'season',
      oven_safe_to: '250 °C',
      lid_included: 'no',
      handle_kind: 'fixed',
    },
    table_linen: { care_notes: ['w40', 'iron'], pattern_name: 'plain' },
    kitchen_knives: { handle_kind: 'fixed' },
  };
  for (const [category, overrides] of Object.entries(typed))
    await db.raw(
      `update listings l
        set overrides = ?
        where l.market_id = ? and l.category = ?
          and l.product_id in (select id from products where id % 3 <> 0 and coalesce(parent_id, id) % 4 <> 1)`,
      [JSON.stringify(overrides), market.id, category],
    );
}

/** Some whole families without blockers are live from the start: accepted here, known there. */
async function putOnShelf(db: Db, market: Market, url: string, log: Logger): Promise<number> {
  const roots = (
    await rowsOf<{ id: number }>(
      db,
      `select coalesce(p.parent_id, p.id) as id
        from listings l
        join products p on p.id = l.product_id
        where l.market_id = ?
        group by 1
        having bool_and(l.category is not null and l.blockers = 0) and coalesce(p.parent_id, p.id) % 5 in (0, 1, 2)
        order by 1 limit 90`,
      [market.id],
    )
  ).map((r) => r.id);
  const rows = await loadFullRows(db, market.id, 'coalesce(p.parent_id, p.id) = any(?)', [roots]);
  rows.sort((a, b) => Number(b.kind === 'family') - Number(a.kind === 'family') || a.id - b.id);
  const c = await loadCorrespondences(db, market.id);
  const built = rows.map((row, i) => ({
    row,
    listing: toListing(market, row, c).listing,
    number: `Q${String(700001 + i)}`,
  }));
  const feed = built.map(({ listing }): FeedRow => ({
    operation: 'create',
    sku: listing.sku,
    role: listing.role,
    parentSku: listing.parentSku,
    axes: listing.axes,
    category: listing.category,
    values: listing.values,
    cleared: [],
  }));
  try {
    const response = await fetch(`${url}/_control/shelve`, {
      method: 'POST',
      headers: { 'Content-Type': 'text/plain' },
      body: writeForm(market.rulebook, findForm(market.rulebook, 'create')!, feed),
      signal: AbortSignal.timeout(20_000),
    });
    if (!response.ok) throw new Error(`${response.status} ${await response.text()}`);
  } catch (error) {
    log.warn(
      { error: String(error) },
      'the stand-in market did not take the first shelf; the demo begins with an empty one',
    );
    return 0;
  }
  const records = built.map(({ row, listing, number }) => ({
    id: row.listing_id,
    number,
    ...splitByGroup(market.rulebook, listing.values),
  }));
  await db.raw(
    `update listings l
      set market_state = 'live', number = r.number, number_since = now() - interval '40 days',
        accepted_details = r.details, accepted_price = r.price, accepted_stock = r.stock
      from jsonb_to_recordset(?::jsonb) as r(id bigint, number text, details jsonb, price jsonb, stock jsonb)
      where l.id = r.id`,
    [JSON.stringify(records)],
  );
  await moveOn(
    db,
    records.map((r) => r.id),
  );
  await refreshMarket(db, market, () => Promise.resolve());
  return built.length;
}

/** Time has passed since the market last heard from us: stock moved, some prices changed, one by a slip of the decimal point. */
async function moveOn(db: Db, listingIds: readonly number[]): Promise<void> {
  const products = (
    await rowsOf<{ id: number }>(
      db,
      `select p.id
        from products p
        join listings l on l.product_id = p.id
        where l.id = any(?) and p.kind in ('single', 'variant')
        order by p.id`,
      [listingIds],
    )
  ).map((p) => p.id);
  const every = (n: number, from: number) => products.filter((_, i) => i % n === from);
  await db.raw('update stock set on_hand = greatest(0, on_hand - 3 - product_id % 5) where product_id = any(?)', [
    every(9, 2),
  ]);
  await db.raw('update products set version = version + 1, price = round(price * 1.06) + 0.99 where id = any(?)', [
    every(23, 4),
  ]);
  await db.raw('update products set version = version + 1, price = price * 10 where id = any(?)', [
    products.slice(7, 8),
  ]);
  await db.raw(
    `update products
      set version = version + 1, highlights = highlights || '["Checked by hand before packing"]'::jsonb
      where id = any(?)`,
    [every(37, 5)],
  );
}
