// What checks say of listings as they stand: values resolved, families and shared numbers looked up, nothing written.
import { categoryMissing, type CategoryChecker, type CheckContext, type Finding } from '@basileus/core/checks';
import {
  type HeldOperation,
  holdWholeFamily,
  planHeldOperations,
  type Standing,
  takesWholeFamilies,
} from '@basileus/core/feed';
import {
  type Correspondences,
  findSourceField,
  type Listing,
  type ResolvedListing,
  type Values,
} from '@basileus/core/listing';
import { getCategoryPath, type Operation } from '@basileus/core/rulebook';
import { type Db, rowsOf } from '../database';
import type { Market } from '../markets';
import { holdsBack, type Member, type Sight, toSight } from './members';
import { categoryOf, type FullRow, toListing } from './rows';
import { type Outcome, toOutcome } from './outcome';
import { loadPictureFacts } from './picture-facts';
import { loadPriceHistory } from './price-history';
import { loadUsual } from './usual';

const sortedKeys = (values: Values): string[] => Object.keys(values).sort();

/** Rows that are worked through before others have their turn: some milliseconds. */
const rowsAtOnce = 50;
/** Lets whatever waits in this thread be answered first. */
const others = (): Promise<void> => new Promise((r) => setImmediate(r));

/** A listing with all that a check may ask beside it. */
export interface Prepared {
  row: FullRow;
  listing: Listing;
  origins: ResolvedListing['origins'];
  context: CheckContext;
  /** Undefined where the listing has no category of this rulebook. */
  check: CategoryChecker | undefined;
}

/** SKUs that share a barcode, by the number, and SKUs that differ only in capitals or marks, by SKU. */
async function loadAlike(
  db: Db,
  rows: readonly FullRow[],
): Promise<{ byGtin: ReadonlyMap<string, readonly string[]>; bySku: ReadonlyMap<string, readonly string[]> }> {
  const gtins = [...new Set(rows.flatMap((r) => (r.gtin14 ? [r.gtin14] : [])))];
  // One after the other: a transaction answers one question at a time.
  const byGtin = await rowsOf<{ gtin14: string; skus: string[] }>(
    db,
    `select gtin14, array_agg(sku order by sku) as skus
        from products
        where gtin14 = any(?)
        group by 1
        having count(*) > 1`,
    [gtins],
  );
  const bySku = await rowsOf<{ skus: string[] }>(
    db,
    `select array_agg(sku order by sku) as skus
        from products
        where sku_fold in (select sku_fold from products where id = any(?))
        group by sku_fold
        having count(*) > 1`,
    [rows.map((r) => r.id)],
  );
  return {
    byGtin: new Map(byGtin.map((t) => [t.gtin14, t.skus])),
    bySku: new Map(bySku.flatMap((t) => t.skus.map((s) => [s, t.skus] as const))),
  };
}

/** What is usual in a category of ours, by the attributes that take those fields in one of the market's; made once for each. */
function createMeasures(
  usual: Awaited<ReturnType<typeof loadUsual>>,
  { rulebook }: Market,
  c: Correspondences,
): (own: string | null, category: string | null) => CheckContext['usual'] {
  const measured = rulebook.attributes.filter((a) => a.type === 'measure'),
    made = new Map<string, CheckContext['usual']>();
  const make = (own: string, category: string): CheckContext['usual'] => {
    const known = usual.get(own);
    if (!known) return undefined;
    const path = getCategoryPath(rulebook, category).map((n) => n.key);
    return {
      of: own,
      measures: Object.fromEntries(
        measured.flatMap((a) => {
          const source = findSourceField(a, path, c);
          return source !== undefined && known[source] ? [[a.key, known[source]]] : [];
        }),
      ),
    };
  };
  return (own, category) => {
    if (own === null) return undefined;
    const key = `${own}\t${category ?? ''}`;
    if (!made.has(key)) made.set(key, make(own, category ?? ''));
    return made.get(key);
  };
}

