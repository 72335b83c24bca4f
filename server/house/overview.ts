// What waits at each stop and what needs a person today: facts, in the order in which they cost money or time.
import { type Overview, sendingOutcome, type Today } from '@basileus/contract';
import { categoryCheck } from '@basileus/core/checks';
import { countMarginBands } from '@basileus/core/pricing';
import { type Db, parseColumn } from '../database';
import { countDrift, loadPlanTotals } from '../dispatches';
import {
  type CauseCount,
  countTurnedAtSites,
  loadCauseCounts,
  loadMarginCounts,
  loadStateCounts,
  loadUnplaced,
} from '../listings';
import { loadMarkets, type Market } from '../markets';
import { loadCatalogCounts } from '../products';
import {
  loadAnswers,
  loadFailedDispatches,
  loadFailedJobs,
  loadRefusedLines,
  loadTurnedBack,
  loadUnsent,
  loadWaitingImports,
} from './overview-queries';

type Plan = Awaited<ReturnType<typeof loadPlanTotals>>;
const mostCauses = 4,
  mostTop = 8;
const sumOf = <T>(rows: readonly T[], of: (row: T) => number): number => rows.reduce((n, r) => n + of(r), 0);
const rowsReady = (plan: Plan): number => sumOf(plan.operations, (o) => o.count);

/** Everything that the home page and the path show, for one market or all of them. */
export async function loadOverview(db: Db, only: string): Promise<Overview> {
  const markets = (await loadMarkets(db)).filter((m) => only === '' || m.key === only);
  const ids = markets.map((m) => m.id);
  const [
    states,
    allCauses,
    answers,
    kinds,
    imports,
    undecided,
    refusedLines,
    failed,
    turnedBack,
    turnedAtSites,
    jobs,
    unsent,
    drift,
    margins,
    plans,
  ] = await Promise.all([
    loadStateCounts(db, ids),
    loadCauseCounts(db, ids),
    loadAnswers(db, ids),
    loadCatalogCounts(db, 'kind'),
    loadWaitingImports(db),
    loadUnplaced(db, ids),
    loadRefusedLines(db, ids),
    loadFailedDispatches(db, ids),
    loadTurnedBack(db, ids),
    countTurnedAtSites(db, ids),
    loadFailedJobs(db),
    loadUnsent(db, ids),
    countDrift(db, ids),
    loadMarginCounts(db, ids),
    Promise.all(markets.map((m) => loadPlanTotals(db, m))),
  ]);
  const causes = listTop(allCauses);
  const total = (state: string): number =>
    sumOf(
      states.filter((s) => s.state === state),
      (s) => s.n,
    );
  const keyOf = (id: number): string => markets.find((m) => m.id === id)!.key;
  const today = listToday({
    markets,
    keyOf,
    causes,
    plans,
    failed,
    refusedLines,
    turnedBack: addUp([...turnedBack, ...turnedAtSites]),
    undecided,
    imports,
    jobs,
    unsent,
    drift,
  });
  return {
    stops: {
      gather: imports.length,
      prepare: sumOf(undecided, (u) => u.n),
      check: total('blocked'),
      send: sumOf(plans, rowsReady),
      settle: sumOf(refusedLines, (r) => r.n + r.mended) + failed.length,
    },
    products: sumOf(kinds, (k) => k.count),
    states: Object.fromEntries([...new Set(states.map((s) => s.state))].map((s) => [s, total(s)])),
    today,
    readiness: markets.map((m) => ({
      market: m.key,
      name: m.name,
      states: Object.fromEntries(states.filter((s) => s.market === m.id).map((s) => [s.state, s.n])),
    })),
    margins: markets.flatMap(({ id, key, name }) => {
      const here = margins.filter((m) => m.market === id);
      return here.length === 0
        ? []
        : [{ market: key, name, bands: countMarginBands(here.map((m) => [m.margin, m.n] as const)) }];
    }),
    causes: causes.map((c) => ({
      market: keyOf(c.market),
      cause: { check: c.check, message: c.message, field: c.field },
      level: c.level,
      count: c.count,
    })),
    answers: answers.reverse(),
  };
}

/** Counts of the same market put together. */
function addUp(counts: readonly { market_id: number; n: number }[]): { market_id: number; n: number }[] {
  const sums = new Map<number, number>();
  for (const { market_id, n } of counts) sums.set(market_id, (sums.get(market_id) ?? 0) + n);
  return [...sums].map(([market_id, n]) => ({ market_id, n }));
}

