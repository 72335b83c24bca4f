// Keeping listings true: values resolved from product, correspondences and what was typed; checked; what must go out
// worked out. Only what a change touches is made anew: a product, its family, and those that share its barcode.
import { type Db, rowsOf, type Write, writeOn } from '../database';
import { announce } from '../events';
import type { Beside } from '../jobs';
import { loadMarket, type Market } from '../markets';
import { loadReading, type Reading } from './read-fields';
import { refreshUsual } from './usual';
import { judgeRows } from './judge';
import { eachPage } from './pages';
import { isSameSight, loadMembers } from './members';
import { type FullRow, loadRowsToCheck, lockRowsToCheck } from './rows';
import type { Outcome } from './outcome';
import { storeOutcomes } from './store';
import { loadStateCounts } from './tallies';

const ofFamilies = 'coalesce(p.parent_id, p.id) = any(?)';

/** Makes whole families anew in one market. `rows`, locked, must hold every member of each family it names. */
export async function refreshRows(db: Db, market: Market, c: Reading, rows: readonly FullRow[]): Promise<void> {
  await storeOutcomes(db, market, await judgeRows(db, market, c, rows));
}

/** What is to be made anew in a market: listings by their ids, those of products, and whole families by their roots. */
interface Touched {
  listings?: readonly number[];
  products?: readonly number[];
  whole?: readonly number[];
}

/** Finds the listings that are made anew: those that are touched, and all of a family where the others may see something new. */
async function findTouched(
  db: Db,
  market: Market,
  { listings = [], products = [], whole = [] }: Touched,
): Promise<{ ids: number[]; whole: ReadonlySet<number>; apart: number[] }> {
  const touched = await rowsOf<{ id: number; root: number; kind: string; isSeen: boolean }>(
    db,
    // A part for each way of asking: one condition over both would look at every listing.
    `select l.id, coalesce(p.parent_id, p.id) as root, p.kind,
        l.family_sight is not null and l.market_revision >= ? as "isSeen"
      from (select id from listings where market_id = ? and id = any(?)
        union select id from listings where market_id = ? and product_id = any(?)) t
      join listings l on l.id = t.id join products p on p.id = l.product_id`,
    [market.checksFrom, market.id, [...listings], market.id, [...products]],
  );
  const roots = new Set(whole);
  for (const t of touched) if (t.kind === 'family' || (t.kind === 'variant' && !t.isSeen)) roots.add(t.root);
  const members = await rowsOf<{ id: number }>(
    db,
    `select l.id from products p join listings l on l.product_id = p.id and l.market_id = ? where ${ofFamilies}`,
    [market.id, [...roots]],
  );
  const alone = touched.filter((t) => !roots.has(t.root));
  return {
    ids: [...new Set([...members, ...alone].map((m) => m.id))],
    whole: roots,
    apart: [...new Set(alone.filter((t) => t.kind === 'variant').map((t) => t.root))],
  };
}

/**
 * Makes listings anew. A variant is judged alone, beside the others as they were judged last; a family is made anew whole where
 * its own row is touched, where the market has changed, and where a variant shows the others something new. Rows are locked
 * first and read after that. Answers how many were judged.
 */
export async function refreshTouched(db: Db, market: Market, c: Reading, what: Touched): Promise<number> {
  const { ids, whole, apart } = await findTouched(db, market, what);
  const rows = await lockRowsToCheck(db, market.id, 'l.id = any(?)', [ids], c.unread);
  const members = await loadMembers(db, market, apart, ids);
  const outcomes = await judgeRows(db, market, c, rows, members);
  const rootOf = new Map(rows.map((r) => [r.listing_id, r.root_id]));
  const again = new Set(
    outcomes
      .filter((o) => !isSameSight(o.before.familySight, o.familySight))
      .map((o) => rootOf.get(o.id)!)
      .filter((root) => !whole.has(root) && apart.includes(root)),
  );
  await storeOutcomes(
    db,
    market,
    outcomes.filter((o) => !again.has(rootOf.get(o.id)!)),
  );
  if (again.size === 0) return rows.length;
  const families = await lockRowsToCheck(db, market.id, ofFamilies, [[...again]], c.unread);
  await refreshRows(db, market, c, families);
  return rows.length + families.length;
}

const pageOfFamilies = 500,
  pageOfListings = 1000;

/** A market and its correspondences as a thread beside has them, by the market's key, as long as the market stays as it is. */
const recalled = new Map<string, { market: Market; c: Reading }>();

async function recall(db: Db, key: string, revision: number): Promise<{ market: Market; c: Reading }> {
  const known = recalled.get(key);
  if (known?.market.revision === revision) return known;
  const market = await loadMarket(db, key);
  const now = { market, c: await loadReading(db, market) };
  recalled.set(key, now);
  return now;
}

