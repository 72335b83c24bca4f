// Fields of listings in the rows of the catalog: read beside those of the item, and changed through its listing.
import type { CellPatchInput, ListedProduct, ListingFinding, listProducts, Product } from '@basileus/contract';
import type { ListingFault } from '@basileus/core/change';
import { type CellFault, readMarketKey, toMarketKey } from '@basileus/core/product';
import { categoryAttribute, marginAttribute } from '@basileus/core/rulebook';
import type { z } from 'zod';
import { findListingFault, groupByMarket, heldBy, loadListings, loadWideFields } from '../choose';
import { type Db, rowsOf } from '../database';
import { loadFields } from '../fields';
import { AppError } from '../http';
import { patchListingCells } from '../listings';
import { loadMarkets, type Market } from '../markets';
import { loadProducts, shareDeed } from '../products';
import { type PatchOutcome, patchProductCells, toFilter } from './service';
import { say } from '@basileus/core/text';

type Outcome = PatchOutcome<CellFault | ListingFault>;

/** A page of the catalog, narrowed to what is asked. */
export async function listCatalog(db: Db, { listed, ...query }: z.output<typeof listProducts.query>) {
  const fields = await (readMarketKey(query.sort) ? loadWideFields(db) : loadFields(db));
  const { total, rows } = await loadProducts(db, await toFilter(db, query, fields));
  return { total, rows: await addListed(db, listed.split(',').filter(Boolean), rows) };
}

/** Items with some fields of their listings, by the keys that these have beside the items' own. */
async function addListed(db: Db, keys: readonly string[], rows: readonly Product[]): Promise<ListedProduct[]> {
  const asked = groupByMarket(keys);
  if (asked.size === 0) return [...rows];
  const markets = (await loadMarkets(db)).filter((m) => asked.has(m.key));
  const wanted = new Map(markets.map((m) => [m.key, expand(m, asked.get(m.key)!)]));
  const listings = await loadListings(
    db,
    wanted.keys(),
    rows.map((r) => r.id),
  );
  const found = await loadFound(
    db,
    [...listings.values()].flatMap((l) => [...l.values()].map((x) => x.id)),
    [...new Set([...wanted.values()].flat())],
  );
  return rows.map((row) => {
    const fields = { ...row.fields },
      closed: Record<string, ListingFault> = {},
      worst: Record<string, ListingFinding> = {};
    for (const market of markets) {
      const listing = listings.get(market.key)?.get(row.id);
      for (const attribute of wanted.get(market.key)!) {
        const key = toMarketKey(market.key, attribute);
        const value = listing && heldBy(listing, attribute);
        if (value !== undefined) fields[key] = value;
        const fault = findListingFault(market, listing, row, attribute);
        if (fault) closed[key] = fault;
        const finding = listing && found.get(`${listing.id} ${attribute}`);
        if (finding) worst[key] = finding;
      }
    }
    return { ...row, fields, closed, found: worst };
  });
}

const every = '*';
/** All fields of a market where all are asked for by a star. */
const expand = ({ rulebook }: Market, attributes: readonly string[]): readonly string[] =>
  attributes.includes(every)
    ? [categoryAttribute, ...rulebook.attributes.map((a) => a.key), marginAttribute]
    : attributes;

/** The worst finding of each of some fields of listings, by listing and field. */
async function loadFound(
  db: Db,
  listings: readonly number[],
  attributes: readonly string[],
): Promise<ReadonlyMap<string, ListingFinding>> {
  const rows = await rowsOf<ListingFinding & { listing: number }>(
    db,
    `select distinct on (listing_id, field) listing_id as listing, "check", message, level, field, value, params, remedies
      from findings where listing_id = any(?) and field = any(?)
      order by listing_id, field, array_position(array['blocker', 'caution', 'tip'], level), id`,
    [[...listings], [...attributes]],
  );
  return new Map(rows.map(({ listing, ...f }) => [`${listing} ${f.field}`, f]));
}

/** Changes cells of items and of their listings, all of them in one transaction. */
export async function patchCatalogCells(
  db: Db,
  cells: readonly CellPatchInput[],
  title: string,
  actor: string,
): Promise<Outcome> {
  const own = cells.filter((c) => readMarketKey(c.field) === undefined);
  if (own.length === cells.length) return patchProductCells(db, cells, title, actor);
  return db.transaction(async (tx) => {
    const outcomes: Outcome[] = own.length > 0 ? [await patchProductCells(tx, own, title, actor)] : [];
    const markets = new Map((await loadMarkets(tx)).map((m) => [m.key, m]));
    const byMarket = new Map<Market, CellPatchInput[]>();
    for (const cell of cells) {
      const named = readMarketKey(cell.field);
      if (!named) continue;
      const market = markets.get(named.market);
      if (!market) throw new AppError('bad-input', say`There is no market “${named.market}”.`, { field: cell.field });
      const here = byMarket.get(market) ?? [];
      byMarket.set(market, here);
      here.push({ ...cell, field: named.attribute });
    }
    for (const [market, here] of byMarket) outcomes.push(await patchListed(tx, market, here, title, actor));
    await shareDeed(
      tx,
      outcomes.flatMap((o) => o.changeSet ?? []),
    );
    return {
      changeSet: outcomes.find((o) => o.changeSet !== null)?.changeSet ?? null,
      applied: outcomes.reduce((n, o) => n + o.applied, 0),
      conflicts: outcomes.flatMap((o) => o.conflicts),
      refused: outcomes.flatMap((o) => o.refused),
    };
  });
}

/** Cells of items, by the fields of one market, as cells of its listings. What has none there, or does not ask for the field, is refused. */
async function patchListed(
  db: Db,
  market: Market,
  cells: readonly CellPatchInput[],
  title: string,
  actor: string,
): Promise<Outcome> {
  const ids = [...new Set(cells.map((c) => c.id))];
  const items = new Map(
    (
      await rowsOf<{ id: number; sku: string; kind: string }>(
        db,
        'select id, sku, kind from products where id = any(?)',
        [ids],
      )
    ).map((r) => [r.id, r]),
  );
  const listings = (await loadListings(db, [market.key], ids)).get(market.key);
  const itemOf = new Map([...(listings ?? [])].map(([item, listing]) => [listing.id, item]));
  const refused: Outcome['refused'] = [],
    taken: CellPatchInput[] = [];
  for (const cell of cells) {
    const item = items.get(cell.id);
    if (!item) continue;
    const listing = listings?.get(item.id);
    const fault = findListingFault(market, listing, item, cell.field);
    if (fault || !listing)
      refused.push({
        id: item.id,
        sku: item.sku,
        field: toMarketKey(market.key, cell.field),
        fault: fault ?? { kind: 'not-on-market' },
      });
    else taken.push({ ...cell, id: listing.id });
  }
  if (taken.length === 0) return { changeSet: null, applied: 0, conflicts: [], refused };
  const { conflicts, ...outcome } = await patchListingCells(db, market.id, taken, title, actor);
  return {
    ...outcome,
    refused,
    conflicts: conflicts.map(({ id, field, now }) => ({
      id: itemOf.get(id)!,
      field: toMarketKey(market.key, field),
      now,
    })),
  };
}
