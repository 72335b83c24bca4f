// What would go out: from the operations that refreshing has planned for each listing.
import type { HeldReason } from '@basileus/contract';
import {
  type Accepted,
  canSurprise,
  chooseCarried,
  findSurprises,
  type MovingCounts,
  planOperations,
  type Surprise,
  takesWholeFamilies,
} from '@basileus/core/feed';
import { type FeedRow, findForm, listForms, listTaken } from '@basileus/core/forms';
import type { Correspondences, Value } from '@basileus/core/listing';
import { type Operation, operations, type Rulebook } from '@basileus/core/rulebook';
import { type Db, rowOf, rowsOf } from '../database';
import {
  categoryOf,
  type FullRow,
  hasStale,
  isCurrent,
  loadFullRows,
  loadPlanCounts,
  loadStateCounts,
  staleSql,
  toListing,
} from '../listings';
import type { Market } from '../markets';
import { loadCatalogCounts } from '../products';
import { chooseSql, type RowChoice } from './choose';
import { countMostRows } from './split';

const planFrom = 'listings l join products p on p.id = l.product_id join markets m on m.id = l.market_id';

export const everyRow: RowChoice = { brand: '', own: '', import: 0 };

interface PlanCounts {
  operation: Operation;
  held: HeldReason | null;
  n: number;
}

/** Planned rows by operation and what holds them. What is stale is held, and is nothing that is kept: then they are counted. */
async function loadCounts(db: Db, market: Market, choice: RowChoice): Promise<PlanCounts[]> {
  const isWhole =
    choice.ids === undefined &&
    choice.categories === undefined &&
    choice.brand === '' &&
    choice.own === '' &&
    choice.import === 0;
  return isWhole && !(await hasStale(db, market)) ? loadPlanCounts(db, market.id) : countPlan(db, market, choice);
}
const sum = (rows: readonly PlanCounts[], f: (r: PlanCounts) => boolean): number =>
  rows.filter(f).reduce((n, r) => n + r.n, 0);

/** How many rows would go, and what holds the rest, by operation and by reason. */
export async function loadPlanTotals(db: Db, market: Market, choice: RowChoice = everyRow) {
  const rows = await loadCounts(db, market, choice);
  const reasons = [...new Set(rows.flatMap((r) => (r.held ? [r.held] : [])))];
  return {
    operations: operations
      .map((operation) => ({
        operation,
        count: sum(rows, (r) => r.operation === operation && r.held === null),
        held: sum(rows, (r) => r.operation === operation && r.held !== null),
      }))
      .filter((o) => o.count + o.held > 0),
    held: reasons.map((reason) => ({ reason, count: sum(rows, (r) => r.held === reason) })),
  };
}

/** The same of a choice of rows, with what waits for its receipt and what a person should look at before it goes. */
export async function loadPlan(db: Db, market: Market, choice: RowChoice = everyRow) {
  const totals = await loadPlanTotals(db, market, choice);
  const states = await loadStateCounts(db, [market.id]);
  const inState = (state: string): number => states.find((s) => s.state === state)?.n ?? 0;
  const files: [Operation, number | null][] = [];
  for (const o of totals.operations)
    files.push([o.operation, await countFiles(db, market, o.operation, o.count, choice)]);
  const going = (operation: Operation): number => totals.operations.find((o) => o.operation === operation)?.count ?? 0;
  return {
    ...totals,
    waiting: inState('sent'),
    // Whether stock falls or prices move is only looked at where enough of it would go. Family rows are live, and sell nothing.
    surprises: canSurprise(Math.max(going('price'), going('stock')), inState('live') - (await countFamilies(db)))
      ? await loadSurprises(db, market, choice)
      : [],
    files: Object.fromEntries(files),
  };
}

/** The rows of a choice that go in one form of an operation. */
export const chooseForm = ({ rulebook }: Market, operation: Operation, form: string, choice: RowChoice): RowChoice => ({
  ...choice,
  categories: listTaken(rulebook, operation, form),
});

