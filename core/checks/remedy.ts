import type { Listing, Value } from '../listing/values';
import type { CheckContext, Remedy } from './finding';
import type { CategoryChecker } from './run';

export interface FieldChange {
  field: string;
  before: Value | undefined;
  after: Value | undefined;
}

/** The change that a mechanical remedy makes; undefined for those that need a person's answer. */
export function toFieldChange(remedy: Remedy, values: Listing['values']): FieldChange | undefined {
  if (remedy.kind === 'set') return { field: remedy.field, before: values[remedy.field], after: remedy.value };
  if (remedy.kind === 'clear') return { field: remedy.field, before: values[remedy.field], after: undefined };
  return undefined;
}

/**
 * Applies every safe remedy, one per field a pass, and checks again, at most ten passes.
 * Pure: the listing given is not changed. `settled` is false where remedies kept producing new ones.
 */
export function applySafeRemedies(
  check: CategoryChecker,
  listing: Listing,
  context?: CheckContext,
  only?: (check: string, message: string, field: string) => boolean,
): { changes: FieldChange[]; values: Listing['values']; settled: boolean } {
  let values = listing.values;
  for (let pass = 0; pass < 10; pass++) {
    const touched = new Set<string>();
    const next: Record<string, Value> = { ...values };
    for (const f of check({ ...listing, values }, context)) {
      if (only && !only(f.check, f.message, f.field)) continue;
      const first = f.remedies[0];
      if (!first || !('safe' in first) || !first.safe || touched.has(first.field)) continue;
      touched.add(first.field);
      if (first.kind === 'set') next[first.field] = first.value;
      else delete next[first.field];
    }
    if (touched.size === 0) return { values, settled: true, changes: listChanges(listing.values, values) };
    values = next;
  }
  return { values, settled: false, changes: listChanges(listing.values, values) };
}

const listChanges = (before: Listing['values'], after: Listing['values']): FieldChange[] =>
  [...new Set([...Object.keys(before), ...Object.keys(after)])]
    .filter((k) => before[k] !== after[k])
    .map((field) => ({ field, before: before[field], after: after[field] }));
