import { isFilled, type Listing, type Value, type Values } from '../listing/values';
import type { CompiledAttribute, CompiledCategory } from '../rulebook/compile';
import type { RulebookAttribute } from '../rulebook/schema';
import type { RunCell, RunRow, RunValue, RunWhereEmpty } from './define-check';
import type { CheckContext, Finding } from './finding';
import { checks } from './registry';

export type CategoryChecker = (listing: Listing, context?: CheckContext) => Finding[];

/** What judges the values of one attribute; `isAsked` where the category always demands it. */
export interface Cell {
  key: string;
  runs: readonly RunCell[];
  isAsked: boolean;
}
/** Judges every value of a row, and answers how many of the fields that are always asked for it fills. */
export type Pass = (values: Values, listing: Listing, out: Finding[]) => number;
/** Makes one pass of what judges the values of a category. */
export type PassMaker = (cells: readonly Cell[]) => Pass;

/** Goes through what a row holds, since a row holds far fewer values than a rulebook has attributes. */
export const makeLoop: PassMaker = (list) => {
  const cells = new Map(list.map((c) => [c.key, c]));
  return (values, listing, out) => {
    let filled = 0;
    for (const key in values) {
      const value = values[key]!;
      if (value === undefined || value === '') continue;
      const cell = cells.get(key);
      if (cell === undefined) continue;
      if (cell.isAsked && isFilled(value)) filled++;
      const { runs } = cell;
      for (let i = 0; i < runs.length; i++) runs[i]!(value, listing, out);
    }
    return filled;
  };
};

const longestRemembered = 40,
  mostRemembered = 2000;

/** Types whose values are each item's own: remembering them costs more than judging them. */
const ownTypes: ReadonlySet<RulebookAttribute['type']> = new Set(['text', 'long-text', 'html', 'identifier', 'links']);

function joinValues({ attribute }: CompiledAttribute, runs: readonly RunValue[]): RunCell[] {
  if (runs.length === 0) return [];
  if (ownTypes.has(attribute.type)) return runs.map((run) => (value, _listing, out) => run(value, out));
  return [rememberGood(runs)];
}

/** All that judges the values of an attribute by themselves, as one: short texts of which nothing is said are remembered. */
function rememberGood(runs: readonly RunValue[]): RunCell {
  const good = new Set<Value>();
  return (value, _listing, out) => {
    const isShort = typeof value === 'string' && value.length <= longestRemembered;
    if (isShort && good.has(value)) return;
    const before = out.length;
    for (let i = 0; i < runs.length; i++) runs[i]!(value, out);
    if (isShort && out.length === before && good.size < mostRemembered) good.add(value);
  };
}

const rank = new Map(checks.map((c, i) => [c.id, i]));

/**
 * Prepares all checks (or the wanted ones) for a category once; the result judges any number of rows. Findings come in
 * registry order, and within a check in the order of the rulebook's attributes. Whoever may make
 * code, as a server may and a page may not, gives `makePass` something quicker than the loop.
 */
export function prepareChecks(
  category: CompiledCategory,
  isWanted: (id: string) => boolean = () => true,
  makePass: PassMaker = makeLoop,
): CategoryChecker {
  const wanted = checks.filter((c) => isWanted(c.id));
  const rows: RunRow[] = [],
    whereEmpty: RunWhereEmpty[] = [];
  for (const c of wanted) {
    const run = c.prepareRow(category);
    if (typeof run === 'function') rows.push(run);
    else if (run) {
      whereEmpty.push(run);
      rows.push(run.always);
    }
  }
  const makers = wanted.map((c) => c.prepareCells(category)),
    valueMakers = wanted.map((c) => c.prepareValues(category));
  const asked = new Set(whereEmpty.flatMap((w) => w.fields));
  const cells = category.attributes
    .map((a): Cell => {
      const { key } = a.attribute;
      const values = valueMakers.flatMap((make) => make(a) ?? []);
      return {
        key,
        runs: [...joinValues(a, values), ...makers.flatMap((make) => make(a) ?? [])],
        isAsked: asked.has(key),
      };
    })
    .filter((c) => c.runs.length > 0 || c.isAsked);
  const pass = makePass(cells);
  const place = new Map(category.attributes.map((a, i) => [a.attribute.key, i]));
  const compare = (a: Finding, b: Finding): number =>
    rank.get(a.check)! - rank.get(b.check)! || (place.get(a.field) ?? -1) - (place.get(b.field) ?? -1);
  const nothing: CheckContext = {};
  return (listing, context = nothing) => {
    const out: Finding[] = [];
    const filled = pass(listing.values, listing, out);
    if (filled < asked.size) for (let i = 0; i < whereEmpty.length; i++) whereEmpty[i]!.run(listing, context, out);
    for (let i = 0; i < rows.length; i++) rows[i]!(listing, context, out);
    return out.length > 1 ? out.sort(compare) : out;
  };
}

/** The one finding of a listing that has no category yet. */
export const categoryMissing = (): Finding => ({
  check: 'category-missing',
  message: 'missing',
  level: 'blocker',
  field: 'category',
  value: '',
  params: {},
  remedies: [{ kind: 'fill', field: 'category' }],
});