interface PartOfMarket {
  market: string;
  revision: number;
  page: readonly number[];
}

/** Listings of a market made anew, in a thread beside. */
export async function refreshListingPage(db: Db, { market: key, revision, page }: PartOfMarket, write: Write) {
  const { market, c } = await recall(db, key, revision);
  return write((tx) => refreshTouched(tx, market, c, { listings: page }));
}

/** A page of a whole market that is made anew, in a thread beside. */
export async function refreshFamilyPage(
  db: Db,
  { market: key, revision, page, isLockedFirst }: PartOfMarket & { isLockedFirst: boolean },
  write: Write,
): Promise<PageOutcome> {
  const { market, c } = await recall(db, key, revision);
  return refreshPage(db, market, c, page, isLockedFirst, write);
}

/** Listings made anew in pages, each in a transaction of its own; `told` hears how many of them are done. */
export async function refreshInPages(
  db: Db,
  market: Market,
  listings: readonly number[],
  told: (rows: number) => Promise<void>,
  write: Write = writeOn(db),
  beside?: Beside,
): Promise<void> {
  const c = await loadReading(db, market),
    { key, revision } = market;
  await eachPage(
    listings,
    pageOfListings,
    {
      here: (page) => write((tx) => refreshTouched(tx, market, c, { listings: page })),
      there: beside && ((page) => beside<number>('refresh-listings', { market: key, revision, page })),
    },
    (_, page) => told(page.length),
  );
}

export type Progress = (done: number, total: number) => Promise<void>;

/** Where more than this share of a page was new, the next is locked at once: looking first costs more than it saves. */
const mostNew = 0.5;

const isNew = (o: Outcome): boolean =>
  o.isRowNew ||
  o.areFindingsNew ||
  o.before.margin !== o.margin ||
  o.before.productVersion !== o.productVersion ||
  o.before.revision === 0;

interface PageOutcome {
  rows: number;
  newShare: number;
}

/** Judges a page of families; those of which something is new are locked, judged again and written. */
async function refreshPage(
  db: Db,
  market: Market,
  c: Reading,
  page: readonly number[],
  isLockedFirst: boolean,
  write: Write,
): Promise<PageOutcome> {
  const judge = async (tx: Db, rows: FullRow[]) => {
    const outcomes = await judgeRows(tx, market, c, rows);
    const rootOf = new Map(rows.map((r) => [r.listing_id, r.root_id]));
    return { rows: rows.length, outcomes, families: new Set(outcomes.filter(isNew).map((o) => rootOf.get(o.id)!)) };
  };
  const seen = isLockedFirst
    ? undefined
    : await judge(db, await loadRowsToCheck(db, market.id, ofFamilies, [page], c.unread));
  const families = seen ? [...seen.families] : page;
  const share = (n: number): number => n / page.length;
  if (seen && families.length === 0) return { rows: seen.rows, newShare: 0 };
  return write(async (tx) => {
    const found = await judge(tx, await lockRowsToCheck(tx, market.id, ofFamilies, [families], c.unread));
    await storeOutcomes(tx, market, found.outcomes, 1);
    return { rows: seen?.rows ?? found.rows, newShare: share(found.families.size) };
  });
}

/**
 * A whole market anew; `progress` is told after each page. Listings are read and judged without a lock, and only what is
 * new is written: most changes of a rulebook touch few of its listings. Where the market was not changed meanwhile,
 * everything in it has then been checked against what it is.
 */
export async function refreshMarket(
  db: Db,
  market: Market,
  progress: Progress,
  write: Write = writeOn(db),
  beside?: Beside,
): Promise<void> {
  await refreshUsual(db, write);
  const c = await loadReading(db, market);
  const total = (await loadStateCounts(db, [market.id])).reduce((n, s) => n + s.n, 0);
  const marks = await rowsOf<{ id: number }>(db, 'select id from unchecked where market_id = ?', [market.id]);
  const roots = await rowsOf<{ id: number }>(db, 'select id from products where parent_id is null order by id');
  let done = 0,
    isLockedFirst = false;
  const { key, revision } = market;
  await eachPage(
    roots.map((r) => r.id),
    pageOfFamilies,
    {
      here: (page) => refreshPage(db, market, c, page, isLockedFirst, write),
      there:
        beside && ((page) => beside<PageOutcome>('refresh-families', { market: key, revision, page, isLockedFirst })),
    },
    async ({ rows, newShare }) => {
      isLockedFirst = newShare > mostNew;
      done += rows;
      await progress(Math.min(done, total), total);
    },
  );
  await write(async (tx) => {
    await tx.raw('update markets set checks_from = 1 where id = ? and revision = ?', [market.id, market.revision]);
    await tx.raw('delete from unchecked where id = any(?)', [marks.map((m) => m.id)]);
  });
  await announce(db, { topic: 'listings' });
}
