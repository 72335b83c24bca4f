// Mends for all rows of a cause: each row's own mechanical remedy, or one value for all. Both are tried on every row first,
// with everything the checks know, and only what settles the cause is written.
import type { FillOutcome, FillRequest, RemedyChoice, RemedyRow } from '@basileus/contract';
import { type CauseKey, type Finding, mendCause, tryChange, tryValue, wordCause } from '@basileus/core/checks';
import {
  type Correspondences,
  everywhere,
  findSourceField,
  isSameValue,
  listSourceFields,
  toItems,
  type Value,
} from '@basileus/core/listing';
import { getCategoryPath } from '@basileus/core/rulebook';
import { plural } from '@basileus/core/text';
import { type Db, rowsOf } from '../database';
import type { Threads } from '../jobs';
import { putCodes, putSource } from '../correspondences';
import { loadCorrespondences, loadMarket, type Market } from '../markets';
import { toFields } from '../products';
import { type FullRow, loadFullRows, patchListingCells, type Prepared, prepareRows } from '../listings';

const familiesAtOnce = 500;
const mostShown = 500;
const mostTrialSeconds = 120;

/** The rows of a cause, or the named ones of them, made ready to be checked, page by page. */
async function* eachOfCause(
  db: Db,
  market: Market,
  cause: CauseKey,
  ids: readonly number[] | undefined,
): AsyncGenerator<Prepared> {
  const found = await rowsOf<{ id: number; root: number }>(
    db,
    `select distinct l.id, coalesce(p.parent_id, p.id) as root
      from findings f
      join listings l on l.id = f.listing_id
      join products p on p.id = l.product_id
      where f.market_id = ? and f."check" = ? and f.message = ? and f.field = ? and (? or l.id = any(?))`,
    [market.id, cause.check, cause.message, cause.field, ids === undefined, ids ?? []],
  );
  yield* eachOf(db, market, found);
}

/** Listings made ready to be checked, family by family, since the checks ask about the others of each. */
async function* eachOf(
  db: Db,
  market: Market,
  found: readonly { id: number; root: number }[],
): AsyncGenerator<Prepared> {
  const wanted = new Set(found.map((f) => f.id)),
    roots = [...new Set(found.map((f) => f.root))].sort((a, b) => a - b);
  const c = await loadCorrespondences(db, market.id);
  for (let i = 0; i < roots.length; i += familiesAtOnce) {
    const rows = await loadFullRows(db, market.id, 'coalesce(p.parent_id, p.id) = any(?)', [
      roots.slice(i, i + familiesAtOnce),
    ]);
    for (const p of await prepareRows(db, market, c, rows)) if (wanted.has(p.row.listing_id)) yield p;
  }
}

export interface RemedyTrial {
  rows: RemedyRow[];
  left: number;
}

/** What mechanical remedies would make of every row of a cause. Heavy: asked of a worker thread. */
export async function tryRemedies(db: Db, given: { market: string; cause: CauseKey }): Promise<RemedyTrial> {
  const market = await loadMarket(db, given.market);
  const trial: RemedyTrial = { rows: [], left: 0 };
  for await (const { row, listing, context, check } of eachOfCause(db, market, given.cause, undefined)) {
    const mending = check && mendCause(check, listing, context, given.cause);
    if (!mending) trial.left++;
    else
      trial.rows.push({
        id: row.listing_id,
        sku: row.sku,
        sureness: mending.sureness,
        changes: mending.changes.map(({ field, after }) => ({
          field,
          before: row.old_values[field] ?? null,
          after: after ?? null,
        })),
      });
  }
  trial.rows.sort((a, b) => Number(a.sureness === 'likely') - Number(b.sureness === 'likely'));
  return trial;
}

export interface FillTrial extends FillOutcome {
  rows: { id: number; before: RemedyRow['changes'][number]['before'] }[];
}