/** Files that so many rows of an operation take; null where it is several and a family is one record, however many rows it has. */
async function countFiles(
  db: Db,
  market: Market,
  operation: Operation,
  rows: number,
  choice: RowChoice,
): Promise<number | null> {
  const forms = listForms(market.rulebook, operation);
  let files = 0;
  for (const form of forms) {
    const here =
      forms.length === 1
        ? rows
        : await countPlanned(db, market, operation, 'no', chooseForm(market, operation, form.key, choice));
    const most = countMostRows(form, market.rulebook.sites.length);
    if (form.record === 'family' && here > most) return null;
    files += Math.ceil(here / most);
  }
  return files;
}

const countFamilies = async (db: Db): Promise<number> =>
  (await loadCatalogCounts(db, 'kind')).find((k) => k.name === 'family')?.count ?? 0;

function countPlan(db: Db, market: Market, choice: RowChoice): Promise<PlanCounts[]> {
  const whole = chooseSql(choice, 'create', takesWholeFamilies(market.rulebook)),
    single = chooseSql(choice, '');
  return rowsOf<PlanCounts>(
    db,
    `select e ->> 'operation' as operation, coalesce(e ->> 'held', case when ${staleSql} then 'stale' end) as held,
        count(*) as n
      from ${planFrom}
      cross join jsonb_array_elements(l.planned) e
      where l.market_id = ? and l.in_flight = 0
        and case when e ->> 'operation' = 'create' then ${whole.sql} else ${single.sql} end
      group by 1, 2`,
    [market.id, ...whole.bindings, ...single.bindings],
  );
}

/** Changes among the planned ones that touch a large share of what is live. */
export async function loadSurprises(
  db: Db,
  market: Market,
  choice: RowChoice,
): Promise<{ kind: Surprise; operation: Operation; rows: number; live: number }[]> {
  const { quantity } = market.rulebook.roles;
  const { sql, bindings } = chooseSql(choice, '');
  const number = (column: string): string =>
    `(case when ${column} ->> ? ~ '^[0-9]{1,12}([.][0-9]+|)$' then (${column} ->> ?)::numeric end)`;
  const planned = (operation: string): string =>
    `exists (select 1 from jsonb_array_elements(l.planned) e where e ->> 'operation' = '${operation}' and e ->> 'held' is null)`;
  const counts = (await rowOf<MovingCounts>(
    db,
    `select count(*) as live,
        count(*) filter (where m.stock and m.after = 0 and m.before > 0) as "stockGone",
        count(*) filter (where m.stock and m.after < m.before / 2) as "stockFalls",
        count(*) filter (where m.price) as "pricesMove"
      from (select ${number('l.accepted_stock')} as before, ${number('l."values"')} as after,
          l.in_flight = 0 and (${sql}) and ${planned('stock')} as stock,
          l.in_flight = 0 and (${sql}) and ${planned('price')} as price
        from ${planFrom} where l.market_id = ? and l.market_state = 'live' and p.kind <> 'family') m`,
    [quantity, quantity, quantity, quantity, ...bindings, ...bindings, market.id],
  ))!;
  return findSurprises(counts).map((s) => ({ ...s, operation: s.kind === 'prices-move' ? 'price' : 'stock' }));
}

/** Condition on l, p and m for listings with a planned operation; what is stale is held like what has a blocker. */
function plannedCondition(held: '' | 'yes' | 'no'): string {
  const isHeld = `(e ->> 'held' is not null or ${staleSql})`;
  const which = { '': '', yes: ` and ${isHeld}`, no: ` and not ${isHeld}` }[held];
  return `l.in_flight = 0 and exists (select 1 from jsonb_array_elements(l.planned) e where e ->> 'operation' = ?${which})`;
}

export interface PlannedRow {
  full: FullRow;
  feed: FeedRow;
  differences: { field: string; before: Value | null; after: Value | null }[];
  held: HeldReason | null;
}

/** How many rows of an operation there are, of those that are held, of the others, or of all. */
export async function countPlanned(
  db: Db,
  market: Market,
  operation: Operation,
  held: '' | 'yes' | 'no',
  choice: RowChoice = everyRow,
): Promise<number> {
  return sum(
    await loadCounts(db, market, choice),
    (r) => r.operation === operation && (held === '' || (held === 'yes') === (r.held !== null)),
  );
}

export interface PlannedId {
  id: number;
  /** The product whose family it belongs to. */
  root: number;
}
/** A planned listing with its category in the market, by which its form is chosen. */
export interface PlannedPlace extends PlannedId {
  category: string;
}

