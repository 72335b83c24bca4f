// Puts the demo into an empty database: markets, the catalog, correspondences, and a first state of the shelf that each
// market's stand-in is told too, so that both sides agree from the first minute.
import { everywhere } from '@basileus/core/listing';
import { splitByGroup } from '@basileus/core/feed';
import { type FeedRow, findForm, writeForm } from '@basileus/core/forms';
import { belongs, parseRulebook } from '@basileus/core/rulebook';
import { buildCatalog, demoFieldCategories, type DemoProduct, demoTree } from '@basileus/demo/catalog';
import { type DemoMarket, demoMarkets, demoRates } from '@basileus/demo/markets';
import type { Logger } from 'pino';
import { z } from 'zod';
import { type Db, rowOf, rowsOf } from '../database';
import { recordHistory } from '../history';
import { loadFullRows, refreshMarket, toListing } from '../listings';
import { loadCorrespondences, loadMarket, type Market, storeKey, storeRate } from '../markets';
import { insertProducts, setStock } from '../products';
import { addBusinessSystem } from './business';
import { driftApart } from './drift';
import { moveOn } from './move-on';
import { showPictures } from './pictures';
import { findStandIns, toSftp } from './stand-ins';

export interface DemoOptions {
  size: number;
  /** Addresses of the stand-in markets by their keys; a market of the demo without one is left out. */
  standIns: Readonly<Record<string, string>>;
}

/** Loads the demo once; a database that has products is left alone, but told where the stand-ins are now. */
export async function loadDemo(db: Db, options: DemoOptions, log: Logger): Promise<boolean> {
  const there = await rowOf<{ n: number }>(db, 'select count(*) as n from markets');
  if (there && there.n > 0) {
    await findStandIns(db, options.standIns);
    return false;
  }
  const chosen = demoMarkets.filter((m) => options.standIns[m.key] !== undefined);
  await db.transaction(async (tx) => {
    for (const market of chosen) await addMarket(tx, market, options.standIns[market.key]!);
    for (const [currency, rate] of demoRates) await storeRate(tx, currency, rate, 'Catalog desk');
    await loadCatalog(tx, options.size);
    await putInOrder(tx);
    for (const market of chosen) await addDecisions(tx, market);
  });
  const live: number[] = [];
  for (const { key } of chosen) {
    const market = await loadMarket(db, key);
    await refreshMarket(db, market, () => Promise.resolve());
    live.push(...(await putOnShelf(db, market, options.standIns[key]!, log)));
  }
  await moveOn(db, live);
  for (const [i, { key }] of chosen.entries()) {
    const market = await loadMarket(db, key);
    await refreshMarket(db, market, () => Promise.resolve());
    if (i < mostDrifting) await driftApart(db, market, options.standIns[key]!, options.size, log);
  }
  const business = options.standIns['countinghouse'];
  if (business !== undefined) await addBusinessSystem(db, business, options.size, log);
  await showPictures(db, options.standIns['picturehost'], options.size);
  await recordHistory(db, 'Basileus', { is: 'laid-out', live: live.length });
  return true;
}

/** So many of the first markets show something otherwise than they were told. */
const mostDrifting = 2;

async function addMarket(db: Db, { key, document, settings, secret, user }: DemoMarket, url: string): Promise<void> {
  const reading = parseRulebook(document);
  if (!reading.ok) throw new Error(`The rulebook of ${key} is not valid: ${reading.faults[0]?.path ?? ''}`);
  const { market, version } = reading.rulebook;
  const book = (await rowOf<{ id: number }>(
    db,
    `insert into rulebooks (market_key, version, document) values (?, ?, ?) returning id`,
    [key, version, JSON.stringify(document)],
  ))!;
  const added = (await rowOf<{ id: number }>(
    db,
    `insert into markets (key, name, rulebook_id, settings, connection, family_rows) values (?, ?, ?, ?, ?, ?)
      returning id`,
    [
      key,
      market.name,
      book.id,
      JSON.stringify(settings),
      JSON.stringify({
        url: reading.rulebook.transport.kind === 'sftp' ? toSftp(url) : url,
        ...(user ? { user } : {}),
      }),
      reading.rulebook.families.parents !== 'none',
    ],
  ))!;
  await storeKey(db, added.id, secret ?? null);
}

