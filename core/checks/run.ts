import type { Listing } from '../listing/values';
import type { CompiledCategory } from '../rulebook/compile';
import type { RunCell, RunRow } from './define-check';
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
  const rows = wanted.map((c) => c.prepareRow(category)).filter((r): r is RunRow => r !== undefined);
  const makers = wanted.map((c) => c.prepareCells(category));
  const cells = new Map<string, RunCell[]>();
  for (const a of category.attributes) {
    const runs = makers.map((make) => make(a)).filter((r): r is RunCell => r !== undefined);
    if (runs.length) cells.set(a.attribute.key, runs);
  }
  const place = new Map(category.attributes.map((a, i) => [a.attribute.key, i]));
  const compare = (a: Finding, b: Finding): number =>
    rank.get(a.check)! - rank.get(b.check)! || (place.get(a.field) ?? -1) - (place.get(b.field) ?? -1);
  const nothing: CheckContext = {};
  return (listing, context = nothing) => {
    const out: Finding[] = [];
    const { values } = listing;
    for (const key in values) {
      const value = values[key]!;
      if (value === undefined || value === '') continue;
      const runs = cells.get(key);
      if (runs === undefined) continue;
      for (let i = 0; i < runs.length; i++) runs[i]!(value, listing, out);
    }
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
