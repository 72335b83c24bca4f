import { isFilled, type Listing } from '../listing/values';
import type { CompiledCategory } from '../rulebook/compile';
import type { RunCell, RunRow, RunWhereEmpty } from './define-check';
import type { CheckContext, Finding } from './finding';
import { checks } from './registry';

export type CategoryChecker = (listing: Listing, context?: CheckContext) => Finding[];

const rank = new Map(checks.map((c, i) => [c.id, i]));

/**
 * Prepares all checks (or the wanted ones) for a category once; the result judges any number of rows. Findings come in
 * registry order, and within a check in the order of the rulebook's attributes.
 */
export function prepareChecks(
  category: CompiledCategory,
  isWanted: (id: string) => boolean = () => true,
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
  const makers = wanted.map((c) => c.prepareCells(category));
  const asked = new Set(whereEmpty.flatMap((w) => w.fields));
  const cells = new Map<string, { runs: RunCell[]; isAsked: boolean }>();
  for (const a of category.attributes) {
    const { key } = a.attribute;
    const runs = makers.map((make) => make(a)).filter((r): r is RunCell => r !== undefined);
    if (runs.length || asked.has(key)) cells.set(key, { runs, isAsked: asked.has(key) });
  }
  const place = new Map(category.attributes.map((a, i) => [a.attribute.key, i]));
  const compare = (a: Finding, b: Finding): number =>
    rank.get(a.check)! - rank.get(b.check)! || (place.get(a.field) ?? -1) - (place.get(b.field) ?? -1);
  const nothing: CheckContext = {};
  return (listing, context = nothing) => {
    const out: Finding[] = [];
    const { values } = listing;
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
