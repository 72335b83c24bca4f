// What a market shows otherwise than it took: noted from its shelf list, looked at, put right by a person.
import type { ShelfLine } from '@basileus/core/answers';
import { type Drift, findDrift, type Value, type Values } from '@basileus/core/listing';
import { say } from '@basileus/core/text';
import { z } from 'zod';
import { type Db, parseColumn, rowsOf } from '../database';
import { announce } from '../events';
import { AppError } from '../http';
import { patchListingCells, pricesNowSql, refreshListings } from '../listings';
import { linkToEntry, type Market } from '../markets';

const driftSchema = z.array(z.object({ field: z.string(), shows: z.string(), took: z.string() }));
/** In the place of what a line shows of an entry that is gone. */
const gone = '\u0000';
const read = (drift: unknown): Drift[] => parseColumn('listings.drift', driftSchema, drift);

/**
 * Compares what lines of a shelf list show with what was taken. A list speaks of one site a line: what it says of that one takes the
 * place of what was known of its fields, and nothing else. What is on its way is left alone. Answers how many are new or other.
 */
export async function noteDrift(tx: Db, market: Market, lines: readonly ShelfLine[]): Promise<number> {
  if (Object.keys(market.rulebook.lists.shelf.slots.facts).length === 0) return 0;
  const shows = new Map<string, Record<string, string>>();
  for (const l of lines) {
    const state = market.rulebook.states[l.state]?.is;
    // What stands there no more shows nothing that could be wrong.
    const seen =
      state === 'live' || state === 'in review'
        ? Object.entries(l.shows)
        : Object.keys(l.shows).map((field) => [field, gone] as const);
    shows.set(l.sku, { ...shows.get(l.sku), ...Object.fromEntries(seen) });
  }
  if (shows.size === 0) return 0;
  const rows = await rowsOf<{ id: number; sku: string; drift: unknown; price: Values | null; stock: Values | null }>(
    tx,
    `select l.id, p.sku, l.drift, l.accepted_price as price, l.accepted_stock as stock
      from listings l join products p on p.id = l.product_id
      where l.market_id = ? and l.in_flight = 0 and p.sku = any(?)`,
    [market.id, [...shows.keys()]],
  );
  const changed = rows.flatMap((r) => {
    const seen = shows.get(r.sku)!;
    const before = r.drift === null ? [] : read(r.drift);
    const after = [
      ...before.filter((d) => !(d.field in seen)),
      ...findDrift(market.rulebook, Object.fromEntries(Object.entries(seen).filter(([, s]) => s !== gone)), {
        price: r.price ?? undefined,
        stock: r.stock ?? undefined,
      }),
    ];
    return JSON.stringify(before) === JSON.stringify(after)
      ? []
      : [{ id: r.id, drift: after.length > 0 ? after : null }];
  });
  if (changed.length === 0) return 0;
  await tx.raw(
    `update listings l set drift = nullif(r.drift, 'null'), drift_at = case when nullif(r.drift, 'null') is null then null else now() end
      from jsonb_to_recordset(?::jsonb) as r(id bigint, drift jsonb) where l.id = r.id`,
    [JSON.stringify(changed)],
  );
  return changed.length;
}

/** How many entries each market shows otherwise than it took them. */
export const countDrift = (db: Db, markets: readonly number[]): Promise<{ market_id: number; n: number }[]> =>
  rowsOf(
    db,
    'select market_id, count(*) as n from listings where drift is not null and market_id = any(?) group by market_id',
    [markets],
  );

/** A page of what a market shows otherwise, that first which came last, with what we hold now. */
export async function loadDrift(db: Db, market: Market, { offset, limit }: { offset: number; limit: number }) {
  const total = (await countDrift(db, [market.id]))[0]?.n ?? 0;
  const rows = await rowsOf<{
    id: number;
    sku: string;
    title: string;
    number: string | null;
    drift: unknown;
    since: Date;
    values: Values;
  }>(
    db,
    `select l.id, p.sku, p.title, l.number, l.drift, l.drift_at as since, l."values"
      from listings l join products p on p.id = l.product_id
      where l.market_id = ? and l.drift is not null
      order by l.drift_at desc, l.id offset ? limit ?`,
    [market.id, offset, limit],
  );
  return {
    total,
    rows: rows.map((r) => ({
      listingId: r.id,
      sku: r.sku,
      title: r.title,
      link: r.number ? linkToEntry(market, r.number) : null,
      since: r.since.toISOString(),
      fields: read(r.drift).map((d) => ({
        ...d,
        label: market.labelOf(d.field),
        ours: toText(r.values[d.field]),
      })),
    })),
  };
}

const toText = (value: Value | undefined): string => (typeof value === 'string' ? value : '');

/**
 * Puts drift right: what the market shows is what it has. With `ours`, what we hold differs from that and goes again with the next
 * sending; with `theirs`, prices that it shows are ours there from now on, as one change set. Stock is the house's to say.
 */
export async function settleDrift(
  tx: Db,
  market: Market,
  { ids, how }: { ids: readonly number[]; how: 'ours' | 'theirs' },
  actor: string,
): Promise<{ settled: number; changeSet: number | null }> {
  const rows = await rowsOf<{ id: number; drift: unknown; values: Values }>(
    tx,
    `select id, drift, "values" from listings
      where market_id = ? and id = any(?) and drift is not null and in_flight = 0 order by id for update`,
    [market.id, [...ids]],
  );
  if (rows.length === 0)
    throw new AppError('not-now', say`Nothing of this is shown otherwise any more.`, {
      remedy: say`Look again: it was put right, or is on its way.`,
    });
  const partOf = new Map(market.rulebook.attributes.map((a) => [a.key, a.part]));
  const known = rows.map((r) => {
    const drift = read(r.drift);
    const of = (part: string) =>
      Object.fromEntries(drift.filter((d) => partOf.get(d.field) === part).map((d) => [d.field, d.shows]));
    return { id: r.id, drift, values: r.values, price: of('price'), stock: of('stock') };
  });
  await tx.raw(
    `update listings l set drift = null, drift_at = null, accepted_price = take_shown(l.accepted_price, r.price),
        released_prices = case when ? then ${pricesNowSql} else l.released_prices end,
        accepted_stock = take_shown(l.accepted_stock, r.stock)
      from jsonb_to_recordset(?::jsonb) as r(id bigint, price jsonb, stock jsonb) where l.id = r.id`,
    // However far the price has to move: somebody has looked at it.
    [
      how === 'ours',
      market.rulebook.offers.map((o) => o.price),
      JSON.stringify(known.map(({ id, price, stock }) => ({ id, price, stock }))),
    ],
  );
  const cells =
    how === 'ours'
      ? []
      : known.flatMap(({ id, values, price }) =>
          Object.entries(price).flatMap(([field, shows]) =>
            // What it shows none of is ours to say again.
            shows === toText(values[field]) || shows === ''
              ? []
              : [{ id, field, before: values[field] ?? null, after: shows }],
          ),
        );
  const { changeSet } =
    cells.length > 0
      ? await patchListingCells(tx, market.id, cells, `As ${market.name} shows it, ${cells.length} prices`, actor)
      : { changeSet: null };
  await refreshListings(
    tx,
    market,
    rows.map((r) => r.id),
  );
  await announce(tx, { topic: 'dispatches' }, { topic: 'listings' });
  return { settled: rows.length, changeSet };
}