/** What one value would do to the rows of a cause. Heavy: asked of a worker thread. */
export async function tryFill(db: Db, given: { market: string; fill: FillRequest }): Promise<FillTrial> {
  const market = await loadMarket(db, given.market);
  const { fill } = given;
  const c = await loadCorrespondences(db, market.id);
  const memory = createMemory(market, fill, c);
  const trial: FillTrial = { settles: 0, fails: [], rows: [], memory: { kind: 'none', words: [] } };
  const fails = new Fails();
  for await (const { row, listing, context, check } of eachOfCause(db, market, fill, fill.ids)) {
    const [worst] = check ? tryValue(check, listing, context, fill, fill.value) : [];
    if (check && !worst) {
      trial.settles++;
      trial.rows.push({ id: row.listing_id, before: row.old_values[fill.field] ?? null });
      memory.note(row);
    } else if (worst) fails.note(worst);
  }
  trial.fails = fails.list();
  trial.memory = memory.read();
  return trial;
}

/** What would be said, by cause, with the rows of which it would be. */
class Fails {
  readonly #byCause = new Map<string, { count: number; finding: Finding }>();
  note(finding: Finding): void {
    const key = `${finding.check}/${finding.message}/${finding.field}`;
    const known = this.#byCause.get(key);
    if (known) known.count++;
    else this.#byCause.set(key, { count: 1, finding });
  }
  list(): { count: number; finding: Finding }[] {
    return [...this.#byCause.values()].sort((a, b) => b.count - a.count);
  }
}

export interface ValueTrial {
  /** Listings that would have no new blocker. */
  good: number[];
  fails: { count: number; finding: Finding }[];
}

/** What one value for a field would bring to listings, named by id. Heavy: asked of a worker thread. */
export async function tryOnListings(
  db: Db,
  given: { market: string; ids: number[]; field: string; value: Value },
): Promise<ValueTrial> {
  const market = await loadMarket(db, given.market);
  const found = await rowsOf<{ id: number; root: number }>(
    db,
    `select l.id, coalesce(p.parent_id, p.id) as root from listings l join products p on p.id = l.product_id
      where l.market_id = ? and l.id = any(?)`,
    [market.id, given.ids],
  );
  const good: number[] = [],
    fails = new Fails();
  for await (const { row, listing, context, check } of eachOf(db, market, found)) {
    const [worst] = check ? tryChange(check, listing, context, given.field, given.value) : [];
    if (worst) fails.note(worst);
    else good.push(row.listing_id);
  }
  return { good, fails: fails.list() };
}

/** The same for whoever answers people: in another thread. */
export const askOnListings = (threads: Threads, given: Parameters<typeof tryOnListings>[1]): Promise<ValueTrial> =>
  threads.ask<ValueTrial>('try-on-listings', given, mostTrialSeconds);

/** Words of ours that are named when a value is to be remembered for them; more than a person would look at. */
const mostWords = 200;

/**
 * How a fill could be kept for later items: as what our words mean there, where a field of ours feeds a choice; as the same
 * for every item, where nothing feeds it.
 */
function createMemory(
  market: Market,
  fill: FillRequest,
  c: Correspondences,
): { note: (row: FullRow) => void; read: () => FillOutcome['memory'] } {
  const attribute = market.rulebook.attributes.find((a) => a.key === fill.field);
  const words = new Set<string>();
  const codes = attribute?.codes === undefined ? undefined : market.rulebook.codeLists[attribute.codes];
  return {
    note: (row) => {
      if (!attribute || !codes || row.overrides[fill.field] !== undefined || words.size >= mostWords) return;
      const path = getCategoryPath(market.rulebook, row.market_category ?? '').map((n) => n.key);
      const source = findSourceField(attribute, path, c);
      if (source === undefined) return;
      for (const word of toItems(toFields(row)[source])) words.add(word);
    },
    read: () => {
      if (!attribute || typeof fill.value !== 'string') return { kind: 'none', words: [] };
      if (!c.sources.has(attribute.key) && listSourceFields(attribute, c).length === 0)
        return { kind: 'field', words: [] };
      return words.size > 0 && words.size < mostWords
        ? { kind: 'value', words: [...words] }
        : { kind: 'none', words: [] };
    },
  };
}

/** What a fill would do, without the rows. */
export async function previewFillOf(threads: Threads, market: string, fill: FillRequest): Promise<FillOutcome> {
  const { rows: _, ...outcome } = await threads.ask<FillTrial>('try-fill', { market, fill }, mostTrialSeconds);
  return outcome;
}

export async function previewRemediesOf(
  threads: Threads,
  market: string,
  cause: CauseKey,
): Promise<{ safe: number; likely: number; left: number; rows: RemedyRow[] }> {
  const { rows, left } = await threads.ask<RemedyTrial>('try-remedies', { market, cause }, mostTrialSeconds);
  const safe = rows.filter((r) => r.sureness === 'safe').length;
  return { safe, likely: rows.length - safe, left, rows: rows.slice(0, mostShown) };
}

/** Mends the chosen rows of a cause. */
export async function applyRemediesOf(
  db: Db,
  threads: Threads,
  key: string,
  choice: RemedyChoice,
  actor: string,
): Promise<{ changeSet: number | null; changed: number; left: number }> {
  const { check, message, field } = choice;
  const cause = { check, message, field };
  const market = await loadMarket(db, key);
  const { rows, left } = await threads.ask<RemedyTrial>('try-remedies', { market: key, cause }, mostTrialSeconds);
  const except = new Set(choice.except),
    also = new Set(choice.also);
  const chosen = rows.filter((r) => also.has(r.id) || ((choice.likely || r.sureness === 'safe') && !except.has(r.id)));
  const cells = chosen.flatMap((r) =>
    r.changes.filter((c) => !isSameValue(c.before ?? undefined, c.after ?? undefined)).map((c) => ({ id: r.id, ...c })),
  );
  const { changeSet, mended } = await write(db, market, cause, cells, actor);
  return { changeSet, changed: mended, left: left + rows.length - mended };
}

export async function applyFillTo(
  db: Db,
  threads: Threads,
  key: string,
  fill: FillRequest & { remember: boolean },
  actor: string,
): Promise<FillOutcome & { changeSet: number | null; changed: number }> {
  const market = await loadMarket(db, key);
  const { rows, ...outcome } = await threads.ask<FillTrial>('try-fill', { market: key, fill }, mostTrialSeconds);
  const { kind, words } = outcome.memory;
  if (fill.remember && kind !== 'none' && typeof fill.value === 'string') {
    if (kind === 'value')
      await putCodes(
        db,
        market,
        everywhere,
        words.map((ours) => ({ attribute: fill.field, ours, theirs: fill.value as string })),
        actor,
      );
    else
      await putSource(db, market, { attribute: fill.field, node: everywhere }, { is: 'text', text: fill.value }, actor);
    return { ...outcome, changeSet: null, changed: outcome.settles };
  }
  const cells = rows.map((r) => ({ id: r.id, field: fill.field, before: r.before, after: fill.value }));
  const { changeSet, mended } = await write(db, market, fill, cells, actor);
  return { ...outcome, changeSet, changed: mended };
}

async function write(
  db: Db,
  market: Market,
  cause: CauseKey,
  cells: Parameters<typeof patchListingCells>[2],
  actor: string,
): Promise<{ changeSet: number | null; mended: number }> {
  if (cells.length === 0) return { changeSet: null, mended: 0 };
  const title = wordCause(cause, { market: market.name, labelOf: market.labelOf });
  const { changeSet, conflicts } = await patchListingCells(
    db,
    market.id,
    cells,
    `Mended: ${title}, ${plural(new Set(cells.map((c) => c.id)).size, 'listing', 'listings')}`,
    actor,
  );
  // A row that somebody else changed meanwhile is left.
  const lost = new Set(conflicts.map((c) => c.id));
  return { changeSet, mended: new Set(cells.map((c) => c.id).filter((id) => !lost.has(id))).size };
}