interface Waiting {
  markets: readonly Market[];
  keyOf: (market: number) => string;
  causes: readonly CauseCount[];
  plans: readonly Plan[];
  failed: Awaited<ReturnType<typeof loadFailedDispatches>>;
  refusedLines: Awaited<ReturnType<typeof loadRefusedLines>>;
  turnedBack: Awaited<ReturnType<typeof loadTurnedBack>>;
  undecided: Awaited<ReturnType<typeof loadUnplaced>>;
  imports: Awaited<ReturnType<typeof loadWaitingImports>>;
  jobs: Awaited<ReturnType<typeof loadFailedJobs>>;
  unsent: Awaited<ReturnType<typeof loadUnsent>>;
  drift: Awaited<ReturnType<typeof countDrift>>;
}

/** What needs a person, that first which costs most while it waits: what failed or was refused, then prices, then the rest. */
function listToday(w: Waiting): Today[] {
  const { markets, keyOf, causes, plans } = w;
  return [
    ...w.failed.map((f): Today => ({
      kind: 'failed',
      market: keyOf(f.market_id),
      count: f.total,
      dispatch: f.id,
      fault: f.fault,
    })),
    ...w.refusedLines
      .filter((r) => r.n > 0)
      .map((r): Today => ({ kind: 'refused', market: keyOf(r.market_id), count: r.n, dispatch: r.id })),
    ...w.turnedBack.map((r): Today => ({ kind: 'turned-back', market: keyOf(r.market_id), count: r.n })),
    ...w.unsent.map((u): Today => {
      const { surprises, fault } = parseColumn('sendings.last', sendingOutcome, u.last);
      return {
        kind: 'unsent',
        market: keyOf(u.market_id),
        count: fault === null ? sumOf(surprises, (s) => s.rows) : 1,
        surprises,
        fault,
      };
    }),
    ...listHeldPrices(markets, plans),
    ...w.drift.map((d): Today => ({ kind: 'drift', market: keyOf(d.market_id), count: d.n })),
    ...w.refusedLines
      .filter((r) => r.mended > 0)
      .map((r): Today => ({ kind: 'mended', market: keyOf(r.market_id), count: r.mended, dispatch: r.id })),
    ...causes
      .filter((c) => c.level === 'blocker')
      .slice(0, mostCauses)
      .map((c): Today => ({
        kind: 'blocker',
        market: keyOf(c.market),
        count: c.count,
        cause: { check: c.check, message: c.message, field: c.field },
      })),
    ...w.undecided.map((u): Today => ({ kind: 'category', market: keyOf(u.market), count: u.n })),
    ...w.imports.map((i): Today => ({
      kind: 'import',
      market: null,
      count: 1,
      import: i.id,
      name: i.name,
      refuse: i.refuse,
    })),
    ...listReady(markets, plans),
    ...w.jobs.map((j): Today => ({
      kind: 'job',
      market: null,
      count: 1,
      name: j.title,
      fault: j.error,
      link: j.link ?? '/',
    })),
  ];
}

/** The causes that block or slow most, blockers first. */
const listTop = (causes: readonly CauseCount[]): CauseCount[] =>
  causes
    // Without a category a listing is a draft, which is told by itself.
    .filter((c) => c.level !== 'tip' && c.check !== categoryCheck)
    .sort((a, b) => Number(a.level !== 'blocker') - Number(b.level !== 'blocker') || b.count - a.count)
    .slice(0, mostTop);

const listHeldPrices = (markets: readonly Market[], plans: readonly Plan[]): Today[] =>
  plans.flatMap((p, i): Today[] => {
    const held = p.held.find((h) => h.reason === 'price-moved');
    return held ? [{ kind: 'held', market: markets[i]!.key, count: held.count }] : [];
  });

const listReady = (markets: readonly Market[], plans: readonly Plan[]): Today[] =>
  plans.flatMap((p, i): Today[] => {
    const operations = p.operations.filter((o) => o.count > 0).map(({ operation, count }) => ({ operation, count }));
    return operations.length ? [{ kind: 'send', market: markets[i]!.key, count: rowsReady(p), operations }] : [];
  });