/** Ids of planned listings in the order of a file: each parent before its variants. */
export async function loadPlannedIds(
  db: Db,
  market: Market,
  operation: Operation,
  held: '' | 'yes' | 'no',
  choice: RowChoice = everyRow,
  offset = 0,
  limit = 10_000_000,
): Promise<PlannedPlace[]> {
  const { sql, bindings } = chooseSql(choice, operation, takesWholeFamilies(market.rulebook));
  return rowsOf<PlannedPlace>(
    db,
    `select l.id, coalesce(p.parent_id, p.id) as root, coalesce(l.category, '') as category
      from ${planFrom}
      where l.market_id = ? and ${plannedCondition(held)} and ${sql}
      order by p.shelf_order, p.parent_id is not null, p.id offset ? limit ?`,
    [market.id, operation, ...bindings, offset, limit],
  );
}

/** The rows of an operation, worked out from what stands in the database now. A listing whose plan has changed is left out. */
export async function loadPlannedRows(
  db: Db,
  market: Market,
  operation: Operation,
  c: Correspondences,
  ids: readonly number[],
): Promise<PlannedRow[]> {
  const rows = await loadFullRows(db, market.id, 'l.id = any(?)', [ids]);
  const byId = new Map(rows.map((r) => [r.listing_id, r]));
  const heldById = new Map(
    (
      await rowsOf<{ id: number; held: HeldReason | null }>(
        db,
        `select l.id, e ->> 'held' as held
          from listings l, jsonb_array_elements(l.planned) e
          where l.id = any(?) and e ->> 'operation' = ?`,
        [ids, operation],
      )
    ).map((r) => [r.id, r.held]),
  );
  const placesById = await loadPlaces(db, ids);
  return ids.flatMap((id) => {
    const full = byId.get(id);
    const category = full && categoryOf(market, full);
    if (!full || !category) return [];
    const { listing } = toListing(market, full, c);
    const accepted: Accepted = {
      details: full.accepted_details ?? undefined,
      price: full.accepted_price ?? undefined,
      stock: full.accepted_stock ?? undefined,
    };
    const planned = planOperations(
      category.compiled,
      listing.role,
      listing.values,
      accepted,
      full.wish,
      full.market_state === 'withdrawn',
    ).find((p) => p.operation === operation);
    if (!planned) return [];
    const values = chooseCarried(category.compiled.rulebook, operation, listing.values, planned.differences, accepted);
    const cleared = planned.differences.filter((d) => d.after === null).map((d) => d.field);
    return [
      {
        full,
        differences: planned.differences,
        held: heldById.get(id) ?? (isCurrent(full) ? null : 'stale'),
        feed: {
          operation,
          sku: full.sku,
          role: listing.role,
          parentSku: listing.parentSku,
          axes: listing.axes,
          category: listing.category,
          values,
          cleared,
          ...(full.entry_is === 'joined' && full.entry ? { entry: full.entry.number } : {}),
          ...chooseSites(market.at(full.sites_out), operation, placesById.get(id), planned.differences),
        },
      },
    ];
  });
}

/** Sites where entries stand, of those that are known by site. */
async function loadPlaces(db: Db, ids: readonly number[]): Promise<ReadonlyMap<number, readonly string[]>> {
  const rows = await rowsOf<{ id: number; sites: string[] }>(
    db,
    `select listing_id as id, array_agg(site) filter (where market_state in ('live', 'in review')) as sites
      from standings
      where listing_id = any(?)
      group by 1`,
    [ids],
  );
  return new Map(rows.map((r) => [r.id, r.sites ?? []]));
}

/** The sites that a row is about: where it stands, and of these where something differs, if it differs by site alone. */
function chooseSites(
  rulebook: Rulebook,
  operation: Operation,
  places: readonly string[] | undefined,
  differences: readonly { field: string }[],
): { sites?: readonly string[] } {
  if (findForm(rulebook, operation)?.record !== 'listing-at-site') return {};
  const sold = rulebook.sites.map((s) => s.key);
  const standing = places ? sold.filter((s) => places.includes(s)) : sold;
  const facets = new Map(rulebook.attributes.map((a) => [a.key, a.facet?.site]));
  const changed = differences.map((d) => facets.get(d.field));
  const isBySite = changed.length > 0 && !changed.includes(undefined);
  return { sites: isBySite ? standing.filter((s) => changed.includes(s)) : standing };
}
