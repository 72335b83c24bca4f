// What would go out: from the operations that refreshing has planned for each listing.
import type { HeldReason } from '@basileus/contract';
import { canSurprise, findSurprises, type MovingCounts, type Surprise, takesWholeFamilies } from '@basileus/core/feed';
import { listForms, listTaken } from '@basileus/core/forms';
import { type Operation, operations } from '@basileus/core/rulebook';
import { type Db, rowOf, rowsOf } from '../database';
import { countStalePlanned, hasStale, loadPlanCounts, loadStateCounts, staleSql } from '../listings';
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

/**
 * Planned rows by operation and what holds them. What is stale is held, and is nothing that is kept: it is counted by its marks.
 * Where the market itself has changed all of it is stale until it was gone through, but for the few rows that are written on the
 * way; these wait for the end too, so that nobody has to look at every listing whenever somebody looks at the page.
 */
async function loadCounts(db: Db, market: Market, choice: RowChoice): Promise<PlanCounts[]> {
  const isWhole =
    choice.ids === undefined &&
    choice.categories === undefined &&
    choice.brand === '' &&
    choice.own === '' &&
    choice.import === 0;
  if (!isWhole) return countPlan(db, market, choice);
  const kept = await loadPlanCounts(db, market.id);
  if (market.checksFrom > 1) return holdStale(kept, kept.filter(isFree));
  return (await hasStale(db, market)) ? holdStale(kept, await countStalePlanned(db, market)) : kept;
}

const isFree = (row: PlanCounts): boolean => row.held === null;

/** Counts of which some rows that nothing held are held for being stale. */
function holdStale(kept: readonly PlanCounts[], stale: readonly { operation: Operation; n: number }[]): PlanCounts[] {
  const staleOf = new Map(stale.map((s) => [s.operation, s.n]));
  return [
    ...kept.map((k) => (isFree(k) ? { ...k, n: Math.max(0, k.n - (staleOf.get(k.operation) ?? 0)) } : k)),
    ...stale.map(({ operation, n }) => ({ operation, n, held: 'stale' as const })),
  ].filter((c) => c.n > 0);
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