/**
 * Makes listings ready to be checked. `rows` must hold every member of each family it names, but for `members`, which are
 * taken as they were judged last.
 */
export async function prepareRows(
  db: Db,
  market: Market,
  c: Correspondences,
  rows: readonly FullRow[],
  members: readonly Member[] = [],
): Promise<Prepared[]> {
  const alike = await loadAlike(db, rows);
  const usual = await loadUsual(db, [...new Set(rows.flatMap((r) => r.category ?? []))]);
  const pictures = await loadPictureFacts(
    db,
    rows.flatMap((r) => r.pictures ?? []),
  );
  const measuresOf = createMeasures(usual, market, c);
  const built: ({ row: FullRow } & ReturnType<typeof toListing>)[] = [];
  for (const [i, row] of rows.entries()) {
    if (i % rowsAtOnce === 0) await others();
    built.push({ row, ...toListing(market, row, c) });
  }
  const families = new Map<number, Beside[]>();
  const put = (root: number, beside: Beside): void => {
    (families.get(root) ?? families.set(root, []).get(root)!).push(beside);
  };
  for (const { row, listing } of built)
    if (row.kind === 'family' || row.kind === 'variant')
      put(row.root_id, {
        sku: row.sku,
        role: row.kind === 'family' ? 'parent' : 'variant',
        values: listing.values,
        isThere: isThere(row),
      });
  for (const m of members)
    put(m.rootId, { sku: m.sku, role: m.isParent ? 'parent' : 'variant', values: m.values, isThere: m.isThere });
  const prices = await loadPriceHistory(
    db,
    market,
    built.map(({ row, listing }) => ({ id: row.listing_id, values: listing.values })),
  );
  return built.map((b) => {
    const { row } = b;
    const context: CheckContext = { rates: market.rates };
    if (pictures) context.pictures = pictures;
    const pricesFrom = prices.get(row.listing_id);
    if (pricesFrom) context.pricesFrom = pricesFrom;
    const measures = measuresOf(row.category, row.market_category);
    if (measures) context.usual = measures;
    const sharing = row.gtin14 ? alike.byGtin.get(row.gtin14)?.filter((s) => s !== row.sku) : undefined;
    if (sharing?.length) context.sameGtin = sharing;
    const twins = alike.bySku.get(row.sku)?.filter((s) => s !== row.sku);
    if (twins?.length) context.sameSku = twins;
    if (row.market_state === 'withdrawn' && row.wish === 'restore' && market.rulebook.sku.reuse === 'never')
      context.isBurnt = true;
    const family = joins(row) ? undefined : families.get(row.root_id);
    if (family)
      context.family = family
        .filter((f) => f.sku !== row.sku && f.isThere)
        .map(({ sku, role, values }) => ({ sku, role, values }));
    return { ...b, context, check: categoryOf(market, row)?.check };
  });
}

/** A member of a family as the others see it. */
interface Beside {
  sku: string;
  role: 'parent' | 'variant';
  values: Values;
  isThere: boolean;
}

/** It stands in a leaf of this market with the others of its family. */
const isThere = (row: FullRow): boolean => row.market_category !== null && !isLeftOut(row) && !joins(row);

/** Nobody wants it on this market, so nothing is asked of it and nothing of it goes there. */
const isLeftOut = (row: FullRow): boolean => row.market_state === 'left out';

/** It is sold there, or may come to be. */
const isSold = (row: FullRow): boolean => !isLeftOut(row) && row.market_state !== 'withdrawn';

/** It joins an entry of the market by itself, whatever family it is of here. */
const joins = (row: FullRow): boolean => row.entry_is === 'joined';

const isSame = (a: Values, b: Values): boolean => JSON.stringify(a, sortedKeys(a)) === JSON.stringify(b, sortedKeys(b));

