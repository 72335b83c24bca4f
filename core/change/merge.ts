// Two writers, one field: what each made of the value they both began with, and what may be written without asking.
// The textbook three-way merge, one value at a time (common practice of version control; no single source).
import type { Value } from '../listing/values';
import type { FieldChange } from './change';

/**
 * `apply`: only we changed it. `keep`: only they did. `same`: both made the same of it, or neither changed it.
 * `conflict`: both changed it, differently; a person decides.
 */
export type Merge = 'apply' | 'keep' | 'same' | 'conflict';
export type Same = (a: Value | null, b: Value | null) => boolean;

/**
 * What becomes of a value that was `base` when we looked, is `theirs` now and would be `ours`. `isSame` says which values
 * are equal in this field.
 */
export function mergeValue(base: Value | null, theirs: Value | null, ours: Value | null, isSame: Same): Merge {
  if (isSame(theirs, ours)) return 'same';
  if (isSame(base, ours)) return 'keep';
  return isSame(base, theirs) ? 'apply' : 'conflict';
}

export interface Conflict {
  field: string;
  base: Value | null;
  theirs: Value | null;
  ours: Value | null;
}

/**
 * Planned changes of one item against how it stands now: what may be written, with what truly stands there before, and
 * what both sides changed.
 */
export function mergeChanges(
  planned: readonly FieldChange[],
  now: Readonly<Record<string, Value>>,
  isSame: (field: string, a: Value | null, b: Value | null) => boolean,
): { changes: FieldChange[]; conflicts: Conflict[] } {
  const changes: FieldChange[] = [],
    conflicts: Conflict[] = [];
  for (const { field, before, after } of planned) {
    const theirs = now[field] ?? null;
    const merge = mergeValue(before, theirs, after, (a, b) => isSame(field, a, b));
    if (merge === 'apply') changes.push({ field, before: theirs, after });
    else if (merge === 'conflict') conflicts.push({ field, base: before, theirs, ours: after });
  }
  return { changes, conflicts };
}
