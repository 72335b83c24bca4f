import type { Listing } from '../listing/values';
import type { CompiledCategory } from '../rulebook/compile';
import type { RunCheck } from './define-check';
import type { CheckContext, Finding } from './finding';
import { checks } from './registry';

export type CategoryChecker = (listing: Listing, context?: CheckContext) => Finding[];

/** Prepares all checks (or the wanted ones) for a category once; the result judges any number of rows. Findings are in registry order. */
export function prepareChecks(
  category: CompiledCategory,
  isWanted: (id: string) => boolean = () => true,
): CategoryChecker {
  const runs = checks
    .filter((c) => isWanted(c.id))
    .map((c) => c.prepare(category))
    .filter((r): r is RunCheck => r !== undefined);
  const nothing: CheckContext = {};
  return (listing, context = nothing) => {
    const out: Finding[] = [];
    for (const run of runs) run(listing, context, out);
    return out;
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