/** What people have decided on a market: categories, sources of fields, and what they have typed. */
async function addDecisions(
  db: Db,
  { key, texts, sources = [], categories, typed, sitesOut = {} }: DemoMarket,
): Promise<void> {
  const { id, rulebook } = await loadMarket(db, key);
  const said = [
    ...texts.map(([attribute, text]) => ({ attribute, node: everywhere, source: { is: 'text' as const, text } })),
    ...sources,
  ];
  for (const { attribute, node, source } of said)
    await db.raw(`insert into attribute_sources (market_id, attribute, node, source) values (?, ?, ?, ?)`, [
      id,
      attribute,
      node,
      JSON.stringify(source),
    ]);
  for (const [ours, theirs] of categories)
    await db.raw(`insert into correspondences (market_id, kind, ours, theirs) values (?, 'category', ?, ?)`, [
      id,
      ours,
      theirs,
    ]);
  await db.raw(
    `update listings l
      set category = c.theirs
      from products p, correspondences c
      where p.id = l.product_id and c.kind = 'category' and c.ours = p.category and c.market_id = l.market_id
        and l.market_id = ?`,
    [id],
  );
  for (const [own, sites] of Object.entries(sitesOut))
    await db.raw(
      `update listings l set sites_out = ? from products p where p.id = l.product_id and l.market_id = ? and p.category = ?`,
      [[...sites], id, own],
    );
  const roles = { single: 'single', bundle: 'single', family: 'parent', variant: 'variant' } as const;
  for (const [category, values] of Object.entries(typed))
    for (const [kind, role] of Object.entries(roles)) {
      const own = Object.entries(values).filter(([k]) =>
        rulebook.attributes.some((a) => a.key === k && belongs(a, role)),
      );
      await db.raw(
        `update listings l
          set overrides = ?
          where l.market_id = ? and l.category = ? and l.product_id in (select id from products
            where kind = ? and id % 3 <> 0 and coalesce(parent_id, id) % 4 <> 1)`,
        [JSON.stringify(Object.fromEntries(own)), id, category, kind],
      );
    }
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

/** Brindlewick's own tree, and the fields that only some of its categories have. */
async function putInOrder(db: Db): Promise<void> {
  for (const [parent, names] of Object.entries(demoTree)) {
    await db.raw('insert into own_categories (name) values (?) on conflict do nothing', [parent]);
    await db.raw('update own_categories set parent = ? where name = any(?)', [parent, [...names]]);
  }
  for (const [key, categories] of Object.entries(demoFieldCategories))
    await db.raw('update own_fields set categories = ? where key = ?', [JSON.stringify(categories), key]);
}

const shelved = z.object({ numbers: z.array(z.string()) });

/** Some whole families without blockers are live from the start: accepted here, known there. Answers their listings. */
async function putOnShelf(db: Db, market: Market, url: string, log: Logger): Promise<number[]> {
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
  // Families one after the other, each before its variants.
  rows.sort(
    (a, b) => a.root_id - b.root_id || Number(b.kind === 'family') - Number(a.kind === 'family') || a.id - b.id,
  );
  const c = await loadCorrespondences(db, market.id);
  const built = rows.map((row) => ({ row, listing: toListing(market, row, c).listing }));
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
  let numbers: readonly string[];
  try {
    const response = await fetch(`${url}/_control/shelve`, {
      method: 'POST',
      headers: { 'Content-Type': 'text/plain' },
      body: writeForm(market.rulebook, findForm(market.rulebook, 'create')!, feed),
      signal: AbortSignal.timeout(20_000),
    });
    if (!response.ok) throw new Error(`${response.status} ${await response.text()}`);
    ({ numbers } = shelved.parse(await response.json()));
  } catch (error) {
    log.warn(
      { error: String(error) },
      'the stand-in market did not take the first shelf; the demo begins with an empty one',
    );
    return [];
  }
  const records = built.map(({ row, listing }, i) => ({
    id: row.listing_id,
    number: numbers[i],
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
  const ids = records.map((r) => r.id);
  await db.raw(`update price_history set at = now() - interval '40 days' where listing_id = any(?)`, [ids]);
  return ids;
}