const toStanding = (row: FullRow, isRefused: boolean, isParentHeld: boolean): Standing => ({
  accepted: {
    details: row.accepted_details ?? undefined,
    price: row.accepted_price ?? undefined,
    stock: row.accepted_stock ?? undefined,
  },
  wish: row.wish,
  isWithdrawn: row.market_state === 'withdrawn',
  isRefused,
  isParentHeld,
  releasedPrices: row.released_prices ?? undefined,
  timed: row.timed ? (Object.keys(row.timed) as Operation[]) : [],
});

/** What is to be kept of each row: values, findings, and what must go out. `rows` and `members` as `prepareRows` has them. */
export async function judgeRows(
  db: Db,
  market: Market,
  c: Correspondences,
  rows: readonly FullRow[],
  members: readonly Member[] = [],
): Promise<Outcome[]> {
  // Parents first: a variant is held while its parent is.
  const inOrder = (await prepareRows(db, market, c, rows, members)).sort(
    (x, y) => Number(y.row.kind === 'family') - Number(x.row.kind === 'family'),
  );
  const blockedParents = new Set(members.filter((m) => m.holdsBack).map((m) => m.rootId));
  const judged: Judged[] = [];
  for (const [i, { row, listing, origins, context, check }] of inOrder.entries()) {
    if (i % rowsAtOnce === 0) await others();
    const isOut = isLeftOut(row);
    const findings: Finding[] = isOut ? [] : check ? check(listing, context) : [categoryMissing()];
    const refusalOpen = row.refusal_open && isSame(row.old_values, listing.values);
    const isParentHeld = row.kind === 'variant' && !joins(row) && blockedParents.has(row.root_id);
    const leaf = categoryOf(market, row),
      compiled = leaf?.compiled;
    const planned =
      compiled && !isOut
        ? planHeldOperations(compiled, listing, toStanding(row, refusalOpen, isParentHeld), findings)
        : [];
    const isParent = row.kind === 'family';
    const isBack = isParent && holdsBack(isOut, check !== undefined, planned);
    if (isBack) blockedParents.add(row.root_id);
    judged.push({
      row,
      isParent,
      planned,
      sight:
        isParent || row.kind === 'variant'
          ? toSight(market, {
              rootId: row.root_id,
              isParent,
              isThere: isThere(row),
              holdsBack: isBack,
              values: listing.values,
              planned,
            })
          : null,
      found: {
        values: listing.values,
        origins,
        findings,
        refusalOpen,
        margin: isSold(row) ? (leaf?.marginOf(listing, context.rates) ?? null) : null,
      },
    });
  }
  const held = takesWholeFamilies(market.rulebook) ? holdFamilies(judged, members) : judged;
  return held.map(({ row, planned, found, sight }) => toOutcome(row, { ...found, planned: [...planned] }, sight));
}

interface Judged {
  row: FullRow;
  isParent: boolean;
  planned: readonly HeldOperation[];
  sight: Sight | null;
  found: Pick<Outcome, 'values' | 'origins' | 'findings' | 'refusalOpen' | 'margin'>;
}

/** The same rows, those of a family looked at together, with the members that are not judged now. */
function holdFamilies(judged: readonly Judged[], members: readonly Member[]): Judged[] {
  const families = new Map<number, { rows: Judged[]; beside: Member[] }>();
  const familyOf = (root: number) => families.get(root) ?? families.set(root, { rows: [], beside: [] }).get(root)!;
  for (const j of judged) familyOf(j.row.root_id).rows.push(j);
  for (const m of members) familyOf(m.rootId).beside.push(m);
  return [...families.values()].flatMap(({ rows, beside }) =>
    rows.length + beside.length > 1
      ? holdWholeFamily([...rows, ...beside.map((m) => ({ isParent: m.isParent, planned: m.creates }))])
          .slice(0, rows.length)
          .map(({ planned }, i) => ({ ...rows[i]!, planned }))
      : rows,
  );
}
